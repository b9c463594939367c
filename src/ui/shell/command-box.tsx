'use client';
import { Dialog } from 'radix-ui';
import { lazy, Suspense, useEffect, useRef, useState } from 'react';
import { useSessionState } from '../state/context';
import { COMMAND_FIELD, COMMAND_HINT, focusOn } from './command-field';

/** The commands, which are loaded once the page stands. */
const LISTS = { part: () => import('./part-command-list'), other: () => import('./command-list') };
const PartCommandList = lazy(() => LISTS.part().then((module) => ({ default: module.PartCommandList })));
const CommandList = lazy(() => LISTS.other().then((module) => ({ default: module.CommandList })));

export async function loadCommands(isPart: boolean): Promise<void> {
  await (isPart ? LISTS.part() : LISTS.other());
}

/** Everything by name: Ctrl K opens it. */
export function CommandBox() {
  const List = useSessionState((state) => state.document.kind === 'part') ? PartCommandList : CommandList;
  const [isOpen, setOpen] = useState(false);
  const [text, setText] = useState('');
  /** What had the focus before, and whether a command has been given since. */
  const before = useRef<{ readonly focused: Element | null; readonly isDone: boolean }>({ focused: null, isDone: false });
  const show = (is: boolean): void => {
    if (is) before.current = { focused: document.activeElement, isDone: false };
    setText('');
    setOpen(is);
  };
  useEffect(() => {
    // A key of the whole page, whatever has the focus.
    const onKeyDown = (event: KeyboardEvent): void => {
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
        event.preventDefault();
        show(!isOpen);
      }
    };
    window.addEventListener('keydown', onKeyDown);
    return () => window.removeEventListener('keydown', onKeyDown);
  }, [isOpen]);
  return (
    <>
      <button type="button" className="h-7 shrink-0 rounded-box border border-rule bg-sheet px-2 whitespace-nowrap text-walnut-soft" onClick={() => show(true)}>
        Find or do… <kbd className="ml-1 font-mono text-xs">Ctrl K</kbd>
      </button>
      <Dialog.Root open={isOpen} onOpenChange={show}>
        <Dialog.Portal>
          <Dialog.Overlay className="fixed inset-0 z-50 bg-walnut/20" />
          <Dialog.Content
            aria-describedby={undefined}
            onCloseAutoFocus={(event) => {
              event.preventDefault();
              // What a command opens or goes to has the focus then.
              const { focused, isDone } = before.current;
              if (!isDone && focused instanceof HTMLElement) focused.focus();
            }}
            className="fixed top-24 left-1/2 z-50 w-[32rem] -translate-x-1/2 rounded-box border border-rule bg-sheet shadow-box"
          >
            <Dialog.Title className="sr-only">Find or do</Dialog.Title>
            {isOpen && (
              <Suspense
                fallback={
                  <input
                    ref={focusOn}
                    value={text}
                    placeholder={COMMAND_HINT}
                    aria-label="Commands and values"
                    className={COMMAND_FIELD}
                    onChange={(event) => setText(event.target.value)}
                  />
                }
              >
                <List
                  text={text}
                  onType={setText}
                  onDone={() => {
                    before.current = { focused: null, isDone: true };
                    show(false);
                  }}
                />
              </Suspense>
            )}
          </Dialog.Content>
        </Dialog.Portal>
      </Dialog.Root>
    </>
  );
}

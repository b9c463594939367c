'use client';
import { lazy, Suspense, useEffect, useRef, useState } from 'react';
import { useSessionState } from '../state/context';
import { COMMAND_BOX, COMMAND_FIELD, COMMAND_HINT, focusOn } from './command-field';

/** The commands, which are loaded once the page stands. */
const LISTS = { part: () => import('./part-command-list'), other: () => import('./command-list') };
const PartCommandList = lazy(() => LISTS.part().then((module) => ({ default: module.PartCommandList })));
const CommandList = lazy(() => LISTS.other().then((module) => ({ default: module.CommandList })));
const loadDialog = () => import('./command-dialog');
const CommandDialog = lazy(() => loadDialog().then((module) => ({ default: module.CommandDialog })));

export async function loadCommands(isPart: boolean): Promise<void> {
  await Promise.all([loadDialog(), isPart ? LISTS.part() : LISTS.other()]);
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
  /** What a command opens or goes to has the focus then; where none was given, what had it before. */
  const giveBack = (): void => {
    const { focused, isDone } = before.current;
    if (!isDone && focused instanceof HTMLElement) focused.focus();
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
      {isOpen && (
        <Suspense
          fallback={
            <Waiting
              text={text}
              onType={setText}
              onLeave={() => {
                show(false);
                giveBack();
              }}
            />
          }
        >
          <CommandDialog onOpen={show} onClosed={giveBack}>
            <List
              text={text}
              onType={setText}
              onDone={() => {
                before.current = { focused: null, isDone: true };
                show(false);
              }}
            />
          </CommandDialog>
        </Suspense>
      )}
    </>
  );
}

interface WaitingProps {
  readonly text: string;
  readonly onType: (text: string) => void;
  readonly onLeave: () => void;
}

/** Takes what is typed until the commands are there. */
function Waiting({ text, onType, onLeave }: WaitingProps) {
  return (
    <div className={COMMAND_BOX}>
      <input
        ref={focusOn}
        value={text}
        placeholder={COMMAND_HINT}
        aria-label="Commands and values"
        className={COMMAND_FIELD}
        onChange={(event) => onType(event.target.value)}
        onKeyDown={(event) => event.key === 'Escape' && onLeave()}
      />
    </div>
  );
}

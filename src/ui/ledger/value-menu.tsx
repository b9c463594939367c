'use client';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { menus } from '../design/floating';
import { focusFirstLine, Menu } from '../design/menu';
import { MENU, MenuItems } from '../design/menu-items';
import { useSession, useWorkspaceStore } from '../state/context';
import { goToRow } from './go-to-row';
import { chosenValues } from './ledger-keys';
import type { WorkspaceStore } from '../state/workspace';
import { listValueCommands } from './value-commands';

/** Where a menu is asked for, in pixels of the page, of which values, and what had the focus. */
interface Asked {
  readonly ids: readonly string[];
  readonly x: number;
  readonly y: number;
  readonly focused: Element | null;
  readonly isByKeys: boolean;
}

/** The menu of the row at the pointer, or of the one that has the focus (Shift F10): of all marked rows if it is one of them. */
export function RowMenu({ order, children }: { order: readonly string[]; children: ReactNode }) {
  const workspace = useWorkspaceStore();
  const [asked, setAsked] = useState<Asked>();
  const open = (event: React.MouseEvent): void => {
    const id = event.target instanceof Element ? event.target.closest<HTMLElement>('[data-row]')?.dataset['row'] : undefined;
    // Elsewhere the browser has its own menu, as on any page.
    if (id === undefined || !order.includes(id) || isTypedInto(event.target)) return;
    event.preventDefault();
    workspace.setState({ selected: id });
    setAsked({ ids: chosenValues(workspace, id, order), x: event.clientX, y: event.clientY, focused: document.activeElement, isByKeys: event.button !== 2 });
  };
  return (
    <>
      <div className="contents" onContextMenu={open}>
        {children}
      </div>
      {asked && <MenuAt key={`${asked.x} ${asked.y}`} asked={asked} onClose={() => setAsked(undefined)} />}
    </>
  );
}

function MenuAt({ asked: { ids, x, y, focused, isByKeys }, onClose }: { asked: Asked; onClose: () => void }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const [parts, setParts] = useState(menus.now);
  const isFirstFocus = useRef(true);
  useEffect(() => {
    // Without the server, where they were never loaded, there is no menu: its verbs have keys and stand beside the selected value.
    if (!parts) void menus.load().then(setParts, onClose);
    // oxlint-disable-next-line react-hooks/exhaustive-deps -- once
  }, []);
  if (!parts) return null;
  const { Root, Trigger, Portal, Content } = parts.DropdownMenu;
  return (
    <Root open onOpenChange={(isOpen) => !isOpen && onClose()}>
      <Trigger asChild>
        <span aria-hidden className="fixed" style={{ left: x, top: y }} />
      </Trigger>
      <Portal>
        <Content
          side="right"
          align="start"
          sideOffset={2}
          className={MENU}
          aria-label="Value"
          aria-labelledby={undefined}
          onFocus={(event) => {
            if (event.target !== event.currentTarget || !isFirstFocus.current) return;
            isFirstFocus.current = false;
            if (isByKeys) focusFirstLine(event.currentTarget);
          }}
          onCloseAutoFocus={(event) => {
            leaveFocus(event, workspace);
            if (event.defaultPrevented) return;
            event.preventDefault();
            if (focused instanceof HTMLElement) focused.focus();
          }}
        >
          <MenuItems of={parts.DropdownMenu} groups={listValueCommands({ session, workspace }, ids)} />
        </Content>
      </Portal>
    </Root>
  );
}

function isTypedInto(target: EventTarget): boolean {
  return target instanceof HTMLElement && (target.isContentEditable || target instanceof HTMLInputElement);
}

/** What a command opens has the focus then, not what the menu was opened from. */
function leaveFocus(event: Event, workspace: WorkspaceStore): void {
  const { editing, opened, task, removal } = workspace.getState();
  if (editing ?? opened ?? task ?? removal) event.preventDefault();
}

/** The same beside the selected value. */
export function ValueMenu({ id, name }: { id: string; name: string }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  return (
    <Menu
      align="end"
      side="top"
      button={{ children: '…', className: 'h-7 rounded-box px-2 hover:bg-flax-deep', 'aria-label': `More for ${name}` }}
      onCloseAutoFocus={(event) => leaveFocus(event, workspace)}
    >
      {(parts) => (
        <MenuItems of={parts} groups={[[{ label: 'Go to its row', run: () => goToRow(workspace, id) }], ...listValueCommands({ session, workspace }, [id])]} />
      )}
    </Menu>
  );
}

'use client';
import { ContextMenu, DropdownMenu } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { MENU, MenuItems } from '../design/menu-items';
import { useSession, useWorkspaceStore } from '../state/context';
import { goToRow } from './go-to-row';
import { chosenValues } from './ledger-keys';
import type { WorkspaceStore } from '../state/workspace';
import { listValueCommands } from './value-commands';

/** The menu of the row at the pointer, or of the one that has the focus (Shift F10): of all marked rows if it is one of them. */
export function RowMenu({ order, children }: { order: readonly string[]; children: ReactNode }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const [ids, setIds] = useState<readonly string[]>([]);
  const aim = (event: React.MouseEvent): void => {
    const id = event.target instanceof Element ? event.target.closest<HTMLElement>('[data-row]')?.dataset['row'] : undefined;
    if (id === undefined || !order.includes(id) || isTypedInto(event.target)) {
      // The browser's own menu, as anywhere else.
      event.stopPropagation();
      return;
    }
    workspace.setState({ selected: id });
    setIds(chosenValues(workspace, id, order));
  };
  return (
    <div className="contents" onContextMenuCapture={aim}>
      <ContextMenu.Root>
        <ContextMenu.Trigger asChild>{children}</ContextMenu.Trigger>
        <ContextMenu.Portal>
          <ContextMenu.Content className={MENU} aria-label="Value" onCloseAutoFocus={(event) => leaveFocus(event, workspace)}>
            <MenuItems of={ContextMenu} groups={listValueCommands({ session, workspace }, ids)} />
          </ContextMenu.Content>
        </ContextMenu.Portal>
      </ContextMenu.Root>
    </div>
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
  const [isOpen, setOpen] = useState(false);
  return (
    <DropdownMenu.Root open={isOpen} onOpenChange={setOpen}>
      <DropdownMenu.Trigger className="h-7 rounded-box px-2 hover:bg-flax-deep" aria-label={`More for ${name}`}>
        …
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" side="top" className={MENU} onCloseAutoFocus={(event) => leaveFocus(event, workspace)}>
          {isOpen && (
            <MenuItems
              of={DropdownMenu}
              groups={[[{ label: 'Go to its row', run: () => goToRow(workspace, id) }], ...listValueCommands({ session, workspace }, [id])]}
            />
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

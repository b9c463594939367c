'use client';
import { DropdownMenu } from 'radix-ui';
import { listSteps, type PlaneName } from '@/core/document';
import { automaticLetter } from '@/core/formula';
import { useSession, useSessionState, useWorkspaceStore } from '../state/context';
import { newId } from '../state/identity';

const PLANES: readonly { readonly plane: PlaneName; readonly label: string }[] = [
  { plane: 'front', label: 'On the front plane (x, z)' },
  { plane: 'top', label: 'On the top plane (x, y)' },
  { plane: 'side', label: 'On the side plane (y, z)' },
];

/** Adds a sketch at the end of the build history and opens it. */
export function AddSketch() {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const kind = useSessionState((state) => state.document.kind);
  if (kind !== 'part') return null;
  const add = (plane: PlaneName): void => {
    const names = new Set(listSteps(session.document).map((step) => step.name));
    let name = 'Profile A';
    for (let n = 1; names.has(name); n++) name = `Profile ${automaticLetter(n)}`;
    const id = newId();
    if (!session.edit({ type: 'step.add', step: { type: 'sketch', id, name, plane }, values: [] })) workspace.setState({ sketch: id, selected: id });
  };
  return (
    <div className="flex h-9 items-center pl-6">
      <DropdownMenu.Root>
        <DropdownMenu.Trigger className="h-7 rounded-box px-2.5 text-walnut-soft hover:bg-flax-deep">Add a sketch</DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="start"
            className="z-50 rounded-box border border-rule bg-sheet py-1 shadow-box"
            // The canvas of the new sketch has the focus.
            onCloseAutoFocus={(event) => {
              const canvas = document.querySelector<HTMLElement>('[role="application"]');
              if (!canvas) return;
              event.preventDefault();
              canvas.focus();
            }}
          >
            {PLANES.map(({ plane, label }) => (
              <DropdownMenu.Item key={plane} className="cursor-default px-3 py-1 outline-none data-[highlighted]:bg-indigo-wash" onSelect={() => add(plane)}>
                {label}
              </DropdownMenu.Item>
            ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </div>
  );
}

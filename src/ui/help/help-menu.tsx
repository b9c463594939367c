'use client';
import { DropdownMenu } from 'radix-ui';
import { useRouter } from 'next/navigation';
import { MENU, MenuItems } from '../design/menu-items';
import { useWorkspaceStore } from '../state/context';
import { beginGuide } from './guide-progress';

/** Everything that explains the program. */
export function HelpMenu() {
  const workspace = useWorkspaceStore();
  const router = useRouter();
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="h-7 rounded-box px-2.5 hover:bg-flax-deep">Help</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className={MENU} align="end" sideOffset={4}>
          <MenuItems
            of={DropdownMenu}
            groups={[
              [
                { label: 'Keys', keys: 'F1', run: () => workspace.setState({ task: { kind: 'keys' } }) },
                { label: 'Formula reference', run: () => workspace.setState({ showsReference: true }) },
              ],
              [{ label: 'Guided first design', run: () => void beginGuide((address) => router.push(address)) }],
            ]}
          />
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

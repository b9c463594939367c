'use client';
import { useRouter } from 'next/navigation';
import { Menu } from '../design/menu';
import { MenuItems } from '../design/menu-items';
import { useWorkspaceStore } from '../state/context';
import { beginGuide } from './guide-progress';

/** Everything that explains the program. */
export function HelpMenu() {
  const workspace = useWorkspaceStore();
  const router = useRouter();
  return (
    <Menu align="end" sideOffset={4} button={{ children: 'Help', className: 'h-7 rounded-box px-2.5 hover:bg-flax-deep' }}>
      {(parts) => (
        <MenuItems
          of={parts}
          groups={[
            [
              { label: 'Keys', keys: 'F1', run: () => workspace.setState({ task: { kind: 'keys' } }) },
              { label: 'Formula reference', run: () => workspace.setState({ showsReference: true }) },
            ],
            [{ label: 'Guided first design', run: () => void beginGuide((address) => router.push(address)) }],
          ]}
        />
      )}
    </Menu>
  );
}

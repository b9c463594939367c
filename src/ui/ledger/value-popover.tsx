'use client';
import { Popover } from 'radix-ui';
import type { ReactNode } from 'react';
import { TraceLists } from '../links/trace';
import { useWorkspace, useWorkspaceStore } from '../state/context';
import type { Opened } from '../state/workspace';
import { PastList } from './past-list';
import { RewriteForm } from './rewrite-form';

const TITLES: Readonly<Record<Opened, string>> = { trace: 'Trace across documents', rewrite: 'Rewrite formulas', past: 'Over revisions' };

/** What is told or asked of the selected value, over what stands above `children`. */
export function ValuePopover({ id, children }: { id: string; children: ReactNode }) {
  const workspace = useWorkspaceStore();
  const opened = useWorkspace((state) => state.opened);
  const close = (): void => workspace.setState({ opened: undefined });
  return (
    <Popover.Root open={opened !== undefined} onOpenChange={(isOpen) => !isOpen && close()}>
      <Popover.Anchor asChild>{children}</Popover.Anchor>
      <Popover.Portal>
        {opened && (
          <Popover.Content
            align="end"
            side="top"
            collisionPadding={8}
            className="z-50 max-h-[60vh] w-[30rem] overflow-y-auto rounded-box border border-rule bg-sheet p-3 shadow-box"
            aria-label={TITLES[opened]}
          >
            {opened === 'trace' && <TraceLists id={id} />}
            {opened === 'rewrite' && <RewriteForm id={id} onDone={close} />}
            {opened === 'past' && <PastList id={id} />}
          </Popover.Content>
        )}
      </Popover.Portal>
    </Popover.Root>
  );
}

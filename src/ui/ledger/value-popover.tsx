'use client';
import { Popover } from 'radix-ui';
import type { RefObject } from 'react';
import { TraceLists } from '../links/trace';
import { useWorkspaceStore } from '../state/context';
import type { Opened } from '../state/workspace';
import { PastList } from './past-list';
import { RewriteForm } from './rewrite-form';

const TITLES: Readonly<Record<Opened, string>> = { trace: 'Trace across documents', rewrite: 'Rewrite formulas', past: 'Over revisions' };

interface ValuePopoverProps {
  readonly id: string;
  readonly opened: Opened;
  /** It stands over this. */
  readonly anchor: RefObject<HTMLElement | null>;
}

/** What is told or asked of the selected value. */
export function ValuePopover({ id, opened, anchor }: ValuePopoverProps) {
  const workspace = useWorkspaceStore();
  const close = (): void => workspace.setState({ opened: undefined });
  return (
    <Popover.Root open onOpenChange={(isOpen) => !isOpen && close()}>
      <Popover.Anchor virtualRef={anchor} />
      <Popover.Portal>
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
      </Popover.Portal>
    </Popover.Root>
  );
}

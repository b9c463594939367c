'use client';
import { findRecord } from '@/core/document';
import { Button } from '../design/button';
import { useSession, useWorkspaceStore } from '../state/context';
import { listValueCommands } from './value-commands';

/** What can be done with several values, while they are marked. */
export function MarkedValues({ ids }: { ids: readonly string[] }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const nameOf = (id: string): string => (findRecord(session.document, id, 'parameter') ?? findRecord(session.document, id, 'take'))?.name ?? '';
  return (
    <>
      <p role="status">
        <span className="font-semibold">{ids.length} values are marked</span>{' '}
        <span className="text-walnut-soft">
          {ids.slice(0, 12).map(nameOf).join(', ')}
          {ids.length > 12 && ` and ${ids.length - 12} more`}
        </span>
      </p>
      <div role="toolbar" aria-label="Marked values" className="mt-2 flex flex-wrap gap-1.5">
        {listValueCommands({ session, workspace }, ids)
          .flat()
          .map(({ label, keys, run }) => (
            <Button key={label} {...(keys === undefined ? {} : { title: keys })} onClick={run}>
              {label}
            </Button>
          ))}
        <Button tone="quiet" title="Escape" onClick={() => workspace.setState({ marked: new Set() })}>
          Mark none
        </Button>
      </div>
    </>
  );
}

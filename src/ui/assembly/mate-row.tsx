'use client';
import { findRecord, mateWords, reverseWords, senseWords } from '@/core/document';
import { Button } from '../design/button';
import { readRowKey, type RowTarget } from '../ledger/row-keys';
import { useSession, useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';
import type { DocumentSession } from '../state/document-session';

interface MateRowProps {
  readonly id: string;
  readonly onMove: (from: string, to: RowTarget) => void;
}

/** A mate: what it holds, of which kind, and whether it does. */
export function MateRow({ id, onMove }: MateRowProps) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const mate = useSessionState((state) => findRecord(state.document, id, 'mate'));
  const outcome = useSessionState((state) => state.placement?.mates.get(id));
  const isSelected = useWorkspace((state) => state.selected === id);
  if (!mate) return null;
  const onKeyDown = (event: React.KeyboardEvent): void => {
    if (event.target !== event.currentTarget) return;
    const action = readRowKey(event);
    if (action?.kind === 'go') onMove(id, action.to);
    else if (action?.kind === 'delete') removeMate(session, id);
    else return;
    event.preventDefault();
  };
  const isWrong = outcome?.status === 'conflicting' || outcome?.status === 'failed';
  const sense = senseWords(mate.kind, outcome?.bothRun)?.[mate.sense === 1 ? 0 : 1];
  return (
    <div
      role="row"
      tabIndex={-1}
      data-row={id}
      aria-selected={isSelected}
      aria-label={mate.name}
      className={`border-b border-rule/50 ${isSelected ? 'bg-indigo-wash' : 'bg-flax/60'}`}
      onKeyDown={onKeyDown}
      onFocus={(event) => {
        if (event.target === event.currentTarget) workspace.setState({ selected: id });
      }}
    >
      <div role="cell" className="flex h-7 items-center gap-2 pr-2 pl-7">
        <button type="button" className="min-w-0 truncate text-left" onClick={() => workspace.setState({ selected: id })}>
          <span className="font-semibold">{mate.name}</span>
          <span className="ml-2 text-walnut-soft">
            {mateWords(mate.kind, outcome?.bothRun)}
            {sense !== undefined && `, ${sense}`}
            {mate.isLimited === true && ', between limits'}
          </span>
        </button>
        <span className="flex-1" />
        {outcome && outcome.status !== 'holds' && <span className={isWrong ? 'text-madder' : 'text-weld'}>{outcome.status}</span>}
        {isSelected && sense !== undefined && (
          <Button
            tone="quiet"
            className="h-6"
            onClick={() => session.edit({ type: 'mate.put', mate: { ...mate, sense: mate.sense === 1 ? -1 : 1 }, values: [] })}
          >
            {reverseWords(mate.kind)}
          </Button>
        )}
        {isSelected && (
          <Button tone="quiet" className="h-6" onClick={() => removeMate(session, id)}>
            Delete
          </Button>
        )}
      </div>
      {outcome?.message !== undefined && outcome.status !== 'holds' && (
        <p className={`pr-2 pb-1 pl-12 ${isWrong ? 'text-madder' : 'text-walnut-soft'}`}>{outcome.message}</p>
      )}
    </div>
  );
}

function removeMate(session: DocumentSession, id: string): void {
  session.edit({ type: 'mate.remove', id, readers: { mode: 'refuse' } });
}

'use client';
import { findRecord } from '@/core/document';
import { useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';
import { FILTERS, WHOLE_LEDGER, type Filter, type LedgerView } from '../state/ledger-view';

/** What of the ledger is shown: by kind, by words, in which order. */
export function LedgerBar({ shown }: { shown: number | undefined }) {
  const workspace = useWorkspaceStore();
  const view = useWorkspace((state) => state.view);
  const revision = useSessionState((state) => state.revision);
  const body = useSessionState((state) => (view.body === undefined ? undefined : findRecord(state.document, view.body, 'body')));
  const change = (changes: Partial<LedgerView>): void => workspace.setState({ view: { ...view, ...changes } });
  return (
    <div role="search" aria-label="Values" className="flex h-9 shrink-0 items-center gap-2 border-b border-rule bg-flax px-2">
      <input
        type="search"
        aria-label="Search values"
        placeholder="Search names, formulas, notes"
        className="h-7 min-w-0 flex-1 rounded-box border border-rule bg-sheet px-2"
        value={view.text}
        onChange={(event) => change({ text: event.target.value })}
        onKeyDown={(event) => {
          if (event.key === 'Escape') workspace.setState({ view: WHOLE_LEDGER });
        }}
      />
      <select
        aria-label="Which values"
        className="h-7 rounded-box border border-rule bg-sheet"
        value={view.filter}
        onChange={(event) => change({ filter: event.target.value as Filter })}
      >
        {Object.entries(FILTERS).map(([filter, words]) => (
          <option key={filter} value={filter} disabled={filter === 'changed' && revision === 0}>
            {words}
          </option>
        ))}
      </select>
      <select
        aria-label="Order of values"
        className="h-7 rounded-box border border-rule bg-sheet"
        value={view.sort}
        onChange={(event) => change({ sort: event.target.value as LedgerView['sort'] })}
      >
        <option value="order">as built</option>
        <option value="name">by name</option>
        <option value="value">by size</option>
        <option value="body">by body</option>
      </select>
      {body && (
        <button type="button" className="rounded-box bg-indigo-wash px-1.5 whitespace-nowrap" onClick={() => change({ body: undefined })}>
          {body.name} <span aria-hidden="true">×</span>
          <span className="sr-only">only; show the values of all bodies</span>
        </button>
      )}
      {shown !== undefined && (
        <>
          <span role="status" className="whitespace-nowrap text-walnut-soft">
            {shown} value{shown === 1 ? '' : 's'}
          </span>
          <button type="button" className="underline" onClick={() => workspace.setState({ view: WHOLE_LEDGER })}>
            All
          </button>
        </>
      )}
    </div>
  );
}

'use client';
/** Parts that stand in one another: which, by how much, and what is meant so. */
import { useState } from 'react';
import { dismissalOf, interferenceKey, type Interference, type JudgedBody } from '@/core/assembly';
import { findRecord, listRecords, type Document, plainId } from '@/core/document';

import { Button } from '../design/button';
import { LowerPanel } from '../ledger/lower-panel';
import { newId } from '../state/identity';
import { useSession, useSessionState, useWorkspaceStore } from '../state/context';

export function InterferencePanel() {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const document = useSessionState((state) => state.document);
  const found = useSessionState((state) => state.interference);
  const [asked, setAsked] = useState<string>();
  const dismissals = listRecords(document, 'dismissals', 'dismissal');
  const nameOf = ({ path }: JudgedBody): string => pathName(session.values.document, path);
  return (
    <LowerPanel aria-label="Interference" height={288} className="overflow-y-auto px-3 py-2">
      <header className="flex items-center gap-2">
        <h2 className="flex-1 font-semibold">Interference</h2>
        <Button tone="quiet" onClick={() => workspace.setState({ showsInterference: false })}>
          Close
        </Button>
      </header>
      {found === undefined && <p role="status">Checking for interference…</p>}
      {found?.length === 0 && <p className="text-walnut-soft">No interference.</p>}
      <ul>
        {found?.map((one) => {
          const key = interferenceKey(one);
          const dismissed = dismissalOf(dismissals, one);
          return (
            <li key={key} className="border-b border-rule/50 py-1">
              <div className="flex items-center gap-2">
                <button
                  type="button"
                  className="min-w-0 flex-1 truncate text-left hover:underline"
                  onClick={() => workspace.setState({ pointedParts: [one.first.path.join(' '), one.second.path.join(' ')], selected: undefined })}
                >
                  {nameOf(one.first)} and {nameOf(one.second)}
                </button>
                <span className={`font-mono tabular-nums ${dismissed ? 'text-walnut-soft' : 'text-madder'}`}>{volumeText(one)}</span>
                {dismissed ? (
                  <Button tone="quiet" className="h-6" onClick={() => session.edit({ type: 'dismissal.remove', id: dismissed.id })}>
                    Reopen
                  </Button>
                ) : (
                  <Button tone="quiet" className="h-6" onClick={() => setAsked(asked === key ? undefined : key)}>
                    Dismiss…
                  </Button>
                )}
              </div>
              {dismissed && <p className="text-walnut-soft">{dismissed.reason}</p>}
              {asked === key && !dismissed && (
                <form
                  className="mt-1 flex gap-2"
                  onSubmit={(event) => {
                    event.preventDefault();
                    const reason = new FormData(event.currentTarget).get('reason');
                    session.edit({
                      type: 'dismissal.put',
                      dismissal: { type: 'dismissal', id: newId(), key, reason: typeof reason === 'string' ? reason : '' },
                    });
                    setAsked(undefined);
                  }}
                >
                  <input
                    name="reason"
                    aria-label="Reason"
                    required
                    maxLength={400}
                    placeholder="Reason, for example: press fit"
                    className="h-7 min-w-0 flex-1 rounded-box border border-rule bg-sheet px-1.5"
                    autoFocus // oxlint-disable-line jsx-a11y/no-autofocus -- it was opened to type into
                  />
                  <Button tone="strong" type="submit">
                    Dismiss
                  </Button>
                </form>
              )}
            </li>
          );
        })}
      </ul>
    </LowerPanel>
  );
}

function volumeText({ volume }: Interference): string {
  if (volume === undefined) return 'not judged';
  return volume < 1000 ? `${volume.toFixed(1)} mm³` : `${(volume / 1000).toFixed(2)} cm³`;
}

/** `left_side`, `rail[2]`, or a part of a sub-assembly. */
function pathName(document: Document, [first = '', ...rest]: readonly string[]): string {
  const id = plainId(first);
  const component = findRecord(document, id, 'component');
  const place = component?.pattern ? `[${first === id ? 1 : first.slice(id.length + 1)}]` : '';
  const name = `${component?.name ?? '?'}${place}`;
  return rest.length === 0 ? name : `a part of ${name}`;
}

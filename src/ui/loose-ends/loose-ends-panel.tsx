'use client';
import { useState } from 'react';
import { listRecords, meantNames, type EditOf } from '@/core/document';
import type { LooseEnd } from '@/core/loose-ends';
import { Button } from '../design/button';
import { LowerPanel } from '../ledger/lower-panel';
import { goToRow } from '../ledger/go-to-row';
import { useSession, useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';
import { newId } from '../state/identity';
import { editOrAsk } from '../state/removal';

const HEADINGS: Readonly<Record<LooseEnd['kind'], string>> = {
  untied: 'Numbers that should follow a value',
  perhaps: 'Round numbers that equal a value, perhaps by chance',
  behind: 'Values that are behind',
  'broken-guard': 'Guards that are broken',
  'near-circle': 'Ties that would make a circle',
  'look-alike': 'Names that look alike',
  unused: 'Values that nothing reads',
  'at-limit': 'Values at their limit',
  'silent-guard': 'Guards without a message',
};

/** As sure as this, ties are made all at once. */
const SURE = 0.7;

/** What a careful designer would look at again, with what can be done about it. */
export function LooseEndsPanel() {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const ends = useWorkspace((state) => state.looseEnds);
  const close = (): void => workspace.setState({ showsLooseEnds: false });
  const sure = ends.filter((end): end is UntiedEnd => end.kind === 'untied' && end.tie.confidence >= SURE);
  const certain = ends.filter(({ kind }) => kind !== 'perhaps');
  const perhaps = ends.filter(({ kind }) => kind === 'perhaps');
  const kinds = (Object.keys(HEADINGS) as LooseEnd['kind'][]).filter((kind) => certain.some((end) => end.kind === kind));
  return (
    <LowerPanel aria-label="Loose ends" height={288} className="overflow-y-auto px-3 py-2">
      <header className="flex items-center gap-2">
        <h2 className="font-semibold">Loose ends</h2>
        <span className="flex-1" />
        {sure.length > 1 && (
          <Button className="h-6" onClick={() => session.edit({ type: 'batch', edits: sure.map((end) => tieEdit(session.document, end)) })}>
            Tie the {sure.length} that are sure
          </Button>
        )}
        <Button tone="quiet" className="h-6" onClick={close}>
          Close
        </Button>
      </header>
      {certain.length === 0 && (
        <p className="mt-2 text-walnut-soft">
          {perhaps.length === 0 ? 'No loose ends: no plain number equals a value, and every value is read.' : 'No likely loose ends. Every value is read.'}
        </p>
      )}
      {kinds.map((kind) => (
        <section key={kind} className="mt-2">
          <h3 className="text-walnut-soft">{HEADINGS[kind]}</h3>
          <ul>{ends.map((end) => end.kind === kind && <End key={end.key} end={end} />)}</ul>
        </section>
      ))}
      {perhaps.length > 0 && (
        <details className="mt-2" open={certain.length === 0}>
          <summary className="text-walnut-soft">
            {HEADINGS.perhaps}: {perhaps.length}
          </summary>
          <ul>
            {perhaps.map((end) => (
              <End key={end.key} end={end} />
            ))}
          </ul>
        </details>
      )}
      <Dismissed />
    </LowerPanel>
  );
}

type UntiedEnd = Extract<LooseEnd, { readonly tie: unknown }>;

function tieEdit(document: Parameters<typeof meantNames>[0], { tie }: UntiedEnd): EditOf<'parameter.setFormula'> {
  return { type: 'parameter.setFormula', id: tie.id, formula: { text: tie.formula, names: meantNames(document, tie.formula) } };
}

function End({ end }: { end: LooseEnd }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const [isDismissing, setDismissing] = useState(false);
  const [first = ''] = end.about;
  const dismiss = (reason: string): void => {
    session.edit({ type: 'dismissal.put', dismissal: { type: 'dismissal', id: newId(), key: end.key, reason } });
  };
  return (
    <li className="flex flex-wrap items-center gap-2 border-b border-rule/50 py-0.5">
      <button type="button" className="min-w-0 flex-1 text-left hover:underline" onClick={() => goToRow(workspace, first)}>
        {end.message}
      </button>
      {'tie' in end && (
        <>
          <span className="text-walnut-soft" title="How sure this is">
            {Math.round(end.tie.confidence * 100)} %
          </span>
          <Button className="h-6" onClick={() => session.edit(tieEdit(session.document, end))}>
            Tie to {end.tie.formula}
          </Button>
        </>
      )}
      {end.kind === 'behind' && (
        <Button className="h-6" onClick={() => workspace.setState({ task: { kind: 'catch-up' } })}>
          Preview
        </Button>
      )}
      {end.kind === 'unused' && session.document.records[first]?.type === 'parameter' && (
        <Button className="h-6" onClick={() => editOrAsk(session, workspace, 'Delete it', (readers) => ({ type: 'parameter.remove', id: first, readers }))}>
          Delete
        </Button>
      )}
      {isDismissing ? (
        <input
          autoFocus // oxlint-disable-line jsx-a11y/no-autofocus -- opened by the user to type into
          aria-label="Why it may stay"
          placeholder="why it may stay, then Enter"
          className="h-6 w-52 rounded-box border border-indigo bg-sheet px-1.5"
          onBlur={() => setDismissing(false)}
          onKeyDown={(event) => {
            event.stopPropagation();
            if (event.key === 'Escape') setDismissing(false);
            if (event.key === 'Enter') dismiss(event.currentTarget.value.trim());
          }}
        />
      ) : (
        <Button tone="quiet" className="h-6" onClick={() => setDismissing(true)}>
          Dismiss…
        </Button>
      )}
    </li>
  );
}

/** What was dismissed, with the reason; it can be taken up again. */
function Dismissed() {
  const session = useSession();
  const document = useSessionState((state) => state.document);
  const left = listRecords(document, 'dismissals', 'dismissal');
  if (left.length === 0) return null;
  const nameOf = (key: string): string => {
    const record = document.records[key.split(' ')[1] ?? ''];
    return record && 'name' in record ? record.name : 'something that is gone';
  };
  return (
    <details className="mt-2">
      <summary className="text-walnut-soft">{left.length} dismissed</summary>
      <ul>
        {left.map(({ id, key, reason }) => (
          <li key={id} className="flex items-center gap-2">
            <span className="flex-1">
              {nameOf(key)}: {reason === '' ? 'no reason given' : reason}
            </span>
            <Button tone="quiet" className="h-6" onClick={() => session.edit({ type: 'dismissal.remove', id })}>
              Reopen
            </Button>
          </li>
        ))}
      </ul>
    </details>
  );
}

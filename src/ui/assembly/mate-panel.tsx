'use client';
import { useEffect, useState } from 'react';
import { canBeLimited, mateSlots, mateWords, reverseWords, slotOf } from '@/core/document';
import { Button } from '../design/button';
import { FormulaBox } from '../formula-box/formula-box';
import { goToRow } from '../ledger/go-to-row';
import { useSession, useSessionState, useWorkspaceStore } from '../state/context';
import { kindsOf, mateEdit, nextPick, senseOf, usualFormula, withKind, withPick } from './mate-draft';
import { DatumChoice } from './datum-choice';
import { FittingOffers } from './fitting-offers';
import type { MateDraft } from '../state/drafts';

/** The mate that is being made: what is picked, its kind, its value; the components show where it would put them. */
export function MatePanel({ draft }: { draft: MateDraft }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const outcome = useSessionState((state) => state.placement?.mates.get(draft.id));
  const [refusal, setRefusal] = useState<string>();
  const change = (next: MateDraft): void => {
    setRefusal(undefined);
    workspace.setState({ mating: next });
  };
  // Where everything stood before it was tried.
  const [standing] = useState(() => {
    const placement = session.store.getState().placement;
    return new Map(placement ? [...placement.stances, ...placement.standing(session.values, [])] : []);
  });
  const next = nextPick(draft);
  const isReady = next === undefined;
  const sense = senseOf(draft);
  const picks = [draft.first, draft.second, draft.third].flatMap((pick) => pick ?? []);
  useEffect(() => {
    // The components follow what is picked and typed, before anything is changed.
    const edit = mateEdit(session.document, draft, standing);
    session.endTrial(false);
    setRefusal(edit ? session.tryOut(edit)?.message : undefined);
  }, [session, draft, standing]);
  useEffect(() => () => session.endTrial(false), [session]);

  const close = (): void => workspace.setState({ mating: undefined });
  const create = (): string | undefined => {
    const solved = session.store.getState().placement;
    session.endTrial(false);
    const edit = mateEdit(session.document, draft, standing, solved?.status === 'placed' ? solved : undefined);
    const failure = edit && session.edit(edit);
    if (failure) {
      setRefusal(failure.message);
      return failure.message;
    }
    close();
    goToRow(workspace, draft.id);
    return undefined;
  };
  return (
    // Escape leaves from anywhere in it.
    // oxlint-disable-next-line jsx-a11y/no-noninteractive-element-interactions
    <form
      aria-label="New mate"
      data-over="left"
      className="absolute top-2 left-2 z-30 flex w-72 flex-col rounded-box border border-rule bg-sheet shadow-box"
      onSubmit={(event) => {
        event.preventDefault();
        create();
      }}
      onKeyDown={(event) => {
        if (event.key === 'Escape' && !event.defaultPrevented) close();
      }}
    >
      <header className="border-b border-rule px-3 py-1.5 font-semibold">New mate</header>
      <div className="px-3 py-2">
        <ol className="mb-2">
          {picks.map((pick) => (
            <li key={`${pick.words} ${JSON.stringify(pick.reference)}`}>{pick.words}</li>
          ))}
          {next !== undefined && <li className="text-walnut-soft">{next}</li>}
        </ol>
        {!draft.first && draft.about !== undefined && (
          <FittingOffers component={draft.about} onPick={(first, second) => change(withPick(withPick(draft, first), second))} />
        )}
        {next !== undefined && <DatumChoice onPick={(pick) => change(withPick(draft, pick))} />}
        {draft.second && (
          <>
            <div role="radiogroup" aria-label="Kind of mate" className="mb-2 flex flex-wrap gap-1">
              {kindsOf(draft).map((kind) => (
                <Button
                  key={kind}
                  role="radio"
                  aria-checked={draft.kind === kind}
                  tone={draft.kind === kind ? 'strong' : 'plain'}
                  className="h-6"
                  onClick={() => change(withKind(draft, kind))}
                >
                  {mateWords(kind, draft.first?.geometry.kind === draft.second?.geometry.kind)}
                </Button>
              ))}
            </div>
            {sense !== undefined && (
              <Button className="mb-2" onClick={() => change({ ...draft, sense: draft.sense === 1 ? -1 : 1 })}>
                {sense[0]?.toUpperCase()}
                {sense.slice(1)}: {reverseWords(draft.kind).toLowerCase()}
              </Button>
            )}
            {canBeLimited(draft.kind) && (
              <label className="mb-1 flex items-center gap-1.5">
                <input type="checkbox" checked={draft.isLimited} onChange={(event) => change({ ...draft, isLimited: event.target.checked, formulas: {} })} />
                moves between two limits
              </label>
            )}
            {mateSlots(draft).map((slot, i) => (
              <div key={`${draft.kind} ${slot.slot}`}>
                <span className="text-walnut-soft">{slot.label}</span>
                <FormulaBox
                  values={session.values}
                  initial={draft.formulas[slot.slot] ?? usualFormula(draft, slot)}
                  label={slot.label}
                  slot={slotOf({ kind: slot.kind, name: slot.label, owner: draft.id })}
                  forId={draft.valueIds[i] ?? ''}
                  isField
                  onCancel={close}
                  onChange={(formula) => change({ ...draft, formulas: { ...draft.formulas, [slot.slot]: formula } })}
                  onAccept={(_, then) => (then === 'stay' ? create() : undefined)}
                />
              </div>
            ))}
          </>
        )}
      </div>
      <footer className="border-t border-rule px-3 py-2">
        {(refusal ?? outcome?.message) !== undefined && (
          <p role="status" className="mb-1.5 text-madder">
            {refusal ?? outcome?.message}
          </p>
        )}
        <span className="flex gap-2">
          <Button tone="strong" type="submit" disabled={!isReady}>
            Create
          </Button>
          <Button onClick={close}>Cancel</Button>
        </span>
      </footer>
    </form>
  );
}

'use client';
/** The outside calculation that is selected: what goes in, what came out, and for which inputs it did. */
import { useState } from 'react';
import { findRecord, type OutsideCalculation, type OutsideState } from '@/core/document';
import { ANY_SLOT } from '@/core/formula';
import { prettyUnit } from '@/core/units';
import { Button } from '../design/button';
import { FormulaBox } from '../formula-box/formula-box';
import { goToRow } from '../ledger/go-to-row';
import { LowerPanel } from '../ledger/lower-panel';
import { TextField } from '../design/text-field';
import { useSession, useSessionState, useWorkspaceStore } from '../state/context';
import { editOrAsk } from '../state/removal';
import { setInput } from './outside-edits';
import { ReplaceBook } from './replace-book';
import { amountWords, askedWords, heldWords, momentOf, stateWords, TONES } from './outside-words';

export function OutsidePanel({ id }: { id: string }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const outside = useSessionState((state) => findRecord(state.document, id, 'outside'));
  const asking = useSessionState((state) => state.outside);
  // The values are one object that is kept up to date in place.
  useSessionState((state) => state.version);
  const [isReplacing, setReplacing] = useState(false);
  if (!outside) return null;
  const state = session.values.outside.stateOf(id);
  const { words, tone } = stateWords(id, state, asking);
  return (
    <LowerPanel
      aria-label="Outside calculation"
      height={264}
      className="flex flex-col"
      onKeyDown={(event) => {
        if (event.key === 'Escape' && !event.defaultPrevented) goToRow(workspace, id);
      }}
    >
      <header className="flex shrink-0 items-center gap-2 px-3 pt-2">
        <span className="w-48 shrink-0">
          <TextField
            label="Name of the calculation"
            value={outside.name}
            check={(text) => (text === '' ? 'A name, please.' : undefined)}
            onAccept={(name) => session.edit({ type: 'outside.put', outside: { ...outside, name }, outputs: [] })}
          />
        </span>
        <p className="min-w-0 flex-1 truncate text-walnut-soft">{askedWords(session.document, outside.asked)}</p>
        <Button tone="quiet" disabled={asking.isAsking || state?.is === 'answered' || state?.is === 'waiting'} onClick={() => session.asker.askAgain()}>
          Ask again
        </Button>
        {outside.asked.of === 'spreadsheet' && (
          <Button tone="quiet" onClick={() => setReplacing(true)}>
            Another file…
          </Button>
        )}
        <Button tone="quiet" onClick={() => editOrAsk(session, workspace, `Delete ${outside.name}`, (readers) => ({ type: 'outside.remove', id, readers }))}>
          Delete
        </Button>
      </header>
      <p className={`px-3 pt-1 ${TONES[tone]}`} aria-live="polite">
        {words}
      </p>
      <div className="grid min-h-0 flex-1 grid-cols-2 gap-4 overflow-y-auto px-3 pt-1 pb-2">
        <Inputs outside={outside} />
        <Outputs outside={outside} state={state} />
      </div>
      {isReplacing && <ReplaceBook outside={outside} answer={state && state.is !== 'waiting' ? state.answer : undefined} onClose={() => setReplacing(false)} />}
    </LowerPanel>
  );
}

function Inputs({ outside }: { outside: OutsideCalculation }) {
  const session = useSession();
  return (
    <section aria-label="Inputs" className="min-w-0">
      <h3 className="text-walnut-soft">Inputs</h3>
      <ul>
        {outside.inputs.map((input) => (
          <li key={input.key} className="border-b border-rule/50 py-0.5">
            <span className="flex items-center gap-2">
              <span className="min-w-0 flex-1 truncate">{input.key}</span>
              <span className="font-mono tabular-nums">{prettyUnit(session.values.showNode(`${outside.id}/in ${input.key}`) || 'error')}</span>
            </span>
            <FormulaBox
              key={input.formula.text}
              values={session.values}
              initial={input.formula.text}
              label={`${input.key} of ${outside.name}`}
              slot={session.values.outside.slotOf(outside.id, input.key) ?? ANY_SLOT}
              forId={`${outside.id}/in ${input.key}`}
              isField
              autoFocus={false}
              onCancel={() => undefined}
              onAccept={(text) => {
                const typed = text.trim();
                if (typed === '' || typed === input.formula.text) return undefined;
                return session.edit(setInput(session.values, outside, input.key, typed))?.message;
              }}
            />
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What came back; of an answer to other inputs, those are told. */
function Outputs({ outside, state }: { outside: OutsideCalculation; state: OutsideState | undefined }) {
  const answer = state && state.is !== 'waiting' ? state.answer : undefined;
  const held = heldWords(state);
  return (
    <section aria-label="Answer" className="min-w-0">
      <h3 className="text-walnut-soft">Answer{answer && `, ${momentOf(answer.at)}, ${answer.version}`}</h3>
      <ul>
        {outside.outputs.map(({ key }) => (
          <li key={key} className="flex items-center gap-2 border-b border-rule/50 py-0.5">
            <span className="min-w-0 flex-1 truncate">{key}</span>
            {answer?.outputs[key]?.stored !== undefined && <span className="text-weld">as saved</span>}
            <span className="font-mono tabular-nums">{answer ? amountWords(answer.outputs[key]) : ''}</span>
          </li>
        ))}
      </ul>
      {held !== undefined && <p className="pt-1 text-weld">{held}</p>}
    </section>
  );
}

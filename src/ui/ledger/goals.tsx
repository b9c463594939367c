'use client';
import { useState } from 'react';
import { listDriving, readGoals, textOfGoal, writeGoal, type Goal, type GoalReading } from '@/core/document';
import { ANY_SLOT } from '@/core/formula';
import { Button } from '../design/button';
import { VerbMenu } from '../design/verb-menu';
import { FormulaBox } from '../formula-box/formula-box';
import { useSession, useSessionState, useWorkspaceStore } from '../state/context';
import { newId } from '../state/identity';
import { listMovable } from '../state/movable';

const MOST_DRIVERS = 6;

/** What values are to come to, and whether they do. */
export function Goals() {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const document = useSessionState((state) => state.document);
  const version = useSessionState((state) => state.version);
  const goals = readGoals(session.values);
  const [open, setOpen] = useState<string>();
  // Where there is nothing to come to, there is nothing to ask for.
  if (goals.length === 0 && listDriving(document).length === 0) return null;
  return (
    <section aria-label="Goals" className="pr-2 pb-2 pl-7" data-version={version}>
      {goals.length > 0 && <h2 className="mb-1 font-semibold text-walnut-soft">Goals</h2>}
      <ul>
        {goals.map((reading) => (
          <li key={reading.goal.id}>
            {open === reading.goal.id ? (
              <GoalForm goal={reading.goal} onDone={() => setOpen(undefined)} />
            ) : (
              <GoalLine reading={reading} onOpen={() => setOpen(reading.goal.id)} />
            )}
          </li>
        ))}
      </ul>
      {open === '' ? (
        <GoalForm onDone={() => setOpen(undefined)} />
      ) : (
        <span className="flex gap-2">
          <Button className="h-6" onClick={() => setOpen('')}>
            Add a goal
          </Button>
          {goals.some(({ isMet, problem }) => !isMet && problem === undefined) && (
            <Button tone="strong" className="h-6" onClick={() => workspace.setState({ task: { kind: 'goals' } })}>
              Reach goals…
            </Button>
          )}
        </span>
      )}
    </section>
  );
}

function GoalLine({ reading, onOpen }: { reading: GoalReading; onOpen: () => void }) {
  const session = useSession();
  const { goal, isMet, problem } = reading;
  return (
    <button type="button" className="flex w-full gap-2 rounded-box py-0.5 text-left hover:bg-flax" onClick={onOpen}>
      <span className={`w-14 shrink-0 ${isMet ? 'text-moss' : problem === undefined ? 'font-semibold text-weld' : 'font-semibold text-madder'}`}>
        {problem === undefined ? (isMet ? 'met' : 'not met') : 'error'}
      </span>
      <span className="font-mono text-[13px]">{textOfGoal(goal)}</span>
      {problem === undefined ? (
        <span className="text-walnut-soft">
          {!isMet && `is ${writeGoal(session.values, goal)}, `}by {goal.by.map(({ text }) => text).join(', ')}
        </span>
      ) : (
        <span className="text-madder">{problem}</span>
      )}
    </button>
  );
}

const FIELDS = [
  { field: 'of', label: 'Value of the goal', hint: 'value or formula' },
  { field: 'wanted', label: 'Wanted', hint: 'amount' },
  { field: 'within', label: 'Tolerance of the goal', hint: 'exactly' },
] as const;

/** A new goal, or one that is there. Formulas are checked as they are typed; nothing is kept before Enter or Keep. */
function GoalForm({ goal, onDone }: { goal?: Goal; onDone: () => void }) {
  const session = useSession();
  const [texts, setTexts] = useState({ of: goal?.of.text ?? '', wanted: goal?.wanted.text ?? '', within: goal?.within?.text ?? '' });
  const [by, setBy] = useState<readonly string[]>(goal?.by.map(({ text }) => text) ?? []);
  const [refusal, setRefusal] = useState<string>();
  const put = (given: typeof texts): string | undefined => {
    const [of, wanted, within] = [given.of.trim(), given.wanted.trim(), given.within.trim()];
    if (of === '' || wanted === '') return 'Type a value and what it is to come to.';
    if (by.length === 0) return 'Add at least one value that may change.';
    const next: Goal = {
      type: 'goal',
      id: goal?.id ?? newId(),
      of: { ...goal?.of, text: of },
      wanted: { ...goal?.wanted, text: wanted },
      ...(within === '' ? {} : { within: { ...goal?.within, text: within } }),
      by: by.map((text) => ({ text })),
    };
    const failure = session.edit({ type: 'goal.put', goal: next });
    if (!failure) onDone();
    return failure?.message;
  };
  return (
    <form
      className="my-1 flex flex-col gap-1.5 rounded-box border border-rule bg-flax p-2"
      onSubmit={(event) => {
        event.preventDefault();
        setRefusal(put(texts));
      }}
    >
      <span className="flex flex-wrap items-center gap-1.5">
        {FIELDS.map(({ field, label, hint }) => (
          <span key={field} className={`flex items-center gap-1.5 ${field === 'of' ? 'min-w-40 flex-1' : 'w-36'}`}>
            {field !== 'of' && <span className="text-walnut-soft">{field === 'wanted' ? '=' : '±'}</span>}
            <span className="min-w-0 flex-1">
              <FormulaBox
                values={session.values}
                initial={goal?.[field]?.text ?? ''}
                hint={hint}
                label={label}
                slot={ANY_SLOT}
                autoFocus={field === 'of'} // oxlint-disable-line jsx-a11y/no-autofocus -- the form was opened to type into
                onChange={(text) => setTexts((before) => ({ ...before, [field]: text }))}
                isField
                onAccept={(text, then) => (then === 'stay' ? put({ ...texts, [field]: text }) : undefined)}
                onCancel={onDone}
              />
            </span>
          </span>
        ))}
      </span>
      <span className="flex flex-wrap items-center gap-1.5">
        <span className="text-walnut-soft">by</span>
        {by.map((name) => (
          <Button key={name} className="h-6 font-mono text-[13px]" aria-label={`Remove ${name}`} onClick={() => setBy(by.filter((one) => one !== name))}>
            {name} ×
          </Button>
        ))}
        <VerbMenu
          label="Add a value…"
          isOff={by.length >= MOST_DRIVERS}
          groups={[listMovable(session).map(({ name }) => ({ label: name, isOff: by.includes(name), run: () => setBy([...by, name]) }))]}
        />
      </span>
      <span className="flex items-center gap-1.5">
        <Button tone="strong" type="submit">
          Keep
        </Button>
        {goal && (
          <Button
            onClick={() => {
              session.edit({ type: 'goal.remove', id: goal.id });
              onDone();
            }}
          >
            Delete
          </Button>
        )}
        <Button onClick={onDone}>Cancel</Button>
        {refusal !== undefined && (
          <span role="alert" className="text-madder">
            {refusal}
          </span>
        )}
      </span>
    </form>
  );
}

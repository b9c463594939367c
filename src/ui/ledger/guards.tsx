'use client';
import { useState } from 'react';
import { listRecords, type Guard } from '@/core/document';
import { Button } from '../design/button';
import { FormulaBox } from '../formula-box/formula-box';
import { useSession, useSessionState } from '../state/context';
import { newId } from '../state/identity';

const CONDITION = { kind: 'yes-no', label: 'a guard' } as const;

/** Conditions that must hold, each with the words for when it does not. */
export function Guards() {
  const document = useSessionState((state) => state.document);
  const version = useSessionState((state) => state.version);
  const guards = listRecords(document, 'guards', 'guard');
  const [open, setOpen] = useState<string>();
  return (
    <section aria-label="Guards" className="py-2 pr-2 pl-7" data-version={version}>
      {guards.length > 0 && <h2 className="mb-1 font-semibold text-walnut-soft">Guards</h2>}
      <ul>
        {guards.map((guard) => (
          <li key={guard.id}>
            {open === guard.id ? <GuardForm guard={guard} onDone={() => setOpen(undefined)} /> : <GuardLine guard={guard} onOpen={() => setOpen(guard.id)} />}
          </li>
        ))}
      </ul>
      {open === '' ? (
        <GuardForm onDone={() => setOpen(undefined)} />
      ) : (
        <Button className="h-6" onClick={() => setOpen('')}>
          Add a guard
        </Button>
      )}
    </section>
  );
}

function GuardLine({ guard, onOpen }: { guard: Guard; onOpen: () => void }) {
  const session = useSession();
  const reading = session.values.sheet.read(guard.id);
  const [problem] = reading?.diagnostics ?? [];
  const holds = !problem && reading?.value === 1;
  const word = problem ? 'error' : holds ? 'holds' : 'broken';
  return (
    <button type="button" className="flex w-full gap-2 rounded-box py-0.5 text-left hover:bg-flax" onClick={onOpen}>
      <span
        className={`w-14 shrink-0 ${holds ? 'text-moss' : guard.severity === 'warning' && !problem ? 'font-semibold text-weld' : 'font-semibold text-madder'}`}
      >
        {word}
      </span>
      <span className="font-mono text-[13px]">{guard.condition.text}</span>
      {!holds && <span className="text-madder">{problem?.message ?? guard.message}</span>}
    </button>
  );
}

/** A new guard, or one that is there. The condition is checked as it is typed; nothing is kept before Enter or Keep. */
function GuardForm({ guard, onDone }: { guard?: Guard; onDone: () => void }) {
  const session = useSession();
  const [condition, setCondition] = useState(guard?.condition.text ?? '');
  const [message, setMessage] = useState(guard?.message ?? '');
  const [severity, setSeverity] = useState<Guard['severity']>(guard?.severity ?? 'error');
  const [refusal, setRefusal] = useState<string>();
  const put = (text: string): string | undefined => {
    const next: Guard = { type: 'guard', id: guard?.id ?? newId(), condition: { ...guard?.condition, text: text.trim() }, message: message.trim(), severity };
    const failure = session.edit({ type: 'guard.put', guard: next });
    if (!failure) onDone();
    return failure?.message;
  };
  return (
    <form
      className="my-1 flex flex-col gap-1.5 rounded-box border border-rule bg-flax p-2"
      onSubmit={(event) => {
        event.preventDefault();
        setRefusal(put(condition));
      }}
    >
      <FormulaBox
        values={session.values}
        initial={guard?.condition.text ?? ''}
        hint="frame_depth >= 2 * beam_dia"
        label="Condition that must hold"
        slot={CONDITION}
        onChange={setCondition}
        isField
        onAccept={(text, then) => (then === 'stay' ? put(text) : undefined)}
        onCancel={onDone}
      />
      <span className="flex items-center gap-1.5">
        <input
          aria-label="Words for when it does not hold"
          placeholder="What to say when it does not hold"
          className="h-7 min-w-0 flex-1 rounded-box border border-rule bg-sheet px-1.5"
          value={message}
          maxLength={500}
          onChange={(event) => setMessage(event.target.value)}
        />
        <select
          aria-label="Severity"
          className="h-7 rounded-box border border-rule bg-sheet"
          value={severity}
          onChange={(event) => setSeverity(event.target.value === 'warning' ? 'warning' : 'error')}
        >
          <option value="error">error</option>
          <option value="warning">warning</option>
        </select>
      </span>
      <span className="flex items-center gap-1.5">
        <Button tone="strong" type="submit">
          Keep
        </Button>
        {guard && (
          <Button
            onClick={() => {
              session.edit({ type: 'guard.remove', id: guard.id });
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

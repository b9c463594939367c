'use client';
import { useState } from 'react';
import { extractPart, findNamed, findRecord, inlineValue, listNamed, listParts, replaceValue, type Rewriting } from '@/core/document';
import type { Result } from '@/core/kit';
import { Button } from '../design/button';
import { useSession, useSessionState } from '../state/context';
import { newId } from '../state/identity';
import { Choice, Select } from '../design/fields';

type Verb = 'replace' | 'inline' | 'extract';

/** Rewriting formulas around a value: every formula that would change is shown first, and no value changes. */
export function RewriteForm({ id, onDone }: { id: string; onDone: () => void }) {
  const session = useSession();
  const document = useSessionState((state) => state.document);
  const parameter = findRecord(document, id, 'parameter');
  const parts = listParts(parameter?.formula.text ?? '');
  const [verb, setVerb] = useState<Verb>('replace');
  const [other, setOther] = useState('');
  const [part, setPart] = useState(parts[0]?.text ?? '');
  const [name, setName] = useState('');
  const [refusal, setRefusal] = useState<string>();
  const others = listNamed(document).flatMap((record) => (record.id === id || record.type === 'table' ? [] : record.name));
  const rewriting = ((): Result<Rewriting, string> | undefined => {
    if (verb === 'replace') return other === '' ? undefined : replaceValue(session.values, id, findNamed(document, other)?.id ?? '');
    if (verb === 'inline') return inlineValue(session.values, id);
    return name.trim() === '' || part === '' ? undefined : extractPart(session.values, id, part, name.trim(), newId);
  })();
  const accept = (): void => {
    if (!rewriting?.ok) return;
    const failure = session.edit(rewriting.value.edit);
    if (failure) setRefusal(failure.message);
    else onDone();
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        accept();
      }}
    >
      <Choice
        label="What is done"
        value={verb}
        options={{
          replace: 'another value in its place',
          ...(parameter ? { inline: 'its formula in its place' } : {}),
          ...(parts.length > 0 ? { extract: 'a part of it made a value' } : {}),
        }}
        onChange={(next) => {
          setRefusal(undefined);
          setVerb(next);
        }}
      />
      {verb === 'replace' && <Select label="Read instead" value={other} options={Object.fromEntries(others.map((one) => [one, one]))} onChange={setOther} />}
      {verb === 'extract' && (
        <>
          <Select label="Part" value={part} options={Object.fromEntries(parts.map(({ text }) => [text, text]))} onChange={setPart} />
          <label className="mb-2 block">
            <span className="text-walnut-soft">Name of the new value</span>
            <input
              className="h-7 w-full rounded-box border border-rule bg-sheet px-1.5 font-mono"
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
          </label>
        </>
      )}
      {rewriting?.ok && (
        <ul aria-label="Formulas that change" className="mb-2 max-h-40 overflow-y-auto rounded-box border border-rule bg-linen px-2 py-1 font-mono text-[13px]">
          {rewriting.value.changes.map((change, i) => (
            <li key={i}>
              {change.name}: <span className="text-madder line-through">{change.before}</span> <span className="text-indigo">{change.after}</span>
            </li>
          ))}
        </ul>
      )}
      {(refusal ?? (rewriting && !rewriting.ok ? rewriting.failure : undefined)) !== undefined && (
        <p role="alert" className="mb-2 text-madder">
          {refusal ?? (rewriting && !rewriting.ok ? rewriting.failure : '')}
        </p>
      )}
      <Button tone="strong" type="submit" disabled={!rewriting?.ok}>
        Rewrite
      </Button>
    </form>
  );
}

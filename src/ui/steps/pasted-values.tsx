'use client';
/** The values that come along with copied steps: what each is called here, and whether it is as in the original, tied to it, or another. */
import { useMemo } from 'react';
import { findNamed, namesOfCopies, type Parameter, type StepClip } from '@/core/document';
import { renameInFormula } from '@/core/formula';
import { useSessionState } from '../state/context';

/** Formulas in the place of copied ones, by the names of the originals. */
export type OwnFormulas = ReadonlyMap<string, string>;

interface Props {
  readonly clip: StepClip;
  readonly own: OwnFormulas;
  readonly onChange: (own: OwnFormulas) => void;
}

export function PastedValues({ clip, own, onChange }: Props) {
  const document = useSessionState((state) => state.document);
  const names = useMemo(() => namesOfCopies(document, clip), [document, clip]);
  const values = listSettable(clip);
  if (values.length === 0) return null;
  const set = (name: string, text: string | undefined): void => {
    const next = new Map(own);
    if (text === undefined) next.delete(name);
    else next.set(name, text);
    onChange(next);
  };
  return (
    <fieldset className="mb-3">
      <legend className="text-walnut-soft">Values of the copy</legend>
      <ul className="max-h-[32vh] overflow-y-auto">
        {values.map(({ id, name, formula }) => {
          const typed = own.get(name);
          const canTie = clip.document === document.id && findNamed(document, name)?.id === id;
          const copied = names.get(name) ?? name;
          return (
            <li key={id} className="flex items-center gap-2 border-b border-rule/50 py-0.5">
              <span className="w-44 shrink-0 truncate font-mono" title={copied === name ? name : `${copied}, copy of ${name}`}>
                {copied}
              </span>
              <input
                aria-label={`Formula of ${copied}`}
                className="h-7 min-w-0 flex-1 rounded-box border border-rule bg-sheet px-1.5 font-mono placeholder:text-walnut-soft"
                placeholder={renameInFormula(formula.text, (other) => names.get(other))}
                value={typed ?? ''}
                onChange={(event) => set(name, event.target.value === '' ? undefined : event.target.value)}
              />
              {canTie && (
                <label className="flex shrink-0 items-center gap-1" title={`Always as ${name}`}>
                  <input
                    type="checkbox"
                    aria-label={`Tie ${copied} to ${name}`}
                    checked={typed === name}
                    onChange={(event) => set(name, event.target.checked ? name : undefined)}
                  />
                  tied
                </label>
              )}
            </li>
          );
        })}
      </ul>
      <p className="mt-1 text-walnut-soft">Values left empty keep the formula of the original.</p>
    </fieldset>
  );
}

/** What is measured has no formula. */
function listSettable(clip: StepClip): Parameter[] {
  const referenced = new Set(clip.records.flatMap((record) => (record.type === 'dimension' && record.isReference ? record.parameter : [])));
  return clip.records.filter((record): record is Parameter => record.type === 'parameter' && record.measure === undefined && !referenced.has(record.id));
}

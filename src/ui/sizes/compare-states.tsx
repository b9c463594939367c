'use client';
/** Two states of a document: the values that differ, and their solids over one another. */
import { useEffect, useMemo, useState } from 'react';
import { isNamed, isTable, type Document } from '@/core/document';
import { complete, openValues } from '@/core/instances';
import { prettyUnit } from '@/core/units';
import { AssemblyPreview } from '../catch-up/assembly-preview';
import { PreviewWorkshop, type TwoStates } from '../catch-up/preview-workshop';
import { SolidPreview } from '../catch-up/solid-preview';
import { useSession } from '../state/context';

export interface NamedState {
  readonly name: string;
  readonly document: Document;
}

interface CompareStatesProps {
  readonly first: NamedState;
  readonly second: NamedState;
}

export function CompareStates({ first, second }: CompareStatesProps) {
  const session = useSession();
  const [before, after] = [first.document, second.document];
  const states = useMemo(() => {
    const [one, other] = [openValues(before, session.snapshots), openValues(after, session.snapshots)];
    const differing = Object.values(before.records).flatMap((record) => {
      if (!isNamed(record) || isTable(record)) return [];
      const [shown, then] = [one.show(record.id)?.shown ?? '', other.show(record.id)?.shown ?? ''];
      return shown === then ? [] : [{ id: record.id, name: record.name, shown, then }];
    });
    return { differing, entry: { name: before.name, before, after } satisfies TwoStates };
  }, [before, after, session]);
  const sides = [first.name, second.name] as const;
  return (
    <section aria-label={`${first.name} beside ${second.name}`} className="flex border-t border-rule bg-sheet">
      <div className="max-h-[30rem] w-96 shrink-0 overflow-y-auto border-r border-rule">
        <table className="w-full">
          <caption className="px-3 py-1 text-left font-semibold">What differs</caption>
          <thead>
            <tr className="text-left text-walnut-soft">
              <th className="px-3 font-normal">Value</th>
              <th className="px-3 text-right font-normal text-madder">{first.name}</th>
              <th className="px-3 text-right font-normal text-indigo">{second.name}</th>
            </tr>
          </thead>
          <tbody>
            {states.differing.map(({ id, name, shown, then }) => (
              <tr key={id} className="border-t border-rule/50">
                <td className="px-3 py-0.5">{name}</td>
                <td className="px-3 py-0.5 text-right font-mono tabular-nums text-madder">{prettyUnit(shown) || 'error'}</td>
                <td className="px-3 py-0.5 text-right font-mono tabular-nums text-indigo">{prettyUnit(then) || 'error'}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {states.differing.length === 0 && <p className="px-3 py-1 text-walnut-soft">No named value differs.</p>}
      </div>
      <div className="min-w-0 flex-1">
        {before.kind === 'part' && <PartsCompared key={sides.join(' ')} entry={states.entry} sides={sides} />}
        {before.kind === 'assembly' && <AssembliesCompared key={sides.join(' ')} entry={states.entry} sides={sides} />}
      </div>
    </section>
  );
}

interface ComparedProps {
  readonly entry: TwoStates;
  readonly sides: readonly [string, string];
}

function PartsCompared({ entry: { name, before, after }, sides }: ComparedProps) {
  const { snapshots } = useSession();
  const [one, other] = useMemo(() => [complete(before, snapshots), complete(after, snapshots)] as const, [before, after, snapshots]);
  return <SolidPreview name={name} before={one} after={other} sides={sides} />;
}

function AssembliesCompared({ entry, sides }: ComparedProps) {
  const { snapshots } = useSession();
  const [workshop, setWorkshop] = useState<PreviewWorkshop>();
  useEffect(() => {
    // Its worker ends with it.
    const made = new PreviewWorkshop();
    setWorkshop(made);
    return () => made.close();
  }, []);
  return workshop ? <AssemblyPreview entry={entry} source={snapshots} workshop={workshop} sides={sides} /> : null;
}

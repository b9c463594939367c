'use client';
import { useEffect, useMemo, useState } from 'react';
import { builtInOf, listPlaced, toMatrix, WHOLE, type InstanceSource } from '@/core/instances';
import { colourOfBody } from '@/core/steps';
import type { WholeAssembly } from '@/workers/whole-assembly';
import { Canvas3d } from '../canvas3d/canvas3d';
import { byColumns, type ShownBody } from '../state/shown-body';
import { Skeleton } from '../design/states';
import { InterferenceCounts } from './interference-counts';
import { NowAndThen } from './now-and-then';
import type { ComparedAssembly, PreviewWorkshop, TwoStates } from './preview-workshop';
import { ViewSelect } from './view-select';
import { KILOGRAM } from '@/core/units';

interface AssemblyPreviewProps {
  readonly entry: TwoStates;
  /** What its components stand for; the same one for as long as the entry is. */
  readonly source: Pick<InstanceSource, 'snapshot'>;
  readonly workshop: PreviewWorkshop;
  /** What the two states are called. */
  readonly sides?: readonly [string, string];
}

const NOW_AND_THEN = ['now', 'then'] as const;
type View = 'over' | 'before' | 'after';

/** An assembly as it stands now and as it would stand then, its mass, and what stands in one another. */
export function AssemblyPreview({ entry, source, workshop, sides = NOW_AND_THEN }: AssemblyPreviewProps) {
  const [built, setBuilt] = useState<ComparedAssembly | 'failed'>();
  const [view, setView] = useState<View>('over');
  useEffect(() => {
    // It is built in a worker.
    let isGone = false;
    void workshop.compareAssembly(entry, source).then((found) => {
      if (!isGone) setBuilt(found ?? 'failed');
    });
    return () => {
      isGone = true;
    };
  }, [entry, source, workshop]);
  const bodies = useMemo(() => {
    if (!built || built === 'failed') return [];
    if (view === 'before') return bodiesOf(built.before, 'solid');
    if (view === 'after') return bodiesOf(built.after, 'solid');
    return [...bodiesOf(built.before, 'before'), ...bodiesOf(built.after, 'after')];
  }, [built, view]);
  if (built === 'failed') return <p className="p-3 text-madder">The assembly could not be built; nothing is shown.</p>;
  return (
    <div className="flex h-full flex-col">
      <div className="relative min-h-96 flex-1">
        {built ? <Canvas3d isSmall bodies={bodies} description={`${entry.name} before and after`} /> : <Skeleton rows={4} />}
      </div>
      {built && (
        <div className="flex flex-wrap items-center gap-x-3 border-t border-rule px-3 py-1">
          <NowAndThen amounts={[massOf(built.before), massOf(built.after)]} sides={sides} />
          <span className="flex-1" />
          <ViewSelect views={{ over: 'over one another', before: sides[0], after: sides[1] }} value={view} onChange={setView} />
          <Interferences built={built} sides={sides} />
        </div>
      )}
    </div>
  );
}

function bodiesOf({ values, placement, results, meshes }: WholeAssembly, look: ShownBody['look']): ShownBody[] {
  return listPlaced(values, placement.standing).flatMap(({ path, key: part, document, at }) =>
    (results.get(part)?.bodies ?? []).flatMap(({ id, key, usedBy }): ShownBody[] => {
      const mesh = key === undefined ? undefined : meshes.get(key);
      if (!mesh || key === undefined || usedBy !== undefined) return [];
      return [{ key: `${look} ${path.join(' ')} ${key}`, mesh, look, colour: colourOfBody(document, id), place: byColumns(toMatrix(at)) }];
    }),
  );
}

function massOf({ values, source }: WholeAssembly): string {
  const mass = builtInOf(values, WHOLE, 'mass', source);
  return 'value' in mass ? `${(mass.value / KILOGRAM).toFixed(3)} kg` : 'no mass';
}

function Interferences({ built, sides }: { readonly built: ComparedAssembly; readonly sides: readonly [string, string] }) {
  return (
    <span className="w-full text-[13px]">
      <InterferenceCounts counts={[built.before.open.length, built.after.open.length]} sides={sides} />
      {built.after.open.map(({ first, second, volume }) => (
        <span key={`${first.part.name} ${second.part.name}`} className="mr-3 text-madder">
          interference of {first.part.name} and {second.part.name}: {volume === undefined ? 'not judged' : `${(volume / 1000).toFixed(1)} cm³`}
        </span>
      ))}
    </span>
  );
}

'use client';
import { useEffect, useMemo, useState } from 'react';
import type { CompleteDocument } from '@/core/instances';
import { colourOfBody, type BodyDifference } from '@/core/steps';
import type { ComparedReply } from '@/workers/client';
import { Canvas3d } from '../canvas3d/canvas3d';
import type { ShownBody } from '../state/shown-body';
import { Skeleton } from '../design/states';
import { InterferenceCounts } from './interference-counts';
import { NowAndThen } from './now-and-then';
import { PreviewWorkshop } from './preview-workshop';
import { ViewSelect } from './view-select';

interface SolidPreviewProps {
  readonly name: string;
  readonly before: CompleteDocument;
  readonly after: CompleteDocument;
  /** Where it is built; in a worker of its own without. */
  readonly workshop?: PreviewWorkshop | undefined;
  /** What the two states are called. */
  readonly sides?: readonly [string, string];
}

type View = 'over' | 'beside' | 'before' | 'after';

const NOW_AND_THEN = ['now', 'then'] as const;

/** Both solids, with what was added and removed shaded, and volume and mass before and after. */
export function SolidPreview({ name, before, after, workshop: given, sides = NOW_AND_THEN }: SolidPreviewProps) {
  const [built, setBuilt] = useState<ComparedReply | 'failed'>();
  const [compared, setCompared] = useState<ComparedReply>();
  const [view, setView] = useState<View>('over');
  const [split, setSplit] = useState(0.5);

  useEffect(() => {
    // Geometry is built in a worker: the solids first, then what sets them apart.
    const workshop = given ?? new PreviewWorkshop();
    let isGone = false;
    void (async () => {
      const reply = await workshop.compare(before, after, 'meshes');
      if (isGone) return;
      setBuilt(reply ?? 'failed');
      const whole = reply && (await workshop.compare(before, after, 'differences'));
      if (!isGone) setCompared(whole);
    })();
    return () => {
      isGone = true;
      if (!given) workshop.close();
    };
  }, [before, after, given]);

  const bodies = useMemo(
    () => (built && built !== 'failed' ? chooseBodies(built, compared?.differences, view, [before, after]) : []),
    [built, compared, view, before, after],
  );
  if (built === 'failed') return <p className="p-3 text-madder">The solids could not be built; nothing is shown.</p>;
  return (
    <div className="flex h-full flex-col">
      <div className="relative min-h-96 flex-1">
        {built ? (
          <Canvas3d isSmall bodies={bodies} split={view === 'beside' ? split : undefined} description={`Solids of ${name} before and after`} />
        ) : (
          <Skeleton rows={4} />
        )}
        {view === 'beside' && built && (
          <>
            <span aria-hidden="true" className="pointer-events-none absolute inset-y-0 w-px bg-walnut" style={{ left: `${split * 100}%` }} />
            <span className="pointer-events-none absolute top-1 left-2 text-madder">{sides[0]}</span>
            <span className="pointer-events-none absolute top-1 right-2 text-indigo">{sides[1]}</span>
          </>
        )}
      </div>
      {view === 'beside' && (
        <input
          type="range"
          aria-label={`Where ${sides[0]} ends and ${sides[1]} begins`}
          className="w-full"
          min={0}
          max={100}
          value={Math.round(split * 100)}
          onChange={(event) => setSplit(Number(event.target.value) / 100)}
        />
      )}
      <div className="flex flex-wrap items-center gap-x-3 border-t border-rule px-3 py-1">
        {built && <NowAndThen amounts={[massOf(built.before), massOf(built.after)]} sides={sides} />}
        <span className="flex-1" />
        <ViewSelect views={{ over: 'over one another', beside: 'split by a slider', before: sides[0], after: sides[1] }} value={view} onChange={setView} />
        {built && <Shading differences={compared?.differences} />}
        {compared && <Overlaps overlaps={compared.overlaps} sides={sides} />}
      </div>
    </div>
  );
}

function chooseBodies(
  { before, after, meshes }: ComparedReply,
  differences: readonly BodyDifference[] | undefined,
  view: View,
  documents: readonly [CompleteDocument, CompleteDocument],
): ShownBody[] {
  const of = (state: ComparedReply['before'], look: ShownBody['look'], side?: ShownBody['side']): ShownBody[] =>
    state.bodies.flatMap(({ id, key, usedBy }) => {
      const mesh = key === undefined ? undefined : meshes[key];
      if (!mesh || key === undefined || usedBy !== undefined) return [];
      const colour = colourOfBody(documents[state === before ? 0 : 1], id);
      return [{ key: `${look} ${side ?? ''} ${key}`, mesh, look, colour, ...(side ? { side } : {}) }];
    });
  if (view === 'before') return of(before, 'solid');
  if (view === 'after') return of(after, 'solid');
  if (view === 'beside') return [...of(before, 'solid', 'left'), ...of(after, 'solid', 'right')];
  const shaded = (differences ?? []).flatMap(({ body, added, removed }): ShownBody[] => [
    ...(added ? [{ key: `added ${body}`, mesh: added.mesh, look: 'added' as const }] : []),
    ...(removed ? [{ key: `removed ${body}`, mesh: removed.mesh, look: 'removed' as const }] : []),
  ]);
  return [...of(before, 'before'), ...of(after, 'after'), ...shaded];
}

/** What the colours of the picture mean, in figures. */
function Shading({ differences }: { differences: readonly BodyDifference[] | undefined }) {
  if (!differences) return <span className="w-full text-[13px] text-walnut-soft">Looking for what differs…</span>;
  const total = (side: 'added' | 'removed'): number => differences.reduce((sum, difference) => sum + (difference[side]?.volume ?? 0), 0);
  const [added, removed] = [total('added'), total('removed')];
  return (
    <span className="w-full text-[13px]">
      {added > 0 && <span className="mr-3 text-indigo">added {cubicCentimetres(added)}</span>}
      {removed > 0 && <span className="text-madder">removed {cubicCentimetres(removed)}</span>}
      {added + removed === 0 && <span className="text-walnut-soft">The solids are the same.</span>}
    </span>
  );
}

/** Bodies that stand in one another in each of the two states, and which in the second. */
function Overlaps({ overlaps: { before, after }, sides }: { overlaps: ComparedReply['overlaps']; sides: readonly [string, string] }) {
  if (before.length + after.length === 0) return null;
  return (
    <span className="w-full text-[13px]">
      <InterferenceCounts counts={[before.length, after.length]} sides={sides} />
      {after.map(({ bodies: [first, second], volume }) => (
        <span key={`${first} ${second}`} className="mr-3 text-madder">
          interference of {first} and {second}: {cubicCentimetres(volume)}
        </span>
      ))}
    </span>
  );
}

/** Of all bodies together. */
function massOf({ bodies }: ComparedReply['before']): string {
  const built = bodies.filter(({ properties, usedBy }) => properties && usedBy === undefined);
  if (built.length === 0) return 'not built';
  const volume = built.reduce((sum, { properties }) => sum + (properties?.volume ?? 0), 0);
  const mass = built.every((body) => body.mass !== undefined) ? built.reduce((sum, body) => sum + (body.mass ?? 0), 0) : undefined;
  return mass === undefined ? cubicCentimetres(volume) : `${cubicCentimetres(volume)} · ${mass.toFixed(3)} kg`;
}

function cubicCentimetres(volume: number): string {
  return `${(volume / 1000).toFixed(1)} cm³`;
}

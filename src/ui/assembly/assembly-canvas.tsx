'use client';
import { useEffect, useMemo, useState } from 'react';
import { listParts } from '@/core/assembly';
import { findRecord, listIds, plainId } from '@/core/document';
import type { Point3 } from '@/core/geometry';
import { toMatrix } from '@/core/instances';
import { Canvas3d, type Grab } from '../canvas3d/canvas3d';
import { planeOf, SectionControl, type Section } from '../canvas3d/section-control';
import { byColumns, type PickedGeometry, type ShownBody } from '../state/shown-body';
import { Button } from '../design/button';
import { useSession, useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';
import { AssemblyMeasure } from './assembly-measure';
import { ItemList, itemLabels } from './item-numbers';
import type { DocumentSession } from '../state/document-session';
import { SurroundingsStrip } from '../canvas3d/surroundings-strip';
import { useSurroundings } from '../state/surroundings';
import { ShownAtMenu } from '../studies/shown-at-menu';
import { gripAt } from './drag-component';
import { freeWords, showFreeMotions } from './free-to-move';
import { MatePanel } from './mate-panel';
import { pickForMate, wordsOfPick } from './pick-for-mate';
import { litComponents } from '../state/selection';
import { saveSection } from '../canvas3d/save-section';
import { ViewOfComponents } from './view-of-components';

const NOT_SHIFTED: ReadonlyMap<string, Point3> = new Map();
const NOTHING: ReadonlySet<string> = new Set();
const NOBODY: readonly string[] = [];
const NOWHERE = [0, 0, 0] as const;

/** The assembly as it stands: every part where its component puts it. */
export function AssemblyCanvas() {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const placed = useSessionState((state) => state.placed);
  const meshes = useSessionState((state) => state.meshes);
  const document = useSessionState((state) => state.document);
  const regeneration = useSessionState((state) => state.regeneration);
  const selected = useWorkspace((state) => state.selected);
  const mating = useWorkspace((state) => state.mating);
  const lit = useMemo(
    () => (mating ? new Set([plainId(mating.first?.reference.path[0] ?? '')]) : litComponents(document, selected)),
    [document, selected, mating],
  );
  const picking = useWorkspace((state) => state.picking);
  const isMeasuring = useWorkspace((state) => state.isMeasuring);
  const pointed = useWorkspace((state) => (state.showsInterference ? state.pointedParts : NOBODY));
  const hidden = useWorkspace((state) => state.hidden);
  const clear = useWorkspace((state) => state.clear);
  const exploded = useWorkspace((state) => state.exploded);
  // What stands there decides it.
  // oxlint-disable-next-line react/exhaustive-deps
  const shifts = useMemo(() => session.geometry.assembly?.explode(exploded) ?? NOT_SHIFTED, [session, placed, exploded]);
  const showsItems = useWorkspace((state) => state.showsItems);
  // What stands there, and what is set in it, decides them.
  // oxlint-disable-next-line react/exhaustive-deps
  const parts = useMemo(() => (showsItems ? listParts(session.values, session.snapshots) : []), [session, placed, showsItems]);
  const labels = useMemo(() => (parts.length > 0 ? itemLabels(session, parts, shifts) : []), [session, parts, shifts]);
  const [section, setSection] = useState<Section>();
  const wiggle = useWorkspace((state) => state.wiggle);
  useEffect(() => {
    const placement = session.store.getState().placement;
    if (wiggle === 0 || !placement) return undefined;
    session.notify(`${freeWords(session.values, placement.motions())}.`);
    return matchMedia('(prefers-reduced-motion: reduce)').matches ? undefined : showFreeMotions(session);
  }, [session, wiggle]);
  const isEmpty = listIds(document, 'components').length === 0;

  const bodies = useMemo(
    () =>
      placed.flatMap(({ path, body, key, colour, at, isStale }): ShownBody[] => {
        const mesh = meshes.get(key);
        if (!mesh) return [];
        const isSelected = pointed.length > 0 ? pointed.includes(path.join(' ')) : lit.has(plainId(path[0] ?? ''));
        const component = plainId(path[0] ?? '');
        if (hidden.has(component)) return [];
        const isFaded = clear.has(component) || (pointed.length > 0 && !isSelected);
        const [x, y, z] = shifts.get(component) ?? NOWHERE;
        const there = { ...at, origin: [at.origin[0] + x, at.origin[1] + y, at.origin[2] + z] as const };
        return [
          {
            key,
            body: `${path.join(' ')} ${body}`,
            mesh,
            colour: isSelected ? SELECTED : colour,
            look: isStale || isFaded ? 'stale' : 'solid',
            place: byColumns(toMatrix(there)),
          },
        ];
      }),
    [placed, meshes, lit, pointed, hidden, clear, shifts],
  );
  // What stands there decides it.
  // oxlint-disable-next-line react/exhaustive-deps
  const box = useMemo(() => session.geometry.assembly?.box(), [session, placed]);
  const names = listIds(document, 'components').flatMap((id) => findRecord(document, id, 'component')?.name ?? []);
  const around = useSurroundings(session.id);
  const shown = useMemo(() => (around?.isShown === true ? [...bodies, ...around.bodies] : bodies), [bodies, around]);
  return (
    <div className="relative h-full" data-picture>
      <Canvas3d
        bodies={shown}
        highlighted={NOTHING}
        labels={labels}
        section={section && planeOf(section)}
        description={`The assembly: ${names.join(', ') || 'empty'}`}
        wants={mating ? 'any' : (picking?.wants ?? 'face')}
        nameOf={(picked) => nameOfPicked(session, picked)}
        onGrab={mating || picking || exploded > 0 ? undefined : (picked, place) => grabSelected(session, lit, picked.body, place)}
        onPick={(picked) => {
          if (picking && picked?.body !== undefined) picking.take({ body: picked.body, name: picked.name });
          else if (!mating) workspace.setState({ pointedParts: [], selected: plainId(picked?.body?.split(' ')[0] ?? '') || undefined });
          else if (picked?.body !== undefined) void pickForMate(session, workspace, picked.body, picked.name);
        }}
      >
        {box && (
          <>
            <ViewOfComponents />
            <ShownAtMenu />
            <SectionControl box={box} section={section} onChange={setSection} onSave={(shown) => void saveSection(session, shown)} />
          </>
        )}
      </Canvas3d>
      {isEmpty && (
        <div className="absolute inset-x-0 top-1/3 mx-auto w-80 rounded-box border border-rule bg-sheet p-4 text-center">
          <p className="mb-3">An assembly is made of parts and other assemblies of this project.</p>
          <Button tone="strong" onClick={() => workspace.setState({ task: { kind: 'add-component' } })}>
            Add components
          </Button>
        </div>
      )}
      {!isEmpty && placed.length === 0 && regeneration === 'running' && (
        <p role="status" className="absolute inset-x-0 top-1/2 text-center text-walnut-soft">
          Building the parts…
        </p>
      )}
      {parts.length > 0 && !mating && !isMeasuring && <ItemList parts={parts} />}
      <SurroundingsStrip />
      {mating && <MatePanel draft={mating} />}
      {isMeasuring && !mating && <AssemblyMeasure />}
    </div>
  );
}

/** `pawl: end of Pawl arm`. */
function nameOfPicked(session: DocumentSession, { body, name }: PickedGeometry): string | undefined {
  const path = body?.split(' ').slice(0, -1) ?? [];
  return path.length > 0 ? wordsOfPick(session, path, name).words : undefined;
}

/** Drags a component that is selected: in the picture, a drag on anything else turns the view. */
function grabSelected(session: DocumentSession, lit: ReadonlySet<string | undefined>, shown: string | undefined, place: Point3): Grab | undefined {
  const path = shown?.split(' ').slice(0, -1) ?? [];
  if (!lit.has(plainId(path[0] ?? ''))) return undefined;
  const grip = gripAt(session, path, place);
  if ('refusal' in grip) return { move: () => session.notify(grip.refusal), end: () => undefined };
  return { move: (to) => session.dragTo({ ...grip, to }), end: (isKept) => session.endDrag(isKept) };
}

/** The colour of what is selected: that of the selection in the ledger, on wood. */
const SELECTED = '#6f7fb5';

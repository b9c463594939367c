'use client';
import dynamic from 'next/dynamic';
import { useMemo, useState } from 'react';
import { withPlane, describeGeometry, findRecord, listIds, type Document } from '@/core/document';
import { toSpace, type Point3 } from '@/core/geometry';
import { facesIn, type BodyMesh } from '@/core/kernel-port';
import { colourOfBody, isFound, likelyGeometry, type BodyOutcome } from '@/core/steps';
import { findDimension } from '../state/ledger-rows';
import { Canvas3d } from '../canvas3d/canvas3d';
import type { SpaceLabel } from '../canvas3d/space-labels';
import { useViewSettings } from '../canvas3d/view-settings';
import { planeOf, SectionControl, type Section } from '../canvas3d/section-control';
import { WHOLE_BODY, type PickedGeometry, type ShownBody } from '../state/shown-body';
import { useSession, useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';
import { DimensionLabel } from '../steps/dimension-label';
import { dimensionsOnSolid, stepOfSelection } from '../steps/solid-dimensions';
import { ShownBodies } from '../bodies/shown-bodies';
import { Button } from '../design/button';
import { PickedVerbs, stepOfGeometry } from '../steps/picked-verbs';
import { PartMeasure } from '../steps/part-measure';
import { isEmpty, planeName, planeOfId, shownPlanes } from '../steps/planes-to-choose';
import { drawIn, StartDrawing } from '../steps/start-drawing';
import { changeStep } from '../steps/step-draft';
import { OpenStepPanel } from '../steps/step-panel';
import { useSurroundings } from '../state/surroundings';
import { SurroundingsStrip } from '../canvas3d/surroundings-strip';
import { saveSection } from '../canvas3d/save-section';
import { ShownAtMenu } from '../studies/shown-at-menu';
import type { StepDraft } from '../state/drafts';
import { MILLIMETRE } from '@/core/units';
import { loadSketch } from './load-sketch';

const SketchCanvas = dynamic(() => loadSketch().then((module) => module.SketchCanvas), { ssr: false });

/** The canvas of a part: the sketch that is open, or the solid. */
export function PartCanvas() {
  const sketch = useWorkspace((state) => state.sketch);
  return sketch === undefined ? <SolidCanvas /> : <SketchCanvas sketch={sketch} />;
}

function SolidCanvas() {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const regenerated = useSessionState((state) => state.regenerated);
  const meshes = useSessionState((state) => state.meshes);
  const regeneration = useSessionState((state) => state.regeneration);
  const preview = useSessionState((state) => state.preview);
  const selected = useWorkspace((state) => state.selected);
  const draft = useWorkspace((state) => state.draft);
  const showsMeasure = useWorkspace((state) => state.showsMeasure);
  const picking = useWorkspace((state) => state.picking);
  const standing = useSessionState((state) => state.pictures);
  const document = useSessionState((state) => state.document);
  const ground = useSessionState((state) => state.before);
  const isPicking = picking !== undefined;
  const hidden = useWorkspace((state) => state.hidden);
  const clear = useWorkspace((state) => state.clear);

  const bodies = useMemo(() => {
    const looks = (pictures: typeof standing, look: ShownBody['look']): ShownBody[] =>
      pictures.flatMap(({ body, key, isStale }) => {
        const mesh = meshes.get(key);
        if (!mesh || (hidden.has(body) && look === 'solid')) return [];
        const isFaded = look === 'solid' && (isStale || clear.has(body));
        return [{ key, body, mesh, colour: colourOfBody(document, body), look: isFaded ? 'stale' : look }];
      });
    if (!preview) return looks(standing, 'solid');
    // Picks are made on the solid as it stands, while the preview is seen.
    return [...looks(preview.pictures, 'solid'), ...(isPicking ? looks(ground ?? standing, 'target') : [])];
  }, [preview, standing, ground, meshes, isPicking, document, hidden, clear]);
  const [picked, setPicked] = useState<{ readonly body: string; readonly name: string; readonly place: Point3 }>();
  const highlighted = useMemo(
    () => (draft ? pickedIn(draft) : new Set([...facesDrivenBy(document, selected, bodies), ...(picked ? [picked.name] : [])])),
    [draft, document, selected, bodies, picked],
  );
  const pointed = useWorkspace((state) => state.pointed);
  const hints = useMemo((): ReadonlySet<string> => {
    // What was picked and is lost: the likeliest of what is there is lit.
    if (!draft || !ground) return new Set();
    const names = ground.flatMap(({ key }) => {
      const mesh = meshes.get(key);
      return [...(mesh?.faces ?? []), ...(mesh?.edges ?? []), ...(mesh?.corners ?? [])].map(({ name }) => name);
    });
    if (pointed !== undefined) return new Set([pointed]);
    const lost = regenerated?.steps.find(({ id }) => id === draft.step.id)?.problem?.lost;
    return new Set([...pickedIn(draft)].flatMap((name) => (isFound(name, names) && name !== lost ? [] : likelyGeometry(name, names))));
  }, [draft, ground, meshes, pointed, regenerated]);
  const [section, setSection] = useState<Section>();
  const box = useMemo(() => boxOf(regenerated?.bodies ?? []), [regenerated]);
  const planes = useMemo(() => shownPlanes(document, draft, selected, regenerated, box), [document, draft, selected, regenerated, box]);
  const choosesPlane = isEmpty(document, draft) || (draft !== undefined && planes.length > 0 && picking === undefined);
  const { showsDimensions, takes } = useViewSettings();
  const dimensions = useMemo((): SpaceLabel[] => {
    if (draft || preview || !regenerated) return [];
    const chosen = stepOfSelection(document, selected);
    const steps = showsDimensions ? listIds(document, 'steps') : chosen === undefined ? [] : [chosen];
    const facts = {
      middleOf: (prefix: string) => middleOfFace(bodies, prefix),
      lengthOf: (id: string) => session.values.sheet.readNumber(id) / MILLIMETRE,
    };
    const all = steps.flatMap((step) => dimensionsOnSolid(document, regenerated, step, facts));
    // A sketch is drawn with each step that is made from it.
    const once = [...new Map(all.map((dimension) => [dimension.id, dimension])).values()];
    return once.map((dimension) => ({
      key: dimension.id,
      at: dimension.at,
      ...(dimension.from ? { from: dimension.from } : {}),
      ...(dimension.figure ? { figure: dimension.figure } : {}),
      // What stands at a face is read beside it.
      shift: dimension.from ? 24 * dimension.row - BESIDE_PX : 0,
      content: <DimensionLabel dimension={dimension} />,
    }));
  }, [session, document, regenerated, bodies, selected, draft, preview, showsDimensions]);
  const labels = useMemo((): SpaceLabel[] => {
    const names = planes.map(({ id, frame, half }) => ({
      key: id,
      at: toSpace(frame, -0.8 * half, 0.9 * half),
      shift: 0,
      content: <span className="pointer-events-none text-xs text-indigo">{planeName(document, id)}</span>,
    }));
    const verbs =
      picked && !draft
        ? [{ key: 'verbs', at: picked.place, shift: VERBS_BELOW, content: <PickedVerbs {...picked} onDone={() => setPicked(undefined)} /> }]
        : [];
    return [...verbs, ...dimensions, ...names];
  }, [document, planes, picked, draft, dimensions]);
  const takePlane = (id: string): void => {
    if (!draft) drawIn(session, workspace, id);
    else workspace.setState({ draft: changeStep(document, draft, withPlane(draft.step, planeOfId(id))) });
  };
  /** `end of Board`, with the body where there are several. */
  const nameOf = ({ body, name }: PickedGeometry): string => {
    const several = new Set(bodies.map((each) => each.body)).size > 1;
    const own = findRecord(document, body ?? '', 'body')?.name;
    if (name === WHOLE_BODY) return own ?? '';
    const of = several ? own : undefined;
    return `${describeGeometry(document, name)}${of === undefined ? '' : ` (${of})`}`;
  };
  const select = (picked: PickedGeometry | undefined): void => {
    if (picked?.name === WHOLE_BODY) return;
    const step = picked && stepOfGeometry(session.document, picked.name);
    const curve = /\(([^)]*)\)/.exec(picked?.name ?? '')?.[1];
    const dimension =
      curve === undefined ? undefined : Object.values(session.document.records).find((record) => record.type === 'dimension' && record.on.includes(curve));
    workspace.setState({ selected: dimension?.type === 'dimension' ? dimension.parameter : step });
  };

  const takeAll = picking?.takeAll;
  const around = useSurroundings(session.id);
  const shown = useMemo(() => (around?.isShown === true ? [...bodies, ...around.bodies] : bodies), [bodies, around]);
  return (
    <div className="relative h-full" data-picture>
      <Canvas3d
        bodies={shown}
        highlighted={highlighted}
        hasFilter
        wants={picking?.wants ?? (draft ? 'face' : takes)}
        hints={hints}
        labels={labels}
        section={section && planeOf(section)}
        description={`The solid: ${regenerated?.bodies.map(({ name, properties }) => `${name}, ${properties ? `${Math.round(properties.volume)} cubic millimetres` : 'not built'}`).join('; ') ?? 'being built'}`}
        nameOf={nameOf}
        onPickBox={takeAll && ((picked) => takeAll(picked.flatMap(({ body, name }) => (body === undefined ? [] : { body, name }))))}
        planes={planes}
        onPickPlane={choosesPlane ? takePlane : undefined}
        onPick={(found, place) => {
          if (!picking) {
            if (draft) {
              if (choosesPlane && found?.body !== undefined)
                workspace.setState({ draft: changeStep(document, draft, withPlane(draft.step, { body: found.body, face: found.name })) });
              return;
            }
            setPicked(
              found?.body === undefined ? undefined : { body: found.body, name: found.name, place: place ?? middleOfFace(bodies, found.name) ?? NOWHERE },
            );
            select(found);
          } else if (found?.body !== undefined) picking.take({ body: found.body, name: found.name });
        }}
      >
        {box && (
          <>
            <Button
              tone="quiet"
              className="h-6 bg-flax/90"
              onClick={() => workspace.setState({ showsMeasure: true, isMeasuring: false, draft: undefined })}
              disabled={draft !== undefined}
            >
              Measure
            </Button>
            <ShownBodies />
            <ShownAtMenu />
            <SectionControl box={box} section={section} onChange={setSection} onSave={(shown) => void saveSection(session, shown)} />
          </>
        )}
      </Canvas3d>
      <SurroundingsStrip />
      {showsMeasure && !draft && <PartMeasure />}
      {isEmpty(document, draft) && <StartDrawing />}
      {picking && (
        <p role="status" className="absolute top-2 right-2 rounded-box bg-indigo-wash px-2 py-1">
          {picking.label}: click {PICK_WORDS[picking.wants]}
        </p>
      )}
      {!regenerated && !isEmpty(document, draft) && (
        <p role="status" className={`absolute inset-x-0 text-center text-walnut-soft ${standing.length > 0 ? 'top-2' : 'top-1/2'}`}>
          {typeof regeneration === 'object'
            ? 'The solid could not be built.'
            : standing.length > 0
              ? 'As it was last saved; being built…'
              : 'Building the solid…'}
        </p>
      )}
      <OpenStepPanel />
    </div>
  );
}

const NOWHERE: Point3 = [0, 0, 0];
/** How far below a place that was clicked the middle of its verbs stands, in pixels: they leave it free. */
const VERBS_BELOW = 100;
const BESIDE_PX = 44;

/** The box around all bodies that are built. */
function boxOf(bodies: readonly BodyOutcome[]): { readonly min: Point3; readonly max: Point3 } | undefined {
  const boxes = bodies.flatMap(({ properties }) => properties?.box ?? []);
  if (boxes.length === 0) return undefined;
  const lowest = (i: 0 | 1 | 2): number => Math.min(...boxes.map(({ min }) => min[i]));
  const highest = (i: 0 | 1 | 2): number => Math.max(...boxes.map(({ max }) => max[i]));
  return { min: [lowest(0), lowest(1), lowest(2)], max: [highest(0), highest(1), highest(2)] };
}

/** The middle of the corners of the first face with such a name. */
function middleOfFace(bodies: readonly ShownBody[], prefix: string): Point3 | undefined {
  for (const { mesh } of bodies) {
    const face = mesh.faces.find(({ name }) => facesIn(name).some((one) => one.startsWith(prefix)));
    if (face && face.count > 0) return middleOf(mesh, face.start, face.count);
  }
  return undefined;
}

function middleOf({ positions, indices }: BodyMesh, start: number, count: number): Point3 {
  const sum: [number, number, number] = [0, 0, 0];
  for (const index of indices.subarray(start, start + count)) for (const i of [0, 1, 2] as const) sum[i] += (positions[3 * index + i] ?? 0) / count;
  return sum;
}

/** Faces and edges that the step at hand is made on. */
function pickedIn({ step }: StepDraft): ReadonlySet<string> {
  const names: string[] = [];
  if ('edges' in step) names.push(...step.edges);
  if ('faces' in step) names.push(...step.faces);
  if ('upTo' in step && step.upTo !== undefined) names.push(step.upTo);
  for (const part of [
    'plane' in step ? step.plane : undefined,
    'from' in step ? step.from : undefined,
    'along' in step ? step.along : undefined,
    'about' in step ? step.about : undefined,
  ]) {
    if (typeof part === 'object' && 'face' in part) names.push(part.face);
    if (typeof part === 'object' && 'edge' in part) names.push(part.edge);
  }
  return new Set(names);
}

/** Faces made from the geometry that the selected dimension is on, or by the selected step. */
function facesDrivenBy(document: Document, selected: string | undefined, bodies: readonly ShownBody[]): ReadonlySet<string> {
  if (selected === undefined) return new Set();
  const on = findDimension(document, selected)?.on ?? [];
  const names = bodies.flatMap(({ mesh }) => mesh.faces.map(({ name }) => name));
  return new Set(names.filter((name) => facesIn(name).some((one) => one.startsWith(`${selected}/`)) || on.some((id) => name.includes(`(${id})`))));
}

const PICK_WORDS = { face: 'a face', edge: 'an edge', either: 'an edge or a face', any: 'a face, an edge or a corner', body: 'a body' } as const;

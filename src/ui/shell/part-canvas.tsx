'use client';
import { useMemo, useState } from 'react';
import type { Document } from '@/core/document';
import type { Point3 } from '@/core/geometry';
import type { BodyMesh } from '@/core/kernel-port';
import { facesIn } from '@/core/kernel-port';
import { colourOfBody, isFound, likelyGeometry, type BodyOutcome } from '@/core/steps';
import { findDimension } from '../ledger/ledger-rows';
import { Canvas3d, type SpaceLabel } from '../canvas3d/canvas3d';
import { planeOf, SectionControl, type Section } from '../canvas3d/section-control';
import type { PickedGeometry, ShownBody } from '../canvas3d/shown-body';
import { SketchCanvas } from '../sketch-canvas/sketch-canvas';
import { useSession, useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';
import type { StepDraft } from '../steps/step-draft';
import { DimensionLabel } from '../steps/dimension-label';
import { dimensionsOnSolid, stepOfSelection } from '../steps/solid-dimensions';
import { FaceVerbs } from '../steps/face-verbs';
import { OpenStepPanel } from '../steps/step-panel';

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
  const picking = useWorkspace((state) => state.picking);
  const standing = useSessionState((state) => state.pictures);
  const document = useSessionState((state) => state.document);
  const ground = useSessionState((state) => state.before);
  const isPicking = picking !== undefined;

  const bodies = useMemo(() => {
    const looks = (pictures: typeof standing, look: ShownBody['look']): ShownBody[] =>
      pictures.flatMap(({ body, key, isStale }) => {
        const mesh = meshes.get(key);
        return mesh ? [{ key, body, mesh, colour: colourOfBody(document, body), look: isStale && look === 'solid' ? 'stale' : look }] : [];
      });
    if (!preview) return looks(standing, 'solid');
    // Picks are made on the solid as it stands, while the preview is seen.
    return [...looks(preview.pictures, 'solid'), ...(isPicking ? looks(ground ?? standing, 'target') : [])];
  }, [preview, standing, ground, meshes, isPicking, document]);
  const highlighted = useMemo(() => (draft ? pickedIn(draft) : facesDrivenBy(document, selected, bodies)), [draft, document, selected, bodies]);
  const pointed = useWorkspace((state) => state.pointed);
  const hints = useMemo((): ReadonlySet<string> => {
    // What was picked and is lost: the likeliest of what is there is lit.
    if (!draft || !ground) return new Set();
    const names = ground.flatMap(({ key }) => {
      const mesh = meshes.get(key);
      return [...(mesh?.faces ?? []), ...(mesh?.edges ?? [])].map(({ name }) => name);
    });
    if (pointed !== undefined) return new Set([pointed]);
    const lost = regenerated?.steps.find(({ id }) => id === draft.step.id)?.problem?.lost;
    return new Set([...pickedIn(draft)].flatMap((name) => (isFound(name, names) && name !== lost ? [] : likelyGeometry(name, names))));
  }, [draft, ground, meshes, pointed, regenerated]);
  const labels = useMemo((): SpaceLabel[] => {
    const step = draft || preview || !regenerated ? undefined : stepOfSelection(document, selected);
    if (step === undefined || !regenerated) return [];
    const facts = {
      middleOf: (prefix: string) => middleOfFace(bodies, prefix),
      lengthOf: (id: string) => session.values.sheet.readNumber(id) / MILLIMETRE,
    };
    return dimensionsOnSolid(document, regenerated, step, facts).map((dimension) => ({
      key: dimension.id,
      at: dimension.at,
      ...(dimension.from ? { from: dimension.from } : {}),
      shift: 24 * dimension.row,
      content: <DimensionLabel dimension={dimension} />,
    }));
  }, [session, document, regenerated, bodies, selected, draft, preview]);
  const [face, setFace] = useState<{ readonly body: string; readonly face: string }>();
  const [section, setSection] = useState<Section>();
  const box = boxOf(regenerated?.bodies ?? []);
  const select = (picked: PickedGeometry | undefined): void => {
    const step = picked?.name.split('/')[0];
    const curve = /\(([^)]*)\)/.exec(picked?.name ?? '')?.[1];
    const dimension =
      curve === undefined ? undefined : Object.values(session.document.records).find((record) => record.type === 'dimension' && record.on.includes(curve));
    workspace.setState({ selected: dimension?.type === 'dimension' ? dimension.parameter : step });
  };

  return (
    <div className="relative h-full">
      <Canvas3d
        bodies={bodies}
        highlighted={highlighted}
        wants={picking?.wants ?? 'face'}
        hints={hints}
        labels={labels}
        section={section && planeOf(section)}
        description={`The solid: ${regenerated?.bodies.map(({ name, properties }) => `${name}, ${properties ? `${Math.round(properties.volume)} cubic millimetres` : 'not built'}`).join('; ') ?? 'being built'}`}
        onPick={(picked) => {
          if (!picking) {
            if (draft) return;
            setFace(picked?.body === undefined ? undefined : { body: picked.body, face: picked.name });
            select(picked);
          } else if (picked?.body !== undefined) picking.take({ body: picked.body, name: picked.name });
        }}
      />
      {picking && (
        <p role="status" className="absolute top-2 right-2 rounded-box bg-indigo-wash px-2 py-1">
          {picking.label}: click {picking.wants === 'edge' ? 'an edge' : picking.wants === 'face' ? 'a face' : 'an edge or a face'}
        </p>
      )}
      {!regenerated && (
        <p role="status" className={`absolute inset-x-0 text-center text-walnut-soft ${standing.length > 0 ? 'top-2' : 'top-1/2'}`}>
          {typeof regeneration === 'object'
            ? 'The solid could not be built.'
            : standing.length > 0
              ? 'As it was last saved; being built…'
              : 'Building the solid…'}
        </p>
      )}
      {face && !draft && (
        <div className="absolute bottom-2 left-2">
          <FaceVerbs {...face} onDone={() => setFace(undefined)} />
        </div>
      )}
      {box && (
        <div className="absolute right-2 bottom-12">
          <SectionControl box={box} section={section} onChange={setSection} />
        </div>
      )}
      <OpenStepPanel />
    </div>
  );
}

const MILLIMETRE = 10_000;

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

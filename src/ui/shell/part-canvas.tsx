'use client';
import { useMemo } from 'react';
import type { Document } from '@/core/document';
import { findDimension } from '../ledger/ledger-rows';
import { Canvas3d } from '../canvas3d/canvas3d';
import type { PickedGeometry, ShownBody } from '../canvas3d/viewport';
import { SketchCanvas } from '../sketch-canvas/sketch-canvas';
import { useSession, useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';
import type { StepDraft } from '../steps/step-draft';
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
  const isPicking = picking !== undefined;

  const bodies = useMemo(() => {
    const looks = (pictures: typeof standing, look: ShownBody['look']): ShownBody[] =>
      pictures.flatMap(({ body, key, isStale }) => {
        const mesh = meshes.get(key);
        return mesh ? [{ key, body, mesh, look: isStale && look === 'solid' ? 'stale' : look }] : [];
      });
    if (!preview) return looks(standing, 'solid');
    // Picks are made on the solid as it stands, while the preview is seen.
    return [...looks(preview.pictures, 'solid'), ...(isPicking ? looks(standing, 'target') : [])];
  }, [preview, standing, meshes, isPicking]);
  const highlighted = useMemo(() => (draft ? pickedIn(draft) : facesDrivenBy(document, selected, bodies)), [draft, document, selected, bodies]);
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
        description={`The solid: ${regenerated?.bodies.map(({ name, properties }) => `${name}, ${properties ? `${Math.round(properties.volume)} cubic millimetres` : 'not built'}`).join('; ') ?? 'being built'}`}
        onPick={(picked) => {
          if (!picking) {
            if (!draft) select(picked);
          } else if (picked?.body !== undefined) picking.take({ body: picked.body, name: picked.name });
        }}
      />
      {picking && (
        <p role="status" className="absolute top-2 right-2 rounded-box bg-indigo-wash px-2 py-1">
          {picking.label}: click {picking.wants === 'edge' ? 'an edge' : picking.wants === 'face' ? 'a face' : 'an edge or a face'}
        </p>
      )}
      {!regenerated && (
        <p role="status" className="absolute inset-x-0 top-1/2 text-center text-walnut-soft">
          {typeof regeneration === 'object' ? 'The solid could not be built.' : 'Building the solid…'}
        </p>
      )}
      <OpenStepPanel />
    </div>
  );
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
  return new Set(names.filter((name) => name.startsWith(`${selected}/`) || on.some((id) => name.includes(`(${id})`))));
}

'use client';
import { useMemo } from 'react';
import type { Document } from '@/core/document';
import { findDimension } from '../ledger/ledger-rows';
import { Canvas3d } from '../canvas3d/canvas3d';
import type { ShownBody } from '../canvas3d/viewport';
import { SketchCanvas } from '../sketch-canvas/sketch-canvas';
import { useSession, useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';

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
  const selected = useWorkspace((state) => state.selected);
  const pictures = useSessionState((state) => state.pictures);
  const document = useSessionState((state) => state.document);

  const bodies = useMemo(
    () =>
      pictures.flatMap(({ key, isStale }): ShownBody[] => {
        const mesh = meshes.get(key);
        return mesh ? [{ key, mesh, look: isStale ? 'stale' : 'solid' }] : [];
      }),
    [pictures, meshes],
  );
  const highlighted = useMemo(() => facesDrivenBy(document, selected, bodies), [document, selected, bodies]);

  return (
    <div className="relative h-full">
      <Canvas3d
        bodies={bodies}
        highlighted={highlighted}
        description={`The solid: ${regenerated?.bodies.map(({ name, properties }) => `${name}, ${properties ? `${Math.round(properties.volume)} cubic millimetres` : 'not built'}`).join('; ') ?? 'being built'}`}
        onPick={(face) => {
          const step = face?.split('/')[0];
          const curve = /\(([^)]*)\)/.exec(face ?? '')?.[1];
          const dimension =
            curve === undefined
              ? undefined
              : Object.values(session.document.records).find((record) => record.type === 'dimension' && record.on.includes(curve));
          workspace.setState({ selected: dimension?.type === 'dimension' ? dimension.parameter : step });
        }}
      />
      {!regenerated && (
        <p role="status" className="absolute inset-x-0 top-1/2 text-center text-walnut-soft">
          {typeof regeneration === 'object' ? 'The solid could not be built.' : 'Building the solid…'}
        </p>
      )}
    </div>
  );
}

/** Faces made from the geometry that the selected dimension is on, or by the selected step. */
function facesDrivenBy(document: Document, selected: string | undefined, bodies: readonly ShownBody[]): ReadonlySet<string> {
  if (selected === undefined) return new Set();
  const on = findDimension(document, selected)?.on ?? [];
  const names = bodies.flatMap(({ mesh }) => mesh.faces.map(({ name }) => name));
  return new Set(names.filter((name) => name.startsWith(`${selected}/`) || on.some((id) => name.includes(`(${id})`))));
}

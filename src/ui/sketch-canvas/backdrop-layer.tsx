'use client';
import { useMemo } from 'react';
import type { Frame } from '@/core/geometry';
import { useSessionState } from '../state/context';
import { edgesBehind, sketchesBehind, type BackdropCurve } from './backdrop';
import { toScreen, type SketchView } from './sketch-view';

/** Edges of the bodies; and, where they can be taken from, the other sketches. */
export function useBackdrop(sketch: string, frame: Frame, withSketches: boolean): readonly BackdropCurve[] {
  const meshes = useSessionState((state) => state.meshes);
  const pictures = useSessionState((state) => state.pictures);
  const outcomes = useSessionState((state) => state.regenerated?.steps);
  const document = useSessionState((state) => state.document);
  return useMemo(() => {
    const edges = pictures.flatMap(({ body, key }) => {
      const mesh = meshes.get(key);
      return mesh ? edgesBehind(body, mesh, frame) : [];
    });
    return withSketches ? [...edges, ...sketchesBehind(document, sketch, outcomes ?? [], frame)] : edges;
  }, [meshes, pictures, outcomes, document, sketch, frame, withSketches]);
}

export function BackdropLayer({ view, curves, lit }: { view: SketchView; curves: readonly BackdropCurve[]; lit: BackdropCurve | undefined }) {
  return (
    <g fill="none" strokeWidth={1.2}>
      {curves.map((curve, i) => {
        const [first] = curve.points;
        const stroke = curve === lit ? 'var(--orchil)' : 'sketch' in curve.from ? 'var(--walnut-soft)' : 'var(--wood)';
        if (first && curve.points.length === 1) {
          const [x, y] = toScreen(view, first);
          return <circle key={i} cx={x} cy={y} r={curve === lit ? 5 : 3} stroke={stroke} />;
        }
        const d = curve.points
          .map(
            (point, at) =>
              `${at === 0 ? 'M' : 'L'}${toScreen(view, point)
                .map((v) => v.toFixed(1))
                .join(' ')}`,
          )
          .join('');
        return <path key={i} d={d} stroke={stroke} strokeWidth={curve === lit ? 3 : 1.2} strokeDasharray={'sketch' in curve.from ? '3 3' : undefined} />;
      })}
    </g>
  );
}

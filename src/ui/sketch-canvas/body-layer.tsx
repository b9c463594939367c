'use client';
import { DATUM_FRAMES } from '@/core/geometry';
import type { PlaneName } from '@/core/document';
import { useSessionState } from '../state/context';
import { toScreen, type SketchView } from './sketch-view';

/** The edges of the bodies behind the sketch, looked at straight along the normal of its plane. */
export function BodyLayer({ view, plane }: { view: SketchView; plane: PlaneName }) {
  const meshes = useSessionState((state) => state.meshes);
  const pictures = useSessionState((state) => state.pictures);
  const frame = DATUM_FRAMES[plane];
  const along = (axis: readonly [number, number, number], points: Float32Array, at: number): number =>
    axis[0] * (points[at] ?? 0) + axis[1] * (points[at + 1] ?? 0) + axis[2] * (points[at + 2] ?? 0);
  return (
    <g stroke="var(--wood)" strokeWidth={1.2} fill="none">
      {pictures.map(({ key }) => {
        const points = meshes.get(key)?.edgePoints;
        if (!points) return null;
        let d = '';
        for (let i = 0; i + 5 < points.length; i += 6) {
          const [x1, y1] = toScreen(view, [along(frame.x, points, i), along(frame.y, points, i)]);
          const [x2, y2] = toScreen(view, [along(frame.x, points, i + 3), along(frame.y, points, i + 3)]);
          d += `M${x1.toFixed(1)} ${y1.toFixed(1)}L${x2.toFixed(1)} ${y2.toFixed(1)}`;
        }
        return <path key={key} d={d} />;
      })}
    </g>
  );
}

'use client';
import type { Frame } from '@/core/geometry';
import { useSessionState } from '../state/context';
import { toScreen, type SketchView } from './sketch-view';

/** The edges of the bodies behind the sketch, looked at straight along the normal of its plane. */
export function BodyLayer({ view, frame }: { view: SketchView; frame: Frame }) {
  const meshes = useSessionState((state) => state.meshes);
  const pictures = useSessionState((state) => state.pictures);
  const along = (axis: readonly [number, number, number], points: Float32Array, at: number): number =>
    axis[0] * ((points[at] ?? 0) - frame.origin[0]) + axis[1] * ((points[at + 1] ?? 0) - frame.origin[1]) + axis[2] * ((points[at + 2] ?? 0) - frame.origin[2]);
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

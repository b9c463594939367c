/** Curves by their end points. */
import type { Entity } from '../document';
import type { DrawnShape, Place } from './drawn-shape';

type OpenCurve = Extract<Entity, { readonly type: 'line' | 'arc' }>;

export function curvesAt(shape: DrawnShape, point: string): OpenCurve[] {
  return shape.entities.filter(
    (entity): entity is OpenCurve => (entity.type === 'line' || entity.type === 'arc') && (entity.start === point || entity.end === point),
  );
}

/** Unit vector in which a curve leaves its end, beyond it. */
export function directionBeyond(shape: DrawnShape, curve: OpenCurve, point: string): Place {
  const here = shape.point(point);
  if (curve.type === 'line') {
    const other = shape.point(curve.start === point ? curve.end : curve.start);
    const length = Math.hypot(here[0] - other[0], here[1] - other[1]) || 1;
    return [(here[0] - other[0]) / length, (here[1] - other[1]) / length];
  }
  const centre = shape.point(curve.centre);
  const radius = Math.hypot(here[0] - centre[0], here[1] - centre[1]) || 1;
  const [rx, ry] = [(here[0] - centre[0]) / radius, (here[1] - centre[1]) / radius];
  return curve.end === point ? [-ry, rx] : [ry, -rx];
}

/** The direction in which the last curve that ends in a point goes on. */
export function directionAtEnd(shape: DrawnShape, point: string): { readonly curve: string; readonly along: Place } | undefined {
  const curve = curvesAt(shape, point).at(-1);
  return curve && { curve: curve.id, along: directionBeyond(shape, curve, point) };
}

/** The curves that hang together with one by their ends, itself included. */
export function chainOf(shape: DrawnShape, id: string): string[] {
  const chain = [id];
  for (const current of chain) {
    const curve = shape.entities.find((entity) => entity.id === current);
    if (curve?.type !== 'line' && curve?.type !== 'arc') continue;
    for (const end of [curve.start, curve.end]) for (const other of curvesAt(shape, end)) if (!chain.includes(other.id)) chain.push(other.id);
  }
  return chain;
}

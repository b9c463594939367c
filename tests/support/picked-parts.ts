/** A block in space, rectangles placed by formulas, and faces and edges picked where they lie. */
import { Line3, Triangle, Vector3 } from 'three';
import type { Edit } from '@/core/document';
import type { Point3 } from '@/core/geometry';
import type { KernelPort } from '@/core/kernel-port';
import { Regenerator } from '@/core/steps';
import { build, PartBuilder } from './part-builder';

/** A rectangle whose lower left corner is placed by formulas, sides as those of `PartBuilder.rectangle`. */
export function place(
  part: PartBuilder,
  sketch: string,
  x: string,
  y: string,
  width: string,
  height: string,
  [px, py, w, h]: readonly number[] = [0, 0, 10, 10],
): PartBuilder {
  part.rectangle(sketch, width, height, [px ?? 0, py ?? 0], [w ?? 10, h ?? 10]);
  const at = (kind: 'horizontal' | 'vertical', formula: string): Edit => ({
    type: 'sketch.draw',
    sketch,
    entities: [],
    constraints: [],
    dimensions: [
      { type: 'dimension', id: `${sketch}-${kind}`, sketch, kind, on: ['origin', `${sketch}-p0`], parameter: `${sketch}_${kind}`, at: [0, 0], sense: 1 },
    ],
    values: [{ type: 'parameter', id: `${sketch}_${kind}`, owner: sketch, name: `${sketch}_${kind}`, formula: { text: formula }, kind: 'length' }],
  });
  return part.do({ type: 'sketch.erase', sketch, ids: [`${sketch}-fixed`], readers: { mode: 'refuse' } }, at('horizontal', x), at('vertical', y));
}

/** x 100 to 200, y 100 to 160, z 0 to 20. */
export function block(): PartBuilder {
  const part = new PartBuilder().sketch('base');
  place(part, 'base', '100 mm', '100 mm', '100 mm', '60 mm', [100, 100, 100, 60]);
  return part.step({ type: 'extrude', id: 'block', sketch: 'base', operation: 'start', extent: 'forward', body: 'b' }, { depth: '20 mm' });
}

export const BLOCK_TOP = 'block/end(base-0)';

/** The name of the edge or face of the body as it is now that passes through a place. */
export function pickOf(kernel: KernelPort, part: PartBuilder, kind: 'edge' | 'face', [x, y, z]: Point3, reach = 1e-3): string {
  const regenerator = new Regenerator(kernel);
  const mesh = regenerator.mesh(build(kernel, part, regenerator).bodies[0]?.key ?? '');
  if (!mesh) throw new Error('no body');
  const at = new Vector3(x, y, z);
  const from = (points: Float32Array, index: number): Vector3 => new Vector3().fromArray(points, 3 * index);
  const nearest = (count: number, closest: (i: number) => Vector3): number => Math.min(...Array.from({ length: count }, (_, i) => closest(i).distanceTo(at)));
  const found =
    kind === 'edge'
      ? mesh.edges.map(({ name, start, count }) => ({
          name,
          distance: nearest(count - 1, (i) =>
            new Line3(from(mesh.edgePoints, start + i), from(mesh.edgePoints, start + i + 1)).closestPointToPoint(at, true, new Vector3()),
          ),
        }))
      : mesh.faces.map(({ name, start, count }) => ({
          name,
          distance: nearest(count / 3, (i) => {
            const corner = (k: number): Vector3 => from(mesh.positions, mesh.indices[start + 3 * i + k] ?? 0);
            return new Triangle(corner(0), corner(1), corner(2)).closestPointToPoint(at, new Vector3());
          }),
        }));
  const [best] = found.sort((a, b) => a.distance - b.distance);
  if (!best || best.distance > reach) throw new Error(`nothing at ${x}, ${y}, ${z}`);
  return best.name;
}

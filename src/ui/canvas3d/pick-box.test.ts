/** What a rectangle takes: whole to the right, touched to the left. */
import type { Vector3 } from 'three';
import type { BodyMesh } from '@/core/kernel-port';
import { pickInBox } from './pick-box';
import type { ShownBody } from '../state/shown-body';

/** Two edges and a triangle, seen from above: the picture is the plane, y down. */
const mesh: BodyMesh = {
  positions: Float32Array.from([0, 0, 0, 100, 0, 0, 0, 100, 0]),
  normals: Float32Array.from([0, 0, 1, 0, 0, 1, 0, 0, 1]),
  indices: Uint32Array.from([0, 1, 2]),
  faces: [{ name: 'face', start: 0, count: 3 }],
  edgePoints: Float32Array.from([10, 10, 0, 30, 10, 0, 50, 10, 0, 90, 50, 0]),
  edges: [
    { name: 'edge[a | b]', start: 0, count: 2 },
    { name: 'edge[a | c]', start: 2, count: 2 },
  ],
  corners: [],
};
const body = (look: ShownBody['look'], place?: readonly number[]): ShownBody => ({ key: 'k', body: 'b', mesh, look, ...(place ? { place } : {}) });
const seen = ({ x, y }: Vector3): readonly [number, number] => [x, y];
const taken = (bodies: readonly ShownBody[], from: [number, number], to: [number, number], wants: 'edge' | 'face' = 'edge') =>
  pickInBox(bodies, { from, to }, wants, seen).map(({ name }) => name);

test.each([
  ['all that lies in it', [0, 0], [60, 60], ['edge[a | b]']],
  ['the same drawn from below', [0, 60], [60, 0], ['edge[a | b]']],
  ['what it touches, drawn to the left', [60, 60], [0, 0], ['edge[a | b]', 'edge[a | c]']],
  ['what only passes through it', [75, 35], [65, 25], ['edge[a | c]']],
  ['nothing beside everything', [95, 95], [92, 92], []],
  ['both', [0, 0], [100, 100], ['edge[a | b]', 'edge[a | c]']],
] as const)('%s', (_, from, to, names) => {
  expect(taken([body('solid')], [...from], [...to])).toEqual(names);
});

test('faces by their triangles; targets before what is shown; what stands elsewhere, there; and nothing behind the eye', () => {
  expect(taken([body('solid')], [-5, -5], [105, 105], 'face')).toEqual(['face']);
  expect(taken([body('solid')], [-5, -5], [50, 50], 'face')).toEqual([]);
  expect(taken([body('solid')], [50, 50], [-5, -5], 'face')).toEqual(['face']);
  expect(taken([body('solid'), { ...body('target'), mesh: { ...mesh, edges: mesh.edges.slice(1) } }], [0, 0], [100, 100])).toEqual(['edge[a | c]']);
  const shifted = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 500, 0, 0, 1];
  expect(taken([body('solid', shifted)], [0, 0], [100, 100])).toEqual([]);
  expect(taken([body('solid', shifted)], [500, 0], [540, 40])).toEqual(['edge[a | b]']);
  expect(pickInBox([body('solid')], { from: [0, 0], to: [100, 100] }, 'edge', () => undefined)).toEqual([]);
  expect(taken([body('around'), body('stale')], [0, 0], [100, 100])).toEqual([]);
});

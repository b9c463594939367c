/** What lies in a rectangle of the picture: faces, edges and corners of the bodies that are shown, whatever is before them. */
import { Matrix4, Vector3 } from 'three';
import type { BodyMesh } from '@/core/kernel-port';
import type { PickedGeometry, PickKind, ShownBody } from '../state/shown-body';

type Place = readonly [x: number, y: number];

export interface PickBox {
  readonly from: Place;
  readonly to: Place;
}

/**
 * Drawn from left to right the rectangle takes what lies in it whole, from right to left what it touches as well. Targets are looked at where there are any.
 * `toScreen` gives CSS pixels of a place in space; undefined behind the eye.
 */
export function pickInBox(
  bodies: readonly ShownBody[],
  { from, to }: PickBox,
  wants: PickKind,
  toScreen: (place: Vector3) => Place | undefined,
): readonly PickedGeometry[] {
  const targets = bodies.filter(({ look }) => look === 'target');
  const there = targets.length > 0 ? targets : bodies.filter(({ look }) => look === 'solid');
  const box = {
    left: Math.min(from[0], to[0]),
    right: Math.max(from[0], to[0]),
    top: Math.min(from[1], to[1]),
    bottom: Math.max(from[1], to[1]),
  };
  const touches = to[0] < from[0];
  const found: PickedGeometry[] = [];
  for (const { body, mesh, place } of there) {
    const matrix = place ? new Matrix4().fromArray([...place]) : new Matrix4();
    const at = (points: Float32Array, i: number): Place | undefined =>
      toScreen(new Vector3(points[3 * i], points[3 * i + 1], points[3 * i + 2]).applyMatrix4(matrix));
    const take = (name: string, lines: Iterable<readonly [Place | undefined, Place | undefined]>): void => {
      if (isTaken(lines, box, touches)) found.push({ body, name });
    };
    if (wants !== 'face') for (const { name, start, count } of mesh.edges) take(name, linesOfEdge(mesh, start, count, at));
    if (wants === 'face') for (const { name, start, count } of mesh.faces) take(name, linesOfFace(mesh, start, count, at));
  }
  return found;
}

type At = (points: Float32Array, i: number) => Place | undefined;
type Line = readonly [Place | undefined, Place | undefined];

function* linesOfEdge({ edgePoints }: BodyMesh, start: number, count: number, at: At): Generator<Line> {
  for (let i = start; i + 1 < start + count; i += 2) yield [at(edgePoints, i), at(edgePoints, i + 1)];
}

function* linesOfFace({ positions, indices }: BodyMesh, start: number, count: number, at: At): Generator<Line> {
  for (let i = start; i + 2 < start + count; i += 3) {
    const corners = [0, 1, 2].map((k) => at(positions, indices[i + k] ?? 0));
    for (const k of [0, 1, 2]) yield [corners[k], corners[(k + 1) % 3]];
  }
}

interface Rectangle {
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
}

/** Whether all lines lie within it, or one meets it where that is enough. */
function isTaken(lines: Iterable<Line>, box: Rectangle, touches: boolean): boolean {
  let hasAny = false;
  for (const [a, b] of lines) {
    hasAny = true;
    if (touches && a && b && meets(a, b, box)) return true;
    if (!touches && !(a && b && isInside(a, box) && isInside(b, box))) return false;
  }
  return hasAny && !touches;
}

function isInside([x, y]: Place, { left, right, top, bottom }: Rectangle): boolean {
  return x >= left && x <= right && y >= top && y <= bottom;
}

/** Whether a segment meets the rectangle: what of it lies between the sides is cut off, by Liang and Barsky (ACM Transactions on Graphics 3, 1984). */
function meets(a: Place, b: Place, { left, right, top, bottom }: Rectangle): boolean {
  let [enter, leave] = [0, 1];
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  for (const [slope, room] of [
    [-dx, a[0] - left],
    [dx, right - a[0]],
    [-dy, a[1] - top],
    [dy, bottom - a[1]],
  ] as const) {
    if (slope === 0) {
      if (room < 0) return false;
      continue;
    }
    const share = room / slope;
    if (slope < 0) enter = Math.max(enter, share);
    else leave = Math.min(leave, share);
  }
  return enter <= leave;
}

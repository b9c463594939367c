/** What mates hold on to, read off faces and edges; and which mates go with two picks. */
import type { MateKind, MateReference, PlaneName } from '../document';
import { DATUM_FRAMES, type Point3 } from '../geometry';
import { reflect, toOutside, rotate, type InMirror, type Stance } from '../instances';
import type { GeometryShape } from '../kernel-port';
import { radiusOf } from './mate-equations';
import type { MateGeometry } from './model';

/** A plane face, the axis of a round one, the middle of a sphere, a straight edge, the axis of a circle, a corner; undefined for what a mate cannot hold on to. */
export function readGeometry(shape: GeometryShape): MateGeometry | undefined {
  switch (shape.kind) {
    case 'plane':
      return { kind: 'plane', point: shape.frame.origin, normal: shape.frame.normal };
    case 'round':
      return { kind: 'line', point: shape.axis.origin, direction: shape.axis.direction, radius: shape.radius };
    case 'line': {
      const [a, b] = [shape.start, shape.end];
      const length = Math.hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2]);
      return length < 1e-9 ? undefined : { kind: 'line', point: a, direction: [(b[0] - a[0]) / length, (b[1] - a[1]) / length, (b[2] - a[2]) / length] };
    }
    case 'circle':
      return { kind: 'line', point: shape.axis.origin, direction: shape.axis.direction, radius: shape.radius };
    case 'revolved':
      return { kind: 'line', point: shape.axis.origin, direction: shape.axis.direction };
    case 'sphere':
      return { kind: 'point', point: shape.centre, radius: shape.radius };
    case 'corner':
      return { kind: 'point', point: shape.point };
    case 'other':
      return undefined;
  }
}

/** A plane, an axis or the origin of a component, in its own space; undefined for a face or edge, which only its part tells. */
export function datumGeometry(reference: MateReference): MateGeometry | undefined {
  if ('plane' in reference) {
    const { origin, normal } = DATUM_FRAMES[reference.plane];
    return { kind: 'plane', point: origin, normal };
  }
  if ('axis' in reference) return { kind: 'line', point: [0, 0, 0], direction: AXES[reference.axis] };
  return 'origin' in reference ? { kind: 'point', point: [0, 0, 0] } : undefined;
}

const AXES: Readonly<Record<'x' | 'y' | 'z', Point3>> = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] };

/** Geometry of a part within the component that it stands in. */
export function placeGeometry(geometry: MateGeometry, at: Stance): MateGeometry {
  const point = toOutside(at, geometry.point);
  switch (geometry.kind) {
    case 'plane':
      return { kind: 'plane', point, normal: rotate(at.turn, geometry.normal) };
    case 'line':
      return { ...geometry, point, direction: rotate(at.turn, geometry.direction) };
    case 'point':
      return { ...geometry, point };
  }
}

/** Geometry as it is in a mirror through the origin of what it is of; as it is without one. */
export function reflectGeometry(geometry: MateGeometry, plane: PlaneName | undefined): MateGeometry {
  if (plane === undefined) return geometry;
  const point = reflect(plane, geometry.point);
  switch (geometry.kind) {
    case 'plane':
      return { kind: 'plane', point, normal: reflect(plane, geometry.normal) };
    case 'line':
      return { ...geometry, point, direction: reflect(plane, geometry.direction) };
    case 'point':
      return { ...geometry, point };
  }
}

/** Geometry of a part in a mirrored assembly, in its own space: the image of what it is in the original. */
export function readInMirror(shape: GeometryShape, { over, isTurned }: InMirror): MateGeometry | undefined {
  const found = readGeometry(shape);
  // The kernel tells an axis that something turns about by the right hand, which is the left one in a mirror.
  const isTurn = shape.kind === 'circle' || shape.kind === 'revolved';
  if (found?.kind !== 'line' || !isTurn || isTurned !== true) return found && reflectGeometry(found, over);
  const [x, y, z] = found.direction;
  return reflectGeometry({ ...found, direction: [0 - x, 0 - y, 0 - z] }, over);
}

/** Kinds of mates that two picks allow, the likeliest first; those that need one more are told by {@link thirdFor}. */
export function matesFor(first: MateGeometry, second: MateGeometry): readonly MateKind[] {
  const isRound = radiusOf(first) > 0 || radiusOf(second) > 0;
  switch (`${first.kind} ${second.kind}` as const) {
    case 'plane plane':
      return ['coplanar', 'parallel', 'perpendicular', 'angle', 'together'];
    case 'plane line':
      return isRound ? ['tangent', 'coplanar', 'parallel', 'perpendicular', 'together'] : ['coplanar', 'parallel', 'perpendicular', 'together'];
    case 'line line':
      return ['coaxial', 'parallel', 'perpendicular', ...(isRound ? (['tangent'] as const) : []), 'gears', 'screw', 'together'];
    case 'plane point':
      return [...(isRound ? (['tangent'] as const) : []), 'coincident', 'coplanar', 'together'];
    case 'line point':
    case 'point point':
      return [...(isRound && first.kind !== 'line' ? (['tangent'] as const) : []), 'coincident', 'together'];
    default:
      return ['together'];
  }
}

/** Kinds that become possible with one pick more, and what that is. */
export function thirdFor(first: MateGeometry, second: MateGeometry): { readonly kind: MateKind; readonly what: string } | undefined {
  if (first.kind === 'plane') return { kind: 'centred', what: 'the face on the other side' };
  return first.kind === 'line' && second.kind === 'line' ? { kind: 'slot', what: 'the other end of the slot' } : undefined;
}

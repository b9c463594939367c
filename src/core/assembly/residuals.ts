/**
 * The equations of mates. Every mate is made of two kinds, between a body A and a body B, with u fixed in A and v in B, and p, r points of them:
 *
 *     turn:   u·v            = 0
 *     reach:  n·(r - p) - d  = 0,   n fixed in A
 *
 * The unknowns of a body are a small shift s and a small turn w about its own origin o, both in the space of the assembly: a vector u of
 * it becomes u + w × u, a point p becomes p + s + w × (p - o). With a·(w × b) = w·(b × a) the derivatives are
 *
 *     turn:   wA·(u × v) + wB·(v × u)
 *     reach:  n·(sB - sA) + wA·(n × (r - p) - (p - o_A) × n) + wB·((r - o_B) × n)
 *
 * A turn counts as large as a reach at the size of the assembly: reaches are divided by that.
 */
import { cross, dot, type Point3 } from '../geometry';
import { rotate, toOutside, type Stance } from '../instances';
import type { Mate, MateGeometry, Pull } from './model';

export type Equation =
  | { readonly kind: 'turn'; readonly first: number; readonly second: number; readonly u: Point3; readonly v: Point3; readonly mate: string }
  | {
      readonly kind: 'reach';
      readonly first: number;
      readonly second: number;
      readonly n: Point3;
      readonly p: Point3;
      readonly r: Point3;
      readonly d: number;
      readonly mate: string;
      /** How much it counts beside the others; one without it. */
      readonly weight?: number;
    };

type Turn = Omit<Extract<Equation, { readonly kind: 'turn' }>, 'first' | 'second' | 'mate' | 'kind'>;
type Reach = Omit<Extract<Equation, { readonly kind: 'reach' }>, 'first' | 'second' | 'mate' | 'kind' | 'weight'>;

/** The equations of a mate between two bodies, by their numbers; undefined where its geometry does not go with its kind. */
export function equationsOf(mate: Mate, first: number, second: number): readonly Equation[] | undefined {
  const found = partsOf(mate);
  if (!found) return undefined;
  const { turns, reaches } = found;
  return [
    ...turns.map((turn): Equation => ({ kind: 'turn', first, second, mate: mate.id, ...turn })),
    ...reaches.map((reach): Equation => ({ kind: 'reach', first, second, mate: mate.id, ...reach })),
  ];
}

/** A point of a body, in its own space, at a place in the assembly, whose body has this number; it counts less than what must hold. */
export function pullEquations({ point, to }: Pull, body: number, ground: number): readonly Equation[] {
  return WORLD.map((n) => ({ kind: 'reach', first: ground, second: body, mate: '', n, p: to, r: point, d: 0, weight: PULL }));
}

/** Small beside a mate, so that it bends none; large beside rounding. */
const PULL = 1e-3;

interface Parts {
  readonly turns: readonly Turn[];
  readonly reaches: readonly Reach[];
}

const WORLD: readonly Point3[] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
];

function partsOf({ kind, first: { geometry: a }, second: { geometry: b }, value, about, within }: Mate): Parts | undefined {
  const [u, v] = [directionOf(a), directionOf(b)];
  switch (kind) {
    case 'coplanar':
      if (a.kind !== 'plane') return undefined;
      return {
        turns: b.kind === 'plane' ? parallel(a.normal, b.normal) : b.kind === 'line' ? [{ u: a.normal, v: b.direction }] : [],
        reaches: [reach(a.normal, a, b, value)],
      };
    case 'coaxial':
      if (a.kind !== 'line' || b.kind !== 'line') return undefined;
      return { turns: parallel(a.direction, b.direction), reaches: across(a.direction).map((n) => reach(n, a, b, 0)) };
    case 'coincident':
      if (a.kind === 'line' && b.kind === 'point') return { turns: [], reaches: across(a.direction).map((n) => reach(n, a, b, 0)) };
      if (a.kind === 'plane' && b.kind === 'point') return { turns: [], reaches: [reach(a.normal, a, b, 0)] };
      if (a.kind !== 'point' || b.kind !== 'point') return undefined;
      return { turns: [], reaches: WORLD.map((n) => reach(n, a, b, 0)) };
    case 'parallel':
      return u && v && { turns: parallel(u, v), reaches: [] };
    case 'perpendicular':
      return u && v && { turns: [{ u, v }], reaches: [] };
    case 'angle': {
      if (!u || !v || !about) return undefined;
      // v turned by the value from u about the axis: then it stands across u turned a quarter further.
      const side = cross(about, u);
      const [cos, sin] = [Math.cos(value), Math.sin(value)];
      return { turns: [{ u: mix(side, u, cos, -sin), v }], reaches: [] };
    }
    case 'tangent':
      if (a.kind !== 'plane' || b.kind !== 'line') return undefined;
      return { turns: [{ u: a.normal, v: b.direction }], reaches: [reach(a.normal, a, b, value + (b.radius ?? 0))] };
    case 'together': {
      if (!within) return undefined;
      const inFirst = WORLD.map((axis) => rotate(within.turn, axis) as Point3);
      const [fx, fy] = inFirst;
      const [, y = WORLD[1], z = WORLD[2]] = WORLD;
      if (!fx || !fy || !y || !z) return undefined;
      const origin = { kind: 'point', point: [0, 0, 0] } as const;
      return {
        turns: [
          { u: fx, v: y },
          { u: fx, v: z },
          { u: fy, v: z },
        ],
        reaches: WORLD.map((n) => reach(n, { kind: 'point', point: within.origin }, origin, 0)),
      };
    }
  }
}

export function directionOf(geometry: MateGeometry): Point3 | undefined {
  return geometry.kind === 'plane' ? geometry.normal : geometry.kind === 'line' ? geometry.direction : undefined;
}

function reach(n: Point3, a: MateGeometry, b: MateGeometry, d: number): Reach {
  return { n, p: a.point, r: b.point, d };
}

/** Two unit vectors across a direction and each other. */
export function across(direction: Point3): readonly [Point3, Point3] {
  const least = direction.reduce((best, size, i) => (Math.abs(size) < Math.abs(direction[best] ?? 1) ? i : best), 0);
  const helper: Point3 = least === 0 ? [1, 0, 0] : least === 1 ? [0, 1, 0] : [0, 0, 1];
  const one = unit(cross(direction, helper));
  return [one, cross(direction, one)];
}

function parallel(u: Point3, v: Point3): Turn[] {
  return across(u).map((side) => ({ u: side, v }));
}

function mix(a: Point3, b: Point3, s: number, t: number): Point3 {
  return [a[0] * s + b[0] * t, a[1] * s + b[1] * t, a[2] * s + b[2] * t];
}

export function unit(v: Point3): Point3 {
  const length = Math.hypot(...v);
  return [v[0] / length, v[1] / length, v[2] / length];
}

/** Six derivatives of a body: by its shift, then by its turn. */
export type BodyGradient = readonly [number, number, number, number, number, number];

export interface Evaluated {
  readonly value: number;
  readonly first: BodyGradient;
  readonly second: BodyGradient;
}

/** What an equation comes to where the bodies stand, with its derivatives; a reach is divided by `size`, in millimetres. */
export function evaluate(equation: Equation, stances: readonly Stance[], size: number): Evaluated {
  const [a, b] = [stances[equation.first], stances[equation.second]];
  if (!a || !b) throw new Error('Bug: an equation of no body');
  if (equation.kind === 'turn') {
    const [u, v] = [rotate(a.turn, equation.u) as Point3, rotate(b.turn, equation.v) as Point3];
    const turn = cross(u, v);
    return { value: dot(u, v), first: [0, 0, 0, ...turn], second: [0, 0, 0, -turn[0], -turn[1], -turn[2]] };
  }
  const n: Point3 = rotate(a.turn, equation.n);
  const [p, r]: [Point3, Point3] = [toOutside(a, equation.p), toOutside(b, equation.r)];
  const [span, armA, armB] = [minus(r, p), minus(p, a.origin), minus(r, b.origin)];
  const [swing, leverA, leverB] = [cross(n, span), cross(armA, n), cross(armB, n)];
  const s = (equation.weight ?? 1) / size;
  return {
    value: (dot(n, span) - equation.d) * s,
    first: [-n[0] * s, -n[1] * s, -n[2] * s, (swing[0] - leverA[0]) * s, (swing[1] - leverA[1]) * s, (swing[2] - leverA[2]) * s],
    second: [n[0] * s, n[1] * s, n[2] * s, leverB[0] * s, leverB[1] * s, leverB[2] * s],
  };
}

function minus(a: Point3, b: Point3): Point3 {
  return [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
}

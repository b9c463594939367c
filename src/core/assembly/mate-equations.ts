/** The equations that each kind of mate comes to, between bodies by their numbers. */
import { cross, dot, type Point3 } from '../geometry';
import { inverse, rotate, toOutside } from '../instances';
import { across, minus, unit, type Equation, type Term, type Turned } from './equations';
import type { Mate, MateGeometry, Pull } from './model';

/** Numbers of the bodies of a mate; the third is the first where it has none. */
export interface MateBodies {
  readonly first: number;
  readonly second: number;
  readonly third: number;
}

/** The numbers of a mate's bodies; undefined where one is not there. */
export function bodiesOf({ first, second, third }: Mate, index: ReadonlyMap<string, number>): MateBodies | undefined {
  const [a, b] = [index.get(first.body), index.get(second.body)];
  const c = third ? index.get(third.body) : a;
  return a === undefined || b === undefined || c === undefined ? undefined : { first: a, second: b, third: c };
}

/** A sum of terms that is to stay between two numbers: millimetres, or radians. */
export interface Limit extends Pick<Equation, 'mate' | 'terms' | 'isLength'> {
  readonly least: number;
  readonly most: number;
}

export interface MateEquations {
  /** How far its first body has turned, or a screw, or an angle with limits: over full turns. */
  readonly turned?: Turned;
  readonly equations: readonly Equation[];
  readonly limits: readonly Limit[];
}

/** The equations of a mate; undefined where its geometry does not go with its kind. */
export function equationsOf(mate: Mate, bodies: MateBodies): MateEquations | undefined {
  const found = partsOf(mate, bodies);
  if (!found) return undefined;
  const { turns = [], lengths = [], angles = [], limits = [] } = found;
  return {
    equations: [
      ...turns.map(([u, v]): Equation => ({
        mate: mate.id,
        terms: [{ kind: 'turn', first: bodies.first, second: bodies.second, u, v }],
        d: 0,
        isLength: false,
      })),
      ...lengths.map(([terms, d]): Equation => ({ mate: mate.id, terms, d, isLength: true })),
      ...angles.map(([terms, d]): Equation => ({ mate: mate.id, terms, d, isLength: false })),
    ],
    limits: limits.map((limit) => ({ mate: mate.id, ...limit })),
    ...(found.turned ? { turned: found.turned } : {}),
  };
}

/** A point of a body, in its own space, at a place in the assembly, whose body has this number; it counts less than what must hold. */
export function pullEquations({ point, to }: Pull, body: number, ground: number): readonly Equation[] {
  return WORLD.map((n) => ({ mate: '', terms: [{ kind: 'reach', first: ground, second: body, n, p: to, r: point }], d: 0, isLength: true, weight: PULL }));
}

/** Small beside a mate, so that it bends none; large beside rounding. */
const PULL = 1e-3;

type Sum = readonly [terms: readonly Term[], d: number];

interface Parts {
  /** Directions of the first and the second that stand across one another. */
  readonly turns?: readonly (readonly [u: Point3, v: Point3])[];
  readonly lengths?: readonly Sum[];
  readonly angles?: readonly Sum[];
  readonly limits?: readonly Omit<Limit, 'mate'>[];
  readonly turned?: Turned;
}

const WORLD: readonly Point3[] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
];

function partsOf(mate: Mate, bodies: MateBodies): Parts | undefined {
  const { first, second, value } = mate;
  const [a, b] = [first.geometry, second.geometry];
  const [u, v] = [directionOf(a), directionOf(b)];
  const pair = pairOf(bodies);
  const reach = (n: Point3, d: number): Sum => [[{ kind: 'reach', first: bodies.first, second: bodies.second, n, p: a.point, r: b.point }], d];
  switch (mate.kind) {
    case 'coplanar': {
      if (a.kind !== 'plane') return undefined;
      const turns = b.kind === 'plane' ? parallel(a.normal, b.normal) : b.kind === 'line' ? [[a.normal, b.direction] as const] : [];
      const [terms] = reach(a.normal, 0);
      return { turns, ...(mate.limits ? { limits: [{ terms, isLength: true, ...mate.limits }] } : { lengths: [reach(a.normal, value)] }) };
    }
    case 'coaxial':
      if (a.kind !== 'line' || b.kind !== 'line') return undefined;
      return { turns: parallel(a.direction, b.direction), lengths: across(a.direction).map((n) => reach(n, 0)) };
    case 'coincident':
      if (a.kind === 'line' && b.kind === 'point') return { lengths: across(a.direction).map((n) => reach(n, 0)) };
      if (a.kind === 'plane' && b.kind === 'point') return { lengths: [reach(a.normal, 0)] };
      return a.kind === 'point' && b.kind === 'point' ? { lengths: WORLD.map((n) => reach(n, 0)) } : undefined;
    case 'parallel':
      return u && v && { turns: parallel(u, v) };
    case 'perpendicular':
      return u && v && { turns: [[u, v]] };
    case 'angle':
      return angleParts(mate, bodies);
    case 'tangent':
      return tangentParts(mate, pair);
    case 'centred':
      return centredParts(mate, bodies);
    case 'slot':
      return slottedParts(mate, pair);
    case 'gears':
      return gearedParts(mate, bodies);
    case 'screw':
      return screwedParts(mate, pair);
    case 'copy':
      return copiedParts(mate, bodies);
    case 'together': {
      const { within } = mate;
      if (!within) return undefined;
      const [fx, fy] = WORLD.map((axis): Point3 => rotate(within.turn, axis));
      const [, y, z] = WORLD;
      if (!fx || !fy || !y || !z) return undefined;
      return {
        turns: [
          [fx, y],
          [fx, z],
          [fy, z],
        ],
        lengths: WORLD.map((n): Sum => [[{ ...pair, kind: 'reach', n, p: within.origin, r: [0, 0, 0] }], 0]),
      };
    }
  }
}

function angleParts({ first, second, value, about, limits, turned }: Mate, bodies: MateBodies): Parts | undefined {
  const [u, v] = [directionOf(first.geometry), directionOf(second.geometry)];
  if (!u || !v || !about) return undefined;
  if (limits) {
    const counted: Turned = { angle: turned ?? (limits.least + limits.most) / 2 };
    const term: Term = { ...pairOf(bodies), kind: 'angle', about, u, v, turned: counted };
    return { limits: [{ terms: [term], isLength: false, ...limits }], turned: counted };
  }
  // v turned by the value from u about the axis: then it stands across u turned a quarter further.
  const side = cross(about, u);
  const [cos, sin] = [Math.cos(value), Math.sin(value)];
  return { turns: [[mix(side, u, cos, -sin), v]] };
}

/** Touching from outside, or one within the other where the sense is opposed; `value` is how far apart they stay. */
function tangentParts({ first: { geometry: a }, second: { geometry: b }, value, sense }: Mate, pair: Pair): Parts | undefined {
  const [ra, rb] = [radiusOf(a), radiusOf(b)];
  if (a.kind === 'plane') {
    if (b.kind === 'plane' || (b.kind === 'point' && b.radius === undefined)) return undefined;
    return {
      turns: b.kind === 'line' ? [[a.normal, b.direction]] : [],
      lengths: [[[{ ...pair, kind: 'reach', n: a.normal, p: a.point, r: b.point }], value + rb]],
    };
  }
  if (b.kind === 'plane' || (a.kind === 'point' && b.kind === 'line') || ra + rb === 0) return undefined;
  const d = sense === 1 ? ra + rb + value : Math.abs(ra - rb) - value;
  return {
    turns: a.kind === 'line' && b.kind === 'line' ? parallel(a.direction, b.direction) : [],
    lengths: [[[{ ...pair, kind: 'gap', p: a.point, r: b.point, ...(a.kind === 'line' ? { u: a.direction } : {}) }], d]],
  };
}

/** As far from the first face as from the third; opposed where these face one another, or away from one another. */
function centredParts({ first: { geometry: a }, second: { geometry: b }, third, sense }: Mate, bodies: MateBodies): Parts | undefined {
  const c = third?.geometry;
  if (a.kind !== 'plane' || c?.kind !== 'plane') return undefined;
  const { first, second, third: other } = bodies;
  return {
    turns: b.kind === 'plane' ? parallel(a.normal, b.normal) : b.kind === 'line' ? [[a.normal, b.direction]] : [],
    lengths: [
      [
        [
          { kind: 'reach', first, second, n: a.normal, p: a.point, r: b.point },
          { kind: 'reach', first: other, second, n: c.normal, p: c.point, r: b.point, factor: sense },
        ],
        0,
      ],
    ],
  };
}

/** An axis that runs between the two round ends of a slot, no farther than these. */
function slottedParts({ first, second, third }: Mate, pair: Pair): Parts | undefined {
  const [a, b, c] = [first.geometry, second.geometry, third?.geometry];
  if (a.kind !== 'line' || b.kind !== 'line' || c?.kind !== 'line' || third?.body !== first.body) return undefined;
  if (Math.abs(dot(a.direction, c.direction)) < 1 - 1e-9) return undefined;
  const span = minus(c.point, a.point);
  const along = dot(span, a.direction);
  const flat: Point3 = [span[0] - along * a.direction[0], span[1] - along * a.direction[1], span[2] - along * a.direction[2]];
  const length = Math.hypot(...flat);
  if (length < 1e-9) return undefined;
  const way = unit(flat);
  const term = (n: Point3): Term => ({ ...pair, kind: 'reach', n, p: a.point, r: b.point });
  return {
    turns: parallel(a.direction, b.direction),
    lengths: [[[term(cross(a.direction, way))], 0]],
    limits: [{ terms: [term(way)], isLength: true, least: 0, most: length }],
  };
}

/**
 * Turns of two bodies in a third: those of the second are `value` times those of the first, the other way about where the sense is opposed. Both
 * are counted from how they stood when the mate was made.
 */
function gearedParts(mate: Mate, { first, second, third }: MateBodies): Parts | undefined {
  const { starts, value, sense, turned = 0 } = mate;
  const [one, two] = [turnOf(mate, 'first'), turnOf(mate, 'second')];
  if (!one || !two || !starts) return undefined;
  const ratio = value * sense;
  const scale = 1 / Math.max(1, Math.abs(ratio));
  const term = (by: MateTurn, body: number, factor: number, counted: Turned): Term => ({
    kind: 'angle',
    first: third,
    second: body,
    ...by,
    turned: counted,
    factor,
  });
  const counted: Turned = { angle: turned };
  return { angles: [[[term(two, second, scale, { angle: ratio * turned }), term(one, first, -ratio * scale, counted)], 0]], turned: counted };
}

/** One axis in the other, along which it travels by `value` for each turn; both counted from how they stood when the mate was made. */
function screwedParts(mate: Mate, pair: Pair): Parts | undefined {
  const { first, second, within, value, sense, turned = 0 } = mate;
  const [a, b] = [first.geometry, second.geometry];
  const turn = turnOf(mate, 'second');
  if (a.kind !== 'line' || b.kind !== 'line' || !within || !turn) return undefined;
  const begun = dot(a.direction, minus(toOutside(within, b.point), a.point));
  const counted: Turned = { angle: turned };
  const angle: Term = { ...pair, kind: 'angle', ...turn, turned: counted, factor: (-sense * value) / (2 * Math.PI) };
  return {
    turned: counted,
    turns: parallel(a.direction, b.direction),
    lengths: [
      ...across(a.direction).map((n): Sum => [[{ ...pair, kind: 'reach', n, p: a.point, r: b.point }], 0]),
      [[{ ...pair, kind: 'reach', n: a.direction, p: a.point, r: b.point }, angle], begun],
    ],
  };
}

/**
 * With S for stances, F for that of the third, and M for the movement: F⁻¹ S₂ = M F⁻¹ S₁. By the axes f of the third and e of the bodies that is
 * f·e₂ = (R_Mᵀ f)·e₁, and f·(o₂ - o_F) - (R_Mᵀ f)·(o₁ - o_F) = f·t_M. Of the nine for the turn any three that are independent hold it.
 */
function copiedParts({ within }: Mate, { first, second, third }: MateBodies): Parts | undefined {
  if (!within) return undefined;
  const back = inverse(within.turn);
  const sides = WORLD.map((f) => [f, rotate(back, f)] as const);
  return {
    angles: sides.flatMap(([f, g]) =>
      WORLD.map((e): Sum => [
        [
          { kind: 'turn', first: third, second, u: f, v: e },
          { kind: 'turn', first: third, second: first, u: g, v: e, factor: -1 },
        ],
        0,
      ]),
    ),
    lengths: sides.map(([f, g]): Sum => [
      [
        { kind: 'reach', first: third, second, n: f, p: [0, 0, 0], r: [0, 0, 0] },
        { kind: 'reach', first: third, second: first, n: g, p: [0, 0, 0], r: [0, 0, 0], factor: -1 },
      ],
      dot(f, within.origin),
    ]),
  };
}

/** How the turn of a body is read: the angle of `v`, fixed in it, from `u` about an axis, both fixed in what it turns in. */
export interface MateTurn {
  readonly about: Point3;
  readonly u: Point3;
  readonly v: Point3;
}

/** The turn that a mate couples: of its first or second body in the third, of the second in the first for a screw. */
export function turnOf({ kind, first, second, starts, within }: Mate, side: 'first' | 'second'): MateTurn | undefined {
  if (kind === 'screw') {
    if (!within || first.geometry.kind !== 'line') return undefined;
    const about = first.geometry.direction;
    const [u] = across(about);
    return { about, u, v: rotate(inverse(within.turn), u) };
  }
  const [one, two] = [directionOf(first.geometry), directionOf(second.geometry)];
  if (kind !== 'gears' || !starts || !one || !two) return undefined;
  const axes = [rotate(starts[0], one), rotate(starts[1], two)] as const;
  const start = side === 'first' ? starts[0] : starts[1];
  const own: Point3 = side === 'first' ? axes[0] : axes[1];
  // Both turns are read about axes that point the same way, where they have a way in common.
  const about: Point3 = side === 'second' && dot(axes[0], axes[1]) < -1e-9 ? [-own[0], -own[1], -own[2]] : own;
  const [u] = across(about);
  return { about, u, v: rotate(inverse(start), u) };
}

export function directionOf(geometry: MateGeometry): Point3 | undefined {
  return geometry.kind === 'plane' ? geometry.normal : geometry.kind === 'line' ? geometry.direction : undefined;
}

/** Of a cylinder or a sphere; 0 for what has none. */
export function radiusOf(geometry: MateGeometry): number {
  return geometry.kind === 'plane' ? 0 : (geometry.radius ?? 0);
}

type Pair = Pick<MateBodies, 'first' | 'second'>;

function pairOf({ first, second }: MateBodies): Pair {
  return { first, second };
}

function parallel(u: Point3, v: Point3): (readonly [Point3, Point3])[] {
  return across(u).map((side) => [side, v] as const);
}

function mix(a: Point3, b: Point3, s: number, t: number): Point3 {
  return [a[0] * s + b[0] * t, a[1] * s + b[1] * t, a[2] * s + b[2] * t];
}

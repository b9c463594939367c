/**
 * The equations of mates. Each is a sum of terms that comes to a number; every term is between a body A and a body B, with u, n, a fixed in A, v in
 * B, and p, r points of them:
 *
 *     turn:   u·v
 *     reach:  n·(r - p)
 *     gap:    |q|,  q = r - p, or what of it is across u: how far two points, a point and a line, or two lines along u are apart
 *     angle:  how far v has turned from u about a, counted on over full turns
 *
 * The unknowns of a body are a small shift s and a small turn w about its own origin o, both in the space of the assembly: a vector u of
 * it becomes u + w × u, a point p becomes p + s + w × (p - o). With a·(w × b) = w·(b × a) the derivatives are
 *
 *     turn:   wA·(u × v) + wB·(v × u)
 *     reach:  n·(sB - sA) + wA·(n × (r - p) - (p - o_A) × n) + wB·((r - o_B) × n)
 *     gap:    as reach with n = q/|q|, but for the turn of u: - wA·((u·(r - p)) u × n) instead of wA·(n × (r - p))
 *     angle:  with e = a × u, c = v·u, s = v·e: (c ds - s dc) / (c² + s²), ds and dc those of turns
 *
 * A turn counts as large as a reach at the size of the assembly: equations in lengths are divided by that.
 */
import { cross, dot, type Point3 } from '../geometry';
import { rotate, toOutside, type Stance } from '../instances';

/** An angle that is counted on over full turns: near what it was at the last step. */
export interface Turned {
  angle: number;
}

export type Term = { readonly first: number; readonly second: number; readonly factor?: number } & (
  | { readonly kind: 'turn'; readonly u: Point3; readonly v: Point3 }
  | { readonly kind: 'reach'; readonly n: Point3; readonly p: Point3; readonly r: Point3 }
  | { readonly kind: 'gap'; readonly u?: Point3; readonly p: Point3; readonly r: Point3 }
  | { readonly kind: 'angle'; readonly about: Point3; readonly u: Point3; readonly v: Point3; readonly turned: Turned }
);

export interface Equation {
  readonly mate: string;
  readonly terms: readonly Term[];
  /** What the terms come to together. */
  readonly d: number;
  readonly isLength: boolean;
  /** How much it counts beside the others; one without it. */
  readonly weight?: number;
}

/** Six derivatives of a body: by its shift, then by its turn. */
export type BodyGradient = readonly [number, number, number, number, number, number];

export interface Evaluated {
  readonly value: number;
  /** By the numbers of bodies; one that stands in several terms may be there more than once. */
  readonly gradients: readonly (readonly [body: number, gradient: BodyGradient])[];
}

/** What an equation comes to where the bodies stand, with its derivatives; one in lengths is divided by `size`, in millimetres. */
export function evaluate({ terms, d, isLength, weight = 1 }: Equation, stances: readonly Stance[], size: number): Evaluated {
  const scale = isLength ? weight / size : weight;
  let value = -d * scale;
  const gradients: [number, BodyGradient][] = [];
  for (const term of terms) {
    const found = evaluateTerm(term, stances);
    const factor = (term.factor ?? 1) * scale;
    value += found.value * factor;
    gradients.push([term.first, scaled(found.first, factor)], [term.second, scaled(found.second, factor)]);
  }
  return { value, gradients };
}

/** Angles go on from where they have come to. */
export function countTurns(equations: readonly Equation[], stances: readonly Stance[]): void {
  for (const { terms } of equations) for (const term of terms) if (term.kind === 'angle') term.turned.angle = evaluateTerm(term, stances).value;
}

interface EvaluatedTerm {
  readonly value: number;
  readonly first: BodyGradient;
  readonly second: BodyGradient;
}

export function evaluateTerm(term: Term, stances: readonly Stance[]): EvaluatedTerm {
  const [a, b] = [stances[term.first], stances[term.second]];
  if (!a || !b) throw new Error('Bug: an equation of no body');
  switch (term.kind) {
    case 'turn': {
      const [u, v]: [Point3, Point3] = [rotate(a.turn, term.u), rotate(b.turn, term.v)];
      const turn = cross(u, v);
      return { value: dot(u, v), first: [0, 0, 0, ...turn], second: [0, 0, 0, -turn[0], -turn[1], -turn[2]] };
    }
    case 'reach': {
      const n: Point3 = rotate(a.turn, term.n);
      const [p, r]: [Point3, Point3] = [toOutside(a, term.p), toOutside(b, term.r)];
      const span = minus(r, p);
      return { value: dot(n, span), ...levers({ n, p, r, a, b }, cross(n, span)) };
    }
    case 'gap': {
      const [p, r]: [Point3, Point3] = [toOutside(a, term.p), toOutside(b, term.r)];
      const span = minus(r, p);
      const u: Point3 | undefined = term.u && rotate(a.turn, term.u);
      const along = u ? dot(u, span) : 0;
      const q: Point3 = u ? [span[0] - along * u[0], span[1] - along * u[1], span[2] - along * u[2]] : span;
      const value = Math.hypot(...q);
      // Where they lie in one another every way apart is as good.
      const n: Point3 = value < 1e-12 ? (u ? across(u)[0] : [1, 0, 0]) : [q[0] / value, q[1] / value, q[2] / value];
      const swing = u ? cross(u, n) : ([0, 0, 0] as const);
      return { value, ...levers({ n, p, r, a, b }, [-along * swing[0], -along * swing[1], -along * swing[2]]) };
    }
    case 'angle': {
      const u: Point3 = rotate(a.turn, term.u);
      const e = cross(rotate(a.turn, term.about), u);
      const v: Point3 = rotate(b.turn, term.v);
      const [c, s] = [dot(v, u), dot(v, e)];
      const [uv, ev] = [cross(u, v), cross(e, v)];
      const length = c * c + s * s;
      const turn = ([0, 1, 2] as const).map((i) => (length < 1e-12 ? 0 : (c * ev[i] - s * uv[i]) / length));
      const [x = 0, y = 0, z = 0] = turn;
      return { value: nearestTurn(Math.atan2(s, c), term.turned.angle), first: [0, 0, 0, x, y, z], second: [0, 0, 0, -x, -y, -z] };
    }
  }
}

/** The angle that differs from this one by full turns and is nearest to another. */
export function nearestTurn(angle: number, near: number): number {
  return angle + 2 * Math.PI * Math.round((near - angle) / (2 * Math.PI));
}

interface Lever {
  readonly n: Point3;
  readonly p: Point3;
  readonly r: Point3;
  readonly a: Stance;
  readonly b: Stance;
}

/** Derivatives of n·(r - p), n in the space of the assembly; `swing` is what the turn of A does to n. */
function levers({ n, p, r, a, b }: Lever, swing: Point3): Pick<EvaluatedTerm, 'first' | 'second'> {
  const [leverA, leverB] = [cross(minus(p, a.origin), n), cross(minus(r, b.origin), n)];
  return {
    first: [-n[0], -n[1], -n[2], swing[0] - leverA[0], swing[1] - leverA[1], swing[2] - leverA[2]],
    second: [n[0], n[1], n[2], leverB[0], leverB[1], leverB[2]],
  };
}

function scaled([a, b, c, d, e, f]: BodyGradient, by: number): BodyGradient {
  return [a * by, b * by, c * by, d * by, e * by, f * by];
}

/** Two unit vectors across a direction and each other. */
export function across(direction: Point3): readonly [Point3, Point3] {
  const least = direction.reduce((best, size, i) => (Math.abs(size) < Math.abs(direction[best] ?? 1) ? i : best), 0);
  const helper: Point3 = least === 0 ? [1, 0, 0] : least === 1 ? [0, 1, 0] : [0, 0, 1];
  const one = unit(cross(direction, helper));
  return [one, cross(direction, one)];
}

export function unit(v: Point3): Point3 {
  const length = Math.hypot(...v);
  return [v[0] / length, v[1] / length, v[2] / length];
}

export function minus(a: Point3, b: Point3): Point3 {
  return [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
}

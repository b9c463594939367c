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
    const factor = (term.factor ?? 1) * scale;
    const found = evaluateTerm(term, stances, factor);
    value += found[0] * factor;
    gradients.push([term.first, found[1]], [term.second, found[2]]);
  }
  return { value, gradients };
}

/** What an equation comes to, without its derivatives. */
export function valueOf({ terms, d, isLength, weight = 1 }: Equation, stances: readonly Stance[], size: number): number {
  const [only] = terms;
  let value = -d;
  if (only && terms.length === 1) value += (only.factor ?? 1) * valueOfTerm(only, stances);
  else for (const term of terms) value += (term.factor ?? 1) * valueOfTerm(term, stances);
  return (value * weight) / (isLength ? size : 1);
}

/** Angles go on from where they have come to. */
export function countTurns(equations: readonly Equation[], stances: readonly Stance[]): void {
  for (const { terms } of equations) for (const term of terms) if (term.kind === 'angle') term.turned.angle = valueOfTerm(term, stances);
}

/** What one term comes to, in millimetres, radians or as a cosine. */
export function valueOfTerm(term: Term, stances: readonly Stance[]): number {
  const a = stances[term.first];
  const b = stances[term.second];
  if (!a || !b) throw new Error('Bug: an equation of no body');
  switch (term.kind) {
    case 'turn':
      return dot(rotate(a.turn, term.u), rotate(b.turn, term.v));
    case 'reach':
      return dot(rotate(a.turn, term.n), minus(toOutside(b, term.r), toOutside(a, term.p)));
    case 'gap':
      return Math.hypot(...gapBetween(term, a, b).q);
    case 'angle': {
      const u = rotate(a.turn, term.u);
      const v = rotate(b.turn, term.v);
      return nearestTurn(Math.atan2(dot(v, cross(rotate(a.turn, term.about), u)), dot(v, u)), term.turned.angle);
    }
  }
}

/** The value of a term, and its derivatives by its first and its second body, these times a factor. */
function evaluateTerm(term: Term, stances: readonly Stance[], factor: number): readonly [value: number, first: BodyGradient, second: BodyGradient] {
  const a = stances[term.first];
  const b = stances[term.second];
  if (!a || !b) throw new Error('Bug: an equation of no body');
  switch (term.kind) {
    case 'turn': {
      const u: Point3 = rotate(a.turn, term.u);
      const v: Point3 = rotate(b.turn, term.v);
      const swing = cross(u, v);
      const x = swing[0] * factor;
      const y = swing[1] * factor;
      const z = swing[2] * factor;
      return [dot(u, v), [0, 0, 0, x, y, z], [0, 0, 0, -x, -y, -z]];
    }
    case 'reach': {
      const n: Point3 = rotate(a.turn, term.n);
      const p: Point3 = toOutside(a, term.p);
      const r: Point3 = toOutside(b, term.r);
      const span = minus(r, p);
      const both = levers({ n, p, r, a, b, factor }, cross(n, span));
      return [dot(n, span), both[0], both[1]];
    }
    case 'gap': {
      const { p, r, u, along, q } = gapBetween(term, a, b);
      const value = Math.hypot(...q);
      // Where they lie in one another every way apart is as good.
      const n: Point3 = value < 1e-12 ? (u ? across(u)[0] : [1, 0, 0]) : [q[0] / value, q[1] / value, q[2] / value];
      const swing = u ? cross(u, n) : ([0, 0, 0] as const);
      return [value, ...levers({ n, p, r, a, b, factor }, [-along * swing[0], -along * swing[1], -along * swing[2]])];
    }
    case 'angle': {
      const u: Point3 = rotate(a.turn, term.u);
      const e = cross(rotate(a.turn, term.about), u);
      const v: Point3 = rotate(b.turn, term.v);
      const [c, s] = [dot(v, u), dot(v, e)];
      const [uv, ev] = [cross(u, v), cross(e, v)];
      const length = c * c + s * s;
      const [x = 0, y = 0, z = 0] = ([0, 1, 2] as const).map((i) => (length < 1e-12 ? 0 : (factor * (c * ev[i] - s * uv[i])) / length));
      return [nearestTurn(Math.atan2(s, c), term.turned.angle), [0, 0, 0, x, y, z], [0, 0, 0, -x, -y, -z]];
    }
  }
}

/** From p to r, in the space of the assembly: what of it is along u and what is across. */
function gapBetween(term: Extract<Term, { readonly kind: 'gap' }>, a: Stance, b: Stance) {
  const [p, r]: [Point3, Point3] = [toOutside(a, term.p), toOutside(b, term.r)];
  const span = minus(r, p);
  const u: Point3 | undefined = term.u && rotate(a.turn, term.u);
  const along = u ? dot(u, span) : 0;
  const q: Point3 = u ? [span[0] - along * u[0], span[1] - along * u[1], span[2] - along * u[2]] : span;
  return { p, r, u, along, q };
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
  readonly factor: number;
}

/** Derivatives of n·(r - p) by both bodies, n in the space of the assembly; `swing` is what the turn of A does to n. */
function levers({ n, p, r, a, b, factor: f }: Lever, swing: Point3): readonly [BodyGradient, BodyGradient] {
  const leverA = cross(minus(p, a.origin), n);
  const leverB = cross(minus(r, b.origin), n);
  const x = n[0] * f;
  const y = n[1] * f;
  const z = n[2] * f;
  return [
    [-x, -y, -z, (swing[0] - leverA[0]) * f, (swing[1] - leverA[1]) * f, (swing[2] - leverA[2]) * f],
    [x, y, z, leverB[0] * f, leverB[1] * f, leverB[2] * f],
  ];
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

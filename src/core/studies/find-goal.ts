/**
 * The amount of a value at which another comes to what is wanted. The range is looked through for a change of sign first, the one nearest to the
 * present amount is taken, and closed in on by Brent's method (R. P. Brent, Algorithms for Minimization without Derivatives, 1973, chapter 4).
 */
import { fail, succeed, type Result } from '../kit';
import { evenly } from './range';

export interface Goal {
  readonly at: number;
  /** What the other value comes to there. */
  readonly reached: number;
  /** About where it comes to it too, in the range: between two amounts that were looked at, by a straight line. */
  readonly others: readonly number[];
  readonly evaluations: number;
}

/** The nearest that was seen, where no amount in the range reaches what is wanted. */
export interface GoalFailure {
  readonly code: 'not-reached' | 'no-value' | 'stopped';
  readonly nearest?: { readonly at: number; readonly reached: number };
}

export interface Search {
  readonly from: number;
  readonly to: number;
  /** The amount that the value has now. */
  readonly present: number;
  readonly wanted: number;
}

/** Amounts that the range is looked through by. */
const SCANNED = 25;
const MOST_ROUNDS = 100;

/** `evaluate` gives what the other value comes to at an amount: not a number where it has none, undefined to stop. */
export async function findGoal(
  { from, to, present, wanted }: Search,
  evaluate: (at: number) => Promise<number | undefined>,
): Promise<Result<Goal, GoalFailure>> {
  let evaluations = 0;
  let isStopped = false;
  const known: { readonly at: number; readonly off: number }[] = [];
  const offAt = async (at: number): Promise<number> => {
    const reached = await evaluate(at);
    evaluations++;
    if (reached === undefined) isStopped = true;
    const off = (reached ?? NaN) - wanted;
    if (!Number.isNaN(off)) known.push({ at, off });
    return off;
  };
  const scanned: { readonly at: number; readonly off: number }[] = [];
  const inside = present > from && present < to ? [present] : [];
  for (const at of [...evenly(from, to, SCANNED), ...inside].sort((a, b) => a - b)) {
    scanned.push({ at, off: await offAt(at) });
    if (isStopped) return fail({ code: 'stopped' });
  }
  const exactly = scanned.filter(({ off }) => off === 0).sort((a, b) => Math.abs(a.at - present) - Math.abs(b.at - present));
  const [exact] = exactly;
  const brackets = scanned.flatMap((one, i) => {
    const next = scanned[i + 1];
    return next && one.off * next.off < 0 ? [{ low: one, high: next, away: Math.min(Math.abs(one.at - present), Math.abs(next.at - present)) }] : [];
  });
  const [bracket] = brackets.sort((one, other) => one.away - other.away);
  const done = (at: number, off: number): Result<Goal, GoalFailure> => {
    const others = [...exactly, ...brackets].flatMap((one) => {
      const [low, high] = 'low' in one ? [one.low.at, one.high.at] : [one.at, one.at];
      const about = 'low' in one ? low - (one.low.off * (high - low)) / (one.high.off - one.low.off) : low;
      return low <= at && at <= high ? [] : [about];
    });
    return succeed({ at, reached: off + wanted, others: others.sort((a, b) => a - b), evaluations });
  };
  if (exact && (!bracket || Math.abs(exact.at - present) <= bracket.away)) return done(exact.at, exact.off);
  if (!bracket) {
    const [nearest] = known.sort((a, b) => Math.abs(a.off) - Math.abs(b.off));
    return fail(nearest ? { code: 'not-reached', nearest: { at: nearest.at, reached: nearest.off + wanted } } : { code: 'no-value' });
  }
  const scale = Math.max(Math.abs(wanted), Math.abs(bracket.low.off), Math.abs(bracket.high.off));
  const root = await brent(bracket.low, bracket.high, offAt, { at: (to - from) * 1e-12, off: scale * 1e-14 });
  if (isStopped) return fail({ code: 'stopped' });
  // A jump changes sign without a zero: a value that is rounded, or a choice.
  return Math.abs(root.off) <= scale * 1e-6 ? done(root.at, root.off) : fail({ code: 'not-reached', nearest: { at: root.at, reached: root.off + wanted } });
}

interface Point {
  readonly at: number;
  readonly off: number;
}

/** Brent's zero, in his words: b is the best so far, a the one before, c on the other side of the zero. */
async function brent(first: Point, second: Point, offAt: (at: number) => Promise<number>, tolerance: Point): Promise<Point> {
  let [a, b, c] = [first, second, first];
  let d = b.at - a.at;
  let e = d;
  for (let round = 0; round < MOST_ROUNDS; round++) {
    if (Math.abs(c.off) < Math.abs(b.off)) [a, b, c] = [b, c, b];
    const near = 2 * Number.EPSILON * Math.abs(b.at) + tolerance.at / 2;
    const middle = (c.at - b.at) / 2;
    if (Math.abs(middle) <= near || Math.abs(b.off) <= tolerance.off) return b;
    if (Math.abs(e) < near || Math.abs(a.off) <= Math.abs(b.off)) d = e = middle;
    else {
      const step = interpolate(a, b, c, middle);
      const isGood = 2 * step.p < Math.min(3 * middle * step.q - Math.abs(near * step.q), Math.abs(e * step.q));
      [e, d] = isGood ? [d, step.p / step.q] : [middle, middle];
    }
    a = b;
    const at = b.at + (Math.abs(d) > near ? d : Math.sign(middle) * near);
    const off = await offAt(at);
    if (Number.isNaN(off)) return b;
    b = { at, off };
    if (b.off * Math.sign(c.off) > 0) {
      c = a;
      d = e = b.at - a.at;
    }
  }
  return b;
}

/** A step by a line through two points, or a parabola through three, as p / q with p positive. */
function interpolate(a: Point, b: Point, c: Point, middle: number): { readonly p: number; readonly q: number } {
  const s = b.off / a.off;
  let [p, q] = [2 * middle * s, 1 - s];
  if (a.at !== c.at) {
    const [t, r] = [a.off / c.off, b.off / c.off];
    p = s * (2 * middle * t * (t - r) - (b.at - a.at) * (r - 1));
    q = (t - 1) * (r - 1) * (s - 1);
  }
  return p > 0 ? { p, q: -q } : { p: -p, q };
}

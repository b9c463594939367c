/** The one chain that the curves of a sketch form, open or closed: what things are drawn along. */
import { fail, succeed, type Result } from '../kit';
import { lengthOf, sweepOf, type Curve, type Point2 } from './curve';
import { Joints } from './joints';
import type { LoopCurve } from './loop';

export interface PlanePath {
  /** From the start on; that of an open path is a free end. */
  readonly curves: readonly LoopCurve[];
  readonly isClosed: boolean;
  /** In millimetres. */
  readonly length: number;
}

/** Why curves form no path, and a curve where that is seen. */
export type PathProblem = { readonly kind: 'empty' } | { readonly kind: 'branching' | 'apart'; readonly curve: string };

/** `rank` of the two ends of an open path decides which is the start: the lower one, or that of the first curve where they are alike. */
export function findPath(curves: readonly Curve[], rank: (end: Point2) => number = () => 0): Result<PlanePath, PathProblem> {
  const [first] = curves;
  if (!first) return fail({ kind: 'empty' });
  const length = curves.reduce((sum, curve) => sum + lengthOf(curve), 0);
  const round = curves.find(({ kind }) => kind === 'circle');
  if (round) return curves.length === 1 ? succeed({ curves: [{ curve: round, isReversed: false }], isClosed: true, length }) : apart(round);
  const joints = new Joints();
  const meeting = new Map<number, Curve[]>();
  const ends = new Map<Curve, readonly [number, number]>();
  for (const curve of curves) {
    if (curve.kind === 'circle') continue;
    const pair = [joints.at(curve.start), joints.at(curve.end)] as const;
    ends.set(curve, pair);
    for (const joint of pair) meeting.set(joint, [...(meeting.get(joint) ?? []), curve]);
  }
  for (const around of meeting.values()) if (around.length > 2 && around[2]) return fail({ kind: 'branching', curve: around[2].id });
  const isEnd = (joint: number): boolean => meeting.get(joint)?.length === 1;
  const start = curves.find((curve) => ends.get(curve)?.some(isEnd));
  const chain: LoopCurve[] = [];
  const begin = start ?? first;
  const [from = 0, to = 0] = ends.get(begin) ?? [];
  let at = start && !isEnd(from) ? to : from;
  for (let next: Curve | undefined = begin; next;) {
    const [a, b]: readonly [number, number] = ends.get(next) ?? [0, 0];
    const isReversed: boolean = a !== at;
    chain.push({ curve: next, isReversed });
    at = isReversed ? a : b;
    const last: Curve = next;
    next = meeting.get(at)?.find((other) => other !== last && !chain.some(({ curve }) => curve === other));
  }
  const missed = curves.find((curve) => !chain.some((part) => part.curve === curve));
  if (missed) return apart(missed);
  const isBackward = start !== undefined && rank(endOf(chain.at(-1), 'end')) < rank(endOf(chain[0], 'start'));
  const way = isBackward ? [...chain].reverse().map(({ curve, isReversed }) => ({ curve, isReversed: !isReversed })) : chain;
  return succeed({ curves: way, isClosed: start === undefined, length });
}

/** Where a curve of a chain begins or ends, along the chain. */
function endOf(part: LoopCurve | undefined, side: 'start' | 'end'): Point2 {
  if (!part || part.curve.kind === 'circle') return [0, 0];
  return (side === 'start') === part.isReversed ? part.curve.end : part.curve.start;
}

function apart({ id }: Curve): { readonly ok: false; readonly failure: PathProblem } {
  return fail({ kind: 'apart', curve: id });
}

export interface PlaceOnPath {
  readonly at: Point2;
  /** Angle of the direction in which the path runs on, in radians from the x axis. */
  readonly heading: number;
}

/** The place `distance` along a path; past its end it goes on straight, round a closed one again. */
export function placeAlong({ curves, isClosed, length }: PlanePath, distance: number): PlaceOnPath {
  let rest = isClosed && length > 0 ? ((distance % length) + length) % length : distance;
  for (const [index, part] of curves.entries()) {
    const size = lengthOf(part.curve);
    if (rest <= size || index === curves.length - 1) return placeOn(part, rest, size);
    rest -= size;
  }
  return { at: [0, 0], heading: 0 };
}

function placeOn({ curve, isReversed }: LoopCurve, distance: number, size: number): PlaceOnPath {
  const along = isReversed ? size - distance : distance;
  const turn = isReversed ? Math.PI : 0;
  if (curve.kind === 'line') {
    const [dx, dy] = [curve.end[0] - curve.start[0], curve.end[1] - curve.start[1]];
    const share = along / size;
    return { at: [curve.start[0] + share * dx, curve.start[1] + share * dy], heading: Math.atan2(dy, dx) + turn };
  }
  const from = curve.kind === 'circle' ? 0 : Math.atan2(curve.start[1] - curve.centre[1], curve.start[0] - curve.centre[0]);
  const total = curve.kind === 'circle' ? 2 * Math.PI : sweepOf(curve);
  const inside = Math.min(Math.max(along / curve.radius, 0), total);
  const angle = from + inside;
  const heading = angle + Math.PI / 2 + turn;
  // Beyond an end of an arc: on along its tangent.
  const beyond = (along - inside * curve.radius) * (isReversed ? -1 : 1);
  return {
    at: [
      curve.centre[0] + curve.radius * Math.cos(angle) + beyond * Math.cos(heading),
      curve.centre[1] + curve.radius * Math.sin(angle) + beyond * Math.sin(heading),
    ],
    heading,
  };
}

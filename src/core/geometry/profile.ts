/**
 * Closed regions of a sketch: its curves cut where they meet, the outlines of what hangs together, outlines
 * nested into profiles with holes.
 *
 * Outlines at an even depth of nesting bound material, those at an odd depth are holes in the one around
 * them. Lines inside an outline divide it into cells, and the profile is all of them together. What cannot
 * bound a region is reported by curve: open ends, curves without size, outlines that touch themselves in a
 * point. The kernel never sees a profile with a problem.
 */
import { lengthOf, type Curve, type Point2 } from './curve';
import { intersectCurves } from './intersect';
import { JOIN_TOLERANCE, Joints } from './joints';
import type { Loop } from './loop';
import { pointOn, traceGroups } from './outline';
import { cutIntoPieces, liesNear, type Piece } from './pieces';

export interface Profile {
  readonly outer: Loop;
  readonly holes: readonly Loop[];
}

export interface ProfileProblem {
  readonly code: 'no-curves' | 'zero-size' | 'open' | 'touching';
  readonly curves: readonly string[];
  /** Where it is, in the sketch plane. */
  readonly at?: Point2;
}

export interface ProfileResult {
  readonly profiles: readonly Profile[];
  readonly problems: readonly ProfileProblem[];
}

export function findProfiles(curves: readonly Curve[]): ProfileResult {
  if (curves.length === 0) return { profiles: [], problems: [{ code: 'no-curves', curves: [] }] };
  const tiny = curves.filter((curve) => !(lengthOf(curve) > JOIN_TOLERANCE));
  if (tiny.length > 0) return { profiles: [], problems: [{ code: 'zero-size', curves: tiny.map((curve) => curve.id) }] };
  const joints = new Joints();
  const { open, circles, touches } = cutIntoPieces(curves, joints);
  const ends = findOpenEnds(open, joints);
  if (ends.length > 0) return { profiles: [], problems: ends };
  const groups = traceGroups(open, joints);
  const problems = groups.flatMap(({ hanging, touching }): ProfileProblem[] => {
    if (hanging.length > 0) return [{ code: 'open', curves: hanging }];
    return touching ? [{ code: 'touching', curves: curvesAt(curves, touching), at: touching }] : [];
  });
  if (problems.length > 0) return { profiles: [], problems };
  // Round a ring of curves that touch one another no outline meets itself: filled or open, either would be a guess.
  if (touches.length > 0) return { profiles: [], problems: touches.map(({ curves: ids, at }) => ({ code: 'touching', curves: ids, at })) };
  const loops = [...groups.map(({ outline }) => outline), ...circles.map((curve) => circleLoop(curve))];
  return { profiles: nestLoops(loops), problems: [] };
}

function circleLoop(curve: Extract<Curve, { readonly kind: 'circle' }>): Loop {
  return { curves: [{ curve, isReversed: false }], area: Math.PI * curve.radius ** 2 };
}

function findOpenEnds(pieces: readonly Piece[], joints: Joints): ProfileProblem[] {
  const meeting = new Map<number, string[]>();
  for (const { curve, from, to } of pieces) {
    for (const joint of [from, to]) meeting.set(joint, [...(meeting.get(joint) ?? []), curve.id]);
  }
  return [...meeting].flatMap(([joint, ids]) => (ids.length === 1 ? [{ code: 'open' as const, curves: ids, at: joints.place(joint) }] : []));
}

function curvesAt(curves: readonly Curve[], at: Point2): string[] {
  return [...new Set(curves.flatMap((curve) => (liesNear(curve, at, JOIN_TOLERANCE * 10) ? [curve.id] : [])))];
}

function nestLoops(loops: readonly Loop[]): Profile[] {
  const bySize = [...loops].sort((a, b) => b.area - a.area);
  const around = bySize.map((loop, i) => bySize.slice(0, i).filter((other) => contains(other, pointOn(loop))));
  return bySize.flatMap((outer, i) => {
    const depth = around[i]?.length ?? 0;
    if (depth % 2 === 1) return [];
    const holes = bySize.filter((_, j) => around[j]?.length === depth + 1 && around[j].includes(outer));
    return [{ outer, holes }];
  });
}

/** Whether a loop goes round a point that is not on it: crossings of a ray in an odd direction, counted. */
function contains(loop: Loop, [x, y]: Point2): boolean {
  const far = 1e6;
  const ray: Curve = { kind: 'line', id: 'ray', start: [x, y], end: [x + far * 0.7648421872844885, y + far * 0.644217687237691] };
  let crossings = 0;
  for (const { curve } of loop.curves) crossings += intersectCurves(ray, curve, 0).length;
  return crossings % 2 === 1;
}

/** Area of a profile, its holes taken out, in square millimetres. */
export function profileArea(profile: Profile): number {
  return profile.outer.area - profile.holes.reduce((sum, hole) => sum + hole.area, 0);
}

/**
 * Closed regions of a sketch: its curves chained into loops, loops nested into profiles with holes.
 *
 * Loops at an even depth of nesting bound material, those at an odd depth are holes in the one around them.
 * What cannot bound a region is reported by curve: open ends, crossings, curves without size, points where more than two
 * curves meet. The kernel never sees a profile with a problem.
 */
import { arcMiddle, lengthOf, sweepOf, type Curve, type Point2 } from './curve';
import { intersectCurves } from './intersect';

/** A curve in a loop; `isReversed` when the loop runs it from its end to its start. */
export interface LoopCurve {
  readonly curve: Curve;
  readonly isReversed: boolean;
}

/** Counter-clockwise. */
export interface Loop {
  readonly curves: readonly LoopCurve[];
  readonly area: number;
}

export interface Profile {
  readonly outer: Loop;
  readonly holes: readonly Loop[];
}

export interface ProfileProblem {
  readonly code: 'no-curves' | 'zero-size' | 'open' | 'branching' | 'crossing';
  readonly curves: readonly string[];
  /** Where it is, in the sketch plane. */
  readonly at?: Point2;
}

export interface ProfileResult {
  readonly profiles: readonly Profile[];
  readonly problems: readonly ProfileProblem[];
}

/** Ends closer than this are one point, in millimetres. */
export const JOIN_TOLERANCE = 1e-6;

export function findProfiles(curves: readonly Curve[]): ProfileResult {
  if (curves.length === 0) return { profiles: [], problems: [{ code: 'no-curves', curves: [] }] };
  const tiny = curves.filter((curve) => !(lengthOf(curve) > JOIN_TOLERANCE));
  if (tiny.length > 0) return { profiles: [], problems: [{ code: 'zero-size', curves: tiny.map((curve) => curve.id) }] };
  const { loops, problems } = chainLoops(curves);
  problems.push(...findCrossings(curves));
  if (problems.length > 0) return { profiles: [], problems };
  return { profiles: nestLoops(loops), problems: [] };
}

function chainLoops(curves: readonly Curve[]): { loops: Loop[]; problems: ProfileProblem[] } {
  const loops: Loop[] = [];
  const problems: ProfileProblem[] = [];
  const joints = new Joints();
  const open: Exclude<Curve, { readonly kind: 'circle' }>[] = [];
  for (const curve of curves) {
    if (curve.kind === 'circle') loops.push(makeLoop([{ curve, isReversed: false }]));
    else {
      open.push(curve);
      joints.add(curve.start, curve);
      joints.add(curve.end, curve);
    }
  }
  for (const joint of joints.all()) {
    if (joint.curves.length === 1) problems.push({ code: 'open', curves: joint.curves.map((c) => c.id), at: joint.point });
    if (joint.curves.length > 2) problems.push({ code: 'branching', curves: joint.curves.map((c) => c.id), at: joint.point });
  }
  if (problems.length > 0) return { loops, problems };
  const left = new Set<Curve>(open);
  for (const first of open) {
    if (!left.has(first)) continue;
    const chain: LoopCurve[] = [];
    let curve: Exclude<Curve, { readonly kind: 'circle' }> | undefined = first;
    let isReversed = false;
    while (curve && left.has(curve)) {
      left.delete(curve);
      chain.push({ curve, isReversed });
      const end: Point2 = isReversed ? curve.start : curve.end;
      const here: Curve = curve;
      const next: Exclude<Curve, { readonly kind: 'circle' }> | undefined = joints.at(end).find((other) => other !== here && left.has(other));
      if (next) isReversed = joints.isSame(next.end, end) && !joints.isSame(next.start, end);
      curve = next;
    }
    loops.push(makeLoop(chain));
  }
  return { loops, problems };
}

interface Joint {
  readonly point: Point2;
  readonly curves: Exclude<Curve, { readonly kind: 'circle' }>[];
}

/** End points by place, on a grid of the tolerance. */
class Joints {
  private readonly cells = new Map<string, Joint>();

  add(point: Point2, curve: Exclude<Curve, { readonly kind: 'circle' }>): void {
    const joint = this.find(point);
    if (joint) joint.curves.push(curve);
    else this.cells.set(this.key(point, 0, 0), { point, curves: [curve] });
  }

  at(point: Point2): readonly Exclude<Curve, { readonly kind: 'circle' }>[] {
    return this.find(point)?.curves ?? [];
  }

  isSame(a: Point2, b: Point2): boolean {
    return this.find(a) === this.find(b);
  }

  all(): Iterable<Joint> {
    return this.cells.values();
  }

  private find(point: Point2): Joint | undefined {
    for (const dx of [0, -1, 1]) {
      for (const dy of [0, -1, 1]) {
        const joint = this.cells.get(this.key(point, dx, dy));
        if (joint) return joint;
      }
    }
    return undefined;
  }

  private key([x, y]: Point2, dx: number, dy: number): string {
    return `${Math.round(x / JOIN_TOLERANCE) + dx} ${Math.round(y / JOIN_TOLERANCE) + dy}`;
  }
}

function makeLoop(chain: readonly LoopCurve[]): Loop {
  const area = chain.reduce((sum, part) => sum + areaUnder(part), 0);
  if (area >= 0) return { curves: chain, area };
  return { curves: chain.map(({ curve, isReversed }) => ({ curve, isReversed: !isReversed })).reverse(), area: -area };
}

/** Share of the signed area by Green's theorem, (1/2) the integral of x dy - y dx. */
function areaUnder({ curve, isReversed }: LoopCurve): number {
  const sign = isReversed ? -1 : 1;
  switch (curve.kind) {
    case 'circle':
      return sign * Math.PI * curve.radius ** 2;
    case 'line':
      return (sign * (curve.start[0] * curve.end[1] - curve.start[1] * curve.end[0])) / 2;
    case 'arc': {
      const chord = curve.start[0] * curve.end[1] - curve.start[1] * curve.end[0];
      const sweep = sweepOf(curve);
      return (sign * (chord + curve.radius ** 2 * (sweep - Math.sin(sweep)))) / 2;
    }
  }
}

function findCrossings(curves: readonly Curve[]): ProfileProblem[] {
  const boxes = curves.map(boxOf);
  const problems: ProfileProblem[] = [];
  for (let i = 0; i < curves.length; i++) {
    for (let j = i + 1; j < curves.length; j++) {
      const [a, b] = [curves[i], curves[j]];
      if (!a || !b || !overlap(boxes[i], boxes[j])) continue;
      const crossing = intersectCurves(a, b, JOIN_TOLERANCE).find((point) => !isEnd(a, point) || !isEnd(b, point));
      if (crossing) problems.push({ code: 'crossing', curves: [a.id, b.id], at: crossing });
      if (problems.length >= 20) return problems;
    }
  }
  return problems;
}

function isEnd(curve: Curve, [x, y]: Point2): boolean {
  if (curve.kind === 'circle') return false;
  return [curve.start, curve.end].some((end) => Math.hypot(end[0] - x, end[1] - y) < JOIN_TOLERANCE * 10);
}

type Box = readonly [minX: number, minY: number, maxX: number, maxY: number];

function boxOf(curve: Curve): Box {
  if (curve.kind === 'line') {
    const [[a, b], [c, d]] = [curve.start, curve.end];
    return [Math.min(a, c), Math.min(b, d), Math.max(a, c), Math.max(b, d)];
  }
  const [[x, y], r] = [curve.centre, curve.radius];
  return [x - r, y - r, x + r, y + r];
}

function overlap(a: Box | undefined, b: Box | undefined): boolean {
  return a !== undefined && b !== undefined && a[0] <= b[2] && b[0] <= a[2] && a[1] <= b[3] && b[1] <= a[3];
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

function pointOn(loop: Loop): Point2 {
  const curve = loop.curves[0]?.curve;
  if (!curve) return [0, 0];
  if (curve.kind === 'circle') return [curve.centre[0] + curve.radius, curve.centre[1]];
  return curve.kind === 'arc' ? arcMiddle(curve) : [(curve.start[0] + curve.end[0]) / 2, (curve.start[1] + curve.end[1]) / 2];
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

/**
 * Bodies that are nothing but a profile drawn out straight, kept as such for as long as they are. What goes through
 * such a body in the same direction is taken out of its profile, not out of its solid: the same result, many times
 * faster, since the kernel cuts plane faces with hundreds of tools slowly.
 */
import {
  findProfiles,
  moveCurve,
  shiftBy,
  toPlane,
  turnAbout,
  type Curve,
  type Frame,
  type Loop,
  type PlaneMovement,
  type Point3,
  type Profile,
} from '../../geometry';
import type { Movement } from '../../kernel-port';

export interface Prism {
  readonly frame: Frame;
  readonly profiles: readonly Profile[];
  readonly from: number;
  readonly to: number;
  /** Full names of the sides, by curve. */
  readonly names: Readonly<Record<string, string>>;
}

export function makePrism(step: string, frame: Frame, profiles: readonly Profile[], from: number, to: number): Prism {
  const ids = profiles.flatMap(({ outer, holes }) => [outer, ...holes].flatMap(({ curves }) => curves.map(({ curve }) => curve.id)));
  return { frame, profiles, from, to, names: Object.fromEntries(ids.map((id) => [id, `${step}/side(${id})`])) };
}

/** Copies of a prism, each with its prefix; undefined where a movement leaves the plane of the profile. */
export function movePrism(prism: Prism, places: readonly { readonly prefix: string; readonly movements: readonly Movement[] }[]): Prism[] | undefined {
  const copies: Prism[] = [];
  for (const { prefix, movements } of places) {
    const move = planeMovement(prism.frame, movements);
    if (!move) return undefined;
    const moveLoop = (loop: Loop): Loop => ({
      ...loop,
      curves: loop.curves.map(({ curve, isReversed }) => ({ curve: moveCurve(curve, `${prefix}:${curve.id}`, move), isReversed })),
    });
    copies.push({
      ...prism,
      profiles: prism.profiles.map(({ outer, holes }) => ({ outer: moveLoop(outer), holes: holes.map(moveLoop) })),
      names: Object.fromEntries(Object.entries(prism.names).map(([id, name]) => [`${prefix}:${id}`, `${prefix}:${name}`])),
    });
  }
  return copies;
}

/** The prism with the tools taken out of its profile; undefined where that is not the same as cutting the solid. */
export function removePrisms(body: Prism, tools: readonly Prism[]): Prism | undefined {
  const [low, high] = [Math.min(body.from, body.to), Math.max(body.from, body.to)];
  const curves = loopsOf(body).flatMap(curvesOf);
  const names: Record<string, string> = { ...body.names };
  let loops = loopsOf(body).length;
  for (const tool of tools) {
    const shift = heightBetween(body.frame, tool.frame);
    if (shift === undefined) return undefined;
    const [bottom, top] = [Math.min(tool.from, tool.to) + shift, Math.max(tool.from, tool.to) + shift];
    // It must reach through on both sides, and leave no island.
    if (bottom > low - THROUGH || top < high + THROUGH || tool.profiles.some(({ holes }) => holes.length > 0)) return undefined;
    for (const curve of loopsOf(tool).flatMap(curvesOf)) {
      if (Object.hasOwn(names, curve.id)) return undefined;
      curves.push(curve);
    }
    Object.assign(names, tool.names);
    loops += tool.profiles.length;
  }
  const { profiles, problems } = findProfiles(curves);
  // Where nothing crosses or touches, there are as many profiles as before, and every tool is a hole in one of them.
  if (problems.length > 0 || profiles.length !== body.profiles.length) return undefined;
  const found = profiles.flatMap(({ outer, holes }) => [outer, ...holes]);
  const isWhole = found.length === loops && found.reduce((sum, { curves: chain }) => sum + chain.length, 0) === curves.length;
  return isWhole && hasSameOutlines(body, profiles) && !found.some(hasSeam) ? { ...body, profiles, names } : undefined;
}

/** Whether neighbouring curves of a loop lie on one line or circle: the kernel makes one face of theirs in a cut, and two without. */
function hasSeam({ curves }: Loop): boolean {
  return curves.length > 1 && curves.some(({ curve }, i) => continues(curve, curves[(i + 1) % curves.length]?.curve));
}

function continues(a: Curve, b: Curve | undefined): boolean {
  if (!b || a.kind !== b.kind) return false;
  if (a.kind === 'line' && b.kind === 'line') {
    const [ax, ay, bx, by] = [a.end[0] - a.start[0], a.end[1] - a.start[1], b.end[0] - b.start[0], b.end[1] - b.start[1]];
    return Math.abs(ax * by - ay * bx) <= SEAM * Math.hypot(ax, ay) * Math.hypot(bx, by);
  }
  if (a.kind === 'line' || b.kind === 'line') return false;
  return Math.hypot(a.centre[0] - b.centre[0], a.centre[1] - b.centre[1]) <= SEAM && Math.abs(a.radius - b.radius) <= SEAM;
}

/** Whether every outline is one of the body's, and every hole of the body one still: a tool that goes round any of them is no hole in it. */
function hasSameOutlines(body: Prism, profiles: readonly Profile[]): boolean {
  const idsOf = (loops: readonly Loop[]): Set<string> => new Set(loops.flatMap(({ curves }) => curves.map(({ curve }) => curve.id)));
  const outlines = idsOf(body.profiles.map(({ outer }) => outer));
  const holes = idsOf(profiles.flatMap((profile) => profile.holes));
  const isOutline = profiles.every(({ outer }) => outer.curves.every(({ curve }) => outlines.has(curve.id)));
  return isOutline && [...idsOf(body.profiles.flatMap((profile) => profile.holes))].every((id) => holes.has(id));
}

const THROUGH = 1e-6;
const SAME = 1e-9;
/** As far as the kernel takes two faces for one, in radians and millimetres. */
const SEAM = 1e-4;

function loopsOf({ profiles }: Prism): Loop[] {
  return profiles.flatMap(({ outer, holes }) => [outer, ...holes]);
}

function curvesOf({ curves }: Loop): Curve[] {
  return curves.map(({ curve }) => curve);
}

/** How far one frame lies above another along their normal, where they are otherwise the same. */
function heightBetween(a: Frame, b: Frame): number | undefined {
  const isSame = (p: Point3, q: Point3): boolean => p.every((part, i) => Math.abs(part - (q[i] ?? 0)) < SAME);
  if (!isSame(a.x, b.x) || !isSame(a.y, b.y)) return undefined;
  const offset: Point3 = [b.origin[0] - a.origin[0], b.origin[1] - a.origin[1], b.origin[2] - a.origin[2]];
  return Math.hypot(dot(offset, a.x), dot(offset, a.y)) < SAME ? dot(offset, a.normal) : undefined;
}

function dot(a: Point3, b: Point3): number {
  return a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
}

/** Movements in space as one in the plane; undefined for those that leave it. */
function planeMovement(frame: Frame, movements: readonly Movement[]): PlaneMovement | undefined {
  const parts = movements.map((movement) => planePart(frame, movement));
  return parts.includes(undefined) ? undefined : (point) => parts.reduce((at, part) => part?.(at) ?? at, point);
}

function planePart(frame: Frame, movement: Movement): PlaneMovement | undefined {
  switch (movement.kind) {
    case 'shift':
      return Math.abs(dot(movement.by, frame.normal)) > SAME ? undefined : shiftBy([dot(movement.by, frame.x), dot(movement.by, frame.y)]);
    case 'turn': {
      const along = dot(movement.about.direction, frame.normal);
      if (Math.abs(Math.abs(along) - 1) > SAME) return undefined;
      return turnAbout(toPlane(frame, movement.about.origin), movement.angle * Math.sign(along));
    }
    case 'mirror':
      return undefined;
  }
}

/** An assembly drawn apart: every component is shifted along the direction that a mate gives it, away from the middle. Millimetres. */
import { listRecords, type DocumentValues, type MateRecord, plainId } from '../document';
import { dot, type Point3 } from '../geometry';

import { boxAt, type Box } from './close-pairs';
import { directionOf } from './mate-equations';
import type { MateGeometry } from './model';
import type { JudgedBody } from './solids';

/** Where a mate holds a component, in the space of the assembly: a plane or an axis; undefined where that is not known. */
export type MateDirection = (mate: MateRecord, side: 'first' | 'second') => MateGeometry | undefined;

/** Shifts by component for an explosion of `amount`: 0 as it stands, 1 about as far apart as it is large. Anchored components stay. */
export function explodeShifts(values: DocumentValues, bodies: readonly JudgedBody[], directionAt: MateDirection, amount: number): ReadonlyMap<string, Point3> {
  const boxes = new Map<string, Box>();
  for (const { path, box, at } of bodies) {
    const id = plainId(path[0] ?? '');
    const known = boxes.get(id);
    const next = boxAt(box, at);
    boxes.set(id, known ? around(known, next) : next);
  }
  const all = [...boxes.values()];
  const [first] = all;
  if (!first) return new Map();
  const whole = all.reduce(around, first);
  const middle = middleOf(whole);
  const size = Math.hypot(whole.max[0] - whole.min[0], whole.max[1] - whole.min[1], whole.max[2] - whole.min[2]);
  const mates = listRecords(values.document, 'mates', 'mate');
  const shifts = new Map<string, Point3>();
  for (const component of listRecords(values.document, 'components', 'component')) {
    const box = boxes.get(component.id);
    if (!box || component.isAnchored === true) continue;
    const own = middleOf(box);
    const out: Point3 = [own[0] - middle[0], own[1] - middle[1], own[2] - middle[2]];
    const direction = directionFor(component.id, mates, directionAt) ?? unitOf(out);
    const along = dot(out, direction);
    const far = amount * (Math.abs(along) + size * LEAST_SHARE) * (along < 0 ? -1 : 1);
    shifts.set(component.id, [direction[0] * far, direction[1] * far, direction[2] * far]);
  }
  return shifts;
}

/** What lies in the middle is shifted too, by this share of the size. */
const LEAST_SHARE = 0.25;

function directionFor(component: string, mates: readonly MateRecord[], directionAt: MateDirection): Point3 | undefined {
  // An axis tells more of how something is put in than a plane does.
  const own = mates.filter(({ first, second }) => [first, second].some(({ path }) => plainId(path[0] ?? '') === component));
  const ordered = [...own.filter(({ kind }) => kind === 'coaxial'), ...own.filter(({ kind }) => kind === 'coplanar')];
  for (const mate of ordered) {
    const found = directionAt(mate, plainId(mate.first.path[0] ?? '') === component ? 'first' : 'second');
    const direction = found && directionOf(found);
    if (direction) return direction;
  }
  return undefined;
}

function unitOf(v: Point3): Point3 {
  const length = Math.hypot(...v);
  return length < 1e-9 ? [0, 0, 1] : [v[0] / length, v[1] / length, v[2] / length];
}

function around(a: Box, b: Box): Box {
  const pick = (of: (...values: number[]) => number, side: 'min' | 'max'): Point3 => [
    of(a[side][0], b[side][0]),
    of(a[side][1], b[side][1]),
    of(a[side][2], b[side][2]),
  ];
  return { min: pick(Math.min, 'min'), max: pick(Math.max, 'max') };
}

function middleOf({ min, max }: Box): Point3 {
  return [(min[0] + max[0]) / 2, (min[1] + max[1]) / 2, (min[2] + max[2]) / 2];
}

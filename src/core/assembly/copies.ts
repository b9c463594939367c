/** Where the copies of a component that is repeated stand: all of them as the first, moved along or about a line. */
import { findRecord, type Component, type ComponentPattern, type DocumentValues } from '../document';
import type { Point3 } from '../geometry';
import { combine, copyId, countCopies, placeWithin, turnAbout, type Stance, type Standing } from '../instances';
import type { ShapeSource } from './gather';
import { placeGeometry, readGeometry } from './mate-geometry';
import type { MateGeometry } from './model';
import { directionOf } from './mate-equations';

/** Internal length units in a millimetre. */
const MILLIMETRE = 10_000;
const AXES: Readonly<Record<'x' | 'y' | 'z', Point3>> = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] };

/** Stances by the ids of the copies; none while the line that they are set out by, or a value of theirs, is not known. */
export function standCopies(
  values: DocumentValues,
  { id, pattern }: Component,
  first: Stance,
  line: MateGeometry | undefined,
): readonly (readonly [string, Stance])[] {
  if (!pattern || !line) return [];
  const span = values.sheet.readNumber(pattern.values.span);
  const direction = directionOf(line);
  if (!direction || Number.isNaN(span)) return [];
  const pitch = pattern.isReversed === true ? -span : span;
  return countCopies(values, pattern).map((n) => [copyId(id, n), moved(pattern, first, { point: line.point, direction }, pitch * (n - 1))] as const);
}

function moved(
  { form }: ComponentPattern,
  first: Stance,
  { point, direction: [x, y, z] }: { readonly point: Point3; readonly direction: Point3 },
  by: number,
): Stance {
  if (form === 'linear') {
    const far = by / MILLIMETRE;
    return { ...first, origin: [first.origin[0] + x * far, first.origin[1] + y * far, first.origin[2] + z * far] };
  }
  const turn = turnAbout([x, y, z], (by * Math.PI) / 180);
  // About a line that does not run through the origin: there, turned, and back.
  const back = combine({ origin: [0, 0, 0], turn }, { origin: [-point[0], -point[1], -point[2]], turn: [1, 0, 0, 0] });
  const about: Stance = { turn, origin: [back.origin[0] + point[0], back.origin[1] + point[1], back.origin[2] + point[2]] };
  return combine(about, first);
}

/** The line that copies are set out by, in the space of the assembly: an axis of its own, or that of a face or edge where it stands. */
export function lineOf(values: DocumentValues, { along }: ComponentPattern, standing: Standing, shapes: ShapeSource): MateGeometry | undefined {
  if ('axis' in along) return { kind: 'line', point: [0, 0, 0], direction: AXES[along.axis] };
  const found = placeWithin(values, along.path, standing);
  const shape = found && shapes({ key: found.key, body: along.body, name: along.name });
  const geometry = shape === undefined || shape === 'lost' ? undefined : readGeometry(shape);
  return found && geometry && placeGeometry(geometry, found.at);
}

/** Why copies do not stand where they should; undefined where they do. `stances`: where components stand, with those of copies. */
export function patternProblem(values: DocumentValues, { id, pattern }: Component, stances: ReadonlyMap<string, Stance>): string | undefined {
  if (!pattern) return undefined;
  for (const value of [pattern.values.count, pattern.values.span]) {
    const [problem] = values.sheet.read(value)?.diagnostics ?? [];
    if (problem) return `${findRecord(values.document, value, 'parameter')?.name ?? 'A value'} has an error: ${problem.message}`;
  }
  const isKnown = stances.has(id) && countCopies(values, pattern).every((n) => stances.has(copyId(id, n)));
  return isKnown ? undefined : 'The face or edge that the copies follow is not there, or is being built.';
}

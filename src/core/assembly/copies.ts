/** Where the copies of a component that is repeated stand: all of them as the first, moved along or about a line. */
import { findRecord, type Component, type ComponentPattern, type DocumentValues, type SpacedPattern } from '../document';
import type { Frame, Point3 } from '../geometry';
import {
  combine,
  copyId,
  countCopies,
  normalise,
  placesFollowed,
  placeWithin,
  relativeTo,
  rotate,
  STANDING,
  turnAbout,
  type Quaternion,
  type Stance,
  type Standing,
} from '../instances';
import type { ShapeSource } from './gather';
import { directionOf } from './mate-equations';
import { datumGeometry, placeGeometry, readGeometry } from './mate-geometry';
import type { MateGeometry } from './model';

/** Internal length units in a millimetre. */
const MILLIMETRE = 10_000;

/** Stances by the ids of the copies; none while what they are set out by, or a value of theirs, is not known. */
export function standCopies(
  values: DocumentValues,
  { id, pattern }: Component,
  first: Stance,
  { standing, shapes }: { readonly standing: Standing; readonly shapes: ShapeSource },
): readonly (readonly [string, Stance])[] {
  if (!pattern) return [];
  const movement = pattern.form === 'followed' ? movementFollowed(values, pattern.along, standing) : movementSpaced(values, pattern, standing, shapes);
  if (!movement) return [];
  return countCopies(values, pattern).flatMap((n) => {
    const moved = movement(n);
    return moved ? [[copyId(id, n), combine(moved, first)] as const] : [];
  });
}

/** What takes the first to the n-th, in the space of the assembly. */
type CopyMovement = (n: number) => Stance | undefined;

function movementSpaced(values: DocumentValues, pattern: SpacedPattern, standing: Standing, shapes: ShapeSource): CopyMovement | undefined {
  const line = lineOf(values, pattern, standing, shapes);
  const direction = line && directionOf(line);
  const span = values.sheet.readNumber(pattern.values.span);
  if (!line || !direction || Number.isNaN(span)) return undefined;
  const pitch = pattern.isReversed === true ? -span : span;
  const [x, y, z] = direction;
  if (pattern.form === 'linear') {
    return (n) => {
      const far = (pitch * (n - 1)) / MILLIMETRE;
      return { turn: STANDING.turn, origin: [x * far, y * far, z * far] };
    };
  }
  return (n) => aboutPoint(line.point, turnAbout(direction, (pitch * (n - 1) * Math.PI) / 180));
}

/** A turn about a line that does not run through the origin: there, turned, and back. */
function aboutPoint(point: Point3, turn: Quaternion): Stance {
  const [x, y, z] = rotate(turn, point);
  return { turn, origin: [point[0] - x, point[1] - y, point[2] - z] };
}

/** As the original of a pattern is moved within its part, where that stands. */
function movementFollowed(values: DocumentValues, along: FollowedPattern['along'], standing: Standing): CopyMovement | undefined {
  const places = placesFollowed(values, along);
  const host = placeWithin(values, along.path, standing);
  if (!places || !host) return undefined;
  const byNumber = new Map(places.map(({ place, frame }) => [place + 1, stanceOfFrame(frame)]));
  const back = relativeTo(host.at, STANDING);
  return (n) => {
    const inside = byNumber.get(n);
    return inside && combine(combine(host.at, inside), back);
  };
}

type FollowedPattern = Extract<ComponentPattern, { readonly form: 'followed' }>;

/** Where something stands whose axes have come to those of a frame: the quaternion of S. W. Shepperd, Journal of Guidance and Control 1, 1978. */
function stanceOfFrame({ origin, x, y, normal: z }: Frame): Stance {
  const trace = x[0] + y[1] + z[2];
  const squares = [trace, x[0] - y[1] - z[2], y[1] - x[0] - z[2], z[2] - x[0] - y[1]];
  const largest = squares.indexOf(Math.max(...squares));
  const s = 2 * Math.sqrt(1 + (squares[largest] ?? 0));
  const [a, b, c] = [y[2] - z[1], z[0] - x[2], x[1] - y[0]];
  const [d, e, f] = [y[0] + x[1], z[0] + x[2], z[1] + y[2]];
  const rows: readonly Quaternion[] = [
    [s / 4, a / s, b / s, c / s],
    [a / s, s / 4, d / s, e / s],
    [b / s, d / s, s / 4, f / s],
    [c / s, e / s, f / s, s / 4],
  ];
  return { origin, turn: normalise(rows[largest] ?? STANDING.turn) };
}

/** The line that copies are set out by, in the space of the assembly: an axis of its own, or that of a face or edge where it stands. */
function lineOf(values: DocumentValues, { along }: SpacedPattern, standing: Standing, shapes: ShapeSource): MateGeometry | undefined {
  if ('axis' in along) return datumGeometry({ path: [], axis: along.axis });
  const found = placeWithin(values, along.path, standing);
  const shape = found && shapes({ key: found.key, body: along.body, name: along.name });
  const geometry = shape === undefined || shape === 'lost' ? undefined : readGeometry(shape);
  return found && geometry && placeGeometry(geometry, found.at);
}

/** Why copies do not stand where they should; undefined where they do. `stances`: where components stand, with those of copies. */
export function patternProblem(values: DocumentValues, { id, pattern }: Component, stances: ReadonlyMap<string, Stance>): string | undefined {
  if (!pattern) return undefined;
  for (const value of Object.values<string>(pattern.values)) {
    const [problem] = values.sheet.read(value)?.diagnostics ?? [];
    if (problem) return `${findRecord(values.document, value, 'parameter')?.name ?? 'A value'} has an error: ${problem.message}`;
  }
  if (pattern.form === 'followed' && !placesFollowed(values, pattern.along)) return 'The pattern that the copies follow is not there, or is being built.';
  const isKnown = stances.has(id) && countCopies(values, pattern).every((n) => stances.has(copyId(id, n)));
  return isKnown ? undefined : 'The face or edge that the copies follow is not there, or is being built.';
}

/** How the copies of a component that is repeated are moved from where the first stands. */
import { findRecord, plainId, type ComponentPattern, type DocumentValues, type PlaneName, type SpacedPattern } from '../document';
import type { Frame, Point3 } from '../geometry';
import { combine, normalise, placesFollowed, relativeTo, rotate, STANDING, turnAbout, turnOver, type Quaternion, type Stance } from '../instances';
import { directionOf } from './mate-equations';
import type { MateGeometry } from './model';
import { MILLIMETRE } from '../units';

/** What takes the first to the n-th, in the space of what they are set out on. */
export type CopyMovement = (n: number) => Stance | undefined;

/** Along or about a line; undefined while the span has no value. */
export function movementSpaced(values: DocumentValues, pattern: SpacedPattern, line: MateGeometry): CopyMovement | undefined {
  const direction = directionOf(line);
  const span = values.sheet.readNumber(pattern.values.span);
  if (!direction || Number.isNaN(span)) return undefined;
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

/**
 * As the original of a pattern is moved within its part, which stands at `host`; undefined while that is not built. A part that is mirrored was
 * built before it was: the movements are mirrored with it, or in the plane `over` in which it stands for its image.
 */
export function movementFollowed(values: DocumentValues, along: FollowedPattern['along'], host: Stance, over?: PlaneName): CopyMovement | undefined {
  const places = placesFollowed(values, along);
  if (!places) return undefined;
  const plane = over ?? mirroredIn(values, along.path);
  const byNumber = new Map(places.map(({ place, frame }) => [place + 1, stanceOfFrame(frame)]));
  const back = relativeTo(host, STANDING);
  return (n) => {
    const built = byNumber.get(n);
    const inside = built && plane ? turnOver(plane, built, plane) : built;
    return inside && combine(combine(host, inside), back);
  };
}

/** The plane of its own that the component at the end of a path is mirrored in. */
function mirroredIn(values: DocumentValues, path: readonly string[]): PlaneName | undefined {
  let inside: DocumentValues | undefined = values;
  for (const id of path.slice(0, -1)) inside = inside?.components?.valuesOf(plainId(id));
  return inside && findRecord(inside.document, plainId(path.at(-1) ?? ''), 'component')?.mirrored;
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

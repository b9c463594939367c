/** Holes and shafts that may belong together: what a mate is offered for. */
import { placeGeometry, readGeometry } from '@/core/assembly';
import type { DocumentSession } from '../state/document-session';
import type { PlacedCylinder } from '../state/assembly-geometry';
import { wordsOfPick } from './pick-for-mate';
import type { MatePick } from '../state/drafts';

/** Radii that differ by no more than this go together, in millimetres: a hole has its play. */
const PLAY = 0.5;
const MOST_OFFERED = 6;

export interface FittingPair {
  readonly first: PlacedCylinder;
  readonly second: PlacedCylinder;
}

/**
 * Cylinders of one component with those of others that are nearly as large, the nearest in size first, then the largest. A pair of equal faces of
 * the same two components is offered once; so is what is mated already not at all: `isMated` tells of two components.
 */
export function fittingPairs(
  cylinders: readonly PlacedCylinder[],
  component: string,
  isMated: (first: string, second: string) => boolean,
): readonly FittingPair[] {
  const own = cylinders.filter(({ path }) => path[0] === component);
  const others = cylinders.filter(({ path }) => path[0] !== component && !isMated(component, path[0] ?? ''));
  const pairs = own.flatMap((second) => others.flatMap((first) => (gapOf({ first, second }) <= PLAY ? [{ first, second }] : [])));
  pairs.sort((a, b) => gapOf(a) - gapOf(b) || b.second.shape.radius - a.second.shape.radius);
  const seen = new Set<string>();
  return pairs
    .filter(({ first, second }) => {
      const alike = `${first.path[0] ?? ''} ${first.shape.radius.toFixed(3)} ${second.shape.radius.toFixed(3)}`;
      return !seen.has(alike) && seen.add(alike);
    })
    .slice(0, MOST_OFFERED);
}

function gapOf({ first, second }: FittingPair): number {
  return Math.abs(first.shape.radius - second.shape.radius);
}

/** A cylinder as something that was clicked. */
export function pickOf(session: DocumentSession, { path, body, name, shape, at }: PlacedCylinder): MatePick | undefined {
  const geometry = readGeometry(shape);
  return geometry && { reference: { path: [...path], body, name }, geometry: placeGeometry(geometry, at), words: wordsOfPick(session, path, name).words };
}

/** Where the solver has put components, as places to be kept. */
import { findRecord, type Document, type Placement } from '@/core/document';
import type { Stance } from '@/core/instances';

/** Components that stand elsewhere than where they were put. */
export function movedPlaces(document: Document, solved: ReadonlyMap<string, Stance>): Record<string, Placement> {
  const places: Record<string, Placement> = {};
  for (const [id, stance] of solved) {
    const at = findRecord(document, id, 'component')?.at;
    if (at && !isSame(at, stance)) places[id] = toPlacement(stance);
  }
  return places;
}

export function toPlacement({ origin, turn }: Stance): Placement {
  return { origin: [...origin], turn: [...turn] };
}

function isSame(at: Placement, { origin, turn }: Stance): boolean {
  return at.origin.every((value, i) => value === origin[i]) && at.turn.every((value, i) => value === turn[i]);
}

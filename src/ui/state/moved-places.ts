/** Where the solver has put components, as places to be kept. */
import { findRecord, type Document, type EditOf, type Placement } from '@/core/document';
import { relativeTo, type Stance } from '@/core/instances';

/**
 * Keeps where components stand now; undefined where all of them stand where they were put. `solved` is by paths of ids joined with spaces: those
 * in flexible sub-assemblies are kept with these, as they stand within them.
 */
export function placesEdit(document: Document, solved: ReadonlyMap<string, Stance>): EditOf<'component.place'> | undefined {
  const places: Record<string, Placement> = {};
  const inside: Record<string, Record<string, Placement>> = {};
  for (const [path, stance] of solved) {
    const [id = '', ...below] = path.split(' ');
    const component = findRecord(document, id, 'component');
    const around = solved.get(id);
    if (!component?.at || !around) continue;
    if (below.length === 0) {
      if (!isSame(component.at, stance)) places[id] = toPlacement(stance);
      continue;
    }
    const within = toPlacement(relativeTo(around, stance));
    (inside[id] ??= {})[below.join('/')] = within;
  }
  for (const [id, stances] of Object.entries(inside)) {
    const component = findRecord(document, id, 'component');
    const known = component?.inside ?? {};
    if (Object.entries(stances).every(([path, stance]) => known[path] !== undefined && isSame(known[path], stance))) delete inside[id];
    else if (component?.at) places[id] ??= component.at;
  }
  if (Object.keys(places).length === 0) return undefined;
  return { type: 'component.place', places, ...(Object.keys(inside).length > 0 ? { inside } : {}) };
}

export function toPlacement({ origin, turn }: Stance): Placement {
  return { origin: [...origin], turn: [...turn] };
}

function isSame(at: Placement, { origin, turn }: Stance): boolean {
  return at.origin.every((value, i) => value === origin[i]) && at.turn.every((value, i) => value === turn[i]);
}

/** Where the solver has put components, as places to be kept. */
import type { AssemblyPlacement } from '@/core/assembly';
import { findRecord, type Document, type EditOf, type Placement } from '@/core/document';
import { relativeTo, type Stance } from '@/core/instances';
import { RADIAN } from '@/core/units';

/**
 * Keeps where components stand now; undefined where all of them stand where they were put. Those
 * in flexible sub-assemblies are kept with these, as they stand within them; turns that mates count are kept along.
 */
export function placesEdit(document: Document, placement: Pick<AssemblyPlacement, 'stances' | 'turned'> | undefined): EditOf<'component.place'> | undefined {
  const solved = placement?.stances ?? new Map<string, Stance>();
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
  const turned: Record<string, number> = {};
  for (const [id, angle] of placement?.turned ?? []) {
    const mate = findRecord(document, id, 'mate');
    if (mate && mate.turned !== angle * RADIAN) turned[id] = angle * RADIAN;
  }
  if (Object.keys(places).length === 0) return undefined;
  return {
    type: 'component.place',
    places,
    ...(Object.keys(inside).length > 0 ? { inside } : {}),
    ...(Object.keys(turned).length > 0 ? { turned } : {}),
  };
}

export function toPlacement({ origin, turn }: Stance): Placement {
  return { origin: [...origin], turn: [...turn] };
}

function isSame(at: Placement, { origin, turn }: Stance): boolean {
  return at.origin.every((value, i) => value === origin[i]) && at.turn.every((value, i) => value === turn[i]);
}

/** A component that is dragged in the picture, as far as its mates let it. */
import { isFlexible } from '@/core/assembly';
import { findRecord, type DocumentValues, plainId } from '@/core/document';
import type { Point3 } from '@/core/geometry';
import { inverse, rotate, type Stance } from '@/core/instances';
import type { DocumentSession } from '../state/document-session';

/** What is dragged: the body for the solver, and the point of it that was pressed, in its own space. */
export interface Grip {
  readonly body: string;
  readonly point: Point3;
}

/** The grip at a place of a part, by its path; undefined for what does not move, and why. */
export function gripAt(session: DocumentSession, path: readonly string[], place: Point3): Grip | { readonly refusal: string } {
  const [first = ''] = path;
  const component = findRecord(session.document, plainId(first), 'component');
  if (!component) return { refusal: 'It is no longer there.' };
  if (first !== plainId(first)) return { refusal: `${component.name} is a copy: drag the first one.` };
  if (component.isAnchored === true && !isFlexible(component)) return { refusal: `${component.name} is anchored: it does not move.` };
  const body = deepestBody(session.values, path);
  const stance = session.store.getState().placement?.stances.get(body);
  return stance ? { body, point: toInside(stance, place) } : { refusal: `${component.name} is being built.` };
}

/** Down through flexible sub-assemblies. */
function deepestBody(values: DocumentValues, path: readonly string[]): string {
  const body: string[] = [];
  let inside: DocumentValues | undefined = values;
  for (const id of path) {
    const component: ReturnType<typeof findRecord<'component'>> = inside && findRecord(inside.document, plainId(id), 'component');
    if (!component) break;
    body.push(id);
    if (!isFlexible(component)) break;
    inside = inside?.components?.valuesOf(id);
  }
  return body.join(' ');
}

function toInside({ origin, turn }: Stance, [x, y, z]: Point3): Point3 {
  return rotate(inverse(turn), [x - origin[0], y - origin[1], z - origin[2]]);
}

/**
 * A sub-assembly that is mirrored. Bodies cannot be placed by a reflection, so each of its components is mirrored in a plane of its own, and what
 * is left is a rotation: with P the reflection of the whole and B that of a component which stands at S, the image P S x is (P S B)(B x). A component
 * that is mirrored already is itself again, B being its own plane; one that is alike on both sides of a plane stays as it is, B being that plane.
 *
 * Mates go on holding, for they are sums of products of vectors that are all reflected. What is a turn changes its sign: the direction that an angle
 * is about, turns that are counted, the hand of a screw.
 */
import {
  listRecords,
  plainId,
  type Component,
  type ComponentPattern,
  type Document,
  type DocumentRecord,
  type MateRecord,
  type PlaneName,
  type TurnedOver,
} from '../document';
import { cross, DATUM_FRAMES, type Point3 } from '../geometry';
import { multiply, type Quaternion, type Stance } from './stance';

/** A point or direction in a mirror through the origin. */
export function reflect(plane: PlaneName, [x, y, z]: Point3): Point3 {
  switch (plane) {
    case 'front':
      return [x, 0 - y, z];
    case 'top':
      return [x, y, 0 - z];
    case 'side':
      return [0 - x, y, z];
  }
}

/** P S B: where something stands whose surroundings are mirrored in `outside`, and itself in `inside`. */
export function turnOver(outside: PlaneName, { origin, turn: [w, ...axis] }: Stance, inside: PlaneName): Stance {
  // The axis of a turn is no arrow: in a mirror it is reflected and turned about.
  const [x, y, z] = reflect(outside, axis);
  const mirrored: Quaternion = [w, 0 - x, 0 - y, 0 - z];
  // Two reflections are half a turn about the line that their planes share.
  const half = cross(DATUM_FRAMES[outside].normal, DATUM_FRAMES[inside].normal);
  return { origin: reflect(outside, origin), turn: outside === inside ? mirrored : multiply(mirrored, [0, ...half]) };
}

export function mirrorAssembly(document: Document, plane: PlaneName): Document {
  const components = listRecords(document, 'components', 'component').filter(({ at }) => at !== undefined);
  const turned: Record<string, TurnedOver> = Object.fromEntries(components.map((component) => [component.id, turnedOver(component, plane)]));
  const records: Record<string, DocumentRecord> = { ...document.records };
  for (const component of components) records[component.id] = mirrorComponent(component, plane, turned[component.id]?.in ?? plane);
  for (const mate of listRecords(document, 'mates', 'mate')) records[mate.id] = mirrorMate(mate, (path) => turned[plainId(path[0] ?? '')]?.in ?? plane);
  return { ...document, records, turnedOver: { plane, components: turned } };
}

function turnedOver({ mirrored, alike }: Component, plane: PlaneName): TurnedOver {
  if (mirrored !== undefined) return { in: mirrored, isAsItIs: false };
  return alike === undefined ? { in: plane, isAsItIs: false } : { in: alike, isAsItIs: true };
}

function mirrorComponent(component: Component, plane: PlaneName, own: PlaneName): Component {
  const { mirrored, inside, at, pattern, ...rest } = component;
  const over = (stance: Stance, from: PlaneName): NonNullable<Component['at']> => placementOf(turnOver(from, stance, own));
  return {
    ...rest,
    ...(at ? { at: over(at, plane) } : {}),
    ...(mirrored === undefined && component.alike === undefined ? { mirrored: plane } : {}),
    // Where a solve begins: what is mirrored further in than this is brought there by its mates.
    ...(inside ? { inside: Object.fromEntries(Object.entries(inside).map(([path, stance]) => [path, over(stance, own)])) } : {}),
    ...(pattern ? { pattern: mirrorPattern(pattern) } : {}),
  };
}

/** Its line is reflected where it is read; round that it goes the other way. */
function mirrorPattern(pattern: ComponentPattern): ComponentPattern {
  return pattern.form === 'circular' ? { ...pattern, isReversed: pattern.isReversed !== true } : pattern;
}

function mirrorMate(mate: MateRecord, planeOf: (path: readonly string[]) => PlaneName): MateRecord {
  const [first, second, third] = [mate.first, mate.second, mate.third ?? mate.first].map(({ path }) => planeOf(path));
  if (!first || !second || !third) return mate;
  const { about, within, starts, turned, kind, sense } = mate;
  const start = (turn: Quaternion, own: PlaneName): [number, number, number, number] => [...turnOver(third, { origin: [0, 0, 0], turn }, own).turn];
  return {
    ...mate,
    ...(about ? { about: opposite(reflect(first, about)) } : {}),
    ...(within ? { within: placementOf(turnOver(first, within, second)) } : {}),
    ...(starts ? { starts: [start(starts[0], first), start(starts[1], second)] } : {}),
    ...(kind === 'screw' ? { sense: sense === 1 ? -1 : 1 } : {}),
    ...(turned !== undefined && kind !== 'angle' ? { turned: -turned } : {}),
  };
}

function placementOf({ origin, turn }: Stance): NonNullable<Component['at']> {
  return { origin: [...origin], turn: [...turn] };
}

function opposite([x, y, z]: Point3): [number, number, number] {
  return [0 - x, 0 - y, 0 - z];
}

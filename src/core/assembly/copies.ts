/** Where the copies of a component that is repeated stand: all of them as the first, moved along or about a line. */
import { copyId, findRecord, type Component, type ComponentPattern, type DocumentValues, type SpacedPattern } from '../document';
import { combine, countCopies, placesFollowed, placeWithin, type Stance, type Standing } from '../instances';
import { movementFollowed, movementSpaced, type CopyMovement } from './copy-movements';
import type { ShapeSource } from './gather';
import { datumGeometry, placeGeometry, readInMirror, reflectGeometry } from './mate-geometry';
import type { MateGeometry } from './model';

/** Stances by the ids of the copies; none while what they are set out by, or a value of theirs, is not known. */
export function standCopies(
  values: DocumentValues,
  { id, pattern }: Component,
  first: Stance,
  { standing, shapes }: { readonly standing: Standing; readonly shapes: ShapeSource },
): readonly (readonly [string, Stance])[] {
  if (!pattern) return [];
  const movement = movementOf(values, pattern, standing, shapes);
  if (!movement) return [];
  return countCopies(values, pattern).flatMap((n) => {
    const moved = movement(n);
    return moved ? [[copyId(id, n), combine(moved, first)] as const] : [];
  });
}

/** In the space of the assembly. */
function movementOf(values: DocumentValues, pattern: ComponentPattern, standing: Standing, shapes: ShapeSource): CopyMovement | undefined {
  if (pattern.form === 'followed') {
    const host = placeWithin(values, pattern.along.path, standing);
    return host && movementFollowed(values, pattern.along, host.at, host.over);
  }
  const line = lineOf(values, pattern, standing, shapes);
  return line && movementSpaced(values, pattern, line);
}

/** The line that copies are set out by, in the space of the assembly: an axis of its own, or that of a face or edge where it stands. */
function lineOf(values: DocumentValues, { along }: SpacedPattern, standing: Standing, shapes: ShapeSource): MateGeometry | undefined {
  if ('axis' in along) {
    const axis = datumGeometry({ path: [], axis: along.axis });
    return axis && reflectGeometry(axis, values.document.turnedOver?.plane);
  }
  const found = placeWithin(values, along.path, standing);
  const shape = found && shapes({ key: found.key, body: along.body, name: along.name });
  const geometry = shape === undefined || shape === 'lost' ? undefined : readInMirror(shape, found ?? {});
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

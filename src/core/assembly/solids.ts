/** The bodies that stand in an assembly, as they are judged: what each is, where it stands, what it weighs. */
import type { PlacedPart } from '../instances';
import type { Stance } from '../instances';
import type { BodyProperties } from '../kernel-port';
import type { Box } from './close-pairs';

/** A body of a part in the assembly, as far as it is judged. */
export interface JudgedBody {
  readonly path: readonly string[];
  readonly body: string;
  /** Key of its shape. */
  readonly key: string;
  readonly box: Box;
  readonly at: Stance;
}

/** One that is built, with all that is known of it. */
export interface PlacedSolid extends JudgedBody {
  readonly part: PlacedPart;
  readonly properties: BodyProperties;
  /** Kilograms; undefined where it has none, for the reason that is given. */
  readonly mass: number | undefined;
  readonly massProblem: string | undefined;
}

/** What a regeneration tells of a body. */
export interface BuiltBody {
  readonly id: string;
  readonly key?: string;
  readonly properties?: BodyProperties;
  readonly mass?: number;
  readonly massProblem?: string;
  readonly usedBy?: string;
}

/** `built`: what has been built of parts, by the keys of their instances. */
export function listSolids(placed: readonly PlacedPart[], built: (key: string) => readonly BuiltBody[] | undefined): PlacedSolid[] {
  return placed.flatMap((part) =>
    (built(part.key) ?? []).flatMap(({ id, key, properties, mass, massProblem, usedBy }): PlacedSolid[] =>
      key === undefined || !properties || usedBy !== undefined
        ? []
        : [{ path: part.path, body: id, key, box: properties.box, at: part.at, part, properties, mass, massProblem }],
    ),
  );
}

/** Where the components of an assembly stand: its mates, with what they hold on to and what their values are, solved. */
import { listRecords, type Component, type DocumentValues, type MateRecord, type MateReference } from '../document';
import { combine, Instances, STANDING, type Instance, type Stance } from '../instances';
import { datumGeometry, placeGeometry, readGeometry, type GeometryShape } from './mate-geometry';
import { measuresOf } from './measures';
import type { Mate, MateGeometry, Placements } from './model';
import { equationsOf } from './residuals';
import { solvePlacements } from './solve';

/** Internal length units in a millimetre. */
const MILLIMETRE = 10_000;

/** A face or edge of a part with the values that it has in the assembly. */
export interface WantedShape {
  readonly key: string;
  readonly body: string;
  readonly name: string;
}

/** What is known of faces and edges of built parts: `lost` for one that is not there, undefined while nobody has looked. */
export type ShapeSource = (wanted: WantedShape) => GeometryShape | 'lost' | undefined;

export interface MateOutcome {
  readonly status: 'holds' | 'redundant' | 'conflicting' | 'failed' | 'waiting' | 'suppressed';
  readonly message?: string;
}

export interface AssemblyPlacement extends Pick<Placements, 'freedom' | 'degreesOfFreedom' | 'status'> {
  /** By component: where it stands. Those without a place are not there. */
  readonly stances: ReadonlyMap<string, Stance>;
  readonly mates: ReadonlyMap<string, MateOutcome>;
}

/** `startAt`: where a solve begins, for components that were solved before; the places that they were given otherwise, and where no mate holds them. */
export function placeComponents(values: DocumentValues, shapes: ShapeSource, startAt: ReadonlyMap<string, Stance> = new Map()): AssemblyPlacement {
  const { document, components } = values;
  const outcomes = new Map<string, MateOutcome>();
  const placed = listRecords(document, 'components', 'component').filter(({ at }) => at !== undefined);
  const isThere = (id: string): boolean => placed.some((one) => one.id === id) && !values.isSuppressed(id);
  const mates: Mate[] = [];
  for (const record of listRecords(document, 'mates', 'mate')) {
    if (values.isSuppressed(record.id)) outcomes.set(record.id, { status: 'suppressed' });
    else {
      const read = components instanceof Instances ? readMate(record, values, components, shapes, isThere) : { status: 'waiting' as const };
      if ('mate' in read) mates.push(read.mate);
      else outcomes.set(record.id, read);
    }
  }
  const mated = new Set(mates.flatMap(({ first, second }) => [first.body, second.body]));
  const bodies = [
    { id: ASSEMBLY, at: STANDING, isHeld: true },
    ...placed.map(({ id, at = STANDING, isAnchored }) => ({
      id,
      at: isAnchored || !mated.has(id) ? at : (startAt.get(id) ?? at),
      isHeld: isAnchored === true,
    })),
  ];
  const solved = solvePlacements(bodies, mates);
  for (const { id } of mates) {
    if (solved.conflicting.includes(id)) outcomes.set(id, { status: 'conflicting', message: conflictWords(solved.conflicting, id, values) });
    else if (solved.redundant.includes(id)) outcomes.set(id, { status: 'redundant', message: 'Earlier mates already hold this.' });
    else outcomes.set(id, solved.status === 'not-converged' ? { status: 'failed', message: 'No placement was found.' } : { status: 'holds' });
  }
  const stances = new Map([...solved.stances].filter(([id]) => id !== ASSEMBLY));
  return { stances, mates: outcomes, status: solved.status, freedom: solved.freedom, degreesOfFreedom: solved.degreesOfFreedom };
}

/** Stands for the assembly itself among the bodies: no id of a record is like it. */
const ASSEMBLY = '';

function conflictWords(conflicting: readonly string[], id: string, values: DocumentValues): string {
  const others = conflicting.flatMap((other) => {
    const record = values.document.records[other];
    return other !== id && record?.type === 'mate' ? record.name : [];
  });
  return `This mate conflicts with ${others.join(', ')}.`;
}

type ReadMate = { readonly mate: Mate } | MateOutcome;

function readMate(record: MateRecord, values: DocumentValues, components: Instances, shapes: ShapeSource, isThere: (id: string) => boolean): ReadMate {
  const sides: MateGeometry[] = [];
  for (const reference of [record.first, record.second]) {
    const [owner] = reference.path;
    if (owner !== undefined && !isThere(owner)) return { status: 'waiting', message: 'Its component is suppressed.' };
    const found = geometryOf(reference, values, components, shapes);
    if ('status' in found) return found;
    sides.push(found);
  }
  const [first, second] = sides;
  if (!first || !second) return { status: 'waiting' };
  const id = record.values['offset'] ?? record.values['angle'];
  const reading = id === undefined ? undefined : values.sheet.read(id);
  const [problem] = reading?.diagnostics ?? [];
  if (problem) return { status: 'failed', message: `Its value has an error: ${problem.message}` };
  const value = reading === undefined ? 0 : record.kind === 'angle' ? (reading.value * Math.PI) / 180 : reading.value / MILLIMETRE;
  const mate: Mate = {
    id: record.id,
    kind: record.kind,
    first: { body: record.first.path[0] ?? ASSEMBLY, geometry: first },
    second: { body: record.second.path[0] ?? ASSEMBLY, geometry: second },
    sense: record.sense,
    value,
    ...(record.about ? { about: record.about } : {}),
    ...(record.within ? { within: record.within } : {}),
  };
  return equationsOf(mate, 0, 1) ? { mate } : { status: 'failed', message: 'Its geometry is of another kind now. Pick it again.' };
}

/** What a reference means in the space of the component that it begins with. */
function geometryOf(reference: MateReference, values: DocumentValues, components: Instances, shapes: ShapeSource): MateGeometry | MateOutcome {
  const [first, ...rest] = reference.path;
  if ('plane' in reference && rest.length === 0) return datumGeometry(reference.plane);
  const found = first === undefined ? undefined : findInstance(components, first, rest, shapes);
  if (!found) return { status: 'waiting', message: 'Its component is not there.' };
  if ('plane' in reference) return placeGeometry(datumGeometry(reference.plane), found.at);
  const shape = shapes({ key: found.instance.key, body: reference.body, name: reference.name });
  if (shape === undefined) return { status: 'waiting', message: 'Its component is being built.' };
  const geometry = shape === 'lost' ? undefined : readGeometry(shape);
  if (!geometry)
    return {
      status: 'failed',
      message: shape === 'lost' ? 'A face or edge that it was made on is no longer there; pick another.' : 'A mate cannot use this kind of face. Pick another.',
    };
  return placeGeometry(geometry, found.at);
}

/** The part at the end of a path, and where it stands in the first component of it. */
function findInstance(
  components: Instances,
  first: string,
  rest: readonly string[],
  shapes: ShapeSource,
): { readonly instance: Instance; readonly at: Stance } | undefined {
  let instance = components.find(first);
  let at: Stance = STANDING;
  for (const id of rest) {
    const inner = instance?.values;
    if (!inner || !(inner.components instanceof Instances)) return undefined;
    const stance = placeComponents(inner, shapes).stances.get(id);
    if (!stance) return undefined;
    at = combine(at, stance);
    instance = inner.components.find(id);
  }
  return instance?.values ? { instance, at } : undefined;
}

/** Faces and edges that the mates of an assembly, and of its sub-assemblies, hold on to. */
export function listWanted(values: DocumentValues): WantedShape[] {
  const wanted = new Map<string, WantedShape>();
  const visit = (inside: DocumentValues): void => {
    const { components, document } = inside;
    if (!(components instanceof Instances)) return;
    const mated = listRecords(document, 'mates', 'mate').flatMap(({ first, second }) => [first, second]);
    for (const reference of [...mated, ...measuresOf(document).flatMap(({ measure }) => ('on' in measure ? measure.on : []))]) {
      if (!('body' in reference) || reference.body === undefined || reference.name === undefined) continue;
      const { path, body, name } = reference;
      const key = keyAt(components, path);
      if (key !== undefined) wanted.set(`${key} ${body} ${name}`, { key, body, name });
    }
    const seen = new Set<DocumentValues>();
    for (const component of listRecords(document, 'components', 'component')) {
      const below = valuesBelow(components, component);
      if (below && !seen.has(below)) {
        seen.add(below);
        visit(below);
      }
    }
  };
  visit(values);
  return [...wanted.values()];
}

function valuesBelow(components: Instances, { id, at }: Component): DocumentValues | undefined {
  const values = at === undefined ? undefined : components.find(id)?.values;
  return values?.document.kind === 'assembly' ? values : undefined;
}

function keyAt(components: Instances, [first = '', ...rest]: readonly string[]): string | undefined {
  let instance = components.find(first);
  for (const id of rest) {
    const inner = instance?.values?.components;
    instance = inner instanceof Instances ? inner.find(id) : undefined;
  }
  return instance?.values ? instance.key : undefined;
}

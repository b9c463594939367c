/**
 * The bodies and the mates of an assembly for the solver. A sub-assembly is one body; a flexible one is the body of its own planes, with each of
 * its components a body beside it, and its mates in force: what is anchored in it is fixed to those planes.
 */
import {
  copyNumber,
  findRecord,
  listRecords,
  mateOwners,
  matePlaces,
  mateSlots,
  plainId,
  type Component,
  type Document,
  type DocumentValues,
  type MateReference,
  type MateRecord,
  type PlaneName,
} from '../document';
import { combine, countCopies, inMirror, Instances, relativeTo, STANDING, turnOver, type InMirror, type Instance, type Stance } from '../instances';
import { movementFollowed, movementSpaced, type CopyMovement } from './copy-movements';
import { datumGeometry, placeGeometry, readInMirror, reflectGeometry } from './mate-geometry';
import type { GeometryShape } from '../kernel-port';
import type { EquationsOfMates, Mate, MatedBody, MateGeometry, MateSide } from './model';
import { equationsOf } from './mate-equations';
import { DEGREE, MILLIMETRE } from '../units';

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
  /** Whether both sides are of one sort, so that its sense says something; unknown while it is not solved. */
  readonly bothRun?: boolean;
}

/** Stands for the assembly itself among the bodies: no path of components is like it. */
export const ASSEMBLY = '';

/** Where the components of an assembly stand when nothing from outside moves them. */
export type RigidStances = (inside: DocumentValues) => ReadonlyMap<string, Stance>;

export interface Gathered {
  readonly bodies: readonly MatedBody[];
  readonly mates: readonly Mate[];
  /** Of mates of the outermost assembly that are not solved. */
  readonly outcomes: ReadonlyMap<string, MateOutcome>;
}

/** Where a solve goes on from: where components stood, and how far those of mates that count turns had turned, in radians. */
export interface StartAt {
  readonly stances: ReadonlyMap<string, Stance>;
  readonly turned: ReadonlyMap<string, number>;
}

export interface GatherOptions {
  readonly rigid: RigidStances;
  /** Where a solve begins, by paths joined with spaces; the places that components were given otherwise, and where no mate holds them. */
  readonly startAt: StartAt;
  /** Equations that give way to the others. */
  readonly yielding: EquationsOfMates;
}

export function gather(values: DocumentValues, shapes: ShapeSource, options: GatherOptions): Gathered {
  const gathering = new Gathering(shapes, options);
  gathering.enter(values, [], STANDING);
  return gathering;
}

/** The body that a face or edge of a component moves with, and what it is in the space of that; undefined where it is not there, or no mate could hold on to it. */
export function gatherSide(values: DocumentValues, shapes: ShapeSource, options: GatherOptions, reference: MateReference): MateSide | undefined {
  const found = new Gathering(shapes, options).geometryOf(reference, { values, path: [] });
  return 'status' in found ? undefined : found;
}

interface Level {
  readonly values: DocumentValues;
  readonly path: readonly string[];
}

/** A component that can be moved, and what a path leads to within it. */
interface Located {
  readonly body: string;
  readonly instance: Instance;
  /** Where that stands within the body. */
  readonly at: Stance;
  /** The plane that its own planes and axes are mirrored in, in a mirrored assembly; and how its faces are seen there. */
  readonly turned: PlaneName | undefined;
  readonly seen: InMirror;
}

type ReadMate = { readonly mate: Mate } | MateOutcome;

class Gathering implements Gathered {
  readonly bodies: MatedBody[] = [{ id: ASSEMBLY, at: STANDING, isHeld: true }];
  readonly mates: Mate[] = [];
  readonly outcomes = new Map<string, MateOutcome>();

  constructor(
    private readonly shapes: ShapeSource,
    private readonly options: GatherOptions,
  ) {}

  /** Takes in an assembly: the outermost, or a flexible one that stands at `around`. */
  enter(values: DocumentValues, path: readonly string[], around: Stance): void {
    const level: Level = { values, path };
    const isOutermost = path.length === 0;
    const placed = listRecords(values.document, 'components', 'component').filter(({ id, at }) => at !== undefined && !values.isSuppressed(id));
    const there = new Set(placed.map(({ id }) => id));
    const mates: Mate[] = [];
    /** Copies that mates hold, by their ids. */
    const copies = new Set<string>();
    for (const record of listRecords(values.document, 'mates', 'mate')) {
      const read: ReadMate = values.isSuppressed(record.id) ? { status: 'suppressed' } : this.readMate(record, level, there);
      if ('mate' in read) {
        mates.push(read.mate);
        for (const {
          path: [owner = ''],
        } of matePlaces(record))
          if (copyNumber(owner) > 1) copies.add(owner);
      } else if (isOutermost) this.outcomes.set(record.id, read);
    }
    this.mates.push(...mates);
    // Those that a mate holds, themselves or by what is in them.
    const mated = new Set(
      mates
        .flatMap(({ first, second, third }) => [first.body, second.body, ...(third ? [third.body] : [])])
        .map((body) =>
          body
            .split(' ')
            .slice(0, path.length + 1)
            .map(plainId)
            .join(' '),
        ),
    );
    const inner = isOutermost ? undefined : this.options.rigid(values);
    for (const component of placed) {
      const here = [...path, component.id];
      const id = here.join(' ');
      const { at = STANDING } = component;
      const own = inner ? combine(around, inner.get(component.id) ?? at) : at;
      const known = this.options.startAt.stances.get(id);
      const start = isOutermost && (component.isAnchored === true || !mated.has(id)) ? own : (known ?? own);
      this.bodies.push({ id, at: start, isHeld: isOutermost && component.isAnchored === true });
      this.enterFlexible(component, values, here, start);
    }
    for (const copy of copies) this.enterCopy(copy, level);
    if (inner) for (const id of fixedIn(values.document, there)) this.fix(path, id, inner);
  }

  /** A copy that a mate holds is a body beside the first, which stands to it as its pattern says. */
  private enterCopy(copy: string, level: Level): void {
    const component = findRecord(level.values.document, plainId(copy), 'component');
    const found = component && this.movementOf(component, level);
    const moved = found?.movement(copyNumber(copy));
    const start = (body: string): Stance => this.bodies.find(({ id }) => id === body)?.at ?? STANDING;
    if (!component || !found || !moved) return;
    const [first, second] = [component.id, copy].map((id) => [...level.path, id].join(' '));
    if (first === undefined || second === undefined) return;
    const around = start(found.frame);
    const at = combine(around, combine(moved, relativeTo(around, start(first))));
    this.bodies.push({ id: second, at, isHeld: false });
    const origin = { kind: 'point', point: [0, 0, 0] } as const;
    const [a, b, third] = [first, second, found.frame].map((body) => ({ body, geometry: origin }));
    // Before the mates: those are what adds nothing, or does not go with the others.
    if (a && b && third) this.mates.unshift({ id: `copy ${second}`, kind: 'copy', first: a, second: b, third, sense: 1, value: 0, within: moved });
  }

  /** How the copies of a component are moved, in the space of the body that they are set out on. */
  private movementOf({ pattern }: Component, level: Level): { readonly movement: CopyMovement; readonly frame: string } | undefined {
    if (!pattern) return undefined;
    const { values } = level;
    if (pattern.form === 'followed') {
      const host = this.locate(level, pattern.along.path);
      const movement = host && movementFollowed(values, pattern.along, host.at, host.seen.over);
      return movement && { movement, frame: host.body };
    }
    const along = this.geometryOf('axis' in pattern.along ? { path: [], axis: pattern.along.axis } : pattern.along, level);
    const movement = 'status' in along ? undefined : movementSpaced(values, pattern, along.geometry);
    return 'status' in along || !movement ? undefined : { movement, frame: along.body };
  }

  private enterFlexible(component: Component, values: DocumentValues, path: readonly string[], at: Stance): void {
    const inner = isFlexible(component) && values.components instanceof Instances ? values.components.find(component.id)?.values : undefined;
    if (inner?.document.kind !== 'assembly') return;
    const kept = Object.entries(component.inside ?? {});
    const { stances, turned } = this.options.startAt;
    const known = new Map(stances);
    for (const [inside, stance] of kept) {
      const id = [...path, ...inside.split('/')].join(' ');
      if (!known.has(id)) known.set(id, combine(at, stance));
    }
    const gathering = kept.length === 0 ? this : new Gathering(this.shapes, { ...this.options, startAt: { stances: known, turned } });
    gathering.enter(inner, path, at);
    if (gathering === this) return;
    this.bodies.push(...gathering.bodies.filter(({ id }) => id !== ASSEMBLY));
    this.mates.push(...gathering.mates);
  }

  /** What is anchored in a flexible sub-assembly stands still in it. */
  private fix(path: readonly string[], id: string, inner: ReadonlyMap<string, Stance>): void {
    const within = inner.get(id);
    if (!within) return;
    const origin = { kind: 'point', point: [0, 0, 0] } as const;
    const body = [...path, id].join(' ');
    this.mates.push({
      id: `fixed ${body}`,
      kind: 'together',
      first: { body: path.join(' '), geometry: origin },
      second: { body, geometry: origin },
      sense: 1,
      value: 0,
      within,
    });
  }

  private readMate(record: MateRecord, level: Level, there: ReadonlySet<string>): ReadMate {
    const sides: { readonly body: string; readonly geometry: MateGeometry }[] = [];
    for (const reference of matePlaces(record)) {
      const [owner] = reference.path;
      if (owner !== undefined && !there.has(plainId(owner))) {
        const component = findRecord(level.values.document, plainId(owner), 'component');
        const why = !component ? 'is not there' : component.at === undefined ? 'has no place: it sets values for the others' : 'is suppressed';
        return { status: 'waiting', message: `Its component ${why}.` };
      }
      const lacking = owner === undefined ? undefined : missingCopy(level.values, owner);
      if (lacking !== undefined) return { status: 'waiting', message: lacking };
      const repeated = owner !== undefined && copyNumber(owner) > 1 ? findRecord(level.values.document, plainId(owner), 'component') : undefined;
      if (repeated && !this.movementOf(repeated, level)) return { status: 'waiting', message: 'What its copies follow is not there, or is being built.' };
      const found = this.geometryOf(reference, level);
      if ('status' in found) return found;
      sides.push(found);
    }
    const [first, second, third] = sides;
    if (!first || !second) return { status: 'waiting' };
    const numbers = readNumbers(record, level.values);
    if ('status' in numbers) return numbers;
    const id = [...level.path, record.id].join(' ');
    const { startAt, yielding } = this.options;
    const turned = startAt.turned.get(id) ?? (record.turned === undefined ? undefined : record.turned * DEGREE);
    const mate: Mate = {
      id,
      kind: record.kind,
      first,
      second,
      ...(third ? { third } : {}),
      sense: record.sense,
      ...numbers,
      ...(record.about ? { about: record.about } : {}),
      ...(record.within ? { within: record.within } : {}),
      ...(record.starts ? { starts: record.starts } : {}),
      ...(turned === undefined ? {} : { turned }),
      ...(yielding.has(id) ? { yielding: yielding.get(id) ?? [] } : {}),
    };
    return equationsOf(mate, { first: 0, second: 1, third: third ? 2 : 0 })
      ? { mate }
      : { status: 'failed', message: 'Its geometry does not go with this mate now. Pick it again.' };
  }

  /** What a reference means in the space of the body that it is of. */
  geometryOf(reference: MateReference, level: Level): { readonly body: string; readonly geometry: MateGeometry } | MateOutcome {
    const datum = datumGeometry(reference);
    if (datum && reference.path.length === 0) return { body: level.path.join(' '), geometry: reflectGeometry(datum, level.values.document.turnedOver?.plane) };
    const found = this.locate(level, reference.path);
    if (!found) return { status: 'waiting', message: 'Its component is not there.' };
    const { body, at } = found;
    if (datum) return { body, geometry: placeGeometry(reflectGeometry(datum, found.turned), at) };
    if (!('body' in reference)) throw new Error('Bug: a place without geometry');
    const shape = this.shapes({ key: found.instance.key, body: reference.body, name: reference.name });
    if (shape === undefined) return { status: 'waiting', message: 'Its component is being built.' };
    const geometry = shape === 'lost' ? undefined : readInMirror(shape, found.seen);
    if (geometry) return { body, geometry: placeGeometry(geometry, at) };
    return {
      status: 'failed',
      message: shape === 'lost' ? 'A face or edge that it was made on is no longer there; pick another.' : 'A mate cannot use this kind of face. Pick another.',
    };
  }

  private locate({ values, path: above }: Level, path: readonly string[]): Located | undefined {
    let inside = values;
    let moving: readonly string[] | undefined = above;
    let body = '';
    let at: Stance = STANDING;
    let instance: Instance | undefined;
    let turned: PlaneName | undefined;
    let seen: InMirror = {};
    for (const id of path) {
      const component = findRecord(inside.document, plainId(id), 'component');
      instance = inside.components instanceof Instances ? inside.components.find(plainId(id)) : undefined;
      if (!component || !instance?.values) return undefined;
      if (moving) {
        moving = [...moving, id];
        body = moving.join(' ');
      } else {
        const stance = this.options.rigid(inside).get(id);
        if (!stance) return undefined;
        at = combine(at, seen.over ? turnOver(seen.over, stance, seen.over) : stance);
      }
      seen = inMirror(inside.document, component.id, seen);
      turned = inside.document.turnedOver?.components[component.id]?.in ?? seen.over;
      if (!isFlexible(component) || instance.values.document.kind !== 'assembly') moving = undefined;
      inside = instance.values;
    }
    return instance && { body, instance, at, turned, seen };
  }
}

/** Why a copy that a mate holds is not there; undefined where it is, or none is meant. */
function missingCopy(values: DocumentValues, owner: string): string | undefined {
  const n = copyNumber(owner);
  const component = findRecord(values.document, plainId(owner), 'component');
  if (n === 1 || !component) return undefined;
  const there = component.pattern ? countCopies(values, component.pattern) : [];
  return there.includes(n) ? undefined : `There is no ${component.name}[${n}]: ${component.name} has ${there.length + 1} copies in all.`;
}

/** Copies are like the first, and an image like what it is of: what is repeated or mirrored is rigid. */
export function isFlexible({ isFlexible: is, pattern, mirrored }: Component): boolean {
  return is === true && !pattern && mirrored === undefined;
}

/** Components of a sub-assembly that its own planes hold: the anchored ones, and the first of each group that none of its mates holds. */
function fixedIn(document: Document, there: ReadonlySet<string>): string[] {
  const root = new Map([...there].map((id) => [id, id]));
  const rootOf = (id: string): string => {
    const above = root.get(id) ?? id;
    return above === id ? id : rootOf(above);
  };
  const held = new Set<string>();
  const anchored = listRecords(document, 'components', 'component').flatMap(({ id, isAnchored }) => (there.has(id) && isAnchored === true ? id : []));
  const mates = listRecords(document, 'mates', 'mate').map(mateOwners);
  for (const owners of mates) {
    const [a, ...others] = owners.flatMap((id) => id ?? []);
    for (const b of others) if (a !== undefined) root.set(rootOf(a), rootOf(b));
  }
  for (const id of anchored) held.add(rootOf(id));
  for (const owners of mates) if (owners.includes(undefined)) for (const id of owners) if (id !== undefined) held.add(rootOf(id));
  const fixed = [...anchored];
  for (const id of there) {
    const group = rootOf(id);
    if (held.has(group)) continue;
    held.add(group);
    fixed.push(id);
  }
  return fixed;
}

/** The value of a mate, or what it stays between, for the solver. */
function readNumbers(record: MateRecord, values: DocumentValues): Pick<Mate, 'value' | 'limits'> | MateOutcome {
  const read: Record<string, number> = {};
  for (const { slot, kind } of mateSlots(record)) {
    const reading = values.sheet.read(record.values[slot] ?? '');
    const [problem] = reading?.diagnostics ?? [];
    if (problem) return { status: 'failed', message: `Its value has an error: ${problem.message}` };
    read[slot] = (reading?.value ?? 0) * (kind === 'angle' ? DEGREE : kind === 'length' ? 1 / MILLIMETRE : 1);
  }
  const { least, most } = read;
  if (least === undefined || most === undefined) return { value: Object.values(read)[0] ?? 0 };
  if (least > most) return { status: 'failed', message: 'Its least value is more than its most. Change one of them.' };
  return { value: least, limits: { least, most } };
}

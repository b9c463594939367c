/** What a stack reads at one state of a document after the other, built beside the page: for values that only geometry tells. */
import { slopesOfMeasure, type Yielding } from '@/core/assembly';
import { findRecord, listSteps, type Component, type Document, type DocumentValues, type MeasuredValue } from '@/core/document';
import type { ValueType } from '@/core/formula';
import { complete, multiply, openValues, turnAbout, type InstanceSource, type Stance } from '@/core/instances';
import { awaitDeviations, deviationsOf, problemsOfSteps, type DeviationReading, type Deviations, type Misfit } from '@/core/studies';
import { JudgedPairs } from './assembly-judge';
import type { RegenerationClient } from './client';
import { buildWhole, type WholeAssembly } from './whole-assembly';
import { problemsOfWhole } from './whole-problems';
import { MILLIMETRE, RADIAN } from '@/core/units';

export interface StackBuild {
  /** As its stack is judged. */
  readonly document: Document;
  readonly id: string;
  readonly source: InstanceSource;
  /** What the geometry measures as it is. */
  readonly measured?: Readonly<Record<string, MeasuredValue>> | undefined;
  /** Told before each state. */
  readonly onState?: (done: number, of: number) => void;
}

/** What the value comes to with each contributor at its limits; undefined once the client is closed. */
export async function buildDeviations(client: RegenerationClient, { document, id, source, measured, onState }: StackBuild): Promise<Deviations | undefined> {
  const reader = document.kind === 'assembly' ? new AssemblyReader(client, id, source) : new PartReader(client, id, source);
  return awaitDeviations(deviationsOf(document, id, source, measured), (state) => {
    onState?.(state.done, state.of);
    return reader.read(state.document);
  });
}

interface StateReader {
  readonly read: (document: Document) => Promise<DeviationReading | undefined>;
}

class PartReader implements StateReader {
  private readonly known = new KnownProblems();

  constructor(
    private readonly client: RegenerationClient,
    private readonly id: string,
    private readonly source: InstanceSource,
  ) {}

  async read(document: Document): Promise<DeviationReading | undefined> {
    const values = openValues(document, this.source);
    if (listSteps(document).length === 0) return { value: values.sheet.readNumber(this.id) };
    const state = complete(document, this.source);
    const reply = await this.client.regenerate(state);
    if (!reply.ok) return reply.failure.kind === 'closed' ? undefined : { value: NaN, problem: 'it could not be built.' };
    const { steps, measured } = reply.value.result;
    values.setMeasured(measured);
    return this.known.judge(values.sheet.readNumber(this.id), problemsOfSteps(state, steps));
  }
}

/** How far what is free is moved to see whether that counts: millimetres, and radians. */
const HAIR = { length: 0.01, angle: 1e-4 };
/** A value that changes by less has not changed: a share of it, or so many internal units or degrees; kernels and arcs are no more exact. */
const STILL = { share: 1e-7, length: 0.1, angle: 1e-5, other: 1e-6 };

class AssemblyReader implements StateReader {
  private readonly known = new KnownProblems();
  private readonly pairs = new JudgedPairs();
  /** What gives way where sizes are off: found where everything is at its nominal. */
  private yielding: Yielding | undefined;

  constructor(
    private readonly client: RegenerationClient,
    private readonly id: string,
    private readonly source: InstanceSource,
  ) {}

  async read(document: Document): Promise<DeviationReading | undefined> {
    const isNominal = this.yielding === undefined;
    const whole = await this.build(document);
    if (!('values' in whole)) return whole.failure.kind === 'closed' ? undefined : { value: NaN, problem: `${whole.part} could not be built.` };
    const reading = this.known.judge(whole.values.sheet.readNumber(this.id), problemsOfWhole(whole));
    if (!isNominal) return { ...reading, misfits: misfitsOf(whole) };
    this.yielding = whole.placement.dependent();
    const free = await this.listFree(document, whole, reading.value);
    const slopes = slopesByMates(whole, this.id);
    return free && { ...reading, free, ...(slopes ? { slopeBy: (path: string) => slopeThroughMates(whole.values, slopes, path) } : {}) };
  }

  private build(document: Document) {
    return buildWhole(this.client, document, (id, revision) => this.source.snapshot(id, revision), { yielding: this.yielding, known: this.pairs });
  }

  /** Names of components that can still move, and take the value with them. */
  private async listFree(document: Document, { values, placement }: WholeAssembly, nominal: number): Promise<readonly string[] | undefined> {
    const free: string[] = [];
    const still = Math.max(STILL.share * Math.abs(nominal), leastChange(values.sheet.read(this.id)?.type));
    for (const id of placement.freedom.keys()) {
      const component = findRecord(document, id, 'component');
      const stance = placement.stances.get(id);
      if (!component || !stance || values.isSuppressed(id)) continue;
      for (const moved of hairsAround(stance)) {
        const whole = await this.build(withPlace(document, component, moved));
        if (!('values' in whole)) return whole.failure.kind === 'closed' ? undefined : free;
        if (!(Math.abs(whole.values.sheet.readNumber(this.id) - nominal) > still)) continue;
        free.push(component.name);
        break;
      }
    }
    return free;
  }
}

/** By values of mates, of what is measured between two components and no kernel is asked for. */
function slopesByMates({ values, shapes, placement }: WholeAssembly, id: string): ReadonlyMap<string, number> | undefined {
  const measure = findRecord(values.document, id, 'parameter')?.measure;
  return measure?.of === 'components' ? slopesOfMeasure(values, shapes, measure, placement) : undefined;
}

/** Of a value that does nothing but through values of mates. */
function slopeThroughMates({ document, sheet }: DocumentValues, slopes: ReadonlyMap<string, number>, path: string): number | undefined {
  const seen = new Set<string>();
  const wave = [path];
  for (let next = wave.pop(); next !== undefined; next = wave.pop()) {
    if (seen.has(next)) continue;
    seen.add(next);
    // How copies are set out moves what their mates hold; no mate has that as its value.
    const owner = findRecord(document, next, 'parameter')?.owner;
    if (owner !== undefined && findRecord(document, owner, 'component')) return undefined;
    const readers = sheet.listReaders(next);
    if (readers.some((reader) => findRecord(document, reader, 'drive') !== undefined || /\/(?:suppressed|size)$/.test(reader))) return undefined;
    // What measures it is no way on.
    wave.push(...readers.filter((reader) => findRecord(document, reader, 'parameter')));
  }
  const [own] = seen;
  if (own === undefined || !findRecord(document, own, 'parameter')) return undefined;
  const reached = [...slopes].filter(([value]) => seen.has(value));
  return reached.reduce((sum, [value, slope]) => sum + slope * (value === path ? 1 : (sheet.slopes([path], value)[0]?.value ?? NaN)), 0);
}

/** What formulas make of what is measured may be anything: a ratio changes little where a length changes much. */
function leastChange(type: ValueType | undefined): number {
  const key = type?.kind === 'quantity' ? type.dimension.key : '';
  return key === 'length=1' ? STILL.length : key === 'angle=1' ? STILL.angle : STILL.other;
}

function withPlace(document: Document, component: Component, at: Stance): Document {
  const placed: Component = { ...component, at: { origin: [...at.origin], turn: [...at.turn] } };
  return { ...document, records: { ...document.records, [component.id]: placed } };
}

/** Where it stands, a hair along each axis and turned by a hair about each. */
function hairsAround({ origin, turn }: Stance): Stance[] {
  const axes = [0, 1, 2].map((axis) => [0, 1, 2].map((i) => Number(i === axis)) as [number, number, number]);
  return axes.flatMap((axis): Stance[] => [
    { origin: [origin[0] + HAIR.length * axis[0], origin[1] + HAIR.length * axis[1], origin[2] + HAIR.length * axis[2]], turn },
    { origin, turn: multiply(turnAbout(axis, HAIR.angle), turn) },
  ]);
}

function misfitsOf({ values, placement }: WholeAssembly): Misfit[] {
  return [...placement.misfits()].flatMap(([path, { amount, isLength }]) => {
    const mate = findRecord(values.document, path.split(' ').at(-1) ?? '', 'mate');
    return [{ mate: mate?.name ?? 'a mate inside a sub-assembly', amount: amount * (isLength ? MILLIMETRE : RADIAN), isLength }];
  });
}

/** What is wrong at the nominal is no fault of a tolerance; what comes with one is. */
class KnownProblems {
  private known: ReadonlySet<string> | undefined;

  judge(value: number, problems: readonly string[]): DeviationReading {
    const fresh = problems.filter((problem) => this.known?.has(problem) === false);
    this.known ??= new Set(problems);
    return fresh.length > 0 || Number.isNaN(value) ? { value: NaN, problem: fresh[0] ?? problems[0] } : { value };
  }
}

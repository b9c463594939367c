/**
 * Results by their content keys: equal keys, equal results, so the cache never needs to be told what changed.
 * Sketches are cheap to hold, bodies are kernel memory; the least recently used go first.
 */
import { findRecord, listRecords, type Document, type DocumentValues, type SketchStep } from '../document';
import { findProfiles, profileArea, type Frame, type Profile } from '../geometry';
import type { BodyHandle, BodyMesh, BodyProperties, KernelFailure, KernelPort } from '../kernel-port';
import type { Result } from '../kit';
import { solveSketch, type SketchSolution } from '../sketch';
import type { BodyState } from './build/context';
import type { Prism } from './build/prism';
import { keyOf } from './keys';
import { describeProfileProblem } from './messages';
import type { SolvedSketch, StepProblem } from './outcome';
import { readCurves, readEntities, readSketchModel, TAKEN_PREFIX, type TakenPlaces } from './sketch-model';
import type { SketchResult } from './sketch-result';
import { nestingOf, warnOfNesting, type Nesting } from './warnings';

const MAX_SKETCHES = 400;
const MAX_BODIES = 400;

export class ResultCache {
  private readonly sketches = new Map<string, SketchResult>();
  private readonly handles = new Map<string, BodyHandle>();
  private readonly nestings = new Map<string, Nesting>();
  private readonly failures = new Map<string, StepProblem>();
  private readonly cuts = new Map<string, Prism | undefined>();
  /** Keys that the regeneration at hand uses: none of them is let go. */
  private inUse = new Set<string>();

  constructor(readonly port: KernelPort) {}

  /** Contents of files that documents name by their hashes; whoever brings them bounds them. */
  private readonly files = new Map<string, string>();

  keepFile(hash: string, content: string): void {
    this.files.set(hash, content);
  }

  file(hash: string): string | undefined {
    return this.files.get(hash);
  }

  /** Begins a regeneration: what it uses stays until the next one. */
  begin(): void {
    this.inUse = new Set();
  }

  solve(
    document: Document,
    step: SketchStep,
    frame: Frame,
    values: DocumentValues,
    taken: TakenPlaces,
  ): { readonly result: SketchResult; readonly isFromCache: boolean } {
    const model = readSketchModel(document, step.id, values, taken);
    const key = keyOf(['sketch', frame, model, readBounding(document, step.id, values)]);
    const known = this.sketches.get(key);
    if (known) return { result: known, isFromCache: true };
    const solution = solveSketch(model);
    const places = { point: (id: string) => solution.points.get(id) ?? ([0, 0] as const), radius: (id: string) => solution.radii.get(id) ?? 0 };
    const { profiles, problems } = findProfiles(readCurves(document, step.id, values, places));
    const [problem] = problems;
    const isNested = profiles.some(({ holes }) => holes.length > 0);
    const result: SketchResult = {
      key,
      frame,
      solution,
      solved: toPlainData(solution, frame, problem ? undefined : profiles),
      profiles,
      profileKey: keyOf(profiles),
      profileProblem: problem && describeProfileProblem(problem),
      warnings: isNested ? warnOfNesting(this.nestingAsDrawn(document, step.id, values), nestingOf(profiles)) : [],
    };
    remember(this.sketches, key, result, MAX_SKETCHES);
    return { result, isFromCache: false };
  }

  /** The outlines as they lie where the solve starts. */
  private nestingAsDrawn(document: Document, sketch: string, values: DocumentValues): Nesting {
    const places = {
      point: (id: string) => placeOf(findRecord(document, id, 'point')),
      radius: (id: string) => findRecord(document, id, 'circle')?.radius ?? 0,
    };
    const curves = readCurves(document, sketch, values, places);
    const key = keyOf(['drawn', curves]);
    const known = this.nestings.get(key) ?? nestingOf(findProfiles(curves).profiles);
    remember(this.nestings, key, known, MAX_SKETCHES);
    return known;
  }

  /** The profile that a cut comes to: finding it compares every loop with every other. */
  cutProfile(key: string, find: () => Prism | undefined): Prism | undefined {
    if (!this.cuts.has(key)) remember(this.cuts, key, find(), MAX_BODIES);
    return this.cuts.get(key);
  }

  /** A body from cache, or made now; or why it cannot be. */
  build(
    key: string,
    make: () => Result<BodyHandle, KernelFailure>,
  ): { readonly state?: BodyState; readonly problem?: StepProblem; readonly isFromCache: boolean } {
    this.inUse.add(key);
    const handle = this.handles.get(key);
    if (handle !== undefined) {
      // Moved to the end: the front holds what was not used for longest.
      this.handles.delete(key);
      this.handles.set(key, handle);
      return { state: { key, handle }, isFromCache: true };
    }
    const known = this.failures.get(key);
    if (known) return { problem: known, isFromCache: true };
    const made = make();
    if (!made.ok) {
      const { reason, lost } = made.failure;
      const problem = { message: reason, about: [], ...(lost === undefined ? {} : { lost }) };
      remember(this.failures, key, problem, MAX_BODIES);
      return { problem, isFromCache: false };
    }
    this.handles.set(key, made.value);
    this.forgetOldBodies();
    return { state: { key, handle: made.value }, isFromCache: false };
  }

  propertiesOf({ handle }: BodyState): BodyProperties {
    return this.port.measure(handle);
  }

  /** The mesh of a body that a regeneration reported; undefined once it is forgotten. */
  mesh(key: string): BodyMesh | undefined {
    const handle = this.handles.get(key);
    return handle === undefined ? undefined : this.port.mesh(handle);
  }

  handlesOf(keys: readonly string[]): BodyHandle[] {
    return keys.flatMap((key) => this.handles.get(key) ?? []);
  }

  private forgetOldBodies(): void {
    for (const [key, handle] of this.handles) {
      if (this.handles.size <= MAX_BODIES) return;
      if (this.inUse.has(key)) continue;
      this.handles.delete(key);
      this.port.release(handle);
    }
  }
}

/** Everything but the solution that decides the regions: which curves bound them, and how repeats go on. */
function readBounding(document: Document, sketch: string, values: DocumentValues): unknown {
  const repeats = listRecords(document, `${sketch}/constraints`, 'repeat');
  return [
    readEntities(document, sketch).flatMap((entity) => (entity.isConstruction === true || entity.from ? [] : entity.id)),
    repeats.map((repeat) =>
      [repeat, values.sheet.readNumber(repeat.count), values.sheet.readNumber(repeat.spacing)].map((part) => (Number.isNaN(part) ? null : part)),
    ),
  ];
}

function toPlainData(solution: SketchSolution, frame: Frame, profiles: readonly Profile[] | undefined): SolvedSketch {
  const regions = (profiles ?? []).map((profile) => ({ curve: firstCurve(profile), area: profileArea(profile) }));
  return {
    status: solution.status,
    frame,
    points: Object.fromEntries(solution.points),
    radii: Object.fromEntries(solution.radii),
    degreesOfFreedom: solution.degreesOfFreedom,
    free: [...solution.free],
    redundant: solution.redundant.filter((id) => !id.startsWith(TAKEN_PREFIX)),
    conflicting: solution.conflicting,
    measured: Object.fromEntries(solution.measured),
    regions: regions.sort((a, b) => b.area - a.area),
    ...(profiles ? { area: regions.reduce((sum, { area }) => sum + area, 0) } : {}),
  };
}

/** The first by id of the curves that bound a region from outside. */
function firstCurve({ outer }: Profile): string {
  return outer.curves.map(({ curve }) => curve.id).sort()[0] ?? '';
}

function placeOf(point: { readonly x: number; readonly y: number } | undefined): readonly [number, number] {
  return point ? [point.x, point.y] : [0, 0];
}

/** Keeps the newest `limit` entries. */
function remember<T>(map: Map<string, T>, key: string, value: T, limit: number): void {
  map.set(key, value);
  if (map.size <= limit) return;
  const [oldest] = map.keys();
  if (oldest !== undefined) map.delete(oldest);
}

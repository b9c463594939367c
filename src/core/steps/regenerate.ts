/**
 * Regeneration: the steps of a part in order, each from cache where nothing that it is built of changed.
 *
 * The key of a result is the hash of everything that went into it: the resolved numbers, the keys of what
 * it builds on, the kernel's version. Equal keys, equal results, so a cache never needs to be told what
 * changed. A step that fails does not stop steps that do not need it; those that do are waiting.
 */
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { findRecord, listRecords, listSteps, stableJson, type Document, type DocumentValues, type ExtrudeStep, type SketchStep } from '../document';
import { DATUM_FRAMES, findProfiles, profileArea, type Frame, type Profile } from '../geometry';
import type { BodyHandle, BodyMesh, BodyProperties, KernelPort } from '../kernel-port';
import { solveSketch, type SketchSolution } from '../sketch';
import { describeProfileProblem, describeSolution } from './messages';
import { massOf } from './materials';
import type { BodyOutcome, Regenerated, SolvedSketch, StepOutcome, StepProblem } from './outcome';
import { readCurves, readSketchModel, toMillimetres } from './sketch-model';

interface SketchResult {
  readonly key: string;
  readonly solution: SketchSolution;
  readonly solved: SolvedSketch;
  readonly profiles: readonly Profile[];
  readonly profileProblem: StepProblem | undefined;
}

interface BodyState {
  readonly key: string;
  readonly handle: BodyHandle;
}

/** A body under construction: what it is, or why later steps on it have to wait. */
type BodyProgress = { readonly state: BodyState } | { readonly waitsFor: string };

/** Results kept per regenerator: sketches are cheap to hold, bodies are kernel memory. */
const MAX_SKETCHES = 400;
const MAX_BODIES = 200;

/** Through cuts reach this far past the body on both sides, in millimetres. */
const OVERSHOOT = 1;

/** Regenerates documents on one kernel, and remembers results by their keys. */
export class Regenerator {
  private readonly sketches = new Map<string, SketchResult>();
  private readonly handles = new Map<string, BodyHandle>();
  private readonly properties = new Map<string, BodyProperties>();
  private readonly failures = new Map<string, StepProblem>();

  constructor(private readonly kernel: KernelPort) {}

  regenerate(document: Document, values: DocumentValues): Regenerated {
    const run = new Run(this, document, values);
    for (const step of listSteps(document)) run.regenerateStep(step);
    return run.finish();
  }

  /** The mesh of a body that a regeneration reported; undefined once it is forgotten. */
  mesh(key: string): BodyMesh | undefined {
    const handle = this.handles.get(key);
    return handle === undefined ? undefined : this.kernel.mesh(handle);
  }

  exportFile(keys: readonly string[], format: 'step' | 'stl'): Uint8Array {
    return this.kernel.exportFile(
      keys.flatMap((key) => this.handles.get(key) ?? []),
      format,
    );
  }

  // ---- used by a run

  solve(document: Document, step: SketchStep, values: DocumentValues): { readonly result: SketchResult; readonly isFromCache: boolean } {
    const model = readSketchModel(document, step.id, values);
    const construction = listRecords(document, `${step.id}/entities`, 'line').flatMap((line) => (line.isConstruction === true ? line.id : []));
    const key = keyOf(['sketch', step.plane, model, construction]);
    const known = this.sketches.get(key);
    if (known) return { result: known, isFromCache: true };
    const solution = solveSketch(model);
    const { profiles, problems } = findProfiles(readCurves(document, step.id, solution));
    const [problem] = problems;
    const result: SketchResult = {
      key,
      solution,
      solved: toPlainData(solution, problem ? undefined : profiles.reduce((sum, profile) => sum + profileArea(profile), 0)),
      profiles,
      profileProblem: problem && describeProfileProblem(problem),
    };
    remember(this.sketches, key, result, MAX_SKETCHES);
    return { result, isFromCache: false };
  }

  /** A body from cache, or made now; or why it cannot be. */
  build(
    key: string,
    make: () => ReturnType<KernelPort['extrude']>,
  ): { readonly state?: BodyState; readonly problem?: StepProblem; readonly isFromCache: boolean } {
    const handle = this.handles.get(key);
    if (handle !== undefined) return { state: { key, handle }, isFromCache: true };
    const known = this.failures.get(key);
    if (known) return { problem: known, isFromCache: true };
    const made = make();
    if (!made.ok) {
      const problem = { message: made.failure.reason, about: [] };
      remember(this.failures, key, problem, MAX_BODIES);
      return { problem, isFromCache: false };
    }
    this.handles.set(key, made.value);
    this.forgetOldBodies();
    return { state: { key, handle: made.value }, isFromCache: false };
  }

  propertiesOf({ key, handle }: BodyState): BodyProperties {
    const known = this.properties.get(key);
    if (known) return known;
    const measured = this.kernel.measure(handle);
    remember(this.properties, key, measured, MAX_BODIES);
    return measured;
  }

  get port(): KernelPort {
    return this.kernel;
  }

  private forgetOldBodies(): void {
    while (this.handles.size > MAX_BODIES) {
      const [oldest] = this.handles;
      if (!oldest) return;
      this.handles.delete(oldest[0]);
      this.kernel.release(oldest[1]);
    }
  }
}

/** One regeneration of one document. */
class Run {
  private readonly outcomes: StepOutcome[] = [];
  private readonly sketches = new Map<string, SketchResult>();
  private readonly bodies = new Map<string, BodyProgress>();
  private rebuilt = 0;

  constructor(
    private readonly regenerator: Regenerator,
    private readonly document: Document,
    private readonly values: DocumentValues,
  ) {}

  regenerateStep(step: SketchStep | ExtrudeStep): void {
    if (step.suppressed && this.values.isSuppressed(step.id)) {
      this.outcomes.push({ id: step.id, status: 'suppressed', isFromCache: false });
      return;
    }
    const outcome = step.type === 'sketch' ? this.regenerateSketch(step) : this.regenerateExtrude(step);
    if (!outcome.isFromCache && outcome.status === 'done') this.rebuilt++;
    this.outcomes.push(outcome);
  }

  finish(): Regenerated {
    const bodies = listRecords(this.document, 'bodies', 'body').map((body): BodyOutcome => {
      const progress = this.bodies.get(body.id);
      if (!progress || !('state' in progress)) return { id: body.id, name: body.name };
      const properties = this.regenerator.propertiesOf(progress.state);
      const mass = massOf(body.material, properties.volume);
      return { id: body.id, name: body.name, key: progress.state.key, properties, ...(mass === undefined ? {} : { mass }) };
    });
    return { steps: this.outcomes, bodies, rebuilt: this.rebuilt };
  }

  private regenerateSketch(step: SketchStep): StepOutcome {
    const { result, isFromCache } = this.regenerator.solve(this.document, step, this.values);
    const waiting = listRecords(this.document, `${step.id}/values`, 'parameter').find(
      (value) => Number.isNaN(this.values.sheet.readNumber(value.id)) && this.constrains(step, value.id),
    );
    if (waiting) {
      return { id: step.id, status: 'waiting', problem: { message: `Waiting on ${waiting.name}.`, about: [waiting.id] }, sketch: result.solved, isFromCache };
    }
    const problem = describeSolution(this.document, result.solution, this.values);
    if (problem) return { id: step.id, status: 'failed', problem, sketch: result.solved, isFromCache };
    this.sketches.set(step.id, result);
    return { id: step.id, status: 'done', sketch: result.solved, isFromCache };
  }

  /** Reference dimensions only read: one without a value keeps nothing waiting. */
  private constrains(step: SketchStep, parameter: string): boolean {
    return listRecords(this.document, `${step.id}/constraints`, 'dimension').some(
      (dimension) => dimension.parameter === parameter && dimension.isReference !== true,
    );
  }

  private regenerateExtrude(step: ExtrudeStep): StepOutcome {
    const inputs = this.readExtrude(step);
    if ('wait' in inputs) {
      this.bodies.set(step.body, { waitsFor: step.name });
      return { id: step.id, status: inputs.isFailure ? 'failed' : 'waiting', problem: inputs.wait, isFromCache: false };
    }
    const { key, make } = inputs;
    const { state, problem, isFromCache } = this.regenerator.build(key, make);
    if (!state) {
      this.bodies.set(step.body, { waitsFor: step.name });
      return { id: step.id, status: 'failed', problem: { message: `${step.name}: ${problem?.message ?? ''}`, about: problem?.about ?? [] }, isFromCache };
    }
    this.bodies.set(step.body, { state });
    return { id: step.id, status: 'done', isFromCache };
  }

  /** Everything that an extrusion is made of, or why it has to wait. */
  private readExtrude(
    step: ExtrudeStep,
  ): { readonly key: string; readonly make: () => ReturnType<KernelPort['extrude']> } | { readonly wait: StepProblem; readonly isFailure: boolean } {
    const sketchRecord = findRecord(this.document, step.sketch, 'sketch');
    const sketch = this.sketches.get(step.sketch);
    if (!sketch || !sketchRecord) return wait(`Waiting on ${sketchRecord?.name ?? 'its sketch'}.`);
    if (sketch.profileProblem) return refuse({ ...sketch.profileProblem, message: `${sketchRecord.name}: ${sketch.profileProblem.message}` });
    const before = this.bodies.get(step.body);
    if (before && 'waitsFor' in before) return wait(`Waiting on ${before.waitsFor}.`);
    const base = before?.state;
    if (step.operation !== 'start' && !base) return wait('There is no body here yet to work on.');
    if (step.operation === 'start' && base) return refuse({ message: `${step.name} would start a body that is there already.`, about: [] });
    const frame = DATUM_FRAMES[sketchRecord.plane];
    const reach = this.readReach(step, frame, base);
    if ('wait' in reach) return reach;
    const { port } = this.regenerator;
    const key = keyOf([port.version, step.id, step.operation, sketchRecord.plane, sketch.key, reach.from, reach.to, base?.key ?? null]);
    const request = { profiles: sketch.profiles, frame, from: reach.from, to: reach.to, step: step.id };
    return {
      key,
      make: () => {
        const prism = port.extrude(request);
        if (!prism.ok || step.operation === 'start' || !base) return prism;
        const combined = port.combine(step.operation, base.handle, [prism.value]);
        port.release(prism.value);
        return combined;
      },
    };
  }

  private readReach(
    step: ExtrudeStep,
    frame: Frame,
    base: BodyState | undefined,
  ): { readonly from: number; readonly to: number } | { readonly wait: StepProblem; readonly isFailure: boolean } {
    if (step.extent === 'through') {
      if (!base) return refuse({ message: `${step.name} goes through, but there is no body to go through yet.`, about: [] });
      return reachThrough(this.regenerator.propertiesOf(base), frame);
    }
    const parameter = step.depth === undefined ? undefined : findRecord(this.document, step.depth, 'parameter');
    const depth = toMillimetres(this.values.sheet.readNumber(parameter?.id ?? ''));
    if (!parameter || Number.isNaN(depth)) return wait(`Waiting on ${parameter?.name ?? 'its depth'}.`);
    if (Math.abs(depth) < 1e-6) return refuse({ message: `${step.name}: ${parameter.name} is 0; an extrusion needs a depth.`, about: [parameter.id] });
    const signed = step.isReversed === true ? -depth : depth;
    return step.extent === 'centred' ? { from: -signed / 2, to: signed / 2 } : { from: 0, to: signed };
  }
}

/** From one side of the body to the other along the normal of the plane, and a little past both. */
function reachThrough({ box }: BodyProperties, { origin, normal }: Frame): { readonly from: number; readonly to: number } {
  const heights: number[] = [];
  for (const x of [box.min[0], box.max[0]]) {
    for (const y of [box.min[1], box.max[1]]) {
      for (const z of [box.min[2], box.max[2]]) {
        heights.push((x - origin[0]) * normal[0] + (y - origin[1]) * normal[1] + (z - origin[2]) * normal[2]);
      }
    }
  }
  return { from: Math.min(...heights) - OVERSHOOT, to: Math.max(...heights) + OVERSHOOT };
}

function wait(message: string) {
  return { wait: { message, about: [] }, isFailure: false };
}

function refuse(problem: StepProblem) {
  return { wait: problem, isFailure: true };
}

function keyOf(parts: unknown): string {
  return bytesToHex(sha256(utf8ToBytes(stableJson(parts)))).slice(0, 40);
}

function toPlainData(solution: SketchSolution, area: number | undefined): SolvedSketch {
  return {
    status: solution.status,
    points: Object.fromEntries(solution.points),
    radii: Object.fromEntries(solution.radii),
    degreesOfFreedom: solution.degreesOfFreedom,
    free: [...solution.free],
    redundant: solution.redundant,
    conflicting: solution.conflicting,
    measured: Object.fromEntries(solution.measured),
    ...(area === undefined ? {} : { area }),
  };
}

/** Keeps the newest `limit` entries. */
function remember<T>(map: Map<string, T>, key: string, value: T, limit: number): void {
  map.set(key, value);
  if (map.size <= limit) return;
  const [oldest] = map.keys();
  if (oldest !== undefined) map.delete(oldest);
}

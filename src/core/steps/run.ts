/** One regeneration of one document: its steps in order, the bodies as they grow, the values measured on the way. */
import {
  describeGeometry,
  bodyOf,
  findRecord,
  listRecords,
  listSteps,
  startedBodies,
  wholeNode,
  type AxisReference,
  type Document,
  type DocumentValues,
  type Feature,
  type MeasuredValue,
  type PlaneReference,
  type SketchStep,
  type Step,
  type StepOf,
  type StepDirections,
} from '../document';
import { alignFrame, DATUM_FRAMES, dot, toSpace, turnFrame, type Frame, type Point3 } from '../geometry';
import type { Axis, BodyHandle, KernelFailure } from '../kernel-port';
import { succeed, type Result } from '../kit';
import { buildFeature } from './build';
import { readNumbers, refuse, wait, type BodyState, type Buildable, type BuildContext, type Tool, type Unbuilt } from './build/context';
import { describeSolution, findBadSize } from './messages';
import { warnOf } from './warnings';
import { massOf } from './materials';
import { measureBody, measuredOn, measureSketch } from './measured';
import { readWhole, type BodyOutcome, type Regenerated, type StepOutcome, type StepProblem } from './outcome';
import type { ResultCache } from './result-cache';
import type { TakenPlaces } from './sketch-model';
import type { SketchResult } from './sketch-result';
import { placeTakenGeometry } from './taken-geometry';

/** A body under construction: what it is, why later steps on it have to wait, or the step that used it up. */
type BodyProgress = { readonly state: BodyState } | { readonly waitsFor: string } | { readonly usedBy: string };

const AXES = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] } as const;

export class Run {
  private readonly outcomes: StepOutcome[] = [];
  private readonly sketches = new Map<string, SketchResult>();
  private readonly frames = new Map<string, Frame>();
  private readonly bodies = new Map<string, BodyProgress>();
  private readonly toolsOf = new Map<string, readonly Tool[]>();
  private readonly measured: Record<string, MeasuredValue> = {};
  /** Parts that this one starts from, by component. */
  private readonly parts = new Map<string, Run>();
  private rebuilt = 0;
  /** Whether the step at hand has made anything new. */
  private isFresh = false;
  /** The directions that the step at hand keeps to, and those that it has read off geometry. */
  private kept: StepDirections = {};
  private directions: StepDirections = {};
  private readonly context: BuildContext;

  constructor(
    private readonly cache: ResultCache,
    private readonly document: Document,
    private readonly values: DocumentValues,
  ) {
    this.context = {
      document,
      values,
      port: cache.port,
      body: (id) => this.findBody(id),
      hasBody: (id) => this.bodies.has(id),
      sketch: (id) => this.findSketch(id),
      frame: (plane) => this.findFrame(plane),
      axis: (axis) => this.findAxis(axis),
      keepTo: (slot, choose) => this.keepTo(slot, choose),
      bodyOfPart: (component, body) => this.findBodyOfPart(component, body),
      file: (hash) => cache.file(hash),
      tools: (step) => this.findTools(step),
      cutProfile: (key, find) => cache.cutProfile(key, find),
      make: (key, make) => this.make(key, make),
    };
  }

  regenerateStep(step: Step): void {
    this.isFresh = false;
    this.kept = step.directions ?? {};
    this.directions = {};
    const condition = step.suppressed && this.values.conditionProblem(step.id);
    const outcome =
      condition !== undefined
        ? this.refuseCondition(step, condition)
        : step.suppressed && this.values.isSuppressed(step.id)
          ? this.suppress(step)
          : this.build(step);
    if (this.isFresh && outcome.status === 'done') this.rebuilt++;
    this.outcomes.push(Object.keys(this.directions).length > 0 ? { ...outcome, directions: this.directions } : outcome);
    this.measure(step, outcome);
  }

  finish(): Regenerated {
    const bodies = listRecords(this.document, 'bodies', 'body').map((body): BodyOutcome => {
      const progress = this.bodies.get(body.id);
      if (!progress || !('state' in progress)) {
        return { id: body.id, name: body.name, ...(progress && 'usedBy' in progress ? { usedBy: progress.usedBy } : {}) };
      }
      const properties = this.cache.propertiesOf(progress.state);
      const mass = massOf(this.values, body, properties.volume);
      const known = 'kilograms' in mass ? { mass: mass.kilograms } : { massProblem: mass.problem };
      return { id: body.id, name: body.name, key: progress.state.key, properties, ...known };
    });
    return { steps: this.outcomes, bodies, measured: this.measured, rebuilt: this.rebuilt };
  }

  // ---- steps

  private suppress(step: Step): StepOutcome {
    for (const body of [bodyOf(step), ...startedBodies(step)]) {
      if (body !== undefined && !this.bodies.has(body)) this.bodies.set(body, { waitsFor: step.name });
    }
    this.toolsOf.set(step.id, []);
    return { id: step.id, status: 'suppressed', isFromCache: true };
  }

  /** Whether it is left out is not known: neither way would be right. */
  private refuseCondition(step: Step, problem: string): StepOutcome {
    for (const body of [bodyOf(step), ...startedBodies(step)]) if (body !== undefined) this.bodies.set(body, { waitsFor: step.name });
    const message = `${step.name}: the condition for leaving it out has an error. ${problem}`;
    return { id: step.id, status: 'failed', problem: { message, about: [] }, isFromCache: true };
  }

  private build(step: Step): StepOutcome {
    switch (step.type) {
      case 'sketch':
        return this.regenerateSketch(step);
      case 'datum':
        return this.regenerateDatum(step);
      default:
        return this.regenerateFeature(step);
    }
  }

  private regenerateSketch(step: SketchStep): StepOutcome {
    const frame = this.findFrame(step.plane);
    if (!frame.ok) return this.unbuilt(step, frame.failure);
    const taken = this.placeTaken(step, frame.value);
    if (!taken.ok) return this.unbuilt(step, { problem: taken.failure, isFailure: true });
    const size = findBadSize(this.document, step.id, this.values);
    if (size) return this.unbuilt(step, { problem: size, isFailure: true });
    const { result, isFromCache } = this.cache.solve(this.document, step, frame.value, this.values, taken.value);
    this.isFresh = !isFromCache;
    // Reference dimensions and measures only read: one without a value keeps nothing waiting.
    const waiting = listRecords(this.document, `${step.id}/values`, 'parameter').find(
      (value) => Number.isNaN(this.values.sheet.readNumber(value.id)) && !this.values.isMeasured(value.id),
    );
    if (waiting) {
      return { id: step.id, status: 'waiting', problem: { message: `Waiting on ${waiting.name}.`, about: [waiting.id] }, sketch: result.solved, isFromCache };
    }
    const problem = describeSolution(this.document, step.id, result.solution, this.values);
    if (problem) return { id: step.id, status: 'failed', problem, sketch: result.solved, isFromCache };
    this.sketches.set(step.id, result);
    return { id: step.id, status: 'done', sketch: result.solved, isFromCache, ...(result.warnings.length > 0 ? { warnings: result.warnings } : {}) };
  }

  private placeTaken(step: SketchStep, frame: Frame): Result<TakenPlaces, StepProblem> {
    return placeTakenGeometry(this.document, step.id, frame, {
      port: this.cache.port,
      body: (id) => this.stateOf(id),
      sketch: (id) => this.sketches.get(id),
    });
  }

  private regenerateDatum(step: StepOf<'datum'>): StepOutcome {
    const from = this.findFrame(step.from);
    if (!from.ok) return this.unbuilt(step, from.failure);
    const numbers = readNumbers(this.context, step);
    if (!numbers.ok) return this.unbuilt(step, numbers.failure);
    const { offset = 0, angle = 0 } = numbers.value;
    const turned = step.turn === 'none' ? from.value : turnFrame(from.value, step.turn, angle);
    const frame = { ...turned, origin: toSpace(turned, 0, 0, offset) };
    this.frames.set(step.id, frame);
    return { id: step.id, status: 'done', frame, isFromCache: true };
  }

  private regenerateFeature(step: Feature): StepOutcome {
    const before = this.stateOf(step.body);
    const built = buildFeature(this.context, step);
    if (!built.ok) {
      for (const body of [step.body, ...startedBodies(step)]) this.bodies.set(body, { waitsFor: step.name });
      return this.unbuilt(step, built.failure);
    }
    const { state, tools, started, consumed } = built.value;
    this.bodies.set(step.body, { state });
    this.toolsOf.set(step.id, tools);
    for (const { body, state: fresh } of started ?? []) this.bodies.set(body, { state: fresh });
    for (const id of consumed ?? []) this.bodies.set(id, { usedBy: step.name });
    const general = warnOf(this.cache.port, step, before, state);
    const warnings = general.length > 0 ? general : (built.value.warnings ?? []);
    const { places } = built.value;
    return { id: step.id, status: 'done', isFromCache: !this.isFresh, ...(warnings.length > 0 ? { warnings } : {}), ...(places ? { places } : {}) };
  }

  private unbuilt(step: Step, { problem, isFailure }: Unbuilt): StepOutcome {
    const { lost } = problem;
    // What is gone has a name: without the picture that is all there is to go by.
    const told =
      lost === undefined ? problem.message : problem.message.replace(' no longer there', ` no longer there (${describeGeometry(this.document, lost)})`);
    const isNamed = [':', ' '].some((end) => told.startsWith(`${step.name}${end}`)) || !isFailure;
    const said = { ...problem, message: isNamed ? told : `${step.name}: ${told}` };
    return { id: step.id, status: isFailure ? 'failed' : 'waiting', problem: said, isFromCache: false };
  }

  /** Values that are read off what the step made, for the steps after it. */
  private measure(step: Step, { status, problem }: StepOutcome): void {
    const found =
      step.type === 'sketch'
        ? measureSketch(
            this.document,
            step.id,
            this.sketches.get(step.id),
            status === 'suppressed' ? `${step.name} is suppressed.` : (problem?.message ?? `Waiting on ${step.name}.`),
          )
        : Object.fromEntries(
            measuredOn(this.document, step.id).flatMap(({ id, measure }): [string, MeasuredValue][] =>
              measure.of === 'region'
                ? []
                : [[id, measureBody({ document: this.document, values: this.values, port: this.cache.port, state: (body) => this.stateOf(body) }, measure)]],
            ),
          );
    if (Object.keys(found).length === 0) return;
    Object.assign(this.measured, found);
    this.values.setMeasured(found);
  }

  // ---- what steps build on

  private make(key: string, make: () => Result<BodyHandle, KernelFailure>): Buildable<BodyState> {
    const { state, problem, isFromCache } = this.cache.build(key, make);
    if (!isFromCache) this.isFresh = true;
    return state ? succeed(state) : refuse(problem ?? { message: 'It could not be built.', about: [] });
  }

  private stateOf(body: string): BodyState | undefined {
    const progress = this.bodies.get(body);
    return progress && 'state' in progress ? progress.state : undefined;
  }

  private findBody(id: string): Buildable<BodyState> {
    const progress = this.bodies.get(id);
    const name = findRecord(this.document, id, 'body')?.name ?? 'The body';
    if (!progress) return wait(`${name} is not there yet: a step must start it first.`);
    if ('waitsFor' in progress) return wait(`Waiting on ${progress.waitsFor}.`);
    if ('usedBy' in progress) return refuse({ message: `${name} was merged by ${progress.usedBy}.`, about: [] });
    return succeed(progress.state);
  }

  private findBodyOfPart(component: string, body: string): Buildable<BodyState> {
    const inside = this.values.components?.valuesOf(component);
    if (!inside) return refuse({ message: this.values.components?.problemOf(component) ?? 'The part that it starts from is not at hand.', about: [] });
    const { name } = inside.document;
    const run = this.parts.get(component) ?? this.buildPart(component, inside);
    const found = run.stateOf(body);
    if (found) return succeed(found);
    if (!findRecord(inside.document, body, 'body')) return refuse({ message: `${name} has this body no longer; choose another.`, about: [] });
    const problem = run.outcomes.find(({ status }) => status === 'failed')?.problem?.message;
    const missing = run.findBody(body);
    return refuse({ message: `In ${name}: ${problem ?? (missing.ok ? '' : missing.failure.problem.message)}`, about: [] });
  }

  /** What is measured on the part goes on as what is measured here, under its component. */
  private buildPart(component: string, inside: DocumentValues): Run {
    const run = new Run(this.cache, inside.document, inside);
    this.parts.set(component, run);
    for (const step of listSteps(inside.document)) run.regenerateStep(step);
    const { measured, mass, volume } = readWhole(run.finish());
    const told = Object.fromEntries(
      Object.entries({ ...measured, [wholeNode('mass')]: mass, [wholeNode('volume')]: volume }).map(([id, value]) => [`${component}>${id}`, value]),
    );
    Object.assign(this.measured, told);
    this.values.setMeasured(told);
    return run;
  }

  private findSketch(id: string): Buildable<SketchResult> {
    const result = this.sketches.get(id);
    return result ? succeed(result) : wait(`Waiting on ${findRecord(this.document, id, 'sketch')?.name ?? 'its sketch'}.`);
  }

  private findTools(id: string): Buildable<readonly Tool[]> {
    const tools = this.toolsOf.get(id);
    if (tools) return succeed(tools);
    const record = this.outcomes.find((outcome) => outcome.id === id);
    return record ? wait('Waiting on a step that it repeats.', [id]) : refuse({ message: 'A step that it repeats is not there.', about: [id] });
  }

  private findFrame(plane: PlaneReference): Buildable<Frame> {
    if (typeof plane === 'string') return succeed(DATUM_FRAMES[plane]);
    if ('datum' in plane) {
      const frame = this.frames.get(plane.datum);
      return frame ? succeed(frame) : wait(`Waiting on ${findRecord(this.document, plane.datum, 'datum')?.name ?? 'its datum plane'}.`);
    }
    const body = this.findBody(plane.body);
    if (!body.ok) return body;
    const face = this.cache.port.describeFace(body.value.handle, plane.face);
    if (!face) return refuse({ message: 'The face that it lies on is no longer there; pick another.', about: [], lost: plane.face });
    if (face.kind !== 'plane') return refuse({ message: 'The face that it lies on is not plane.', about: [] });
    const frame = this.kept.x ? alignFrame(face.frame, this.kept.x) : face.frame;
    this.directions = { ...this.directions, x: [...frame.x] };
    return succeed(frame);
  }

  private findAxis(axis: AxisReference): Buildable<Axis> {
    if (typeof axis === 'string') return succeed({ origin: [0, 0, 0], direction: AXES[axis] });
    if ('sketch' in axis) return this.lineOfSketch(axis.sketch, axis.line);
    const body = this.findBody(axis.body);
    if (!body.ok) return body;
    const { port } = this.cache;
    const name = 'edge' in axis ? axis.edge : axis.face;
    const shape = 'edge' in axis ? port.describeEdge(body.value.handle, name) : port.describeFace(body.value.handle, name);
    if (!shape) return refuse({ message: 'The edge or face that gives the direction is no longer there; pick another.', about: [], lost: name });
    switch (shape.kind) {
      case 'line':
        return this.keepAlong(lineThrough(shape.start, shape.end));
      case 'circle':
      case 'round':
      case 'revolved':
        return this.keepAlong(succeed(shape.axis));
      case 'plane':
        return succeed({ origin: shape.frame.origin, direction: shape.frame.normal });
      case 'sphere':
      case 'other':
        return refuse({ message: 'What was picked for the direction is neither straight nor round.', about: [] });
    }
  }

  /** An axis that runs the way it did when its step was changed by hand: the kernel may turn edges and axes round. */
  private keepAlong(axis: Buildable<Axis>): Buildable<Axis> {
    if (!axis.ok) return axis;
    const { origin, direction } = axis.value;
    const isTurned = this.kept.along !== undefined && dot(direction, this.kept.along) < 0;
    const [x, y, z] = direction;
    const along: Point3 = isTurned ? [-x, -y, -z] : direction;
    this.directions = { ...this.directions, along: [...along] };
    return succeed({ origin, direction: along });
  }

  private keepTo(slot: keyof StepDirections, choose: () => Buildable<Point3>): Buildable<Point3> {
    const kept = this.kept[slot];
    const direction = kept ? succeed(kept) : choose();
    if (direction.ok) this.directions = { ...this.directions, [slot]: [...direction.value] };
    return direction;
  }

  private lineOfSketch(sketch: string, line: string): Buildable<Axis> {
    const result = this.findSketch(sketch);
    if (!result.ok) return result;
    const record = findRecord(this.document, line, 'line');
    const { points } = result.value.solution;
    const [start, end] = [points.get(record?.start ?? ''), points.get(record?.end ?? '')];
    if (!start || !end) return refuse({ message: 'The line that gives the direction is no longer there; pick another.', about: [line] });
    return lineThrough(toSpace(result.value.frame, ...start), toSpace(result.value.frame, ...end));
  }
}

function lineThrough(start: readonly [number, number, number], end: readonly [number, number, number]): Buildable<Axis> {
  const [dx, dy, dz] = [end[0] - start[0], end[1] - start[1], end[2] - start[2]];
  const length = Math.hypot(dx, dy, dz);
  if (length < 1e-9) return refuse({ message: 'The line that gives the direction has no length.', about: [] });
  return succeed({ origin: start, direction: [dx / length, dy / length, dz / length] });
}

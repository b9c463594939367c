/** Extrusions and revolutions: profiles of a sketch to solids that start a body, or work on one. */
import { findRecord, type StepOf } from '../../document';
import type { Frame, Point2 } from '../../geometry';
import type { BodyHandle, BodyProperties, KernelFailure } from '../../kernel-port';
import { succeed, type Result } from '../../kit';
import { keyOf } from '../keys';
import type { SketchResult } from '../sketch-result';
import { makePrism, removePrisms, type Prism } from './prism';
import { nameNumber, readNumbers, refuse, wait, type BodyState, type Buildable, type BuildContext, type Builder, type BuiltStep, type Tool } from './context';

/** Through cuts reach this far past the body on both sides, in millimetres. */
const OVERSHOOT = 1;

type Solid = StepOf<'extrude' | 'revolve' | 'sweep' | 'loft'>;
interface Reach {
  readonly from: number;
  readonly to: number;
}

export const buildExtrude: Builder<StepOf<'extrude'>> = (context, step) => {
  const ground = standOn(context, step, step.sketch);
  if (!ground.ok) return ground;
  const { sketch, base } = ground.value;
  const numbers = readNumbers(context, step);
  if (!numbers.ok) return numbers;
  const reach = readReach(context, step, sketch.frame, base, numbers.value);
  if (!reach.ok) return reach;
  const { profiles, frame } = sketch;
  const taper = numbers.value['taper'] ?? 0;
  const toolOf = (range: Reach): Tool => {
    const parts = splitAtPlane(range, taper);
    const key = keyOf([context.port.version, step.id, 'extrude', frame, sketch.profileKey, parts, taper]);
    const solid = () =>
      context.make(key, () => {
        const made = parts.map(({ from, to }) => context.port.extrude({ profiles, frame, from, to, step: step.id, taper }));
        return joinParts(context, made);
      });
    const [only] = parts;
    const prisms = only && taper === 0 ? { prisms: [makePrism(step.id, frame, profiles, only.from, only.to)] } : {};
    return { key, solid, ...prisms, operation: asTool(step.operation) };
  };
  const tool = toolOf(reach.value);
  if (step.extent !== 'through') return combineWith(context, step.operation, base, [tool]);
  const [low, high] = [reach.value.from + OVERSHOOT, reach.value.to - OVERSHOOT];
  const reaching = (from: number, to: number): Tool => toolOf({ from: from - OVERSHOOT, to: to + OVERSHOOT });
  return combineWith(context, step.operation, base, [{ ...tool, through: { frame, low, high, reaching } }]);
};

/** A tapered extrusion that reaches both ways narrows both ways: it is built in two halves. */
function splitAtPlane({ from, to }: Reach, taper: number): Reach[] {
  if (taper === 0) return [{ from, to }];
  if (from * to >= 0) return [Math.abs(from) <= Math.abs(to) ? { from, to } : { from: to, to: from }];
  return [
    { from: 0, to },
    { from: 0, to: from },
  ];
}

function joinParts({ port }: BuildContext, made: readonly Result<BodyHandle, KernelFailure>[]): Result<BodyHandle, KernelFailure> {
  const [first, second] = made;
  if (!first) throw new Error('Bug: an extrusion of no parts');
  if (!second || !first.ok || !second.ok) return first.ok && second && !second.ok ? second : first;
  const joined = port.combine('add', first.value, [second.value]);
  port.release(first.value);
  port.release(second.value);
  return joined;
}

export const buildRevolve: Builder<StepOf<'revolve'>> = (context, step) => {
  const ground = standOn(context, step, step.sketch);
  if (!ground.ok) return ground;
  const { sketch, base } = ground.value;
  const numbers = readNumbers(context, step);
  if (!numbers.ok) return numbers;
  const axis = readAxis(context, step, sketch);
  if (!axis.ok) return axis;
  const size = step.extent === 'full' ? 2 * Math.PI : (numbers.value['angle'] ?? 0);
  if (Math.abs(size) < 1e-6) {
    const { text, id } = nameNumber(context, step, 'angle');
    return refuse({ message: `${step.name}: ${text}; a revolution needs an angle.`, about: [id] });
  }
  const angle = step.isReversed === true ? -size : size;
  const { profiles, frame } = sketch;
  const key = keyOf([context.port.version, step.id, 'revolve', frame, sketch.profileKey, axis.value, angle]);
  const solid = () => context.make(key, () => context.port.revolve({ profiles, frame, axis: axis.value, angle, step: step.id }));
  return combineWith(context, step.operation, base, [{ key, solid, operation: asTool(step.operation) }]);
};

function readAxis(
  { document }: BuildContext,
  step: StepOf<'revolve'>,
  sketch: SketchResult,
): Buildable<{ readonly origin: Point2; readonly direction: Point2 }> {
  if (step.axis === 'x-axis') return succeed({ origin: [0, 0], direction: [1, 0] });
  if (step.axis === 'y-axis') return succeed({ origin: [0, 0], direction: [0, 1] });
  const line = findRecord(document, step.axis, 'line');
  const [start, end] = [sketch.solution.points.get(line?.start ?? ''), sketch.solution.points.get(line?.end ?? '')];
  if (!start || !end) return refuse({ message: `${step.name}: the line that it turns about is no longer in its sketch.`, about: [step.axis] });
  const length = Math.hypot(end[0] - start[0], end[1] - start[1]);
  if (length < 1e-9) return refuse({ message: `${step.name}: the line that it turns about has no length.`, about: [step.axis] });
  return succeed({ origin: start, direction: [(end[0] - start[0]) / length, (end[1] - start[1]) / length] });
}

export function asTool(operation: Solid['operation']): Tool['operation'] {
  return operation === 'start' ? 'add' : operation;
}

/** The sketch of a solid, sound, and the body that it works on. */
export function standOn(context: BuildContext, step: Solid, id: string): Buildable<{ readonly sketch: SketchResult; readonly base: BodyState | undefined }> {
  const sketch = context.sketch(id);
  if (!sketch.ok) return sketch;
  const { profileProblem } = sketch.value;
  if (profileProblem) {
    const name = findRecord(context.document, id, 'sketch')?.name ?? '';
    return refuse({ ...profileProblem, message: `${name}: ${profileProblem.message}` });
  }
  if (step.operation === 'start') {
    if (context.hasBody(step.body)) return refuse({ message: `${step.name} would start a body that is there already.`, about: [] });
    return succeed({ sketch: sketch.value, base: undefined });
  }
  const base = context.body(step.body);
  return base.ok ? succeed({ sketch: sketch.value, base: base.value }) : base;
}

/** The body with what a step adds to it, takes away, or leaves of it. */
export function combineWith(context: BuildContext, operation: Solid['operation'], base: BodyState | undefined, tools: readonly Tool[]): Buildable<BuiltStep> {
  const [first] = tools;
  if (!base) {
    if (!first) return wait('There is nothing to build.');
    const started = first.solid();
    return started.ok ? succeed({ state: { ...started.value, ...(first.prisms ? { prisms: first.prisms } : {}) }, tools }) : started;
  }
  if (!first) return succeed({ state: base, tools });
  const how = operation === 'start' ? 'add' : operation;
  const key = keyOf([context.port.version, how, base.key, tools.map((tool) => tool.key)]);
  const profile = how === 'remove' ? context.cutProfile(key, () => cutProfile(base, tools)) : undefined;
  if (profile) {
    const { frame, profiles, from, to, names } = profile;
    const drawn = context.make(key, () => context.port.extrude({ profiles, frame, from, to, step: stepOf(names), names }));
    return drawn.ok ? succeed({ state: { ...drawn.value, prisms: [profile] }, tools }) : drawn;
  }
  const handles: BodyHandle[] = [];
  for (const tool of tools) {
    const solid = tool.solid();
    if (!solid.ok) return solid;
    handles.push(solid.value.handle);
  }
  const state = context.make(key, () => context.port.combine(how, base.handle, handles));
  return state.ok ? succeed({ state: state.value, tools }) : state;
}

/** The body as one prism with all tools taken out of its profile, where it is one and they are. */
function cutProfile({ prisms }: BodyState, tools: readonly Tool[]): Prism | undefined {
  const [body] = prisms ?? [];
  const taken = tools.flatMap((tool) => tool.prisms ?? []);
  if (!body || prisms?.length !== 1 || tools.some((tool) => tool.prisms === undefined)) return undefined;
  return removePrisms(body, taken);
}

/** The step that the caps of a prism are named after: that of its first side. */
function stepOf(names: Readonly<Record<string, string>>): string {
  return /^[^/]+/.exec(Object.values(names)[0] ?? '')?.[0] ?? '';
}

function readReach(
  context: BuildContext,
  step: StepOf<'extrude'>,
  frame: Frame,
  base: BodyState | undefined,
  numbers: Readonly<Record<string, number>>,
): Buildable<Reach> {
  if (step.extent === 'through') {
    if (!base) return refuse({ message: `${step.name} goes through, but there is no body to go through yet.`, about: [] });
    const { low, high } = heightsAlong(context.port.measure(base.handle), frame);
    return succeed({ from: low - OVERSHOOT, to: high + OVERSHOOT });
  }
  if (step.extent === 'up-to') return reachUpTo(context, step, frame, base);
  const depth = numbers['depth'] ?? 0;
  const back = numbers['back'] ?? 0;
  if (Math.abs(depth + (step.extent === 'both' ? back : 0)) < 1e-6) {
    const { text, id } = nameNumber(context, step, 'depth');
    if (step.extent === 'both' && Math.abs(depth) >= 1e-6) {
      const other = nameNumber(context, step, 'back');
      return refuse({ message: `${step.name}: ${text} and ${other.text}; together they leave no depth.`, about: [id, other.id] });
    }
    return refuse({ message: `${step.name}: ${text}; an extrusion needs a depth.`, about: [id] });
  }
  const way = step.isReversed === true ? -1 : 1;
  if (step.extent === 'centred') return succeed({ from: (-way * depth) / 2, to: (way * depth) / 2 });
  return succeed({ from: step.extent === 'both' ? -way * back : 0, to: way * depth });
}

function reachUpTo({ port }: BuildContext, step: StepOf<'extrude'>, frame: Frame, base: BodyState | undefined): Buildable<Reach> {
  if (!base) return refuse({ message: `${step.name} reaches up to a face, but there is no body yet.`, about: [] });
  const face = port.describeFace(base.handle, step.upTo ?? '');
  if (!face) return refuse({ message: `${step.name}: the face that it reaches up to is no longer there.`, about: [], lost: step.upTo ?? '' });
  if (face.kind !== 'plane') return refuse({ message: `${step.name} can reach up to a plane face only.`, about: [] });
  const along = face.frame.normal.reduce((sum, part, i) => sum + part * (frame.normal[i] ?? 0), 0);
  if (Math.abs(along) < 1 - 1e-9) return refuse({ message: `${step.name}: the face that it reaches up to is not parallel to its sketch.`, about: [] });
  const height = heightOf(face.frame.origin, frame);
  if (Math.abs(height) < 1e-6) return refuse({ message: `${step.name}: the face that it reaches up to lies in the plane of its sketch.`, about: [] });
  return succeed({ from: 0, to: height });
}

/** Height of a place over a plane, along its normal. */
function heightOf([x, y, z]: readonly [number, number, number], { origin, normal }: Frame): number {
  return (x - origin[0]) * normal[0] + (y - origin[1]) * normal[1] + (z - origin[2]) * normal[2];
}

/** Where a body begins and ends along the normal of a plane, by its box. */
export function heightsAlong({ box }: BodyProperties, frame: Frame): { readonly low: number; readonly high: number } {
  const heights: number[] = [];
  for (const x of [box.min[0], box.max[0]]) {
    for (const y of [box.min[1], box.max[1]]) for (const z of [box.min[2], box.max[2]]) heights.push(heightOf([x, y, z], frame));
  }
  return { low: Math.min(...heights), high: Math.max(...heights) };
}

/** Patterns, mirrors, combined and moved bodies. */
import { findRecord, findStep, type StepOf } from '../../document';
import { DATUM_FRAMES, placeAlong, toSpace } from '../../geometry';
import { facesIn, type Movement } from '../../kernel-port';
import { succeed } from '../../kit';
import { keyOf } from '../keys';
import { nameNumber, readNumbers, refuse, type BodyState, type Buildable, type Builder, type BuildContext, type BuiltStep, type Tool } from './context';
import type { PatternPlace, StepProblem } from '../outcome';
import { findSketchPath } from './drawn';
import { movePrism } from './prism';
import { moveFrame } from './moved-frame';
import { combineWith, heightsAlong } from './solids';

/** More than this in one pattern is a mistake, or would take too long. */
const MOST_COPIES = 2000;

export const buildPattern: Builder<StepOf<'pattern'>> = (context, step) => {
  const base = context.body(step.body);
  if (!base.ok) return base;
  const numbers = readNumbers(context, step);
  if (!numbers.ok) return numbers;
  const { count = 1, span = 0 } = numbers.value;
  if (count < 1 || count > MOST_COPIES) {
    const { text, id } = nameNumber(context, step, 'count');
    return refuse({ message: `${step.name}: ${text}, but must lie between 1 and ${MOST_COPIES}.`, about: [id] });
  }
  if (count > 1 && Math.abs(span) < 1e-9) {
    const { text, id } = nameNumber(context, step, 'span');
    return refuse({ message: `${step.name}: ${text}; all would lie in one place.`, about: [id] });
  }
  const pitch = (step.spread === 'span' ? span / Math.max(count - 1, 1) : span) * (step.isReversed === true ? -1 : 1);
  const skipped = new Set(step.skip);
  const movementsTo = findMovements(context, step, pitch, count);
  if (!movementsTo.ok) return movementsTo;
  const places: { readonly prefix: string; readonly movements: readonly Movement[] }[] = [];
  for (let i = 1; i < count; i++) if (!skipped.has(i)) places.push({ prefix: `${step.id}/${i}`, movements: movementsTo.value(i) });
  const repeated = repeatTools(context, step, base.value, places);
  if (!repeated.ok) return repeated;
  const told = places.map(({ prefix, movements }): PatternPlace => ({
    place: Number(prefix.slice(prefix.lastIndexOf('/') + 1)),
    frame: moveFrame(DATUM_FRAMES.top, movements),
  }));
  return succeed({ ...repeated.value, places: told });
};

/** How the original moves to each place. */
function findMovements(context: BuildContext, step: StepOf<'pattern'>, pitch: number, count: number): Buildable<(place: number) => readonly Movement[]> {
  if (typeof step.along === 'object' && 'path' in step.along) return movementsAlong(context, step, step.along.path, pitch, count);
  const axis = context.axis(step.along);
  if (!axis.ok) return axis;
  const { direction } = axis.value;
  return succeed((i) =>
    step.form === 'circular'
      ? [{ kind: 'turn', about: axis.value, angle: i * pitch }]
      : [{ kind: 'shift', by: [direction[0] * i * pitch, direction[1] * i * pitch, direction[2] * i * pitch] }],
  );
}

function movementsAlong(
  context: BuildContext,
  step: StepOf<'pattern'>,
  sketch: string,
  pitch: number,
  count: number,
): Buildable<(place: number) => readonly Movement[]> {
  const found = findSketchPath(context, sketch);
  if (!found.ok) return found;
  const { path, frame } = found.value;
  const need = Math.abs(pitch) * (count - 1);
  if (!path.isClosed && need > path.length + 1e-6) {
    const { text, id } = nameNumber(context, step, 'span');
    const size = (value: number): string => `${Number(value.toPrecision(6))} mm`;
    return refuse({
      message: `${step.name}: ${text} with a count of ${count} needs ${size(need)} of path, which is ${size(path.length)} long.`,
      about: [id, nameNumber(context, step, 'count').id],
    });
  }
  const start = step.isReversed === true ? path.length : 0;
  const first = placeAlong(path, start);
  const from = toSpace(frame, ...first.at);
  return succeed((i) => {
    const { at, heading } = placeAlong(path, start + i * pitch);
    const to = toSpace(frame, ...at);
    const shift: Movement = { kind: 'shift', by: [to[0] - from[0], to[1] - from[1], to[2] - from[2]] };
    if (step.isTurning !== true) return [shift];
    return [{ kind: 'turn', about: { origin: from, direction: frame.normal }, angle: heading - first.heading }, shift];
  });
}

export const buildMirror: Builder<StepOf<'mirror'>> = (context, step) => {
  const base = context.body(step.body);
  if (!base.ok) return base;
  const plane = context.frame(step.plane);
  if (!plane.ok) return plane;
  const { origin, normal } = plane.value;
  const places = [{ prefix: `${step.id}/1`, movements: [{ kind: 'mirror', plane: { origin, normal } } satisfies Movement] }];
  if (step.of.length > 0) return repeatTools(context, step, base.value, places);
  const whole = repeatTool(context, { key: base.value.key, solid: () => base, operation: 'add' }, places);
  return combineWith(context, 'add', base.value, [whole]);
};

type Places = readonly { readonly prefix: string; readonly movements: readonly Movement[] }[];

/** What the repeated steps did, done again in other places; neighbouring steps of one kind in one go. */
function repeatTools(context: BuildContext, step: StepOf<'pattern' | 'mirror'>, base: BodyState, places: Places): Buildable<BuiltStep> {
  const originals: Tool[] = [];
  for (const id of step.of) {
    const tools = context.tools(id);
    if (!tools.ok) return tools;
    if (tools.value.length === 0) {
      return refuse({
        message: `${step.name}: ${findStep(context.document, id)?.name ?? 'a step'} neither adds nor removes, so it cannot be repeated.`,
        about: [id],
      });
    }
    originals.push(...tools.value);
  }
  if (places.length === 0) return succeed({ state: base, tools: [] });
  const made: Tool[] = [];
  let state = base;
  for (let from = 0; from < originals.length;) {
    const operation = originals[from]?.operation ?? 'add';
    let to = from + 1;
    while (to < originals.length && originals[to]?.operation === operation) to++;
    const tools = originals.slice(from, to).map((tool) => repeatTool(context, reachThrough(context, tool, state, places), places));
    const combined = combineWith(context, operation, state, tools);
    if (!combined.ok) return combined;
    state = combined.value.state;
    made.push(...tools);
    from = to;
  }
  return succeed({ state, tools: made, warnings: warnOfCopies(context, step, originals, [base, state], places) });
}

/** More copies than this are not looked at one by one. */
const MOST_CHECKED = 40;

/** Said where single copies change nothing: none of their faces is on the body, and what they have in common with it is nothing, or all of them. */
function warnOfCopies(
  context: BuildContext,
  step: StepOf<'pattern' | 'mirror'>,
  originals: readonly Tool[],
  [before, after]: readonly [BodyState, BodyState],
  places: Places,
): StepProblem[] {
  const { faces } = context.port.names(after.handle);
  const unseen = places.filter(({ prefix }) => !faces.some((name) => facesIn(name).some((one) => one.startsWith(`${prefix}:`))));
  if (unseen.length > MOST_CHECKED) return [];
  const idle = unseen.filter((place) => originals.every((tool) => changesNothing(context, before, tool, place)));
  if (idle.length === 0) return [];
  const numbers = idle.map(({ prefix }) => Number(prefix.slice(prefix.lastIndexOf('/') + 1)) + 1);
  const isAdding = originals.every(({ operation }) => operation === 'add');
  const why = isAdding ? 'lie within the body' : 'do not meet the body';
  const which = numbers.length === 1 ? `place ${numbers[0] ?? 0} changes nothing` : `places ${numbers.join(', ')} change nothing`;
  return [{ message: `${step.name}: ${which}; copies there ${why}.`, about: [] }];
}

/** Whether a copy takes nothing from a body, or adds nothing to it. */
function changesNothing(context: BuildContext, base: BodyState, tool: Tool, { movements }: Places[number]): boolean {
  const original = tool.solid();
  if (!original.ok) return false;
  const { port } = context;
  const copyKey = keyOf([port.version, 'copy', original.value.key, movements]);
  const copy = context.make(copyKey, () => port.move(original.value.handle, movements));
  if (!copy.ok) return false;
  const common = context.make(keyOf([port.version, 'common', base.key, copyKey]), () => port.combine('keep', base.handle, [copy.value.handle]));
  // What has nothing in common cannot be made.
  const shared = common.ok ? port.measure(common.value.handle).volume : 0;
  const whole = port.measure(copy.value.handle).volume;
  return tool.operation === 'add' ? shared > whole * (1 - SAME_VOLUME) : shared < whole * SAME_VOLUME;
}

/** Relative difference of volumes that is none. */
const SAME_VOLUME = 1e-9;

/** What goes through everything goes through what is there in every place: as far as the deepest of them needs. */
function reachThrough({ port }: BuildContext, tool: Tool, state: BodyState, places: Places): Tool {
  const { through } = tool;
  if (!through) return tool;
  const body = port.measure(state.handle);
  let { low, high } = through;
  for (const { movements } of places) {
    const there = heightsAlong(body, moveFrame(through.frame, movements));
    low = Math.min(low, there.low);
    high = Math.max(high, there.high);
  }
  const isFarEnough = low > through.low - 1e-6 && high < through.high + 1e-6;
  return isFarEnough ? tool : { ...through.reaching(low, high), through: { ...through, low, high } };
}

function repeatTool(context: BuildContext, tool: Tool, places: Places): Tool {
  const key = keyOf([context.port.version, 'repeat', tool.key, places]);
  const solid = (): Buildable<BodyState> => {
    const original = tool.solid();
    return original.ok ? context.make(key, () => context.port.repeat(original.value.handle, places)) : original;
  };
  const [only] = tool.prisms ?? [];
  const prisms = only && tool.prisms?.length === 1 ? movePrism(only, places) : undefined;
  const { through } = tool;
  const [first] = places;
  // Copied once more, as by a pattern of a pattern, it goes through what is there then.
  const further = through &&
    first && {
      through: {
        ...through,
        frame: moveFrame(through.frame, first.movements),
        reaching: (low: number, high: number) => repeatTool(context, { ...through.reaching(low, high), through: { ...through, low, high } }, places),
      },
    };
  return { key, solid, operation: tool.operation, ...(prisms ? { prisms } : {}), ...further };
}

export const buildCombine: Builder<StepOf<'combine'>> = (context, step) => {
  const base = context.body(step.body);
  if (!base.ok) return base;
  const tools: Tool[] = [];
  for (const id of step.tools) {
    const tool = context.body(id);
    if (!tool.ok) return tool;
    tools.push({ key: tool.value.key, solid: () => tool, operation: step.operation });
  }
  const combined = combineWith(context, step.operation, base.value, tools);
  return combined.ok ? succeed({ ...combined.value, consumed: step.tools }) : combined;
};

export const buildPlace: Builder<StepOf<'place'>> = (context, step) => {
  const source = context.body(step.from ?? step.body);
  if (!source.ok) return source;
  const numbers = readNumbers(context, step);
  if (!numbers.ok) return numbers;
  const { x = 0, y = 0, z = 0, angle = 0 } = numbers.value;
  const movements: Movement[] = [];
  if (step.mirror !== undefined) {
    const plane = context.frame(step.mirror);
    if (!plane.ok) return plane;
    movements.push({ kind: 'mirror', plane: { origin: plane.value.origin, normal: plane.value.normal } });
  }
  if (step.about) {
    const axis = context.axis(step.about);
    if (!axis.ok) return axis;
    movements.push({ kind: 'turn', about: axis.value, angle });
  }
  movements.push({ kind: 'shift', by: [x, y, z] });
  const stays = step.mirror === undefined && Math.hypot(x, y, z) < 1e-6 && Math.abs(angle) < 1e-9;
  if (stays && step.from !== undefined) {
    const name = findRecord(context.document, step.from, 'body')?.name ?? 'its original';
    return refuse({ message: `${step.name}: the copy would lie exactly on ${name}. Give it a distance or an angle.`, about: Object.values(step.values) });
  }
  const key = keyOf([context.port.version, step.id, 'place', source.value.key, movements]);
  const state = context.make(key, () => context.port.move(source.value.handle, movements, step.from === undefined ? undefined : step.id));
  return state.ok ? succeed({ state: state.value, tools: [] }) : state;
};

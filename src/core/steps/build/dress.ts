/** Fillets, chamfers, shells and tapered faces: steps on edges and faces of a body. */
import type { StepOf } from '../../document';
import { facesIn, plainCap, type BodyHandle, type KernelFailure } from '../../kernel-port';
import { fail, succeed, type Result } from '../../kit';
import { keyOf } from '../keys';
import { nameNumber, readNumbers, refuse, requirePositive, type BodyState, type Buildable, type Builder, type BuildContext, type BuiltStep } from './context';

type Dressing = StepOf<'fillet' | 'chamfer' | 'shell' | 'draft'>;

export const buildFillet: Builder<StepOf<'fillet'>> = (context, step) =>
  dress(context, step, 'radius', (body, { radius = 0 }) => context.port.fillet(body, step.edges, radius, step.id), step.edges);

export const buildChamfer: Builder<StepOf<'chamfer'>> = (context, step) =>
  dress(
    context,
    step,
    'distance',
    (body, { distance = 0, second, angle }) =>
      context.port.chamfer(body, step.edges, { distance, ...(second === undefined ? {} : { second }), ...(angle === undefined ? {} : { angle }) }, step.id),
    [step.edges, step.form],
  );

export const buildShell: Builder<StepOf<'shell'>> = (context, step) =>
  dress(context, step, 'wall', (body, { wall = 0 }) => context.port.shell(body, step.faces, wall, step.id), step.faces);

export const buildDraft: Builder<StepOf<'draft'>> = (context, step) => {
  const plane = context.frame(step.plane);
  if (!plane.ok) return plane;
  const base = context.body(step.body);
  if (!base.ok) return base;
  const numbers = readNumbers(context, step);
  if (!numbers.ok) return numbers;
  const angle = numbers.value['angle'] ?? 0;
  const key = keyOf([context.port.version, step.id, step.type, base.value.key, step.faces, plane.value, angle]);
  const state = context.make(key, () => context.port.draft(base.value.handle, step.faces, plane.value, angle, step.id));
  return state.ok ? succeed({ state: state.value, tools: [] }) : state;
};

function opensEverything({ port }: BuildContext, { handle }: BodyState, open: readonly string[]): boolean {
  const names = new Set(open.flatMap(facesIn).map(plainCap));
  return port.names(handle).faces.every((face) => facesIn(face).some((name) => names.has(plainCap(name))));
}

/** How often a size that fits is looked for, by halving. */
const TRIES = 9;

/** `main` is the size that is made smaller when it does not fit, to tell the most that would. */
function dress(
  context: BuildContext,
  step: Exclude<Dressing, { readonly type: 'draft' }>,
  main: string,
  make: (body: BodyHandle, numbers: Readonly<Record<string, number>>) => Result<BodyHandle, KernelFailure>,
  choices: unknown,
): Buildable<BuiltStep> {
  const base = context.body(step.body);
  if (!base.ok) return base;
  const numbers = readNumbers(context, step);
  if (!numbers.ok) return numbers;
  const sound = requirePositive(context, step, numbers.value, Object.keys(numbers.value));
  if (!sound.ok) return sound;
  const { angle } = numbers.value;
  if (angle !== undefined && angle > Math.PI / 2 - 0.001) {
    const { text, id } = nameNumber(context, step, 'angle');
    return refuse({ message: `${step.name}: ${text}, but must lie between 0° and 90°.`, about: [id] });
  }
  if (step.type === 'shell' && opensEverything(context, base.value, step.faces)) {
    return refuse({ message: `${step.name}: every face is left open; a wall needs one that is not.`, about: [] });
  }
  const key = keyOf([context.port.version, step.id, step.type, base.value.key, numbers.value, choices]);
  const state = context.make(key, () => {
    const made = make(base.value.handle, numbers.value);
    if (made.ok || made.failure.lost !== undefined) return made;
    return fail(tellMost(context, step, main, base.value, numbers.value, make, made.failure));
  });
  return state.ok ? succeed({ state: state.value, tools: [] }) : state;
}

function tellMost(
  context: BuildContext,
  step: Dressing,
  main: string,
  base: BodyState,
  numbers: Readonly<Record<string, number>>,
  make: (body: BodyHandle, numbers: Readonly<Record<string, number>>) => Result<BodyHandle, KernelFailure>,
  failure: KernelFailure,
): KernelFailure {
  const { min, max } = context.port.measure(base.handle).box;
  const largest = Math.hypot(max[0] - min[0], max[1] - min[1], max[2] - min[2]);
  const fits = (slot: string, trial: number): boolean => {
    const made = make(base.handle, { ...numbers, [slot]: trial });
    if (made.ok) context.port.release(made.value);
    return made.ok;
  };
  // The size that is to blame is the one which, made small alone, lets the others stand.
  const slot = [main, 'second'].find((one) => numbers[one] !== undefined && fits(one, SMALL)) ?? main;
  let [most, tooMuch] = [0, Math.min(numbers[slot] ?? 0, largest)];
  for (let i = 0; i < TRIES; i++) {
    const trial = (most + tooMuch) / 2;
    if (fits(slot, trial)) most = trial;
    else tooMuch = trial;
  }
  const { text } = nameNumber(context, step, slot);
  return { ...failure, reason: `${text} does not fit${most > 0 ? `; the most that fits is about ${roundDown(most)} mm` : ''}.` };
}

/** A size that fits where any does, in millimetres. */
const SMALL = 0.01;

/** To three digits, never up: what is told is to fit. */
function roundDown(value: number): number {
  const step = 10 ** (Math.floor(Math.log10(value)) - 2);
  return Number((Math.floor(value / step) * step).toPrecision(3));
}

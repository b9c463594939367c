/** Fillets, chamfers, shells and tapered faces: steps on edges and faces of a body. */
import type { StepOf } from '../../document';
import type { BodyHandle, KernelFailure } from '../../kernel-port';
import { fail, succeed, type Result } from '../../kit';
import { keyOf } from '../keys';
import { nameNumber, readNumbers, requirePositive, type BodyState, type Buildable, type Builder, type BuildContext, type BuiltStep } from './context';

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
  const sound = requirePositive(context, step, numbers.value, [main]);
  if (!sound.ok) return sound;
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
  let [fits, tooMuch] = [0, Math.min(numbers[main] ?? 0, Math.hypot(max[0] - min[0], max[1] - min[1], max[2] - min[2]))];
  for (let i = 0; i < TRIES; i++) {
    const trial = (fits + tooMuch) / 2;
    const made = make(base.handle, { ...numbers, [main]: trial });
    if (made.ok) {
      fits = trial;
      context.port.release(made.value);
    } else tooMuch = trial;
  }
  const { text } = nameNumber(context, step, main);
  const most = fits > 0 ? `; the most that fits is about ${Number(fits.toPrecision(2))} mm` : '';
  return { ...failure, reason: `${text} does not fit${most}.` };
}

/** What is built as it was asked for, and yet is hardly meant: said beside the step, which stays done. */
import type { Feature } from '../document';
import type { Profile } from '../geometry';
import type { BodyProperties, KernelPort } from '../kernel-port';
import type { BodyState } from './build/context';
import type { StepProblem } from './outcome';

/** Relative difference of volumes and areas below which nothing was changed. */
const SAME = 1e-9;

/** Warnings of a feature by its body before and after it; none for one that starts a body. */
export function warnOf(port: KernelPort, step: Feature, before: BodyState | undefined, after: BodyState): StepProblem[] {
  if (!before || before.key === after.key || isMove(step)) return [];
  const [was, is] = [port.measure(before.handle), port.measure(after.handle)];
  const say = (message: string): StepProblem[] => [{ message, about: [] }];
  if (isSame(was, is)) return say(`${step.name} changes nothing: ${WHY_NOTHING[operationOf(step)]}.`);
  if (is.solids <= was.solids) return [];
  return say(
    operationOf(step) === 'add'
      ? `${step.name} adds a piece that does not touch the body.`
      : `${step.name} leaves the body in ${is.solids} pieces that do not hang together.`,
  );
}

type Operation = 'add' | 'remove' | 'keep' | 'other';

const WHY_NOTHING: Readonly<Record<Operation, string>> = {
  add: 'what it adds lies within the body',
  remove: 'what it would take away does not meet the body',
  keep: 'the body lies within what it keeps',
  other: 'the body is as it was before',
};

function operationOf(step: Feature): Operation {
  if ('operation' in step) return step.operation === 'start' ? 'add' : step.operation;
  return step.type === 'hole' ? 'remove' : 'other';
}

function isMove(step: Feature): boolean {
  return step.type === 'place' || step.type === 'split';
}

function isSame(a: BodyProperties, b: BodyProperties): boolean {
  const near = (p: number, q: number): boolean => Math.abs(p - q) <= SAME * Math.max(Math.abs(p), Math.abs(q));
  return a.faces === b.faces && a.solids === b.solids && near(a.volume, b.volume) && near(a.area, b.area);
}

/** How deep each outline lies in others, by the curves that it is made of. */
export type Nesting = ReadonlyMap<string, number>;

export function nestingOf(profiles: readonly Profile[]): Nesting {
  const keyOf = (curves: Profile['outer']['curves']): string => [...new Set(curves.map(({ curve }) => curve.id))].sort().join(' ');
  return new Map(profiles.flatMap(({ outer, holes }) => [[keyOf(outer.curves), 0] as const, ...holes.map(({ curves }) => [keyOf(curves), 1] as const)]));
}

/** Said where an outline that was drawn as a hole bounds material now, or the other way round. */
export function warnOfNesting(drawn: Nesting, solved: Nesting): StepProblem[] {
  const turned = [...solved].filter(([key, depth]) => drawn.has(key) && drawn.get(key) !== depth);
  if (turned.length === 0) return [];
  const about = turned.flatMap(([key]) => key.split(' '));
  return [{ message: 'An outline has overtaken the one around it: what was drawn as a hole is solid now, or the other way round.', about }];
}

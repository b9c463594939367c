/** Several goals at once from the command line. */
import { applyEdit, goalNode, listRecords, readGoals, textOfGoal, writeGoal, type Edit } from '../core/document';
import { openValues } from '../core/instances';
import { axisBetween, reachGoalsOf, Sampler } from '../core/studies';
import { buildWith, MASS } from '../workers/study-build';
import { CommandProblem } from './problem';
import { findTarget, inUnit, readRange, unitOf, type Project } from './studies';

export interface GoalsReport {
  readonly goals: readonly { readonly goal: string; readonly reached: string; readonly isMet: boolean }[];
  /** What the values come to, in their units. */
  readonly values: readonly { readonly name: string; readonly at: number | null; readonly unit: string }[];
  readonly isReached: boolean;
  readonly trials: number;
  readonly problems: readonly string[];
}

/** `goals`: `DOC.value=2 kg`, of one document each; `ranges`: `DOC.value=from..to` of the same. */
export async function reportGoals({ documents, source, client }: Project, goals: readonly string[], ranges: readonly string[]): Promise<GoalsReport> {
  const read = ranges.map((range) => readRange(documents, source, range));
  const [first] = read;
  if (!first) throw new CommandProblem('solve needs a value that may change: --by "DOC.value=10 mm..30 mm".');
  const { document } = first.target;
  const other = read.find(({ target }) => target.document.id !== document.id);
  if (other) throw new CommandProblem(`All values must be of one document: ${other.target.document.name} is another than ${document.name}.`);
  const put = goals.map((goal, i): Edit => {
    const equals = goal.indexOf('=');
    if (equals < 0) throw new CommandProblem(`"${goal}" is no goal. Write one as "DOC.value=2 kg".`);
    const wish = findTarget(documents, goal.slice(0, equals), document);
    if (wish.id === MASS) throw new CommandProblem('Of several goals each needs a name: measure the mass as a value first.');
    const by = read.map(({ target }) => ({ text: target.name }));
    return { type: 'goal.put', goal: { type: 'goal', id: `cli-goal-${i}`, of: { text: wish.name }, wanted: { text: goal.slice(equals + 1).trim() }, by } };
  });
  // In the place of those that the document has.
  const own = listRecords(document, 'goals', 'goal').map(({ id }): Edit => ({ type: 'goal.remove', id }));
  const applied = [...own, ...put].reduce((state, edit) => {
    const next = applyEdit(state, edit);
    if (!next.ok) throw new CommandProblem(next.failure.message);
    return next.value.document;
  }, document);
  const values = openValues(applied, source);
  const readings = readGoals(values);
  const wrong = readings.find(({ problem }) => problem !== undefined);
  if (wrong) throw new CommandProblem(`${textOfGoal(wrong.goal)}: ${wrong.problem ?? ''}`);
  const ids = read.map(({ target }) => target.id);
  const axes = read.map(({ target, low, high }) => {
    const axis = axisBetween(values, target.id, low, high);
    if (!axis) throw new CommandProblem(`${target.name} has no choice in its range.`);
    return axis;
  });
  const build = buildWith(client, applied, source, { outputs: readings.map(({ goal }) => goalNode(goal.id, 'off')) });
  const { best, isReached, trials } = await reachGoalsOf({ sampler: new Sampler(applied, ids, source), ids, axes, goals: readings, build });
  return {
    goals: readings.map(({ goal, within }, k) => ({
      goal: textOfGoal(goal),
      reached: writeGoal(values, goal, best?.off[k] ?? NaN),
      isMet: Math.abs(best?.off[k] ?? NaN) <= within,
    })),
    values: read.map(({ target }, i) => ({
      name: target.name,
      at: inUnit(values, target.id, best?.at[i] ?? NaN),
      unit: unitOf(values, target.id)?.symbol ?? '',
    })),
    isReached,
    trials,
    problems: best?.problems ?? [],
  };
}

export function formatGoals({ goals, values, trials, problems }: GoalsReport): string {
  return [
    ...values.map(({ name, at, unit }) => `${name} = ${at ?? '?'} ${unit}`),
    ...goals.map(({ goal, reached, isMet }) => `  ${goal}: ${reached}, ${isMet ? 'met' : 'not met'}`),
    ...problems.map((problem) => `  ${problem}`),
    `${trials} trials`,
  ].join('\n');
}

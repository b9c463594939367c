/** Whether goals are met, and what may change for them. */
import type { ValueType } from '../formula';
import { prettyUnit } from '../units';
import { findNamed, listRecords } from './access';
import { GOAL_NODES, goalNode, type GoalNode } from './goal-nodes';
import type { Goal } from './schema';
import type { DocumentValues } from './values';

/** Of the larger of what it is and is to be: what is lost in computing is far less, and nobody measures better. */
const NEAR = 1e-6;

export interface GoalReading {
  readonly goal: Goal;
  /** In internal units; not a number where it cannot be judged. */
  readonly off: number;
  /** How far off it may be, in internal units. */
  readonly within: number;
  readonly isMet: boolean;
  /** Why it cannot be judged. */
  readonly problem?: string;
}

export function readGoals(values: DocumentValues): GoalReading[] {
  return listRecords(values.document, 'goals', 'goal').map((goal) => readGoal(values, goal));
}

export function readGoal(values: DocumentValues, goal: Goal): GoalReading {
  const read = (node: GoalNode) => values.sheet.read(goalNode(goal.id, node));
  const [of, wanted, off, within] = GOAL_NODES.map(read);
  const diagnostics = [of, wanted, off, within].flatMap((reading) => reading?.diagnostics ?? []);
  const problem = diagnostics[0]?.message ?? problemOfKinds(goal, off?.type, within?.type);
  if (problem !== undefined) return { goal, off: NaN, within: NaN, isMet: false, problem };
  const size = values.unitOf(undefined, { type: off?.type, typedUnit: undefined })?.size ?? 1;
  const allowed = within ? Math.abs(within.value) : Math.max(Math.abs(of?.value ?? 0), Math.abs(wanted?.value ?? 0), size) * NEAR;
  return { goal, off: off?.value ?? NaN, within: allowed, isMet: Math.abs(off?.value ?? NaN) <= allowed };
}

function problemOfKinds(goal: Goal, off: ValueType | undefined, within: ValueType | undefined): string | undefined {
  if (off?.kind !== 'quantity') return `${goal.of.text} is not a number.`;
  if (!goal.within || (within?.kind === 'quantity' && within.dimension === off.dimension)) return undefined;
  return `${goal.within.text} is not an amount like ${goal.of.text}.`;
}

/** The values that may change for a goal, and names that are none of this document, or have no formula of their own to change. */
export function driversOf(values: DocumentValues, { by }: Goal): { readonly ids: readonly string[]; readonly unfit: readonly string[] } {
  const ids: string[] = [];
  const unfit: string[] = [];
  for (const { text } of by) {
    const record = findNamed(values.document, text.trim());
    if (record?.type === 'parameter' && !values.isMeasured(record.id)) ids.push(record.id);
    else unfit.push(text);
  }
  return { ids, unfit };
}

/**
 * What the value of a goal comes to, as it is shown, in the unit of what is wanted: `off` by so much from it, in internal units; as it is now where that is
 * not said. Empty where there is none.
 */
export function writeGoal(values: DocumentValues, goal: Goal, off?: number): string {
  const [of, wanted] = (['of', 'wanted'] as const).map((node) => values.sheet.read(goalNode(goal.id, node)));
  if (!of || !wanted || Number.isNaN(of.value) || Number.isNaN(off)) return '';
  const unit = values.unitOf(undefined, { type: of.type, typedUnit: wanted.typedUnit ?? of.typedUnit });
  return prettyUnit(values.words({ ...of, value: off === undefined ? of.value : wanted.value + off }, unit).shown);
}

/** What is computed of a goal, and its words. */
import type { Formula, Goal } from './schema';

/** What is computed of a goal, by the end of the id: what it comes to, what it is to come to, how far that is apart, and how far it may be. */
export const GOAL_NODES = ['of', 'wanted', 'off', 'within'] as const;

export type GoalNode = (typeof GOAL_NODES)[number];

export function goalNode(goal: string, node: GoalNode): string {
  return `${goal}/${node}`;
}

export function goalNodes({ id, of, wanted, within }: Goal): readonly (readonly [string, Formula | undefined])[] {
  // In a line of its own each: a comment at the end of one does not take the other along.
  const off: Formula = { ...of, text: `(${of.text}\n) - (${wanted.text}\n)` };
  return [
    [goalNode(id, 'of'), of],
    [goalNode(id, 'wanted'), wanted],
    [goalNode(id, 'off'), off],
    [goalNode(id, 'within'), within],
  ];
}

/** A goal in a line: `gap = 0.2 mm`. */
export function textOfGoal({ of, wanted, within }: Pick<Goal, 'of' | 'wanted' | 'within'>): string {
  return `${of.text} = ${wanted.text}${within ? ` ± ${within.text}` : ''}`;
}

/** The goals of a document reached by the values that may change for them. */
import { goalNode, type GoalReading } from '../document';
import type { Axis } from './minimise';
import { judgeAt, type BuildState } from './range';
import { reachGoals, type GoalsTrial } from './reach-goals';
import type { Sampler } from './sampler';

export interface GoalsOutcome {
  /** The best that was found; undefined where no goal has a value anywhere. */
  readonly best: GoalsTrial | undefined;
  readonly isReached: boolean;
  readonly isStopped: boolean;
  readonly trials: number;
}

export interface DocumentGoals {
  readonly sampler: Sampler;
  readonly ids: readonly string[];
  /** One for each value of the sampler, in its order. */
  readonly axes: readonly Axis[];
  readonly goals: readonly GoalReading[];
  /** For documents with geometry. */
  readonly build?: BuildState | undefined;
  readonly onTrial?: (trial: GoalsTrial) => void;
}

/** What is near enough, of what is allowed: as near as doubles tell, or as a kernel measures. */
const ENOUGH = { values: 1e-3, geometry: 0.2 } as const;
const RESTARTS = { values: 12, geometry: 1 } as const;

/**
 * Values alone are searched by the exact slopes of their formulas, without a kernel. Where something on the way is computed elsewhere (by the
 * geometry, in a component) every trial is built, and slopes are differences.
 */
export async function reachGoalsOf({ sampler, ids, axes, goals, build, onTrial }: DocumentGoals): Promise<GoalsOutcome> {
  const nodes = goals.map(({ goal }) => goalNode(goal.id, 'off'));
  const { sheet } = sampler.values;
  const way = nodes.some((node) => sheet.listOutsideBetween(ids, node).length > 0) ? 'geometry' : 'values';
  const judge = async (at: readonly number[], builds: BuildState | undefined) => {
    const judged = await judgeAt(sampler, at, nodes, builds);
    return judged && { off: nodes.map((node) => judged.outputs[node] ?? NaN), problems: judged.problems };
  };
  const found = await reachGoals(
    {
      axes,
      start: sampler.present,
      within: goals.map(({ within }) => within),
      enough: ENOUGH[way],
      restarts: RESTARTS[way],
      ...(onTrial ? { onTrial } : {}),
    },
    (at) => judge(at, way === 'geometry' ? build : undefined),
    () => (way === 'geometry' ? undefined : nodes.map((node) => sheet.slopes(ids, node).map(({ value }) => value))),
  );
  if (way === 'geometry' || !build || !found.best) return found;
  // What the geometry says of it is told, though it decides nothing.
  const built = await judge(found.best.at, build);
  return built ? { ...found, best: { ...found.best, problems: built.problems } } : found;
}

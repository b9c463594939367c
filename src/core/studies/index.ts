export { amountIn, amountOf } from './amounts';
export { findGoal, type Goal, type GoalFailure } from './find-goal';
export { massOfBodies, problemsOfSteps, problemsOfValues } from './problems';
export { evenly, runRange, safeRanges, type Outcome, type RangeSample, type SafeRange } from './range';
export { Sampler } from './sampler';
export { stackOf, type Contributor, type Spread, type Stack } from './stack';

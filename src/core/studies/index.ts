export { amountIn, amountOf } from './amounts';
export { findGoal, type Goal, type GoalFailure } from './find-goal';
export { errorsOfValues, heldAmong, heldSources, massOfBodies, problemsOfSteps, problemsOfValues, volumeOfBodies } from './problems';
export { evenly, runRange, safeRanges, type Outcome, type RangeSample, type SafeRange } from './range';
export { keyOfSize, readSizes, SizeReader, valuesOfTable, type SizeReading } from './size-readings';
export { Sampler } from './sampler';
export { DISTRIBUTIONS, evenNumbers, type Distribution } from './distributions';
export { factorToMeet, judgeRequired, type Basis, type Required, type Verdict } from './required';
export { stackOf, type Contributor, type Spread, type Stack } from './stack';

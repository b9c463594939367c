export { amountIn, amountOf, inSteps, listedAmounts, withOwnUnit } from './amounts';
export { axisBetween, axisOf } from './axis';
export { reachGoalsOf, type GoalsOutcome } from './document-goals';
export { ROUNDINGS, roundTo, type Rounding } from './rounding';
export { amountAt, builtAt, BUILT_AT, listToleranced, type AtLimits, type BuiltAt, type BuiltAtEach, type TolerancedValue } from './built-at';
export { fitOf, type Fit } from './fit';
export { findGoal, type GoalFailure } from './find-goal';
export { type GoalsTrial } from './reach-goals';
export { errorsOfValues, heldAmong, heldSources, massOfBodies, problemsOfSteps, problemsOfValues, volumeOfBodies } from './problems';
export {
  closeSafeRange,
  evenly,
  judgeAt,
  pairsOf,
  runMap,
  runRange,
  safeRanges,
  type BuildState,
  type MapSample,
  type Outcome,
  type RangeSample,
  type SafeRange,
} from './range';
export { keyOfSize, readSizes, SizeReader, valuesOfTable, type SizeReading } from './size-readings';
export { Sampler } from './sampler';
export { drawBetween, evenNumbers } from './distributions';
export { askedTexts, cheapestToMeet, factorToMeet, judgeRequired, type Required, type Verdict } from './required';
export { minimise, type Axis, type Minimum, type Trial } from './minimise';
export { asWhatIf, planTakingOver, settingsBetween, textNow, type AsWhatIf, type TakingOver } from './what-if';
export { chainOf, type ChainLink } from './chain';
export { awaitDeviations, deviationsOf, type DeviationReading, type Deviations, type Misfit } from './deviations';
export { mostPieces, stackOf, type Contributor, type Spread, type Stack } from './stack';
export { judgedDocument, needsGeometry } from './stack-runner';

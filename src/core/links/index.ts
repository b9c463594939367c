export { planCatchUp, planWithout, type CatchUpPlan, type LeftBehind } from './catch-up';
export { chooseFarthestUp } from './farthest-up';
export { layerDocuments, linkedNode, reachOf } from './layers';
export { publishValue, publishValues, valuesAsPublished } from './offered';
export { isAlike, relink, type RelinkSource } from './relink';
export { type DocumentPlan, type PlannedDocument, type PlannedState, type PlanOptions, type ValueChange } from './plan-state';
export { listSources } from './sources';
export { applySetting, catchUpProject, type SetFailure } from './project';
export { findReached, type Reached, type ReachedBothWays } from './value-graph';

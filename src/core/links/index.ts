export { findBehind, planCatchUp, type CatchUpPlan, type DocumentPlan, type PlannedDocument, type ValueChange } from './catch-up';
export { layerDocuments, reachOf } from './layers';
export { publishValues } from './offered';
export { applySetting, catchUpProject, type SetFailure } from './project';

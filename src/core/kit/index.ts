export { applyRepair, type Diagnostic, type Repair } from './diagnostic';
export { assertNever, invariant } from './invariant';
export { findNearest } from './nearest';
export { fail, succeed, type Result } from './result';

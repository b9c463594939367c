export { applyRepair, type Diagnostic, type Repair } from './diagnostic';
export { assertNever, invariant } from './invariant';
export { findNearest, nameNearest } from './nearest';
export { sameData } from './same-data';
export { fail, succeed, type Result } from './result';
export { readBase64 } from './base64';

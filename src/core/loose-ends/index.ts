export { findLooseEnds, openLooseEnds, type LooseEnd, type Surroundings } from './find';
export { findTies, readRevision, readState, type PastValues, type Tie } from './untied';

export { findLooseEnds, openLooseEnds, type LooseEnd, type Surroundings } from './find';
export { searchLooseEnds, type LooseEndSearch } from './search';
export { findTies, LIKELY, readRevision, readState, type PastValues, type Tie } from './untied';

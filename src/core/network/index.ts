export type { Definition, FormulaDefinition, InputDefinition, Outside, Reading, TableDefinition } from './definition';
export { findCycle, findCyclePath, orderGraph, type Ordering } from './order';
export { sampleSheet } from './sample';
export { Sheet, type Settled } from './sheet';
export type { Draft } from './draft';

export { planTable, readRows, type CellProblem, type PlannedChange, type ReadRow, type TablePlan } from './plan';
export { COLUMNS, writeTable, type Column, type TableRow } from './table';

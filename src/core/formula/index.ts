export {
  compileFormula,
  describeType,
  evaluateConstant,
  readFormula,
  type Compiled,
  type CompileResult,
  type FormulaDiagnostic,
  type ParsedFormula,
} from './compile';
export type { Adoption } from './checking';
export { diagnoseFault } from './fault';
export { CONSTANTS, describeReserved, findFunction, listFunctions, type FormulaFunction } from './functions';
export { TEMPORARIES, emitCode, runCode, type CodeSink } from './machine';
export { describeDimension, listOr, type FormulaCode } from './messages';
export { automaticLetter, automaticName, checkName, freeName, type NameCode } from './names';
export { snapWhole } from './operations';
export { MAX_FORMULA_LENGTH, parseFormula } from './parse';
export { printFormula } from './print';
export { formatReading } from './reading';
export { renameInFormula } from './rename';
export { ANY_SLOT, type LookupColumn, type LookupTable, type Meaning, type Scope, type Slot } from './scope';
export { collectNames, type FormulaNode, type NameNode, type Span } from './syntax';
export { PLAIN_NUMBER, TEMPERATURE_POINT, TEXT, YES_NO, quantityType, type ValueType } from './value-type';

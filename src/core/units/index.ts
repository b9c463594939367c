export {
  ANGLE,
  LENGTH,
  PLAIN,
  angleExponent,
  divideDimensions,
  internDimension,
  multiplyDimensions,
  powerDimension,
  readDimensionKey,
  rootDimension,
  withoutAngle,
  type Dimension,
} from './dimension';
export { formatExact, formatRounded, joinUnit, prettyUnit, readInUnit } from './format';
export { QUANTITY_KINDS, findKind, kindDimension, type QuantityKind } from './quantity-kind';
export { addRational, divideRational, multiplyRational, rational, readDecimal, roundToDouble, type Rational } from './rational';
export { MILLIMETRES, systemUnit, type UnitSystem } from './unit-system';
export { findUnit, listUnitSymbols, type Unit } from './unit-table';
export { parseUnit, scanUnit, type ScannedUnit, type UnitFactor } from './unit-text';

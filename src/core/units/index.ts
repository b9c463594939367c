export { CUBIC_MILLIMETRE, DEGREE, KILOGRAM, MILLIMETRE, RADIAN } from './base-units';
export {
  ANGLE,
  LENGTH,
  MOST_EXPONENT,
  PLAIN,
  angleExponent,
  divideDimensions,
  internDimension,
  isDimensionKey,
  isNamable,
  multiplyDimensions,
  powerDimension,
  readDimensionKey,
  rootDimension,
  withoutAngle,
  type Dimension,
} from './dimension';
export { formatExact, formatRounded, inUnit, joinUnit, prettyUnit, readInUnit } from './format';
export { QUANTITY_KINDS, findKind, kindDimension, type QuantityKind } from './quantity-kind';
export { MOST_DECIMAL_EXPONENT, addRational, divideRational, multiplyRational, rational, readDecimal, roundToDouble, type Rational } from './rational';
export { MILLIMETRES, dropRadian, isUnitSystem, systemUnit, type UnitSystem } from './unit-system';
export { findUnit, isUnitWord, listUnitSymbols, spellUnit, type Unit } from './unit-table';
export { parseUnit, scanUnit, type ScannedUnit, type UnitFactor } from './unit-text';

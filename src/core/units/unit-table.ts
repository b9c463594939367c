/**
 * Units and their exact factors.
 *
 * Internal base units are chosen so that what designers type is a whole number: length 0.1 µm,
 * mass 1e-8 kg, time s, angle degree, temperature K/1800 (so that °C and °F offsets are whole),
 * current A, amount mol, luminous intensity cd.
 *
 * Sources of the factors: SI prefixes, base and derived units: SI Brochure, 9th ed. (BIPM, 2019), tables
 * 2, 4, 7, 8. Inch, foot, yard, pound (exact since 1959), standard gravity, psi, lbf, slug, Fahrenheit:
 * NIST Special Publication 811 (2008), appendix B.8 and its footnotes. Values entered from memory of those
 * tables and checked in tests against the package `ucum`.
 */
import {
  ANGLE,
  LENGTH,
  MASS,
  PLAIN,
  TEMPERATURE,
  TIME,
  baseDimension,
  divideDimensions,
  multiplyDimensions,
  powerDimension,
  type Dimension,
} from './dimension';
import { divideRational, multiplyRational, rational, readDecimal, roundToDouble, type Rational } from './rational';

export interface Unit {
  /** As it is printed: `mm`, `kg*m/s^2`. */
  readonly symbol: string;
  readonly dimension: Dimension;
  /** Size in internal base units, exactly. */
  readonly factor: Rational;
  /** The same, rounded once. */
  readonly size: number;
  /** Only for absolute temperatures (°C, °F): base units at the scale's zero. */
  readonly offset?: Rational;
}

const FORCE = multiplyDimensions(MASS, divideDimensions(LENGTH, powerDimension(TIME, 2)));
const PRESSURE = divideDimensions(FORCE, powerDimension(LENGTH, 2));
const ENERGY = multiplyDimensions(FORCE, LENGTH);
const POWER = divideDimensions(ENERGY, TIME);
const CURRENT = baseDimension('current');
const VOLTAGE = divideDimensions(POWER, CURRENT);
const FREQUENCY = powerDimension(TIME, -1);

const METRE = rational(10_000_000);
const KILOGRAM = rational(100_000_000);
const GRAM = rational(100_000);
const NEWTON = multiplyRational(KILOGRAM, METRE);
const INCH = rational(254_000);
const FOOT = rational(3_048_000);
const POUND = rational(45_359_237); // 0.45359237 kg exactly
const GRAVITY = multiplyRational(readDecimal('9.80665'), METRE); // m/s², exactly
const POUND_FORCE = multiplyRational(POUND, GRAVITY);
const PASCAL = divideRational(NEWTON, multiplyRational(METRE, METRE));
const JOULE = multiplyRational(NEWTON, METRE);
const KELVIN = rational(1800);
const DEGREE = rational(1);

const units = new Map<string, Unit>();

function add(symbols: string, dimension: Dimension, factor: Rational, offset?: Rational): void {
  const [first = ''] = symbols.split(' ');
  for (const symbol of symbols.split(' ')) {
    if (units.has(symbol)) throw new Error(`Bug: unit ${symbol} is listed twice`);
    const unit = { symbol: first, dimension, factor, size: roundToDouble(factor) };
    units.set(symbol, Object.freeze(offset ? { ...unit, offset } : unit));
  }
}

function addPrefixed(symbol: string, dimension: Dimension, factor: Rational, prefixes: string): void {
  add(symbol, dimension, factor);
  for (const prefix of prefixes.split(' ')) {
    const power = PREFIXES[prefix];
    if (power === undefined) throw new Error(`Bug: no prefix ${prefix}`);
    const scaled = multiplyRational(factor, power < 0 ? rational(1n, 10n ** BigInt(-power)) : rational(10n ** BigInt(power)));
    const name = prefix + symbol;
    add(prefix === 'µ' ? `${name} μ${symbol} u${symbol}` : name, dimension, scaled);
  }
}

const PREFIXES: Readonly<Record<string, number>> = {
  T: 12,
  G: 9,
  M: 6,
  k: 3,
  h: 2,
  d: -1,
  c: -2,
  m: -3,
  µ: -6,
  n: -9,
  p: -12,
};

addPrefixed('m', LENGTH, METRE, 'k d c m µ n');
add('in "', LENGTH, INCH);
add("ft '", LENGTH, FOOT);
add('yd', LENGTH, rational(9_144_000));
add('mi', LENGTH, rational(16_093_440_000));
add('mil thou', LENGTH, rational(254));

addPrefixed('g', MASS, GRAM, 'k m µ');
add('t', MASS, rational(100_000_000_000));
add('lb', MASS, POUND);
add('oz', MASS, divideRational(POUND, rational(16)));
add('slug', MASS, divideRational(POUND_FORCE, FOOT)); // 1 lbf·s²/ft

addPrefixed('s', TIME, rational(1), 'm µ n');
add('min', TIME, rational(60));
add('h', TIME, rational(3600));
add('d', TIME, rational(86_400));

add('deg °', ANGLE, DEGREE);
add('arcmin', ANGLE, rational(1, 60));
add('arcsec', ANGLE, rational(1, 3600));
add('rev', ANGLE, rational(360));
// pi to 36 decimals: a radian has no exact size in degrees, so its factor is good to 1e-35.
const PI = rational(3141592653589793238462643383279502884n, 10n ** 36n);
add('rad', ANGLE, divideRational(rational(180), PI));
add('mrad', ANGLE, divideRational(rational(180, 1000), PI));
add('rpm', divideDimensions(ANGLE, TIME), rational(6));

addPrefixed('N', FORCE, NEWTON, 'M k c m');
add('lbf', FORCE, POUND_FORCE);
add('kgf', FORCE, multiplyRational(KILOGRAM, GRAVITY));
addPrefixed('Pa', PRESSURE, PASCAL, 'G M k h');
addPrefixed('bar', PRESSURE, multiplyRational(PASCAL, rational(100_000)), 'm');
add('psi', PRESSURE, divideRational(POUND_FORCE, multiplyRational(INCH, INCH)));
add('ksi', PRESSURE, divideRational(multiplyRational(POUND_FORCE, rational(1000)), multiplyRational(INCH, INCH)));
addPrefixed('J', ENERGY, JOULE, 'M k m');
addPrefixed('W', POWER, JOULE, 'M k m');
addPrefixed('Hz', FREQUENCY, rational(1), 'G M k');
addPrefixed('L', powerDimension(LENGTH, 3), rational(10n ** 18n), 'c m');
add('gal', powerDimension(LENGTH, 3), multiplyRational(rational(231), multiplyRational(INCH, multiplyRational(INCH, INCH))));

addPrefixed('A', CURRENT, rational(1), 'k m µ');
addPrefixed('V', VOLTAGE, JOULE, 'k m');
addPrefixed('Ω', divideDimensions(VOLTAGE, CURRENT), JOULE, 'M k m');
add('mol', baseDimension('amount'), rational(1));
add('cd', baseDimension('luminosity'), rational(1));

add('K', TEMPERATURE, KELVIN);
add('°C degC', TEMPERATURE, KELVIN, rational(491_670));
add('°F degF', TEMPERATURE, rational(1000), rational(459_670));

add('%', PLAIN, rational(1, 100));

/** The unit of that symbol, or undefined. Symbols are case-sensitive, as in the SI. */
export function findUnit(symbol: string): Unit | undefined {
  return units.get(symbol);
}

/** Every symbol, for completion and for suggestions. */
export function listUnitSymbols(): string[] {
  return [...units.keys()];
}

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
const VOLUME = powerDimension(LENGTH, 3);

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

/** Names of units spelled out, singular and plural: always the unit, whatever the values of a document are called. */
const spelled = new Map<string, string>();

function spell(symbol: string, ...names: readonly string[]): void {
  for (const name of names) for (const word of [name, plural(name)]) spelled.set(word, symbol);
}

function plural(name: string): string {
  if (IRREGULAR.has(name)) return IRREGULAR.get(name) ?? name;
  return /(?:s|z|ch)$/.test(name) ? `${name}es` : `${name}s`;
}

const IRREGULAR = new Map([
  ['foot', 'feet'],
  ['hertz', 'hertz'],
  ['stokes', 'stokes'],
  ['horsepower', 'horsepower'],
]);

function addPrefixed(symbol: string, dimension: Dimension, factor: Rational, prefixes: string, ...names: readonly string[]): void {
  add(symbol, dimension, factor);
  spell(symbol, ...names);
  for (const prefix of prefixes.split(' ')) {
    const power = PREFIXES[prefix];
    if (power === undefined) throw new Error(`Bug: no prefix ${prefix}`);
    const scaled = multiplyRational(factor, power < 0 ? rational(1n, 10n ** BigInt(-power)) : rational(10n ** BigInt(power)));
    const name = prefix + symbol;
    add(prefix === 'µ' ? `${name} μ${symbol} u${symbol}` : name, dimension, scaled);
    spell(name, ...names.map((word) => (PREFIX_NAMES[prefix] ?? '') + word));
  }
}

const PREFIX_NAMES: Readonly<Record<string, string>> = {
  T: 'tera',
  G: 'giga',
  M: 'mega',
  k: 'kilo',
  h: 'hecto',
  d: 'deci',
  c: 'centi',
  m: 'milli',
  µ: 'micro',
  n: 'nano',
  p: 'pico',
};

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

addPrefixed('m', LENGTH, METRE, 'k d c m µ n', 'metre', 'meter');
spell('µm', 'micron');
add('in "', LENGTH, INCH);
spell('in', 'inch');
add("ft '", LENGTH, FOOT);
spell('ft', 'foot');
add('yd', LENGTH, rational(9_144_000));
spell('yd', 'yard');
add('mi', LENGTH, rational(16_093_440_000));
spell('mi', 'mile');
add('mil thou', LENGTH, rational(254));

addPrefixed('g', MASS, GRAM, 'k m µ', 'gram');
add('t', MASS, rational(100_000_000_000));
spell('t', 'tonne');
add('lb', MASS, POUND);
spell('lb', 'pound');
add('oz', MASS, divideRational(POUND, rational(16)));
spell('oz', 'ounce');
add('slug', MASS, divideRational(POUND_FORCE, FOOT)); // 1 lbf·s²/ft

addPrefixed('s', TIME, rational(1), 'm µ n', 'second');
add('min', TIME, rational(60));
spell('min', 'minute');
add('h', TIME, rational(3600));
spell('h', 'hour');
add('d', TIME, rational(86_400));
spell('d', 'day');

add('deg °', ANGLE, DEGREE);
spell('deg', 'degree');
add('arcmin', ANGLE, rational(1, 60));
spell('arcmin', 'arcminute');
add('arcsec', ANGLE, rational(1, 3600));
spell('arcsec', 'arcsecond');
add('rev', ANGLE, rational(360));
spell('rev', 'revolution');
// pi to 36 decimals: a radian has no exact size in degrees, so its factor is good to 1e-35.
const PI = rational(3141592653589793238462643383279502884n, 10n ** 36n);
add('rad', ANGLE, divideRational(rational(180), PI));
spell('rad', 'radian');
add('mrad', ANGLE, divideRational(rational(180, 1000), PI));
spell('mrad', 'milliradian');
add('rpm', divideDimensions(ANGLE, TIME), rational(6));

addPrefixed('N', FORCE, NEWTON, 'M k c m', 'newton');
add('lbf', FORCE, POUND_FORCE);
add('ozf', FORCE, divideRational(POUND_FORCE, rational(16)));
add('kip', FORCE, multiplyRational(POUND_FORCE, rational(1000)));
add('kgf', FORCE, multiplyRational(KILOGRAM, GRAVITY));
addPrefixed('Pa', PRESSURE, PASCAL, 'G M k h', 'pascal');
addPrefixed('bar', PRESSURE, multiplyRational(PASCAL, rational(100_000)), 'm');
add('atm', PRESSURE, multiplyRational(PASCAL, rational(101_325))); // exactly
spell('atm', 'atmosphere');
add('psi', PRESSURE, divideRational(POUND_FORCE, multiplyRational(INCH, INCH)));
add('ksi', PRESSURE, divideRational(multiplyRational(POUND_FORCE, rational(1000)), multiplyRational(INCH, INCH)));
addPrefixed('J', ENERGY, JOULE, 'M k m', 'joule');
addPrefixed('W', POWER, JOULE, 'M k m', 'watt');
addPrefixed('Wh', ENERGY, multiplyRational(JOULE, rational(3600)), 'M k');
// The horsepower of 550 ft·lbf/s.
add('hp', POWER, multiplyRational(rational(550), multiplyRational(FOOT, POUND_FORCE)));
spell('hp', 'horsepower');
addPrefixed('Hz', FREQUENCY, rational(1), 'G M k', 'hertz');
addPrefixed('L', VOLUME, rational(10n ** 18n), 'c m', 'litre', 'liter');
add('gal', VOLUME, multiplyRational(rational(231), multiplyRational(INCH, multiplyRational(INCH, INCH))));
spell('gal', 'gallon');
add('mph', divideDimensions(LENGTH, TIME), divideRational(rational(16_093_440_000), rational(3600)));
// Poise (0.1 Pa·s) and stokes (1 cm²/s).
add('cP', multiplyDimensions(PRESSURE, TIME), divideRational(PASCAL, rational(1000)));
spell('cP', 'centipoise');
addPrefixed('St', divideDimensions(powerDimension(LENGTH, 2), TIME), multiplyRational(rational(100_000), rational(100_000)), 'c', 'stokes');

addPrefixed('A', CURRENT, rational(1), 'k m µ', 'ampere');
addPrefixed('V', VOLTAGE, JOULE, 'k m', 'volt');
addPrefixed('Ω', divideDimensions(VOLTAGE, CURRENT), JOULE, 'M k m', 'ohm');
add('mol', baseDimension('amount'), rational(1));
spell('mol', 'mole');
add('cd', baseDimension('luminosity'), rational(1));
spell('cd', 'candela');

add('K', TEMPERATURE, KELVIN);
spell('K', 'kelvin');
add('°C degC', TEMPERATURE, KELVIN, rational(491_670));
add('°F degF', TEMPERATURE, rational(1000), rational(459_670));

add('%', PLAIN, rational(1, 100));
spell('%', 'percent');

/** The unit of that symbol or spelled-out name, or undefined. Case counts, as in the SI. */
export function findUnit(symbol: string): Unit | undefined {
  return units.get(symbol) ?? units.get(spelled.get(symbol) ?? '');
}

/** The spelled-out name of a unit by its symbol; undefined where the symbol has none. */
export function spellUnit(symbol: string): string | undefined {
  for (const [word, spelledSymbol] of spelled) if (spelledSymbol === symbol) return word;
  return undefined;
}

/**
 * Whether a word is a unit and nothing else: a symbol of two letters or more, or the spelled-out name of one of a single letter,
 * which is how that unit is written beside a value of its name. `foot` is left to designers, whose things have feet.
 */
export function isUnitWord(word: string): boolean {
  return word.length > 1 && (units.has(word) || spelled.get(word)?.length === 1);
}

/** Every symbol, for completion and for suggestions. */
export function listUnitSymbols(): string[] {
  return [...units.keys()];
}

/**
 * Values as text. A value is held in internal base units; what is shown is the shortest decimal that reads
 * back as the very same double in the unit of display.
 */
import { MOST_DECIMAL_EXPONENT, addRational, divideRational, multiplyRational, readDecimal, roundToDouble, toRational, type Rational } from './rational';
import type { Unit } from './unit-table';

/** A literal as the formula language reads it: exact product, rounded once. */
export function readInUnit(decimal: string, unit: Unit): number {
  const negative = decimal.startsWith('-');
  const size = readDecimal(negative ? decimal.slice(1) : decimal);
  const signed = negative ? { num: -size.num, den: size.den } : size;
  const scaled = multiplyRational(signed, unit.factor);
  return roundToDouble(unit.offset ? addRational(scaled, unit.offset) : scaled);
}

/** The number of `unit`s in an internal value, as a double (one rounding; not for reading back). */
export function inUnit(value: number, unit: Unit): number {
  const offset = unit.offset ? roundToDouble(unit.offset) : 0;
  return (value - offset) / unit.size;
}

/** The shortest decimal which, read in `unit`, gives `value` again, bit for bit. */
export function formatExact(value: number, unit: Unit): string {
  return formatWhole(value, unit) ?? searchExact(value, unit);
}

/** Places and size up to which whole numbers of base units are divided without rounding: 10^6 times as much stays a whole double. */
const WHOLE_PLACES = 6;
const MOST_WHOLE = Number.MAX_SAFE_INTEGER / 10 ** WHOLE_PLACES;

/**
 * What designers type is a whole number of base units, in a unit of a whole number of them: divided without rounding
 * when few places do. Nothing shorter reads back the same: it would be off by more than a double can hide.
 */
function formatWhole(value: number, { size, factor, offset }: Unit): string | undefined {
  const magnitude = Math.abs(value);
  if (offset || factor.den !== 1n || !Number.isSafeInteger(size) || !Number.isInteger(value) || magnitude > MOST_WHOLE) return undefined;
  for (let places = 0, scaled = magnitude; places <= WHOLE_PLACES; places++, scaled *= 10) {
    if (scaled % size !== 0) continue;
    const digits = String(scaled / size).padStart(places + 1, '0');
    const split = digits.length - places;
    return `${value < 0 ? '-' : ''}${digits.slice(0, split)}${places > 0 ? `.${digits.slice(split)}` : ''}`;
  }
  return undefined;
}

/** Digit by digit, each tried by reading it back. */
function searchExact(value: number, unit: Unit): string {
  const approximate = inUnit(value, unit);
  const nearby = 8 * Number.EPSILON * Math.max(Math.abs(approximate), Math.abs(value / unit.size));
  for (let digits = 1; digits <= 17; digits++) {
    const text = approximate.toPrecision(digits);
    // Reading exactly is dear: not for what is not even near.
    if (Math.abs(Number(text) - approximate) > nearby) continue;
    const plain = plainDecimal(text);
    if (readInUnit(plain, unit) === value) return plain;
  }
  // The double of the quotient is off by a rounding; its exact digits are not.
  const above = unit.offset ? addRational(toRational(value), { num: -unit.offset.num, den: unit.offset.den }) : toRational(value);
  const quotient = divideRational(above, unit.factor);
  for (let digits = 17; digits <= 25; digits++) {
    const text = plainDecimal(exactDigits(quotient, digits));
    if (readInUnit(text, unit) === value) return text;
  }
  return plainDecimal(approximate.toPrecision(17));
}

/** `count` significant digits of a rational, as `toPrecision` writes them with an exponent. */
function exactDigits({ num, den }: Rational, count: number): string {
  const size = num < 0n ? -num : num;
  if (size === 0n) return '0';
  let exponent = size.toString().length - den.toString().length;
  const scaled = (shift: number): bigint => {
    const [top, bottom] = shift >= 0 ? [size * 10n ** BigInt(shift), den] : [size, den * 10n ** BigInt(-shift)];
    return (2n * top + bottom) / (2n * bottom);
  };
  let digits = scaled(count - 1 - exponent).toString();
  if (digits.length !== count) {
    exponent += digits.length - count;
    digits = scaled(count - 1 - exponent).toString();
  }
  return `${num < 0n ? '-' : ''}${digits.slice(0, 1)}.${digits.slice(1)}e${exponent}`;
}

/** Rounded to at most `decimals` places, without trailing zeros: for display in rows and on the canvas. */
export function formatRounded(value: number, unit: Unit, decimals: number): string {
  const amount = inUnit(value, unit);
  const rounded = amount.toFixed(decimals);
  // What would show as 0 though it is not, or is very large, keeps its significant digits.
  if ((Number(rounded) === 0 && amount !== 0) || Math.abs(amount) >= 1e15) {
    return String(Number(amount.toPrecision(Math.max(3, decimals))));
  }
  return rounded.includes('.') ? rounded.replace(/\.?0+$/, '') : rounded;
}

/** `480 mm`, `45°`, `4/cm`, `24`: an amount with its unit, spaced as the trade writes it. */
export function joinUnit(amount: string, symbol: string): string {
  if (symbol === '') return amount;
  if (symbol === 'deg' || symbol === '°') return `${amount}°`;
  if (symbol === '%' || symbol.startsWith('/')) return amount + symbol;
  return `${amount} ${symbol}`;
}

/** Superscripts and middle dots for reading, not for typing: `kg*m/s^2` becomes `kg·m/s²`. */
export function prettyUnit(symbol: string): string {
  if (symbol === 'deg') return '°';
  return symbol.replace(/\*/g, '·').replace(/\^(-?)(\d+)/g, (_, sign: string, digits: string) => {
    return (sign === '-' ? '⁻' : '') + [...digits].map((digit) => '⁰¹²³⁴⁵⁶⁷⁸⁹'[Number(digit)] ?? digit).join('');
  });
}

/** A number with an exponent that the formula language reads: what is beyond goes into its digits. */
function shiftExponent(mantissa: string, power: number): string {
  const over = Math.abs(power) - MOST_DECIMAL_EXPONENT;
  if (over <= 0) return `${mantissa}e${power}`;
  const sign = mantissa.startsWith('-') ? '-' : '';
  const [whole = '', fraction = ''] = mantissa.replace('-', '').split('.');
  if (power < 0) return `${sign}0.${'0'.repeat(over - 1)}${whole}${fraction}e-${MOST_DECIMAL_EXPONENT}`;
  const digits = whole + fraction.padEnd(over, '0');
  const [top, rest] = [digits.slice(0, whole.length + over), digits.slice(whole.length + over)];
  return `${sign}${top}${rest === '' ? '' : `.${rest}`}e${MOST_DECIMAL_EXPONENT}`;
}

function plainDecimal(text: string): string {
  const [mantissa = '', exponent] = text.split('e');
  const trimmed = mantissa.includes('.') ? mantissa.replace(/\.?0+$/, '') : mantissa;
  if (exponent === undefined) return trimmed === '-0' ? '0' : trimmed;
  const power = Number(exponent);
  if (power < 0 || power > 14) return shiftExponent(trimmed, power);
  const negative = trimmed.startsWith('-');
  const [whole = '', fraction = ''] = trimmed.replace('-', '').split('.');
  const digits = whole + fraction.padEnd(power, '0');
  const point = whole.length + power;
  const rest = digits.slice(point);
  return (negative ? '-' : '') + digits.slice(0, point) + (rest === '' ? '' : `.${rest}`);
}

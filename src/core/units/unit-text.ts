/**
 * Unit terms as they are typed: `mm`, `cm^3`, `kg*m/s^2`, `/cm` (as in `4/cm`), `m²`, `N·m`.
 * Written tight, no spaces: a space ends the unit.
 */
import { MOST_EXPONENT, PLAIN, divideDimensions, isNamable, multiplyDimensions, powerDimension } from './dimension';
import { divideRational, multiplyRational, powerRational, rational, roundToDouble } from './rational';
import { findUnit, type Unit } from './unit-table';

/** One factor of a unit term, with its place in the text that was scanned. */
export interface UnitFactor {
  readonly symbol: string;
  readonly exponent: number;
  /** The operator in front: a first factor has none, unless the term starts with `/`. */
  readonly operator: '' | '*' | '·' | '/';
  readonly from: number;
  readonly to: number;
}

export interface ScannedUnit {
  /** Undefined where a power in it is beyond what any quantity has: nothing is computed of those. */
  readonly unit: Unit | undefined;
  readonly factors: readonly UnitFactor[];
  /** Offset just after the term. */
  readonly to: number;
}

const SYMBOL = /(?:°[CF]?|["'%]|[\p{L}µΩ]+)/uy;
const EXPONENT = /\^([+-]?\d+)|(⁻?[⁰¹²³⁴-⁹]+)/uy;
/** Longest term, in factors: more are no unit that anybody reads. */
const MOST_FACTORS = 12;
const SUPERSCRIPTS = '⁰¹²³⁴⁵⁶⁷⁸⁹';

/**
 * Reads the longest unit term that starts exactly at `from`; undefined where none does. A factor whose
 * symbol is no unit ends the term before its operator, so that `4 mm*width` reads the unit `mm`.
 */
export function scanUnit(text: string, from: number): ScannedUnit | undefined {
  const factors: UnitFactor[] = [];
  let position = from;
  for (;;) {
    const operator = readOperator(text, position, factors.length === 0);
    if (operator === undefined) break;
    const start = position + operator.length;
    const symbol = match(SYMBOL, text, start)?.[0];
    if (symbol === undefined || !findUnit(symbol)) break;
    // A letter, digit or underscore that goes on makes it a name, not a unit: `4 mm_count`.
    if (/^[\p{L}\p{Nd}_]/u.test(text.slice(start + symbol.length))) {
      if (!/^["'%°]/.test(symbol)) break;
    }
    let to = start + symbol.length;
    const exponentMatch = match(EXPONENT, text, to);
    if (exponentMatch) to += exponentMatch[0].length;
    factors.push({ symbol, exponent: readExponent(exponentMatch), operator, from: start, to });
    position = to;
  }
  if (factors.length === 0) return undefined;
  return { unit: combine(factors, text.slice(from, position)), factors, to: position };
}

/** The unit of a whole text, or undefined if the text is not exactly one unit term. */
export function parseUnit(text: string): Unit | undefined {
  const known = parsed.get(text);
  if (known) return known;
  const scanned = scanUnit(text, 0);
  if (scanned?.to !== text.length) return undefined;
  if (scanned.unit && parsed.size < 1000) parsed.set(text, scanned.unit);
  return scanned.unit;
}

const parsed = new Map<string, Unit>();

function readOperator(text: string, position: number, isFirst: boolean): UnitFactor['operator'] | undefined {
  const next = text[position];
  if (next === '/') return '/';
  if (isFirst) return '';
  return next === '*' || next === '·' ? next : undefined;
}

function readExponent(found: RegExpMatchArray | undefined): number {
  if (!found) return 1;
  if (found[1] !== undefined) return Number(found[1]);
  const digits = [...(found[2] ?? '')];
  const negative = digits[0] === '⁻';
  const value = Number(digits.map((digit) => (digit === '⁻' ? '' : SUPERSCRIPTS.indexOf(digit))).join(''));
  return negative ? -value : value;
}

function combine(factors: readonly UnitFactor[], symbol: string): Unit | undefined {
  if (factors.length > MOST_FACTORS || factors.some(({ exponent }) => Math.abs(exponent) > MOST_EXPONENT)) return undefined;
  const [only] = factors;
  if (factors.length === 1 && only && only.exponent === 1 && only.operator === '') {
    const unit = findUnit(only.symbol);
    if (unit) return unit;
  }
  let factor = rational(1);
  let dimension = PLAIN;
  for (const { symbol: name, exponent, operator } of factors) {
    const unit = findUnit(name);
    if (!unit) continue;
    const part = powerRational(unit.factor, exponent);
    const partDimension = powerDimension(unit.dimension, exponent);
    const divides = operator === '/';
    factor = divides ? divideRational(factor, part) : multiplyRational(factor, part);
    dimension = divides ? divideDimensions(dimension, partDimension) : multiplyDimensions(dimension, partDimension);
    if (!isNamable(dimension)) return undefined;
  }
  return { symbol, dimension, factor, size: roundToDouble(factor) };
}

/** `pattern` is sticky: it matches exactly at the place. */
function match(pattern: RegExp, text: string, at: number): RegExpMatchArray | undefined {
  pattern.lastIndex = at;
  return pattern.exec(text) ?? undefined;
}

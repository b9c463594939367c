/** Values as one document hands them to another, in words: to be read, and to be typed. */
import { invariant } from '../kit';
import { findKind, findUnit, formatExact, formatRounded, joinUnit, MILLIMETRES, parseUnit, readDimensionKey, spellUnit, systemUnit, type Unit } from '../units';
import type { Parameter, TakenValue } from './schema';

const DECIMALS = 3;
const CELSIUS = requireUnit('°C');

/** A formula that gives the very same value, in a document with these names; undefined for a table and for a value with an error. */
export function writeTaken(value: TakenValue, isName: (name: string) => boolean = () => false): string | undefined {
  switch (value.kind) {
    case 'quantity':
    case 'temperature': {
      return writeQuantity(value.value, unitOf(value), isName);
    }
    case 'yes-no':
      return value.value === 1 ? 'yes' : 'no';
    case 'text':
      return `"${value.value}"`;
    case 'table':
    case 'refused':
      return undefined;
  }
}

/**
 * A quantity as text that reads back as the same value. `isName` tells the names of the document that it is for: where a unit's
 * one letter is one of them, the unit is spelled out.
 */
export function writeQuantity(value: number, unit: Unit, isName: (name: string) => boolean): string {
  const amount = formatExact(value, unit);
  const symbol = unit.symbol.replace(/\p{L}+/gu, (letters) => (isName(letters) ? (spellUnit(letters) ?? letters) : letters));
  return symbol === '' || symbol.startsWith('/') ? amount + symbol : `${amount} ${symbol === '°' ? 'deg' : symbol}`;
}

/** Rounded, for lists and comparisons. */
export function showTaken(value: TakenValue): string {
  switch (value.kind) {
    case 'quantity':
    case 'temperature': {
      const unit = unitOf(value);
      const amount = joinUnit(formatRounded(value.value, unit, DECIMALS), unit.symbol);
      if (value.kind !== 'quantity') return amount;
      return [amount, ...(value.tolerance ? [showDeviations(value.tolerance, unit)] : []), ...(value.isHeld ? ['(held)'] : [])].join(' ');
    }
    case 'yes-no':
      return value.value === 1 ? 'yes' : 'no';
    case 'text':
      return value.value;
    case 'table':
      return `table, ${value.rows.length} row${value.rows.length === 1 ? '' : 's'}`;
    case 'refused':
      return 'error';
  }
}

/** `±0.2 mm`, or `+0.2/-0.1 mm`. */
function showDeviations({ upper, lower }: { readonly upper: number; readonly lower: number }, unit: Unit): string {
  const words = (value: number): string => formatRounded(value, unit, DECIMALS);
  if (upper === -lower) return `±${joinUnit(words(upper), unit.symbol)}`;
  return joinUnit(`${upper > 0 ? '+' : ''}${words(upper)}/${lower > 0 ? '+' : ''}${words(lower)}`, unit.symbol);
}

/** What a user parameter must be to hold the value. */
export function kindOfTaken(value: TakenValue): Parameter['kind'] {
  if (value.kind === 'yes-no' || value.kind === 'text') return value.kind;
  if (value.kind !== 'quantity') return 'any';
  if (value.isCount === true) return 'count';
  const kind = findKind(readDimensionKey(value.dimension));
  return kind ?? 'any';
}

function unitOf(value: Extract<TakenValue, { readonly unit: string }>): Unit {
  if (value.kind === 'temperature') return findUnit(value.unit) ?? CELSIUS;
  const dimension = readDimensionKey(value.dimension);
  const unit = parseUnit(value.unit);
  return unit?.dimension === dimension ? unit : systemUnit(MILLIMETRES, dimension);
}

function requireUnit(symbol: string): Unit {
  const unit = findUnit(symbol);
  invariant(unit !== undefined, () => `no unit ${symbol}`);
  return unit;
}

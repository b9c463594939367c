/** Values as one document hands them to another, in words: to be read, and to be typed. */
import { invariant } from '../kit';
import { findKind, findUnit, formatExact, formatRounded, joinUnit, MILLIMETRES, parseUnit, readDimensionKey, systemUnit, type Unit } from '../units';
import type { Parameter, TakenValue } from './schema';

const DECIMALS = 3;
const CELSIUS = requireUnit('°C');

/** A formula that gives the very same value; undefined for a table and for a value with an error. */
export function writeTaken(value: TakenValue): string | undefined {
  switch (value.kind) {
    case 'quantity':
    case 'temperature': {
      const unit = unitOf(value);
      const amount = formatExact(value.value, unit);
      return unit.symbol === 'deg' ? `${amount} deg` : joinUnit(amount, unit.symbol);
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

/** Rounded, for lists and comparisons. */
export function showTaken(value: TakenValue): string {
  switch (value.kind) {
    case 'quantity':
    case 'temperature': {
      const unit = unitOf(value);
      return joinUnit(formatRounded(value.value, unit, DECIMALS), unit.symbol);
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

/**
 * The units a document reads bare numbers in and shows results in: one unit text per dimension, by the
 * dimension's key. What it does not list is shown in coherent SI units.
 */
import { LENGTH, baseDimension, multiplyDimensions, powerDimension, type BaseQuantity, type Dimension } from './dimension';
import { kindDimension } from './quantity-kind';
import { parseUnit } from './unit-text';
import type { Unit } from './unit-table';
import { invariant } from '../kit';

export interface UnitSystem {
  readonly length: string;
  readonly angle: string;
  readonly mass: string;
}

export const MILLIMETRES: UnitSystem = { length: 'mm', angle: 'deg', mass: 'kg' };

const SHOWN: readonly [QuantityName: Parameters<typeof kindDimension>[0], unit: string][] = [
  ['density', 'g/cm^3'],
  ['force', 'N'],
  ['torque', 'N*m'],
  ['pressure', 'MPa'],
  ['time', 's'],
  ['speed', 'm/s'],
  ['rotational speed', 'rpm'],
  ['power', 'W'],
  ['temperature difference', 'K'],
];

const cache = new Map<string, Unit>();

/** The unit in which `system` reads and shows values of `dimension`. */
export function systemUnit(system: UnitSystem, dimension: Dimension): Unit {
  const key = `${system.length} ${system.angle} ${system.mass} ${dimension.key}`;
  let unit = cache.get(key);
  if (!unit) cache.set(key, (unit = requireUnit(systemUnitText(system, dimension))));
  return unit;
}

function systemUnitText(system: UnitSystem, dimension: Dimension): string {
  const shown = SHOWN.find(([kind]) => kindDimension(kind) === dimension);
  if (shown) return shown[1];
  for (let n = 1; n <= 4; n++) if (powerDimension(LENGTH, n) === dimension) return power(system.length, n);
  return coherentText(system, dimension);
}

const COHERENT: Readonly<Record<Exclude<BaseQuantity, 'length' | 'mass' | 'angle'>, string>> = {
  time: 's',
  current: 'A',
  temperature: 'K',
  amount: 'mol',
  luminosity: 'cd',
};

function coherentText(system: UnitSystem, dimension: Dimension): string {
  const symbols = { ...COHERENT, length: system.length, mass: system.mass, angle: system.angle };
  let above = '';
  let below = '';
  let rest = multiplyDimensions(dimension, dimension);
  for (const [name, symbol] of Object.entries(symbols) as [BaseQuantity, string][]) {
    const exponent = exponentOf(dimension, name);
    if (exponent > 0) above += `${above === '' ? '' : '*'}${power(symbol, exponent)}`;
    if (exponent < 0) below += `/${power(symbol, -exponent)}`;
    rest = multiplyDimensions(rest, baseDimension(name, -2 * exponent));
  }
  invariant(rest.key === '', () => `no unit text for ${dimension.key}`);
  return above + below;
}

const ORDER: readonly BaseQuantity[] = ['length', 'mass', 'time', 'current', 'temperature', 'amount', 'luminosity', 'angle'];

function exponentOf(dimension: Dimension, name: BaseQuantity): number {
  return dimension.exponents[ORDER.indexOf(name)] ?? 0;
}

function power(symbol: string, n: number): string {
  return n === 1 ? symbol : `${symbol}^${n}`;
}

function requireUnit(text: string): Unit {
  if (text === '') return PLAIN_UNIT;
  const unit = parseUnit(text);
  invariant(unit !== undefined, () => `unit system names an unknown unit ${text}`);
  return unit;
}

const PLAIN_UNIT: Unit = {
  symbol: '',
  dimension: multiplyDimensions(LENGTH, powerDimension(LENGTH, -1)),
  factor: { num: 1n, den: 1n },
  size: 1,
};

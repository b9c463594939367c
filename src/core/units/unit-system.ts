/**
 * The units a document reads bare numbers in and shows results in: one unit text per dimension, by the
 * dimension's key. What it does not list is shown in coherent SI units.
 */
import { ANGLE, LENGTH, MASS, angleExponent, multiplyDimensions, powerDimension, withoutAngle, type BaseQuantity, type Dimension } from './dimension';
import { kindDimension } from './quantity-kind';
import { parseUnit } from './unit-text';
import type { Unit } from './unit-table';
import { RADIAN } from './base-units';

export interface UnitSystem {
  readonly length: string;
  readonly angle: string;
  readonly mass: string;
}

export const MILLIMETRES: UnitSystem = { length: 'mm', angle: 'deg', mass: 'kg' };

/** Whether each of its texts is a unit of what it stands for. */
export function isUnitSystem({ length, angle, mass }: UnitSystem): boolean {
  const simple = (text: string, dimension: Dimension): boolean => /^[\p{L}°"']+$/u.test(text) && parseUnit(text)?.dimension === dimension;
  return simple(length, LENGTH) && simple(angle, ANGLE) && simple(mass, MASS);
}

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
  // A system that names no unit of ours is read in millimetres: nothing stored may stop a document from being shown.
  if (!unit) cache.set(key, (unit = readUnit(systemUnitText(system, dimension)) ?? readUnit(systemUnitText(MILLIMETRES, dimension)) ?? PLAIN_UNIT));
  return unit;
}

/**
 * The unit that a value is read in by people: where an angle was multiplied into a length or what is made of lengths, the radian
 * drops out, so that radius times angle is an arc in millimetres. Another unit is given as it is.
 */
export function dropRadian(system: UnitSystem, unit: Unit): Unit {
  const { dimension } = unit;
  const power = angleExponent(dimension);
  if (power <= 0 || exponentOf(dimension, 'length') <= 0) return unit;
  const shown = systemUnit(system, withoutAngle(dimension));
  return { symbol: shown.symbol, dimension, factor: shown.factor, size: shown.size * RADIAN ** power };
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
  for (const [name, symbol] of Object.entries(symbols) as [BaseQuantity, string][]) {
    const exponent = exponentOf(dimension, name);
    if (exponent > 0) above += `${above === '' ? '' : '*'}${power(symbol, exponent)}`;
    if (exponent < 0) below += `/${power(symbol, -exponent)}`;
  }
  return above + below;
}

const ORDER: readonly BaseQuantity[] = ['length', 'mass', 'time', 'current', 'temperature', 'amount', 'luminosity', 'angle'];

function exponentOf(dimension: Dimension, name: BaseQuantity): number {
  return dimension.exponents[ORDER.indexOf(name)] ?? 0;
}

function power(symbol: string, n: number): string {
  return n === 1 ? symbol : `${symbol}^${n}`;
}

function readUnit(text: string): Unit | undefined {
  return text === '' ? PLAIN_UNIT : parseUnit(text);
}

const PLAIN_UNIT: Unit = {
  symbol: '',
  dimension: multiplyDimensions(LENGTH, powerDimension(LENGTH, -1)),
  factor: { num: 1n, den: 1n },
  size: 1,
};

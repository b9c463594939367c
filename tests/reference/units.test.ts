/**
 * Units against sources outside the project:
 * - exact factors of NIST Special Publication 811 (2008), appendix B.8, and the SI Brochure, 9th ed. (2019);
 *   entered from memory of those tables;
 * - the factors of the package `ucum` (UCUM, ucum-essence tables).
 */
import { findUnit, parseUnit, rational, readDecimal, divideRational, multiplyRational, type Rational } from '@/core/units';

const METRE = 10_000_000n;
const KILOGRAM = 100_000_000n;

function size(symbol: string): Rational {
  const unit = parseUnit(symbol);
  if (!unit) throw new Error(`no unit ${symbol}`);
  return unit.factor;
}

/** Exactly `decimal` of the SI base units whose product has the size `base` here. */
function exactly(decimal: string, base: Rational): Rational {
  return multiplyRational(readDecimal(decimal), base);
}

const LENGTH = rational(METRE);
const MASS = rational(KILOGRAM);
const FORCE = rational(KILOGRAM * METRE);
const PRESSURE = divideRational(FORCE, rational(METRE * METRE));
const ENERGY = rational(KILOGRAM * METRE * METRE);
const VOLUME = rational(METRE * METRE * METRE);

describe('NIST SP 811, exact factors', () => {
  test.each<[string, Rational]>([
    ['in', exactly('0.0254', LENGTH)],
    ['ft', exactly('0.3048', LENGTH)],
    ['yd', exactly('0.9144', LENGTH)],
    ['mi', exactly('1609.344', LENGTH)],
    ['mil', exactly('0.0000254', LENGTH)],
    ['thou', exactly('0.0000254', LENGTH)],
    ['lb', exactly('0.45359237', MASS)],
    ['oz', exactly('0.028349523125', MASS)],
    ['t', exactly('1000', MASS)],
    ['lbf', exactly('4.4482216152605', FORCE)],
    ['kgf', exactly('9.80665', FORCE)],
    ['bar', exactly('100000', PRESSURE)],
    ['L', exactly('0.001', VOLUME)],
    ['gal', exactly('0.003785411784', VOLUME)],
    ['J', ENERGY],
    ['kPa', exactly('1000', PRESSURE)],
    ['mm', exactly('0.001', LENGTH)],
    ['µm', exactly('0.000001', LENGTH)],
    ['h', rational(3600)],
    ['d', rational(86400)],
    ['min', rational(60)],
  ])('%s', (symbol, expected) => {
    expect(size(symbol)).toEqual(expected);
  });

  test('psi is a pound-force on a square inch, as a fraction', () => {
    expect(size('psi')).toEqual(divideRational(exactly('4.4482216152605', FORCE), exactly('0.00064516', rational(METRE * METRE))));
  });

  test('the slug is a pound-force second squared on a foot', () => {
    expect(size('slug')).toEqual(divideRational(size('lbf'), size('ft')));
  });
});

test('a turn has 360 degrees, a degree 60 minutes of 60 seconds of arc', () => {
  expect(size('rev')).toEqual(rational(360));
  expect(size('arcmin')).toEqual(rational(1, 60));
  expect(size('arcsec')).toEqual(rational(1, 3600));
});

test('units never mix dimensions of the same symbol: min is time, m is length, Pa is pressure', () => {
  expect(findUnit('min')?.dimension.key).toBe('time=1');
  expect(findUnit('m')?.dimension.key).toBe('length=1');
  expect(findUnit('Pa')?.dimension.key).toBe('length=-1,mass=1,time=-2');
});

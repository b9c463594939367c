/**
 * Units against the Unified Code for Units of Measure: the factors of the package `ucum` (its
 * ucum-essence tables), and the conversion cases of the official functional tests that it carries.
 */
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { divideRational, parseUnit, roundToDouble } from '@/core/units';

interface Ucum {
  convert: (value: number, from: string, to: string) => number;
}
// oxlint-disable-next-line typescript/no-require-imports -- a package without types, in the old form
const ucum = require('ucum') as Ucum;

function ratio(from: string, to: string): number {
  const [a, b] = [parseUnit(from), parseUnit(to)];
  if (!a || !b) throw new Error(`no unit ${from} or ${to}`);
  expect(a.dimension).toBe(b.dimension);
  return roundToDouble(divideRational(a.factor, b.factor));
}

test.each([
  ['in', '[in_i]', 'm'],
  ['ft', '[ft_i]', 'm'],
  ['yd', '[yd_i]', 'm'],
  ['mi', '[mi_i]', 'm'],
  ['mil', '[mil_i]', 'm'],
  ['lb', '[lb_av]', 'g'],
  ['oz', '[oz_av]', 'g'],
  ['lbf', '[lbf_av]', 'N'],
  ['psi', '[psi]', 'Pa'],
  ['bar', 'bar', 'Pa'],
  ['gal', '[gal_us]', 'L'],
  ['deg', 'deg', 'rad'],
  ['min', 'min', 's'],
  ['h', 'h', 's'],
  ['d', 'd', 's'],
  ['t', 't', 'kg'],
])('%s is the UCUM unit %s', (ours, code, base) => {
  const expected = ucum.convert(1, code, base);
  expect(Math.abs(ratio(ours, base) / expected - 1)).toBeLessThan(1e-14);
});

/** `s.m-1` and `[in_i]` as they are typed here; undefined for what is no unit of ours. */
function translate(code: string): string | undefined {
  const typed = code
    .replace(/\[in_i\]/g, 'in')
    .replace(/([A-Za-z])(-?\d+)/g, '$1^$2')
    .replace(/\./g, '*');
  return /^\d|\[|C/.test(code) ? undefined : parseUnit(typed) && typed;
}

const xml = readFileSync(path.join(process.cwd(), 'node_modules/ucum/vendor/ucum-functional-tests.xml'), 'utf8').replace(/<!--[^]*?-->/g, '');
const cases = [...xml.matchAll(/<case id="(3-[^"]+)"\s+value="([^"]+)"\s+srcUnit="([^"]+)"\s+dstUnit="([^"]+)"\s+outcome="([^"]+)"/g)].flatMap(
  ([, id = '', value = '', source = '', target = '', outcome = '']) => {
    const [from, to] = [translate(source), translate(target)];
    return from !== undefined && to !== undefined ? [{ id, value, from, to, outcome }] : [];
  },
);

test('most of the conversion cases are about units of ours', () => {
  expect(cases.length).toBeGreaterThanOrEqual(15);
});

test.each(cases)('functional test $id: $value $from in $to', ({ value, from, to, outcome }) => {
  const digits = outcome
    .replace(/e.*$/, '')
    .replace(/^0\.0*/, '')
    .replace('.', '').length;
  expect(Number((Number(value) * ratio(from, to)).toPrecision(digits))).toBe(Number(outcome));
});

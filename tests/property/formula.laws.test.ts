import fc from 'fast-check';
import { parseFormula, printFormula, renameInFormula, collectNames, type FormulaNode } from '@/core/formula';
import { formatExact, multiplyRational, parseUnit, rational, readInUnit, roundToDouble } from '@/core/units';
import { formulaText, NAMES } from '../support/arbitraries';
import { sheetOf, valueIn } from '../support/values';

/** The tree without its ranges. */
function shape(node: FormulaNode): unknown {
  return JSON.parse(
    JSON.stringify(node, (key, value: unknown) => {
      if (key === 'from' || key === 'to' || key === 'word' || key.endsWith('Span')) return undefined;
      return typeof value === 'bigint' ? value.toString() : value;
    }),
  );
}

test('parsing what is printed gives the tree again', () => {
  fc.assert(
    fc.property(formulaText(), (text) => {
      const parsed = parseFormula(text);
      if (!parsed.ok) return;
      const again = parseFormula(printFormula(parsed.node));
      expect(again.ok && shape(again.node)).toEqual(shape(parsed.node));
    }),
    { numRuns: 500 },
  );
});

test('any text gets a tree or a diagnostic with a place inside it, never an exception', () => {
  fc.assert(
    fc.property(fc.oneof(fc.string(), fc.string({ unit: 'grapheme' }), formulaText()), (text) => {
      const parsed = parseFormula(text);
      if (parsed.ok) return;
      expect(parsed.diagnostic.from).toBeGreaterThanOrEqual(0);
      expect(parsed.diagnostic.to).toBeLessThanOrEqual(text.length);
      expect(parsed.diagnostic.message).not.toBe('');
    }),
    { numRuns: 1000 },
  );
});

test('renaming there and back keeps every byte, and touches nothing but the name', () => {
  fc.assert(
    fc.property(formulaText(), fc.constantFrom(...NAMES), (text, name) => {
      const there = renameInFormula(text, (other) => (other === name ? 'renamed_to' : undefined));
      expect(renameInFormula(there, (other) => (other === 'renamed_to' ? name : undefined))).toBe(text);
      const parsed = parseFormula(there);
      if (parsed.ok) expect(collectNames(parsed.node).map((node) => node.name)).not.toContain(name);
    }),
    { numRuns: 500 },
  );
});

test('two renames at once do not cross', () => {
  const swap: Readonly<Record<string, string>> = { a: 'b', b: 'a' };
  expect(renameInFormula('a + 2*b - a*b', (name) => swap[name])).toBe('b + 2*a - b*a');
});

test('renaming a value changes no number', () => {
  const before = sheetOf({ a: '12 mm', b: 'a*2 + 3', c: 'max(a, b)' });
  const after = sheetOf({
    z: '12 mm',
    b: renameInFormula('a*2 + 3', (n) => (n === 'a' ? 'z' : undefined)),
    c: renameInFormula('max(a, b)', (n) => (n === 'a' ? 'z' : undefined)),
  });
  expect([after.readNumber('b'), after.readNumber('c')]).toEqual([before.readNumber('b'), before.readNumber('c')]);
});

test('what is shown in full reads back as the same double', () => {
  const units = ['mm', 'in', 'ft', 'deg', 'kg', 'lb', 'N*m', 'psi', '°C', 'g/cm^3'];
  fc.assert(
    fc.property(fc.double({ noNaN: true, noDefaultInfinity: true, min: -1e12, max: 1e12 }), fc.constantFrom(...units), (value, symbol) => {
      const unit = parseUnit(symbol);
      if (!unit) throw new Error(symbol);
      const start = readInUnit(value.toString().includes('e') ? value.toFixed(6) : value.toString(), unit);
      expect(readInUnit(formatExact(start, unit), unit)).toBe(start);
    }),
    { numRuns: 2000 },
  );
});

test('no shorter text reads back as the same double', () => {
  const digitsOf = (text: string): number =>
    text
      .replace(/^-?[0.]*/, '')
      .replace('.', '')
      .replace(/0+$/, '').length;
  const typed = fc.tuple(fc.integer({ min: -99_999_999, max: 99_999_999 }), fc.integer({ min: 0, max: 7 }));
  fc.assert(
    fc.property(typed, fc.constantFrom('mm', 'in', 'ft', 'm', 'deg', 'kg'), ([digits, places], symbol) => {
      const unit = parseUnit(symbol);
      if (!unit) throw new Error(symbol);
      const value = readInUnit((digits / 10 ** places).toFixed(places), unit);
      const shown = formatExact(value, unit);
      expect(readInUnit(shown, unit)).toBe(value);
      for (let fewer = 1; fewer < digitsOf(shown); fewer++) {
        const shorter = Number(shown).toPrecision(fewer);
        expect(shorter.includes('e') ? NaN : readInUnit(shorter, unit)).not.toBe(value);
      }
    }),
    { numRuns: 2000 },
  );
});

test('rationals round to the nearest double, as decimal literals do', () => {
  fc.assert(
    fc.property(fc.bigInt({ min: -(10n ** 40n), max: 10n ** 40n }), fc.integer({ min: 0, max: 60 }), (digits, places) => {
      const text = `${digits}e-${places}`;
      expect(roundToDouble(rational(digits, 10n ** BigInt(places)))).toBe(Number(text) + 0);
    }),
    { numRuns: 2000 },
  );
});

test('conversions compose: a unit times a unit is the factor times the factor', () => {
  const [inch, square] = [parseUnit('in'), parseUnit('in^2')];
  if (!inch || !square) throw new Error('units');
  expect(square.factor).toEqual(multiplyRational(inch.factor, inch.factor));
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 100_000 }), (n) => {
      expect(valueIn('', `if(${n} * 12 in == ${n} ft, 1, 0)`)).toBe('1');
      expect(valueIn('', `if(${n} in == ${n} * 25.4 mm, 1, 0)`)).toBe('1');
    }),
    { numRuns: 300 },
  );
});

test('scaling the base of length scales a result by its dimension', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 500 }), fc.integer({ min: 1, max: 500 }), fc.integer({ min: 2, max: 9 }), (a, b, k) => {
      const at = (factor: number) => sheetOf({ a: `${a * factor} mm`, b: `${b * factor} mm`, area: 'a*b + a^2', ratio: 'a/b', sum: 'hypot(a, b)' });
      const [one, scaled] = [at(1), at(k)];
      expect(scaled.readNumber('area') / one.readNumber('area')).toBeCloseTo(k * k, 9);
      expect(scaled.readNumber('ratio')).toBeCloseTo(one.readNumber('ratio'), 12);
      expect(scaled.readNumber('sum') / one.readNumber('sum')).toBeCloseTo(k, 9);
    }),
  );
});

/** Quantities in words, and texts that nobody should have typed: what is read, shown and read back. */
import fc from 'fast-check';
import { DocumentValues, createDocument, type Document, type Parameter } from '@/core/document';
import { compileFormula, readFormula, ANY_SLOT } from '@/core/formula';
import { listUnitSymbols, spellUnit } from '@/core/units';
import { sheetOf } from '../support/values';

const SYMBOLS = listUnitSymbols().filter((symbol) => !symbol.startsWith('°') && !/["'%]|deg[CF]/.test(symbol));

/** A document of one value and of others that are called like units. */
function documentOf(text: string, displayUnit: string | undefined, names: readonly string[]): Document {
  const base = createDocument('doc', 'part', 'Part');
  const parameter = (id: string, name: string, formula: string, unit?: string): Parameter => ({
    type: 'parameter',
    id,
    name,
    kind: 'any',
    formula: { text: formula },
    ...(unit === undefined ? {} : { displayUnit: unit }),
  });
  const all = [parameter('v', 'value', text, displayUnit), ...names.map((name, i) => parameter(`n${i}`, name, '3 mm'))];
  return { ...base, records: Object.fromEntries(all.map((record) => [record.id, record])), lists: { parameters: all.map(({ id }) => id) } };
}

test('what is shown in full is read again as the same value, in any unit and beside values that are called like units', () => {
  const factor = fc.tuple(fc.constantFrom(...SYMBOLS), fc.integer({ min: -3, max: 3 }));
  const units = fc
    .array(factor, { minLength: 1, maxLength: 3 })
    .map((parts) => parts.map(([symbol, power]) => (power === 1 ? symbol : `${symbol}^${power}`)).join('*'));
  const amounts = fc.double({ noNaN: true, noDefaultInfinity: true, min: -1e250, max: 1e250 });
  fc.assert(
    fc.property(amounts, units, fc.subarray(['m', 'd', 's', 'N', 'K']), (amount, unit, names) => {
      const spelled = unit.replace(/\p{L}+/gu, (letters) => (names.includes(letters) ? (spellUnit(letters) ?? letters) : letters));
      const values = new DocumentValues(documentOf(`(${amount < 0 ? '-' : ''}${String(Math.abs(amount)).replace('+', '')}) ${spelled}`, undefined, names));
      const shown = values.show('v');
      if (!shown || shown.diagnostics.length > 0) return;
      const again = new DocumentValues(documentOf(shown.exact, undefined, names)).show('v');
      expect([shown.exact, again?.diagnostics, again?.value === shown.value, again?.type]).toEqual([shown.exact, [], true, shown.type]);
    }),
    { numRuns: 1500 },
  );
});

test.each([
  ['w * 30 deg', undefined, '5.236 mm', '300 mm*deg'],
  ['100 rpm * w', undefined, '0.105 m/s', '6000 mm*deg/s'],
  ['2 N*m * 1 rad', undefined, undefined, undefined],
  ['5 °C', '°F', '41 °F', '41 °F'],
  ['90 deg / 10 mm', undefined, '9 deg/mm', '9 deg/mm'],
])('%s is shown as people read it', (text, unit, shown, exact) => {
  const base = documentOf(text, unit, ['w']);
  const w = base.records['n0'];
  const document = w?.type === 'parameter' ? { ...base, records: { ...base.records, n0: { ...w, formula: { text: '10 mm' } } } } : base;
  const found = new DocumentValues(document).show('v');
  expect(found?.diagnostics).toEqual([]);
  if (shown === undefined) expect(found?.shown).not.toMatch(/rad|deg/);
  else expect([found?.shown, found?.exact]).toEqual([shown, exact]);
});

/** Pieces that hostile and hasty texts are made of. */
const PIECE = fc.oneof(
  fc.constantFrom(
    '1e',
    'e999',
    '^',
    '^^',
    '-',
    '(',
    ')',
    ' ',
    '1',
    '9'.repeat(40),
    '0.',
    '/',
    '*',
    'mm',
    'm',
    'deg',
    "'",
    '"',
    '°',
    '%',
    'if(',
    'lookup(',
    ',',
    'a',
    '__proto__',
  ),
  fc.constantFrom(...SYMBOLS),
  fc.string({ maxLength: 3 }),
);

test('no text takes longer than some milliseconds to be read and judged', () => {
  const scope = sheetOf({ a: '3 mm', m: '4 mm', long_name: '5 mm' }).scope();
  let slowest = { text: '', time: 0 };
  const read = (text: string): void => {
    const start = performance.now();
    const parsed = readFormula(text, (name) => name === 'a' || name === 'm');
    if (parsed.ok) compileFormula(text, parsed.node, scope, ANY_SLOT);
    const time = performance.now() - start;
    if (time > slowest.time) slowest = { text, time };
  };
  for (let warm = 0; warm < 50; warm++) read('1 mm + a*2');
  fc.assert(
    fc.property(fc.array(PIECE, { maxLength: 60 }), (pieces) => read(pieces.join(''))),
    { numRuns: 3000 },
  );
  // One piece over and over, up to the longest text that is stored.
  for (const piece of ['1e9', '9', '1/9', '9 1/9 ', 'mm', '1 mm*', '(', '-', '2^', 'a^', '1e300 km^9*', '%^9*', 'x', 'é', '" ', "1' "])
    read(piece.repeat(Math.ceil(4000 / piece.length)).slice(0, 4000));
  for (const piece of ['1e9', '9', '1/9', '9 1/9 ', 'mm', '1 mm*', '1e300 km^9*', '%^9*', 'kg/', 'x'])
    read(`1 ${piece.repeat(Math.floor(1980 / piece.length))}`);
  // Far above what any of them takes, so that a busy machine fails nothing; what this is against took a minute.
  expect(slowest.time < 500 ? '' : slowest.text).toBe('');
});

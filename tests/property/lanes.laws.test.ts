/** Many samples at once, states that are forked, and formulas that are only looked at: against sheets opened anew. */
import fc from 'fast-check';
import { ANY_SLOT, numberOfText, quantityType, TEXT, type LookupTable, type Slot } from '@/core/formula';
import { sampleSheet, Sheet, type Definition, type FormulaDefinition } from '@/core/network';
import { kindDimension, MILLIMETRES } from '@/core/units';
import { formulaText, lengthFormula, NAMES } from '../support/arbitraries';

const LENGTH: Slot = { kind: 'quantity', dimension: kindDimension('length'), isCount: false, label: 'the length' };
const COUNT: Slot = { kind: 'quantity', dimension: kindDimension('count'), isCount: true, label: 'the count' };

const STOCK: LookupTable = {
  name: 'stock',
  columns: [
    { name: 'kind', type: TEXT, cells: ['ash', 'oak', 'beech'].map(numberOfText) },
    { name: 'board', type: quantityType(kindDimension('length')), cells: [120_000, 180_000, 210_000] },
  ],
};
const STEPS: LookupTable = {
  name: 'steps',
  columns: [
    { name: 'width', type: quantityType(kindDimension('length')), cells: [0, 100_000, 400_000] },
    { name: 'bow', type: quantityType(kindDimension('length')), cells: [0, 2_000, 9_000] },
  ],
};

/** Formulas that have more to them than arithmetic: texts, tables, whole numbers, limits, choices. */
const SPECIAL: Readonly<Record<string, Definition>> = {
  stock: { kind: 'table', name: 'stock', table: STOCK },
  steps: { kind: 'table', name: 'steps', table: STEPS },
  wood: { kind: 'formula', name: 'wood', text: 'if(a > 1 mm, "ash", "oak")', slot: ANY_SLOT },
  board: { kind: 'formula', name: 'board', text: 'lookup(stock, wood, "board")', slot: ANY_SLOT },
  bow: { kind: 'formula', name: 'bow', text: 'interp(steps, a, "bow")', slot: ANY_SLOT },
  cap: { kind: 'formula', name: 'cap', text: 'a * 2 + 1 mm', slot: LENGTH },
  held: { kind: 'formula', name: 'held', text: '20 mm', slot: LENGTH, most: 'cap' },
  fits: { kind: 'formula', name: 'fits', text: 'b + 1', slot: LENGTH, least: 'cap' },
  teeth: { kind: 'formula', name: 'teeth', text: 'a / 1 mm', slot: COUNT },
  picked: {
    kind: 'formula',
    name: 'picked',
    text: 'if(b > a, 12 mm, b)',
    slot: LENGTH,
    choices: [
      { value: 120_000, text: '12 mm' },
      { value: 150_000, text: '15 mm' },
    ],
  },
  last: { kind: 'formula', name: 'last', text: 'board + bow + held + teeth * 1 mm', slot: ANY_SLOT },
};

const formula = (name: string, text: string): FormulaDefinition => ({ kind: 'formula', name, text, slot: ANY_SLOT });

function sheetOf(definitions: ReadonlyMap<string, Definition>): Sheet {
  const sheet = new Sheet(MILLIMETRES);
  for (const [id, definition] of definitions) sheet.define(id, definition);
  sheet.settle();
  return sheet;
}

/** Most are right; the rest are anything. */
const TEXTS = fc.oneof({ weight: 5, arbitrary: lengthFormula(NAMES) }, { weight: 1, arbitrary: formulaText() });

const network = fc
  .array(fc.record({ id: fc.constantFrom(...NAMES.slice(2)), text: TEXTS }), { maxLength: 14 })
  .map(
    (found) =>
      new Map<string, Definition>([
        ['a', formula('a', '12 mm')],
        ['b', formula('b', '30 mm')],
        ...found.map(({ id, text }) => [id, formula(id, text)] as const),
        ...Object.entries(SPECIAL),
      ]),
  );

const sample = fc.oneof(
  fc.integer({ min: -400_000, max: 900_000 }),
  fc.constantFrom(0, -0, 10_000, 150_000, 1e200, NaN),
  fc.double({ min: -1e6, max: 1e6, noNaN: true }),
);

const TIERS = ['interpreted', 'compiled'] as const;

test('samples at once come to what a new sheet with those values comes to, to the bit, in both tiers', () => {
  fc.assert(
    fc.property(
      network,
      fc.array(sample, { minLength: 1, maxLength: 9 }),
      fc.array(sample, { minLength: 9, maxLength: 9 }),
      fc.constantFrom('b', 'c', 'wood', 'fits'),
      (definitions, first, second, other) => {
        const sheet = sheetOf(definitions);
        const before = [...definitions.keys()].map((id) => [id, sheet.read(id)]);
        const setting = new Map([['a', Float64Array.from(first)]]);
        const otherType = sheet.read(other)?.type;
        // A text is one of those that there are; what has no type cannot be set to a number.
        const numbers = otherType === TEXT ? second.map((_, i) => numberOfText(['ash', 'oak', 'cork'][i % 3] ?? '')) : second;
        if (otherType) setting.set(other, Float64Array.from(numbers));
        const wanted = [...definitions.keys()].filter((id) => definitions.get(id)?.kind === 'formula');
        const [columns = [], compiled = []] = TIERS.map((tier) => sampleSheet(sheet, setting, wanted, first.length, tier));
        for (let i = 0; i < first.length; i++) {
          const alone = new Map(definitions);
          for (const [id, samples] of setting) alone.set(id, { kind: 'input', name: id, type: sheet.read(id)?.type, value: samples[i] ?? NaN });
          const anew = sheetOf(alone);
          const expected = wanted.map((id) => [id, anew.readNumber(id)]);
          expect(wanted.map((id, at) => [id, columns[at]?.[i]])).toEqual(expected);
          expect(wanted.map((id, at) => [id, compiled[at]?.[i]])).toEqual(expected);
        }
        expect([...definitions.keys()].map((id) => [id, sheet.read(id)])).toEqual(before);
      },
    ),
    { numRuns: 150 },
  );
}, 120_000);

test.each(TIERS)('more samples than a block holds, and a last block that is not full: %s', (tier) => {
  const sheet = sheetOf(new Map(Object.entries({ a: '1 mm', b: 'a * 2', c: 'sqrt(a * b) / (a - 300 mm)' }).map(([name, text]) => [name, formula(name, text)])));
  const samples = Float64Array.from({ length: 1_001 }, (_, i) => i * 10_000);
  const [c] = sampleSheet(sheet, new Map([['a', samples]]), ['c'], 1_001, tier);
  for (const i of [0, 255, 256, 299, 300, 511, 512, 999, 1_000]) {
    sheet.setNumber('a', samples[i] ?? 0);
    sheet.settle();
    expect([i, c?.[i]]).toEqual([i, sheet.readNumber('c')]);
  }
  expect(c?.[300]).toBeNaN();
});

/** Every operation with every sort of number in every place, as columns and as numbers that stay. */
test('each operation gives the same bits in both tiers and alone', () => {
  const awkward = [0, -0, 1, -1, 0.5, 2, 3, -2.5, 1e-9, 7, 64, 1e200, -1e200, NaN, Infinity, -Infinity, 0.49999999999999994];
  const calls = [
    ...['a + b', 'a - b', 'a * b', 'a / b', '-a', 'a^b', 'a^2', 'a^3', 'a^-1', 'a^0', 'a^7', 'a^0.5', 'a^-3', 'a^64', '2^a'],
    ...[
      'min(a, b)',
      'max(a, b)',
      'min(a, 2)',
      'max(0, a)',
      'clamp(a, b, c)',
      'clamp(a, 0, 5)',
      'sqrt(a)',
      'cbrt(a)',
      'abs(a)',
      'sign(a)',
      'floor(a)',
      'ceil(a)',
    ],
    ...['round(a)', 'mod(a, b)', 'exp(a)', 'ln(a)', 'log10(a)', 'hypot(a, b)', 'asin(a) / 1 deg', 'sin(a * 1 deg)', 'tan(a * 1 deg)', 'atan2(a, b) / 1 deg'],
    ...[
      'if(a < b, a, b)',
      'if(a <= b, a, c)',
      'if(a == b, 1, 2)',
      'if(a != b, 1, 2)',
      'if(a > 0 and b > 0, a, b)',
      'if(a > 0 or b > 0, a, b)',
      'if(not (a > b), a, b)',
    ],
    ...['if(a / b > 1 and b != 0, 1, 2)', 'if(b == 0 or a / b > 1, 1, 2)', '(a + b) * (a - b) / (1 + c * c) + sqrt(abs(a * b))'],
  ];
  const definitions = new Map<string, Definition>([
    ...['a', 'b', 'c'].map((name) => [name, formula(name, '1')] as const),
    ...calls.map((text, i) => [`f${i}`, formula(`f${i}`, text)] as const),
  ]);
  const sheet = sheetOf(definitions);
  const all = awkward.flatMap((a) => awkward.flatMap((b) => awkward.map((c) => [a, b, c] as const)));
  const column = (place: 0 | 1 | 2): Float64Array => Float64Array.from(all, (one) => one[place]);
  const wanted = calls.map((_, i) => `f${i}`);
  const wrong = wanted.filter((id) => sheet.read(id)?.type === undefined).map((id) => sheet.read(id)?.diagnostics[0]?.message);
  expect(wrong).toEqual([]);
  const set = new Map([
    ['a', column(0)],
    ['b', column(1)],
    ['c', column(2)],
  ]);
  const bits = (tier: 'interpreted' | 'compiled') => sampleSheet(sheet, set, wanted, all.length, tier);
  const [one, other] = [bits('interpreted'), bits('compiled')];
  calls.forEach((text, at) => {
    const differs = all.findIndex((_, i) => !Object.is(one[at]?.[i], other[at]?.[i]));
    expect([text, differs < 0 ? undefined : { at: all[differs], interpreted: one[at]?.[differs], compiled: other[at]?.[differs] }]).toEqual([text, undefined]);
  });
});

test.each(TIERS)('the same question of other numbers, and of another exponent: %s', (tier) => {
  const sheet = sheetOf(new Map(Object.entries({ a: '3', n: '2', k: '5', power: 'a^n + k' }).map(([name, text]) => [name, formula(name, text)])));
  const ask = (): number[] => [...(sampleSheet(sheet, new Map([['a', Float64Array.of(3, 4)]]), ['power'], 2, tier)[0] ?? [])];
  expect(ask()).toEqual([14, 21]);
  sheet.setNumber('k', 1);
  sheet.settle();
  expect(ask()).toEqual([10, 17]);
  sheet.setNumber('n', 3);
  sheet.settle();
  expect(ask()).toEqual([28, 65]);
  sheet.setNumber('n', 0.5);
  sheet.settle();
  expect(ask()).toEqual([1 + Math.sqrt(3), 3]);
});

test('a value that is set counts, whatever its formula is; what nothing leads to stays', () => {
  const sheet = sheetOf(new Map(Object.entries({ a: '1 mm', b: 'a * 2', c: 'b + 1 mm', far: '7 mm' }).map(([name, text]) => [name, formula(name, text)])));
  const columns = sampleSheet(sheet, new Map([['b', Float64Array.of(50_000, 60_000)]]), ['a', 'b', 'c', 'far', 'nothing'], 2);
  expect(columns.map((column) => [...column])).toEqual([
    [10_000, 10_000],
    [50_000, 60_000],
    [60_000, 70_000],
    [70_000, 70_000],
    [NaN, NaN],
  ]);
  expect(sheet.readNumber('c')).toBe(30_000);
});

test('a program and its state stay what they were, whatever is done to the sheet afterwards', () => {
  const edit = fc.record({ id: fc.constantFrom(...NAMES), text: fc.option(TEXTS, { freq: 4 }) });
  fc.assert(
    fc.property(network, fc.array(edit, { minLength: 1, maxLength: 12 }), (definitions, edits) => {
      const sheet = sheetOf(definitions);
      const program = sheet['program'];
      const kept = JSON.stringify([[...program.order], [...program.rows], [...program.readers], [...program.given.subarray(0, program.places)]]);
      const entries = [...program.entries];
      const code = program.entries.map((entry) => entry && program.code.slice(entry.codeFrom, entry.codeTo));
      for (const { id, text } of edits) {
        if (text === null) sheet.remove(id);
        else sheet.define(id, formula(id, text));
        sheet.settle();
      }
      expect(JSON.stringify([[...program.order], [...program.rows], [...program.readers], [...program.given.subarray(0, program.places)]])).toBe(kept);
      program.entries.forEach((entry, index) => expect(entry).toBe(entries[index]));
      expect(program.entries.map((entry) => entry && program.code.slice(entry.codeFrom, entry.codeTo))).toEqual(code);
    }),
    { numRuns: 100 },
  );
});

test('a formula that is typed is judged as it would be once it is taken, and changes nothing', () => {
  fc.assert(
    fc.property(network, TEXTS, fc.constantFrom<Slot>(ANY_SLOT, LENGTH, COUNT), (definitions, text, slot) => {
      const sheet = sheetOf(definitions);
      const before = [...definitions.keys()].map((id) => [id, sheet.read(id)]);
      const program = sheet['program'];
      const judged = sheet.judge({ text, slot });
      expect(sheet['program']).toBe(program);
      expect(sheet.settle().computed).toBe(0);
      expect([...definitions.keys()].map((id) => [id, sheet.read(id)])).toEqual(before);
      sheet.define('new', { kind: 'formula', name: 'new_one', text, slot });
      sheet.settle();
      expect(judged).toEqual(sheet.read('new'));
    }),
    { numRuns: 400 },
  );
});

import fc from 'fast-check';
import { ANY_SLOT } from '@/core/formula';
import { findCycle, findCyclePath, orderGraph, Sheet, type FormulaDefinition } from '@/core/network';
import { MILLIMETRES } from '@/core/units';
import { formulaText, lengthFormula, NAMES } from '../support/arbitraries';

type Op =
  | { readonly op: 'define'; readonly id: number; readonly text: string }
  | { readonly op: 'rename'; readonly id: number; readonly to: number }
  | { readonly op: 'remove'; readonly id: number };

const id = fc.integer({ min: 0, max: NAMES.length - 1 });
const op: fc.Arbitrary<Op> = fc.oneof(
  { weight: 6, arbitrary: fc.record({ op: fc.constant('define' as const), id, text: fc.oneof(formulaText(), lengthFormula(NAMES)) }) },
  { weight: 1, arbitrary: fc.record({ op: fc.constant('rename' as const), id, to: id }) },
  { weight: 1, arbitrary: fc.record({ op: fc.constant('remove' as const), id }) },
);

const definition = (name: string, text: string): FormulaDefinition => ({ kind: 'formula', name, text, slot: ANY_SLOT });

function readAll(sheet: Sheet, ids: Iterable<string>) {
  return [...ids].map((key) => {
    const reading = sheet.read(key);
    return { key, value: reading?.value, type: reading?.type, codes: reading?.diagnostics.map((d) => [d.code, d.message, d.from, d.to]) };
  });
}

/** Applies operations to a sheet that lives on and to the list of definitions. */
function run(sheet: Sheet, known: Map<string, FormulaDefinition>, step: Op): void {
  const key = `id${step.id}`;
  if (step.op === 'remove') {
    known.delete(key);
    sheet.remove(key);
    return;
  }
  const before = known.get(key);
  const name = step.op === 'rename' ? (NAMES[step.to] ?? 'a') : (before?.name ?? NAMES[step.id] ?? 'a');
  if ([...known].some(([other, entry]) => other !== key && entry.name === name)) return;
  if (step.op === 'rename' && !before) return;
  const next = definition(name, step.op === 'define' ? step.text : (before?.text ?? '1'));
  known.set(key, next);
  sheet.define(key, next);
}

test('a sheet that lived through any edits reads like a new one with the same definitions', () => {
  fc.assert(
    fc.property(fc.array(op, { minLength: 1, maxLength: 40 }), (steps) => {
      const living = new Sheet(MILLIMETRES);
      const known = new Map<string, FormulaDefinition>();
      for (const step of steps) {
        run(living, known, step);
        living.settle();
      }
      const fresh = new Sheet(MILLIMETRES);
      for (const [key, entry] of known) fresh.define(key, entry);
      fresh.settle();
      const clean = (rows: ReturnType<typeof readAll>) =>
        rows.map((row) => ({
          ...row,
          codes: row.codes?.map(([code, message, from, to]) => (code === 'cycle' ? ['cycle', '', from, to] : [code, message, from, to])),
        }));
      expect(clean(readAll(living, known.keys()))).toEqual(clean(readAll(fresh, known.keys())));
    }),
    { numRuns: 400 },
  );
});

test('a change computes no more than its cone, and stops where a value comes out equal', () => {
  const sheet = new Sheet(MILLIMETRES);
  for (const [name, text] of Object.entries({ a: '10 mm', b: 'a + 1', c: 'b + 1', d: 'max(a, 100 mm)', e: 'd * 2', other: '5', far: 'other + 1' })) {
    sheet.define(name, definition(name, text));
  }
  sheet.settle();
  sheet.define('a', definition('a', '11 mm'));
  expect(sheet.settle().computed).toBe(4);
  expect(sheet.readNumber('c')).toBe(130_000);
});

test('a long chain neither overflows the stack nor is computed twice', () => {
  const sheet = new Sheet(MILLIMETRES);
  const count = 20_000;
  for (let i = 0; i < count; i++) sheet.define(`v${i}`, definition(`v${i}`, i === 0 ? '1 mm' : `v${i - 1} + 1`));
  expect(sheet.settle().computed).toBe(count);
  sheet.define('v0', definition('v0', '2 mm'));
  expect(sheet.settle().computed).toBe(count);
  expect(sheet.readNumber(`v${count - 1}`)).toBe((count + 1) * 10_000);
});

test('the path of a cycle is named, its readers wait on it, and cutting it heals everything', () => {
  const sheet = new Sheet(MILLIMETRES);
  for (const [name, text] of Object.entries({ a: 'b + 1', b: 'c + 1', c: 'a + 1', reader: 'a * 2' })) sheet.define(name, definition(name, text));
  sheet.settle();
  expect(sheet.read('a')?.diagnostics[0]?.message).toBe('This value depends on itself: a → b → c → a.');
  expect(sheet.read('reader')?.diagnostics[0]?.code).toBe('waiting');
  sheet.define('c', definition('c', '3 mm'));
  sheet.settle();
  expect(sheet.readNumber('reader')).toBe(2 * 50_000);
});

test('a reader of something refused says what it waits for, down to the root', () => {
  const sheet = new Sheet(MILLIMETRES);
  for (const [name, text] of Object.entries({ zero: '0', root: '1/zero', next: 'root + 1', last: 'next * 2' })) sheet.define(name, definition(name, text));
  sheet.settle();
  expect(sheet.read('last')?.diagnostics).toMatchObject([{ code: 'waiting', message: 'Waiting on root.' }]);
  expect(sheet.readNumber('last')).toBeNaN();
});

test('the order puts what is read before its readers, in any graph; cycles are real', () => {
  fc.assert(
    fc.property(fc.array(fc.array(fc.integer({ min: 0, max: 19 }), { maxLength: 3 }), { minLength: 20, maxLength: 20 }), (reads) => {
      const of = (node: number): readonly number[] => reads[node] ?? [];
      const { order, cycles } = orderGraph(20, of);
      expect([...order].sort((x, y) => x - y)).toEqual(Array.from({ length: 20 }, (_, i) => i));
      const cyclic = new Set(cycles.flat());
      const rank = new Map([...order].map((node, i) => [node, i]));
      for (let node = 0; node < 20; node++) {
        for (const read of of(node)) if (!cyclic.has(node) || !cyclic.has(read)) expect(rank.get(read) ?? 0).toBeLessThan(rank.get(node) ?? 0);
      }
      for (const members of cycles) {
        const path = findCyclePath(members[0] ?? 0, 20, (node) => members.includes(node), of);
        path.forEach((node, i) => expect(of(node)).toContain(path[(i + 1) % path.length]));
      }
      const any = findCycle(20, of);
      expect(any !== undefined).toBe(cycles.length > 0);
      any?.forEach((node, i) => expect(of(node)).toContain(any[(i + 1) % any.length]));
    }),
    { numRuns: 300 },
  );
});

test('wide changes give what a new sheet gives: scrubbed, redefined, refused and healed in any order', () => {
  const COUNT = 700;
  const shape = (i: number, pick: number): string => {
    const [a, b] = [`v${(i - 1) >> 1}`, `v${Math.floor((i - 1) / 3)}`];
    return [`${a} + ${b} / 2`, `${a} * 0.5 - ${b}`, `${b} / (${a} / 1 mm - 40)`, `min(${a}, ${b}) + 1`, `${a} * 0 + 7 mm`][pick % 5] ?? a;
  };
  const change = fc.oneof(fc.record({ scrub: fc.integer({ min: 30, max: 90 }) }), fc.record({ at: fc.integer({ min: 1, max: COUNT - 1 }), pick: fc.nat(4) }));
  fc.assert(
    fc.property(fc.array(fc.nat(4), { minLength: COUNT, maxLength: COUNT }), fc.array(change, { minLength: 1, maxLength: 8 }), (picks, changes) => {
      const texts = picks.map((pick, i) => (i === 0 ? '50 mm' : shape(i, pick)));
      const define = (sheet: Sheet, i: number): void => sheet.define(`v${i}`, definition(`v${i}`, texts[i] ?? ''));
      const living = new Sheet(MILLIMETRES);
      texts.forEach((_, i) => define(living, i));
      living.settle();
      for (const one of changes) {
        if ('scrub' in one) {
          texts[0] = `${one.scrub} mm`;
          living.setNumber('v0', one.scrub * 10_000);
        } else {
          texts[one.at] = shape(one.at, one.pick);
          define(living, one.at);
        }
        living.settle();
      }
      const fresh = new Sheet(MILLIMETRES);
      texts.forEach((_, i) => define(fresh, i));
      fresh.settle();
      for (let i = 0; i < COUNT; i++) {
        const [ours, theirs] = [living.read(`v${i}`), fresh.read(`v${i}`)];
        expect([i, ours?.value, ours?.diagnostics.map(({ code, message }) => [code, message])]).toEqual([
          i,
          theirs?.value,
          theirs?.diagnostics.map(({ code, message }) => [code, message]),
        ]);
      }
    }),
    { numRuns: 25 },
  );
}, 60_000);

test('scrubbing a literal gives what typing the number gives', () => {
  const make = (text: string) => {
    const sheet = new Sheet(MILLIMETRES);
    sheet.define('a', definition('a', text));
    sheet.define('b', definition('b', 'a * 3 + 1'));
    sheet.settle();
    return sheet;
  };
  const scrubbed = make('10 mm');
  scrubbed.setNumber('a', 170_000);
  scrubbed.settle();
  expect(scrubbed.readNumber('b')).toBe(make('17 mm').readNumber('b'));
});

test('a name that is also a unit makes a formula ambiguous when it is added, and clear again when it goes', () => {
  const sheet = new Sheet(MILLIMETRES);
  sheet.define('rate', definition('rate', '4/h'));
  sheet.settle();
  expect(sheet.read('rate')?.diagnostics).toEqual([]);
  sheet.define('h', definition('h', '3 mm'));
  sheet.settle();
  expect(sheet.read('rate')?.diagnostics[0]?.code).toBe('ambiguous-unit');
  sheet.remove('h');
  sheet.settle();
  expect(sheet.read('rate')?.diagnostics).toEqual([]);
});

test('a formula edited again and again leaves no code behind', () => {
  const sheet = new Sheet(MILLIMETRES);
  for (const [name, text] of Object.entries({ a: '10 mm', b: 'a + 1', last: 'b * 2' })) sheet.define(name, definition(name, text));
  const edit = (i: number): void => {
    sheet.define('b', definition('b', `a + ${i % 7} - a/2 + ${i % 3}`));
    sheet.settle();
  };
  for (let i = 0; i < 8_000; i++) edit(i);
  // Eight thousand edits have written some 300,000 integers; what nobody runs is given back from 50,000 on.
  expect(sheet['builder']['store'].codeLength).toBeLessThan(120_000);
  expect(sheet['state'].numbers.length).toBeLessThanOrEqual(1024);
  expect(sheet.readNumber('last')).toBe(2 * (50_000 + ((7_999 % 7) + (7_999 % 3)) * 10_000));
});

test('a single formula run by itself gives what the sheet gives', () => {
  const sheet = new Sheet(MILLIMETRES);
  const texts = { a: '12 mm', b: '2/3*a - 0.5*a', c: 'a/3 + b', d: 'if(a > b, sqrt(a*b), b)', e: '-a + max(b, c)', f: '2*a', g: 'a - b' };
  for (const [name, text] of Object.entries(texts)) sheet.define(name, definition(name, text));
  sheet.settle();
  for (const name of Object.keys(texts).slice(1)) expect([name, sheet.runner(name)()]).toEqual([name, sheet.readNumber(name)]);
});

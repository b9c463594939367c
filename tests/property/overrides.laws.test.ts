/** Values that are set from outside: as the document would be with those formulas, and nothing of them left afterwards. */
import fc from 'fast-check';
import { DocumentValues, findRecord, type Document, type Formula } from '@/core/document';
import { lengthFormula } from '../support/arbitraries';
import { linked, withParameters } from '../support/assemblies';
import { edited } from '../support/demo';

const NAMES = ['x', 'y', 'z', 'w'] as const;

/** Lengths that read one another in their order and a linked one, some of them within limits or out of choices. */
const documents = fc
  .tuple(lengthFormula(['width']), lengthFormula(['x', 'width']), lengthFormula(['x', 'y']), fc.boolean())
  .map(([y, z, w, isLimited]): Document => {
    const plain = linked(withParameters('part', 'p', { x: '18 mm' }), 'm', { width: 200 });
    const document = edited(
      plain,
      ...[y, z, w].map((text, i) => ({
        type: 'parameter.add' as const,
        parameter: { type: 'parameter' as const, id: `p-${NAMES[i + 1] ?? ''}`, name: NAMES[i + 1] ?? '', formula: { text }, kind: 'length' },
      })),
    );
    if (!isLimited) return document;
    return edited(
      document,
      { type: 'parameter.update', id: 'p-x', changes: { choices: ['12 mm', '18 mm', '21 mm'] } },
      { type: 'parameter.update', id: 'p-z', changes: { least: { text: '-1 m' }, most: { text: 'y + 100 mm' } } },
    );
  });

/** By ids: texts of all kinds, right and wrong ones. */
const overrides = fc
  .dictionary(
    fc.constantFrom('p-x', 'p-y', 'p-z', 'p-w', 'p-takes-width'),
    fc.oneof(lengthFormula(['width']), fc.constantFrom('12 mm', '15', '3 kg', 'x +', 'nobody')),
    {
      maxKeys: 4,
    },
  )
  .map((texts) => new Map(Object.entries(texts).map(([id, text]): [string, Formula] => [id, { text }])));

/** What the sheet would hold were the formulas those of the document. A linked value that is set is a parameter of its kind. */
function withFormulas(document: Document, set: ReadonlyMap<string, Formula>): Document {
  const records = { ...document.records };
  for (const [id, formula] of set) {
    const [parameter, take] = [findRecord(document, id, 'parameter'), findRecord(document, id, 'take')];
    if (parameter) records[id] = { ...parameter, formula };
    if (take) records[id] = { type: 'parameter', id, name: take.name, kind: 'length', displayUnit: 'mm', formula };
  }
  return { ...document, records };
}

const read = (values: DocumentValues): unknown[] =>
  ['p-x', 'p-y', 'p-z', 'p-w', 'p-takes-width'].map((id) => {
    const { shown, value, diagnostics } = values.show(id) ?? { shown: '', value: NaN, diagnostics: [] };
    return [id, shown, value, diagnostics.map(({ code }) => code)];
  });

test('what is set is as it would be were it written, whatever was set before, and leaves nothing behind', () => {
  fc.assert(
    fc.property(documents, fc.array(overrides, { minLength: 1, maxLength: 4 }), (document, sets) => {
      const values = new DocumentValues(document);
      const before = read(values);
      for (const set of sets) {
        values.setOverrides(set);
        expect(read(values)).toEqual(read(new DocumentValues(withFormulas(document, set))));
        for (const id of ['p-x', 'p-y', 'p-takes-width']) expect(values.show(id)?.isOverridden ?? false).toBe(set.has(id));
      }
      expect(values.document).toBe(document);
      values.setOverrides(new Map());
      expect(read(values)).toEqual(before);
    }),
    { numRuns: 150 },
  );
}, 60_000);

test('edits of the document go on beneath what is set: they are there once it is set no more', () => {
  const document = withParameters('part', 'p', { x: '18 mm', y: '2 * x' });
  const values = new DocumentValues(document);
  values.setOverrides(new Map([['p-x', { text: '10 mm' }]]));
  const after = { ...document, records: { ...document.records, 'p-x': { ...findRecord(document, 'p-x', 'parameter')!, formula: { text: '30 mm' } } } };
  values.apply(after, { records: [{ id: 'p-x', before: document.records['p-x'] ?? null, after: after.records['p-x'] }], lists: [], fields: [] });
  expect(values.show('p-y')?.shown).toBe('20 mm');
  values.setOverrides(new Map());
  expect(values.show('p-y')?.shown).toBe('60 mm');
});

test('a zero that becomes the other one is told on: atan2 tells them apart', () => {
  const document = withParameters('part', 'p', { x: '1 mm', y: '0 * x', turn: 'atan2(y, -1 mm)' });
  const values = new DocumentValues(document);
  expect(values.show('p-turn')?.shown).toBe('180°');
  values.setOverrides(new Map([['p-x', { text: '-1 mm' }]]));
  expect(values.show('p-turn')?.shown).toBe('-180°');
});

test('what is set wins over the size in use; a value with an error of its own is right while it is set', () => {
  const sized = edited(
    withParameters('part', 'p', { x: 'nobody', y: '2 * x' }),
    { type: 'sizes.columns', columns: ['p-x'] },
    { type: 'size.put', size: { id: 's', name: 'Small', cells: { 'p-x': { text: '5 mm' } } } },
    { type: 'sizes.use', size: 's' },
  );
  const values = new DocumentValues(sized);
  values.setOverrides(new Map([['p-x', { text: '7 mm' }]]));
  expect(values.show('p-y')?.shown).toBe('14 mm');
  values.setOverrides(new Map());
  expect(values.show('p-y')?.shown).toBe('10 mm');
});

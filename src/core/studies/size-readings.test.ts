/** What sizes come to, read one after another; and what makes the results of a check old. */
import { inSize, listSizes, type Document } from '../document';
import { InstanceLibrary, openValues } from '../instances';
import { withParameters } from '../../../tests/support/assemblies';
import { edited } from '../../../tests/support/demo';
import { keyOfSize, readSizes, SizeReader, valuesOfTable } from './size-readings';

const source = new InstanceLibrary();
const PLATE = edited(
  withParameters('part', 'plate', { width: '40 mm', depth: '2 * width', holes: 'floor(width / 10 mm)' }),
  { type: 'size.put', size: { id: 's', name: 'Small', cells: { 'plate-width': { text: '20 mm' } } } },
  { type: 'size.put', size: { id: 'd', name: 'Deep', cells: { 'plate-depth': { text: '3 * width + 1 mm' } } } },
  { type: 'size.put', size: { id: 'w', name: 'Wrong', cells: { 'plate-width': { text: '1 kg' } } } },
  { type: 'sizes.results', results: ['plate-holes'] },
);

test('each size is read as if it were opened anew, whatever was read before it', () => {
  const orders = [
    ['s', 'd', 'w'],
    ['w', 's', undefined, 'd'],
    [undefined, 'd', 's', 'd'],
  ];
  for (const order of orders) {
    const reader = new SizeReader(PLATE, source);
    for (const size of order) {
      const values = openValues(inSize(PLATE, size), source);
      for (const id of valuesOfTable(PLATE)) expect(reader.read(size).get(id)).toEqual(values.show(id));
    }
  }
});

test('readers of one document that read in turn do not disturb one another', () => {
  const [one, other] = [readSizes(PLATE, source), readSizes(PLATE, source)];
  const shown = (reader: SizeReader, size: string | undefined): string[] => [...reader.read(size).values()].map((value) => value.shown);
  expect(shown(one, 's')).toEqual(['20 mm', '40 mm', '2']);
  expect(shown(other, 'd')).toEqual(['40 mm', '121 mm', '4']);
  expect(shown(one, undefined)).toEqual(['40 mm', '80 mm', '4']);
  expect(shown(other, 's')).toEqual(['20 mm', '40 mm', '2']);
  expect(shown(one, 'd')).toEqual(['40 mm', '121 mm', '4']);
});

test('after edits, sizes are read as if nothing had been known of them', () => {
  const edits: Parameters<typeof edited>[1][] = [
    { type: 'size.put', size: { id: 's', name: 'Small', cells: { 'plate-width': { text: '25 mm' } } } },
    { type: 'parameter.setFormula', id: 'plate-holes', formula: { text: 'floor(depth / 10 mm)' } },
    { type: 'sizes.use', size: 'd' },
    { type: 'sizes.results', results: ['plate-holes', 'plate-depth'] },
    { type: 'value.rename', id: 'plate-width', name: 'breadth' },
    { type: 'size.remove', id: 'w' },
    { type: 'sizes.columns', columns: ['plate-depth'] },
  ];
  let document = PLATE;
  for (const edit of edits) {
    document = edited(document, edit);
    const reader = readSizes(document, source);
    for (const size of [undefined, ...listSizes(document).map(({ id }) => id)]) {
      const values = openValues(inSize(document, size), source);
      for (const id of valuesOfTable(document)) {
        const { diagnostics, ...reading } = reader.read(size).get(id) ?? { diagnostics: [] };
        const { diagnostics: wanted, ...anew } = values.show(id) ?? { diagnostics: [] };
        expect([reading, diagnostics.map(({ message }) => message)]).toEqual([anew, wanted.map(({ message }) => message)]);
      }
    }
  }
});

test('a result is old where something that decides its size is another, and nowhere else', () => {
  const changed = (...edits: Parameters<typeof edited>[1][]): string[] => {
    const after = edited(PLATE, ...edits);
    return listSizes(PLATE).flatMap(({ id, name }) => (keyOfSize(PLATE, id) === keyOfSize(after, id) ? [] : name));
  };
  const cell = (id: string, name: string, cells: Document['records'] extends never ? never : Record<string, { text: string }>) =>
    ({ type: 'size.put', size: { id, name, cells } }) as const;
  expect(changed(cell('s', 'Small', { 'plate-width': { text: '21 mm' } }))).toEqual(['Small']);
  expect(changed(cell('s', 'Tiny', { 'plate-width': { text: '20 mm' } }))).toEqual([]);
  expect(changed({ type: 'parameter.setFormula', id: 'plate-width', formula: { text: '41 mm' } })).toEqual(['Deep']);
  expect(changed({ type: 'parameter.setFormula', id: 'plate-holes', formula: { text: '7' } })).toEqual(['Small', 'Deep', 'Wrong']);
  expect(changed({ type: 'sizes.use', size: 's' })).toEqual([]);
  expect(changed({ type: 'sizes.results', results: [] })).toEqual([]);
  expect(changed({ type: 'parameter.update', id: 'plate-width', changes: { note: 'Of oak.' } })).toEqual([]);
  expect(changed({ type: 'size.remove', id: 'd' })).toEqual(['Deep']);
});

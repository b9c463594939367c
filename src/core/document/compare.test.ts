import { compareSnapshots, DocumentValues, planRestore, type Document, type Snapshot } from '.';
import { publishValues } from '../links';
import { demoDocument, edited } from '../../../tests/support/demo';

const side = demoDocument('Side frame');
const sizes = demoDocument('Loom sizes');
const snapshot = (document: Document): Snapshot => ({ document, values: publishValues(new DocumentValues(document)) });
const compare = (before: Document, after: Document) => compareSnapshots(snapshot(before), snapshot(after));

test('equal states differ in nothing, and restoring between them does nothing', () => {
  expect(compare(side, side)).toEqual({ values: [], steps: [], others: [] });
  expect(planRestore(side, side).ops).toEqual([]);
});

test('what follows a changed value is told too, with its formula', () => {
  const wider = edited(sizes, { type: 'parameter.setFormula', id: 'weaving-width', formula: { text: '480 mm' } });
  const { values } = compare(sizes, wider);
  expect(values).toContainEqual({
    id: 'weaving-width',
    before: { name: 'weaving_width', shown: '400 mm', formula: '400 mm' },
    after: { name: 'weaving_width', shown: '480 mm', formula: '480 mm' },
  });
  expect(values.find(({ id }) => id === 'inner-width')).toMatchObject({ before: { shown: '424 mm' }, after: { shown: '504 mm' } });
  expect(values.some(({ id }) => id === 'teeth')).toBe(false);
});

test('values that came and went have one side', () => {
  const parameter = { type: 'parameter', id: 'slack', name: 'slack', formula: { text: '2 mm' }, kind: 'length' } as const;
  const more = edited(sizes, { type: 'parameter.add', parameter });
  expect(compare(sizes, more).values).toEqual([{ id: 'slack', after: { name: 'slack', shown: '2 mm', formula: '2 mm' } }]);
  expect(compare(more, sizes).values).toEqual([{ id: 'slack', before: { name: 'slack', shown: '2 mm', formula: '2 mm' } }]);
});

test('steps are told as added, removed, changed and moved; tables by name', () => {
  const [first] = side.lists['steps'] ?? [];
  const sketch = edited(side, { type: 'step.add', step: { type: 'sketch', id: 'extra', name: 'Extra', plane: 'top' }, values: [] });
  expect(compare(side, sketch).steps).toEqual([{ id: 'extra', name: 'Extra', change: 'added' }]);
  expect(compare(sketch, side).steps).toEqual([{ id: 'extra', name: 'Extra', change: 'removed' }]);
  const turned = edited(sketch, { type: 'step.update', step: { type: 'sketch', id: 'extra', name: 'Extra', plane: 'side' }, values: [] });
  expect(compare(sketch, turned).steps).toEqual([{ id: 'extra', name: 'Extra', change: 'changed' }]);
  const moved = edited(sketch, { type: 'step.move', id: 'extra', after: null });
  expect(compare(sketch, moved).steps.map(({ change }) => change)).toContain('moved');
  expect(compare(sketch, moved).steps.map(({ id }) => id)).toContain(first);

  const [table] = Object.values(sizes.records).filter((record) => record.type === 'table');
  if (!table) throw new Error('no table');
  const longer = edited(sizes, { type: 'table.put', table: { ...table, rows: [...table.rows, ['"M10"', '11 mm', '17 mm']] } });
  expect(compare(sizes, longer).others).toEqual([`table ${table.name}`]);
});

test('a line drawn in a sketch changes that step alone', () => {
  const drawn = edited(side, {
    type: 'sketch.draw',
    sketch: 'outline',
    entities: [{ type: 'point', id: 'loose', sketch: 'outline', x: 1, y: 2 }],
    constraints: [],
    dimensions: [],
    values: [],
  });
  expect(compare(side, drawn)).toEqual({ values: [], steps: [{ id: 'outline', name: 'Side outline', change: 'changed' }], others: [] });
});

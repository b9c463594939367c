import { createDocument, DocumentValues, type Document, type Edit } from '@/core/document';
import { edited } from '../../../tests/support/demo';
import { formulasNow, GUIDE_MASTER, GUIDE_STEPS, type GuideFacts } from './guide-steps';

const value = (id: string, text: string): Edit => ({
  type: 'parameter.add',
  parameter: { type: 'parameter', id, name: id, formula: { text }, kind: 'length' },
});

const RECTANGLE: Edit = {
  type: 'sketch.draw',
  sketch: 'outline',
  entities: [
    ...(['a', 'b', 'c', 'd'] as const).map((id, i) => ({ type: 'point', id, sketch: 'outline', x: i % 3 === 0 ? 0 : 240, y: i < 2 ? 0 : 24 }) as const),
    ...[
      ['ab', 'a', 'b'],
      ['bc', 'b', 'c'],
      ['cd', 'c', 'd'],
      ['da', 'd', 'a'],
    ].map(([id = '', start = '', end = '']) => ({ type: 'line', id, sketch: 'outline', start, end }) as const),
  ],
  constraints: [],
  dimensions: [],
  values: [],
};

const dimension = (id: string, line: string, text: string): Edit => ({
  type: 'sketch.draw',
  sketch: 'outline',
  entities: [],
  constraints: [],
  dimensions: [{ type: 'dimension', id: `d-${id}`, sketch: 'outline', kind: 'length', on: [line], at: [0, -10], parameter: id }],
  values: [{ type: 'parameter', id, owner: 'outline', name: id, formula: { text }, kind: 'length' }],
});

const factsOf = (document: Document, more: Partial<GuideFacts> = {}): GuideFacts => {
  const values = new DocumentValues(document);
  return { document, readsOf: (id) => values.sheet.listReads(id), bodies: 0, before: {}, showsLooseEnds: false, ...more };
};

test('each step of the guide is done by what its words say, and by nothing before it', () => {
  const states: Document[] = [createDocument('stick', 'part', 'Shed stick')];
  const then = (...edits: Edit[]): void => void states.push(edited(states.at(-1) ?? createDocument('', 'part', ''), ...edits));
  then(value('stick_length', '240 mm'));
  then(value('stick_width', 'stick_length / 10'));
  then({ type: 'step.add', step: { type: 'sketch', id: 'outline', name: 'Outline', plane: 'top' }, values: [] }, RECTANGLE);
  then(dimension('length', 'ab', 'stick_length'));
  then(dimension('width', 'bc', 'stick_width'));
  for (const [at, step] of GUIDE_STEPS.slice(0, 5).entries()) {
    expect(states.map((document) => step.isDone(factsOf(document)))).toEqual(states.map((_, i) => i > at));
  }
});

test('the driving value counts as changed only by what happens during the step', () => {
  const before = edited(createDocument('stick', 'part', 'Shed stick'), value('stick_length', '240 mm'));
  const after = edited(before, { type: 'parameter.setFormula', id: 'stick_length', formula: { text: '300 mm' } });
  const change = GUIDE_STEPS.find(({ title }) => title === 'Change the driving value');
  expect(change?.isDone(factsOf(before, { before: formulasNow(before) }))).toBe(false);
  expect(change?.isDone(factsOf(after, { before: formulasNow(before) }))).toBe(true);
});

test('the guide names what it makes, and its thickness is what the master has', () => {
  const words = GUIDE_STEPS.map((step) => step.words).join(' ');
  expect(words).toContain(GUIDE_MASTER.name);
  const [stock] = GUIDE_MASTER.values;
  expect(words).toContain(stock.name);
  expect(words).toContain(`thickness = ${stock.formula}`);
});

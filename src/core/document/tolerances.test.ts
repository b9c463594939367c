import { applyEdit, createDocument, DocumentValues, limitsOf, readTypedTolerance, shownTolerance, toleranceText, type Document, type Edit } from '.';

const edited = (document: Document, ...edits: readonly Edit[]): Document =>
  edits.reduce((current, edit) => {
    const applied = applyEdit(current, edit);
    if (!applied.ok) throw new Error(applied.failure.message);
    return applied.value.document;
  }, document);

const part = (formula: string, tolerance: string, kind = 'length'): DocumentValues => {
  const play: Edit = { type: 'parameter.add', parameter: { type: 'parameter', id: 'play', name: 'play', formula: { text: '0.4 mm' }, kind: 'length' } };
  const beam: Edit = { type: 'parameter.add', parameter: { type: 'parameter', id: 'beam', name: 'beam', formula: { text: formula }, kind } };
  const document = edited(createDocument('d', 'part', 'D'), play, beam);
  const parsed = readTypedTolerance(new DocumentValues(document), tolerance, { id: 'beam' });
  if (!parsed) throw new Error(`no tolerance: ${tolerance}`);
  return new DocumentValues(edited(document, { type: 'parameter.update', id: 'beam', changes: { tolerance: parsed } }));
};

test.each([
  ['45 mm', '±0.1', '44.9 mm to 45.1 mm'],
  ['45 mm', '±play / 2', '44.8 mm to 45.2 mm'],
  ['45 mm', '+0.2/-0.1', '44.9 mm to 45.2 mm'],
  ['45 mm', '0/-0.05 mm', '44.95 mm to 45 mm'],
  ['45 mm', '44.5..45', '44.5 mm to 45 mm'],
  ['45 mm', 'g6', '44.975 mm to 44.991 mm'],
  ['30 deg', '±0.5', '29.5° to 30.5°'],
  ['4 in', '±0.005', '3.995 in to 4.005 in'],
  ['4 in', '+1/64 / -0', '4 in to 4.016 in'],
  ['4 in', '3.99..4.01', '3.99 in to 4.01 in'],
  ['4 in', '±play / 2', '3.992 in to 4.008 in'],
  ['4 in', '±0.1 mm', '3.996 in to 4.004 in'],
  ['1 rad', '±0.5', '0.5 rad to 1.5 rad'],
])('%s %s is %s', (formula, tolerance, shown) => {
  expect(limitsOf(part(formula, tolerance, /deg|rad/.test(formula) ? 'angle' : 'length'), 'beam')).toMatchObject({ shown });
});

test.each([
  ['45 mm', '±2 deg', 'length', /angle/],
  ['45 mm', '45..44', 'length', /upper limit is below/],
  ['45 mm', '±gone', 'length', /no value named gone/],
  ['30 deg', 'H7', 'angle', /for lengths/],
  ['3200 mm', 'H7', 'length', /up to 3150 mm/],
])('%s %s is refused with a word', (formula, tolerance, kind, words) => {
  const limits = limitsOf(part(formula, tolerance, kind), 'beam');
  expect(limits && 'problem' in limits ? limits.problem : '').toMatch(words);
});

test('names in a tolerance follow a rename, and a value that one reads is not deleted unseen', () => {
  const { document } = part('45 mm', '+play/-0.1');
  const renamed = edited(document, { type: 'value.rename', id: 'play', name: 'clearance' });
  const record = renamed.records['beam'];
  expect(record?.type === 'parameter' && record.tolerance && toleranceText(record.tolerance)).toBe('+clearance/-0.1');
  expect(applyEdit(renamed, { type: 'parameter.remove', id: 'play', readers: { mode: 'refuse' } })).toMatchObject({
    ok: false,
    failure: { code: 'still-read' },
  });
});

test('a tolerance keeps its unit, in whatever the value is shown', () => {
  const values = part('4 in', '±0.005');
  expect(shownTolerance(values, 'beam')).toBe('±0.005 in');
  const inMillimetres = new DocumentValues(edited(values.document, { type: 'parameter.update', id: 'beam', changes: { displayUnit: 'mm' } }));
  expect(shownTolerance(inMillimetres, 'beam')).toBe('±0.005 in');
  // One that was written where the value was shown in the units of the document is told with them.
  const metric = edited(part('45 mm', '+0.2/-0.1').document, { type: 'parameter.update', id: 'beam', changes: { displayUnit: 'in' } });
  expect(shownTolerance(new DocumentValues(metric), 'beam')).toBe('+0.2 mm/-0.1 mm');
});

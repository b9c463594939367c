import { DocumentValues, findNamed, type TakenValue } from '@/core/document';
import { publishValues } from '@/core/links';
import { demoDocument, edited } from '../../../tests/support/demo';
import { viewRows, WHOLE_LEDGER, type LedgerView } from './ledger-view';

const side = demoDocument('Side frame');

function names(view: Partial<LedgerView>, values = new DocumentValues(side), saved?: Readonly<Record<string, TakenValue>>): string[] | undefined {
  return viewRows(values, { ...WHOLE_LEDGER, ...view }, { saved })?.map(({ id }) => {
    const record = values.document.records[id];
    return record && 'name' in record ? record.name : '';
  });
}

test('the whole ledger is left as it is', () => {
  expect(names({})).toBeUndefined();
});

test('values are found by what they are', () => {
  expect(names({ filter: 'linked' })).toEqual(['frame_stock', 'frame_height', 'frame_depth', 'beam_dia', 'bearing_dia', 'screw_hole']);
  expect(names({ filter: 'plain' })).toContain('bearing_inset');
  expect(names({ filter: 'plain' })).not.toContain('depth');
  expect(names({ filter: 'formulas' })).toContain('depth');
  expect(names({ filter: 'driving' })).toContain('rail_section');
  expect(names({ filter: 'wrong' })).toEqual([]);
});

test('words are looked for in names, formulas, notes and steps', () => {
  expect(names({ text: 'mortise' })).toEqual(['mortise_depth', 'mortise_height', 'mortise_place']);
  expect(names({ text: 'above the table' })).toEqual(['beam_height']);
  expect(names({ text: 'corners rounded' })).toEqual(['corner_round']);
});

test('sorted by name or by size, whatever owns them', () => {
  const byName = names({ sort: 'name' }) ?? [];
  expect(byName).toEqual([...byName].sort((a, b) => a.localeCompare(b, 'en', { numeric: true })));
  expect(names({ sort: 'value' })?.at(-1)).toMatch(/depth/);
});

test('what changed since the last revision is its own cone', () => {
  const saved = publishValues(new DocumentValues(side));
  const inset = findNamed(side, 'bearing_inset')?.id ?? '';
  const after = new DocumentValues(edited(side, { type: 'parameter.setFormula', id: inset, formula: { text: '70 mm' } }));
  expect(names({ filter: 'changed' }, after, saved)).toEqual(['bearing_inset', 'slot_place']);
});

test('values that drive a body are found, with what they read; others are left out', () => {
  const body = Object.values(side.records).find((record) => record.type === 'body');
  const found = names({ body: body?.id }) ?? [];
  expect(found).toEqual(expect.arrayContaining(['frame_depth', 'depth', 'stock', 'mortise_depth', 'rail_section']));
  const unread = edited(side, { type: 'parameter.add', parameter: { type: 'parameter', id: 'idle', name: 'idle', formula: { text: '3 mm' }, kind: 'length' } });
  expect(names({ body: body?.id }, new DocumentValues(unread))).not.toContain('idle');
});

test('grouped by body, driving values come first, and no value twice', () => {
  const rows = viewRows(new DocumentValues(side), { ...WHOLE_LEDGER, sort: 'body' }) ?? [];
  expect(rows.filter(({ kind }) => kind === 'heading').map((row) => (row.kind === 'heading' ? row.text : ''))).toEqual(['Driving values', 'Side']);
  const ids = rows.filter(({ kind }) => kind === 'value').map(({ id }) => id);
  expect(new Set(ids).size).toBe(ids.length);
});

test('what other documents take is not read by nothing', () => {
  const master = new DocumentValues(demoDocument('Loom sizes'));
  const unread = (uses: ReadonlyMap<string, unknown>) => (viewRows(master, { ...WHOLE_LEDGER, filter: 'unused' }, { uses }) ?? []).map(({ id }) => id);
  const all = unread(new Map());
  expect(all.length).toBeGreaterThan(1);
  expect(unread(new Map([[all[0] ?? '', ['Reed']]]))).toEqual(all.slice(1));
});

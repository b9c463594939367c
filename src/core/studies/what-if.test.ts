import { linked, sourceOf, withParameters } from '../../../tests/support/assemblies';
import { edited } from '../../../tests/support/demo';
import { applyEdit, findRecord, meantNames, type Document, type WhatIf } from '../document';
import { openValues } from '../instances';
import { asWhatIf, planTakingOver, settingsBetween, textNow } from '.';

const NOBODY = sourceOf([]);
const PART = linked(withParameters('part', 'p', { dia: '45 mm', play: '0.4 mm', bore: 'dia + play' }), 'm', { width: 200 });

/** `formulas` by the ids of values. */
function whatIf(document: Document, formulas: Readonly<Record<string, string>>): WhatIf {
  const values = Object.entries(formulas).map(
    ([id, text]) =>
      [id, { formula: { text, names: meantNames(document, text) }, instead: findRecord(document, id, 'parameter')?.formula.text ?? '200 mm' }] as const,
  );
  return { id: 'w', name: 'Wide', values: Object.fromEntries(values) };
}

function shown(document: Document, set: WhatIf, ...ids: readonly string[]): string[] {
  const state = asWhatIf(openValues(document, NOBODY), set);
  const values = openValues(state.document, NOBODY);
  return ids.map((id) => state.problems.get(id) ?? values.show(id)?.shown ?? '');
}

test('formulas take the place of those of the document, and what reads them follows; the document stays as it is', () => {
  const before = structuredClone(PART);
  expect(shown(PART, whatIf(PART, { 'p-dia': '2 * play + 60 mm' }), 'p-dia', 'p-bore')).toEqual(['60.8 mm', '61.2 mm']);
  expect(PART).toEqual(before);
});

test('a linked value is set by an amount of its kind, and cut off from its source', () => {
  expect(shown(PART, whatIf(PART, { 'p-takes-width': 'dia * 10' }), 'p-takes-width')).toEqual(['450 mm']);
  expect(shown(PART, whatIf(PART, { 'p-takes-width': '300' }), 'p-takes-width')).toEqual(['300 mm']);
  const [refused] = shown(PART, whatIf(PART, { 'p-takes-width': '3 kg' }), 'p-takes-width');
  expect(refused).toMatch(/length/);
});

test('what the document says of a value: its formula, of a linked one the amount', () => {
  const values = openValues(PART, NOBODY);
  expect(['p-bore', 'p-takes-width', 'gone'].map((id) => textNow(values, id))).toEqual(['dia + play', '200 mm', '']);
});

test('what is gone is told, and all the rest is set', () => {
  const set = {
    ...whatIf(PART, { 'p-dia': '50 mm' }),
    values: { ...whatIf(PART, { 'p-dia': '50 mm' }).values, gone: { formula: { text: '1 mm' }, instead: '2 mm' } },
  };
  const state = asWhatIf(openValues(PART, NOBODY), set);
  expect([...state.problems.keys()]).toEqual(['gone']);
  expect(openValues(state.document, NOBODY).show('p-bore')?.shown).toBe('50.4 mm');
});

test('names mean what they meant when they were typed', () => {
  const set = whatIf(PART, { 'p-dia': '2 * play + 60 mm' });
  const renamed = edited(PART, { type: 'value.rename', id: 'p-play', name: 'clearance' });
  expect(shown(renamed, set, 'p-dia')).toEqual(['60.8 mm']);
});

test('taking over is one edit, undone as one; what has changed since is shown, linked values are left', () => {
  const set = whatIf(PART, { 'p-dia': '60 mm', 'p-play': '1 mm', 'p-takes-width': '300 mm' });
  const moved = edited(PART, { type: 'parameter.setFormula', id: 'p-dia', formula: { text: '48 mm' } });
  const { edit, linked: left, changed } = planTakingOver(moved, set);
  expect([left, changed]).toEqual([['width'], [{ name: 'dia', instead: '45 mm', now: '48 mm', next: '60 mm' }]]);
  const result = edit && applyEdit(moved, edit);
  if (!result?.ok) throw new Error('refused');
  expect(openValues(result.value.document, NOBODY).show('p-bore')?.shown).toBe('61 mm');
  const back = applyEdit(result.value.document, result.value.inverse);
  expect(back.ok && back.value.document).toEqual(moved);
  expect(planTakingOver(result.value.document, set)).toEqual({ edit: undefined, linked: ['width'], changed: [] });
});

test('what was edited since becomes a what-if that leads from there to here', () => {
  const after = edited(
    PART,
    { type: 'parameter.setFormula', id: 'p-dia', formula: { text: 'play * 100' } },
    { type: 'parameter.add', parameter: { type: 'parameter', id: 'p-new', name: 'new', formula: { text: '1 mm' }, kind: 'length' } },
  );
  const values = settingsBetween(PART, after);
  expect(values).toEqual({ 'p-dia': { formula: { text: 'play * 100', names: { play: 'p-play' } }, instead: '45 mm' } });
  expect(shown(PART, { id: 'w', name: 'w', values }, 'p-bore')).toEqual(['40.4 mm']);
});

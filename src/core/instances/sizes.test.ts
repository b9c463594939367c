/** Sizes of a document: what they set, how they are edited, and what an assembly takes of them. */
import { component, driven, linked, placeless, shownIn, sourceOf, withComponents, withParameters } from '../../../tests/support/assemblies';
import { edited } from '../../../tests/support/demo';
import { applyEdit, DocumentValues, findBrokenGuards, inSize, listSizes, usedSize, type Document, type Edit } from '../document';
import { Instances, openValues } from '.';

const cells = (formulas: Readonly<Record<string, string>>) => Object.fromEntries(Object.entries(formulas).map(([id, text]) => [id, { text }]));
const size = (id: string, name: string, formulas: Readonly<Record<string, string>>): Edit => ({ type: 'size.put', size: { id, name, cells: cells(formulas) } });
const use = (id: string | null): Edit => ({ type: 'sizes.use', size: id });

/** A rail: its height follows its width, its length is of its own. */
const RAIL = edited(
  withParameters('part', 'rail', { width: '400 mm', height: '2 * width', long: '1 m' }),
  size('narrow', 'Narrow', { 'rail-width': '300 mm' }),
  size('wide', 'Wide', { 'rail-width': '2 * long', 'rail-long': '0.5 m' }),
);
const refusal = (document: Document, edit: Edit): string => {
  const result = applyEdit(document, edit);
  return result.ok ? 'accepted' : result.failure.message;
};
const shown = (document: Document): Record<string, string> => shownIn(document, []);

describe('a document in a size', () => {
  test('has the values of its cells, and its own formulas where a cell is empty; a cell reads the others of its row', () => {
    expect(shown(RAIL)).toEqual({ width: '400 mm', height: '800 mm', long: '1 m' });
    expect(shown(edited(RAIL, use('narrow')))).toEqual({ width: '300 mm', height: '600 mm', long: '1 m' });
    expect(shown(edited(RAIL, use('wide')))).toEqual({ width: '1000 mm', height: '2000 mm', long: '0.5 m' });
    expect(shown(edited(RAIL, use('wide'), use(null)))).toEqual(shown(RAIL));
  });

  test('seen in another one is the same as using it, and changes nothing', () => {
    for (const { id } of listSizes(RAIL)) expect(shown(inSize(RAIL, id))).toEqual(shown(edited(RAIL, use(id))));
    expect(inSize(RAIL, 'nothing')).toBe(RAIL);
    expect(inSize(RAIL, undefined)).toBe(RAIL);
  });

  test('moves on with each edit as one opened anew', () => {
    const edits: Edit[] = [
      use('narrow'),
      size('narrow', 'Narrow', { 'rail-width': '320 mm', 'rail-height': '7 mm' }),
      { type: 'parameter.setFormula', id: 'rail-width', formula: { text: '350 mm' } },
      { type: 'parameter.setFormula', id: 'rail-width', formula: { text: '111 mm' }, isOwn: true },
      use('wide'),
      { type: 'value.rename', id: 'rail-long', name: 'reach' },
      { type: 'sizes.columns', columns: ['rail-width'] },
      { type: 'size.remove', id: 'wide' },
    ];
    let document = RAIL;
    const values = new DocumentValues(document);
    for (const edit of edits) {
      const before = document;
      document = edited(document, edit);
      const ids = new Set([...Object.keys(before.records), ...Object.keys(document.records)]);
      const records = [...ids]
        .map((id) => ({ id, before: before.records[id] ?? null, after: document.records[id] ?? null }))
        .filter((one) => one.before !== one.after);
      values.apply(document, { records, lists: [], fields: [] });
      for (const id of ['rail-width', 'rail-height', 'rail-long'])
        expect([edit.type, id, values.show(id)?.shown]).toEqual([edit.type, id, new DocumentValues(document).show(id)?.shown]);
    }
    expect(usedSize(document)).toBeUndefined();
  });

  test('typing over a value of the size changes the size, and the value of its own where that is meant', () => {
    const narrow = edited(RAIL, use('narrow'), { type: 'parameter.setFormula', id: 'rail-width', formula: { text: '350 mm' } });
    expect(shown(narrow)).toMatchObject({ width: '350 mm' });
    expect(shown(edited(narrow, use(null)))).toMatchObject({ width: '400 mm' });
    expect(shown(edited(narrow, { type: 'parameter.setFormula', id: 'rail-long', formula: { text: '2 m' } }, use(null)))).toMatchObject({ long: '2 m' });
  });

  test('guards are judged in it', () => {
    const guarded = edited(RAIL, {
      type: 'guard.put',
      guard: { type: 'guard', id: 'g', condition: { text: 'width >= 350 mm' }, message: 'too narrow', severity: 'error' },
    });
    const broken = (id: string): number => findBrokenGuards(new DocumentValues(inSize(guarded, id))).length;
    expect([broken('narrow'), broken('wide')]).toEqual([1, 0]);
  });
});

describe('edits that cannot be', () => {
  test.each<[string, Edit, RegExp]>([
    ['two of one name', size('other', ' wide ', {}), /There is a size Wide already/],
    ['a value that is not there', size('other', 'Other', { nothing: '1 mm' }), /no longer there|not there/],
    ['a size that is not there', use('nothing'), /no longer there|not there/],
    ['columns that are not there', { type: 'sizes.columns', columns: ['nothing'] }, /no longer there|not there/],
  ])('%s', (_, edit, words) => {
    expect(refusal(RAIL, edit)).toMatch(words);
  });

  test('a value that goes takes its column along; formulas in cells follow new names, and keep a value that they read', () => {
    const without = edited(RAIL, use('wide'), { type: 'parameter.remove', id: 'rail-height', readers: { mode: 'refuse' } });
    expect(Object.values(without.records).some((record) => record.type === 'size' && Object.hasOwn(record.cells, 'rail-height'))).toBe(false);
    const renamed = edited(RAIL, { type: 'value.rename', id: 'rail-long', name: 'reach' }, use('wide'));
    expect(shown(renamed)).toMatchObject({ width: '1000 mm' });
    expect(refusal(RAIL, { type: 'parameter.remove', id: 'rail-long', readers: { mode: 'refuse' } })).toMatch(/still read/);
  });
});

describe('in an assembly', () => {
  const host = (sizeText: string | undefined, formulas = {}): Document =>
    withComponents(
      withParameters('assembly', 'host', { width: 'rail.width', height: 'rail.height', ...formulas }),
      component('rail', 'rail', sizeText === undefined ? {} : { size: { text: sizeText } }),
    );

  test('a component has the size that a formula tells; a value that is set beats it', () => {
    expect(shownIn(host('"Wide"'), [RAIL])).toMatchObject({ width: '1000 mm', height: '2000 mm' });
    expect(shownIn(host('kind', { kind: 'if(3 > 2, "Narrow", "Wide")' }), [RAIL])).toMatchObject({ width: '300 mm', height: '600 mm' });
    expect(shownIn(driven(host('"Wide"'), 'rail.width', '50 mm'), [RAIL])).toMatchObject({ width: '50 mm', height: '100 mm' });
    expect(shownIn(host(undefined), [edited(RAIL, use('narrow'))])).toMatchObject({ width: '300 mm' });
    expect(shownIn(host('"Wide"'), [edited(RAIL, use('narrow'))])).toMatchObject({ width: '1000 mm' });
  });

  test('a size that is not there, or an error in its formula, is told with what there is', () => {
    const told = (text: string): string => openValues(host(text), sourceOf([RAIL])).components?.problemOf('rail') ?? '';
    expect(told('"Huge"')).toMatch(/rail has no size "Huge"\. There are Narrow, Wide\./);
    expect(told('nothing')).toMatch(/The size of rail/);
  });

  test('a size that reads what it sets is a cycle, told with its path', () => {
    const around = host('if(rail.width > 350 mm, "Narrow", "Wide")');
    const values = openValues(around, sourceOf([RAIL]));
    const problem = values.sheet.read('rail/size')?.diagnostics[0]?.message ?? '';
    expect(problem).toMatch(/rail\.width/);
  });

  test('a calculation follows a master that is set from here, wherever it stands among the components', () => {
    const master = withParameters('master', 'master', { s: '10 mm' });
    const sheet = linked(withParameters('calc', 'sheet', { twice: '2 * s * n', n: '1' }), 'master', { s: 10 });
    const setting = placeless(component('m', 'master'));
    const using = placeless(component('use', 'sheet'));
    for (const order of [
      [setting, using],
      [using, setting],
    ]) {
      const whole = driven(driven(withComponents(withParameters('assembly', 'whole', { twice: 'use.twice' }), ...order), 'm.s', '30 mm'), 'use.n', '4');
      expect(shownIn(whole, [master, sheet])).toMatchObject({ twice: '240 mm' });
    }
  });

  test('equal sizes share one evaluation; a master in a size sets everything below it', () => {
    const master = edited(withParameters('master', 'master', { s: '10 mm' }), size('big', 'Big', { 'master-s': '30 mm' }));
    const part = linked(withParameters('part', 'part', { twice: '2 * s' }), 'master', { s: 10 });
    const whole = withComponents(
      withParameters('assembly', 'whole', { twice: 'a.twice' }),
      placeless(component('m', 'master', { size: { text: '"Big"' } })),
      component('a', 'part'),
      component('b', 'part'),
    );
    expect(shownIn(whole, [master, part])).toMatchObject({ twice: '60 mm' });
    const { components } = openValues(whole, sourceOf([master, part]));
    if (!(components instanceof Instances)) throw new Error('no components');
    expect(components.find('a')?.values).toBe(components.find('b')?.values);
  });
});

import { readFileSync } from 'node:fs';
import { applyEdit, DocumentValues, migrateDocument, readProjectFile, tryFormula, type Edit } from '.';
import { DEMO_TEXT, demoDocument, edited } from '../../../tests/support/demo';

const side = demoDocument('Side frame');
const sizes = demoDocument('Loom sizes');
const formulaOf = (document: typeof side, id: string) => {
  const record = document.records[id];
  return record?.type === 'parameter' ? record.formula.text : undefined;
};

describe('renaming', () => {
  test('every formula follows, spacing as typed', () => {
    const renamed = edited(sizes, { type: 'value.rename', id: 'weaving-width', name: 'cloth' });
    expect(formulaOf(renamed, 'inner-width')).toBe('cloth + 2 * side_gap');
    expect(new DocumentValues(renamed).show('inner-width')?.shown).toBe('424 mm');
  });

  test.each([
    ['max', 'max is a function; a value needs another name.', 'max_'],
    ['two words', 'A name has no spaces; _ stands for them.', 'two_words'],
    ['side_gap', 'There is a value named side_gap here already.', 'side_gap_2'],
    ['2nd', 'A name starts with a letter or _.', '_2nd'],
    ['a-b', 'A name consists of letters, digits and _; - is not one of them.', 'a_b'],
  ])('to %s is refused with a free name offered', (name, message, offered) => {
    const result = applyEdit(sizes, { type: 'value.rename', id: 'weaving-width', name });
    expect(result).toMatchObject({ ok: false, failure: { code: 'bad-name', message, repairs: [{ text: offered }] } });
  });

  test('a formula typed before somebody else renamed what it reads still means the same value', () => {
    const renamed = edited(sizes, { type: 'value.rename', id: 'side-gap', name: 'gap' });
    const late = edited(renamed, {
      type: 'parameter.setFormula',
      id: 'inner-width',
      formula: { text: 'weaving_width + 3 * side_gap', names: { side_gap: 'side-gap' } },
    });
    expect(formulaOf(late, 'inner-width')).toBe('weaving_width + 3 * gap');
  });
});

describe('deleting', () => {
  test('what is read elsewhere is refused, and the readers are named', () => {
    const result = applyEdit(sizes, { type: 'parameter.remove', id: 'side-gap', readers: { mode: 'refuse' } });
    expect(result).toMatchObject({ ok: false, failure: { code: 'still-read', ids: ['inner-width'] } });
  });

  test('putting the number in changes no value', () => {
    const without = edited(sizes, { type: 'parameter.remove', id: 'side-gap', readers: { mode: 'numbers', numbers: { 'side-gap': '12 mm' } } });
    expect(formulaOf(without, 'inner-width')).toBe('weaving_width + 2 * (12 mm)');
    expect(new DocumentValues(without).show('inner-width')?.shown).toBe('424 mm');
  });

  test('values of a deleted step that are read stay as user parameters', () => {
    const rail = demoDocument('Cross rail');
    const read = edited(rail, { type: 'parameter.setFormula', id: 'rail-tenon', formula: { text: 'end_hole * 2' } });
    const gone = edited(
      read,
      { type: 'step.remove', id: 'hole-cut', readers: { mode: 'refuse' } },
      { type: 'step.remove', id: 'end-hole', readers: { mode: 'keep' } },
    );
    expect(gone.records['hole-dia']).toMatchObject({ name: 'end_hole' });
    expect(new DocumentValues(gone).show('rail-tenon')?.shown).toBe('13.2 mm');
  });

  test('a sketch that something is built on is not deleted', () => {
    expect(applyEdit(side, { type: 'step.remove', id: 'outline', readers: { mode: 'keep' } })).toMatchObject({
      ok: false,
      failure: { code: 'built-on', message: 'Side board builds on Side outline.' },
    });
  });
});

describe('links', () => {
  const [link] = Object.values(side.records).filter((record) => record.type === 'link');
  if (!link) throw new Error('the side frame has no link');
  const takes = Object.values(side.records).filter((record) => record.type === 'take');
  const stock = takes.find((take) => take.name === 'frame_stock');
  const readersOfStock = Object.values(side.records).filter((record) => record.type === 'parameter' && record.formula.text.includes('frame_stock'));

  test('a new local name is followed by every formula', () => {
    const renamed = edited(side, { type: 'link.put', link, takes: takes.map((take) => (take === stock ? { ...take, name: 'board' } : take)) });
    expect(readersOfStock.length).toBeGreaterThan(0);
    for (const { id } of readersOfStock) expect(formulaOf(renamed, id)).toContain('board');
    for (const { id } of readersOfStock) expect(new DocumentValues(renamed).show(id)?.exact).toBe(new DocumentValues(side).show(id)?.exact);
  });

  test('a value that is read is not dropped without saying what becomes of its readers', () => {
    const fewer = { type: 'link.put', link, takes: takes.filter((take) => take !== stock) } as const;
    expect(applyEdit(side, fewer)).toMatchObject({ ok: false, failure: { code: 'still-read' } });
    const kept = edited(side, { ...fewer, readers: { mode: 'keep' } });
    expect(kept.records[stock?.id ?? '']).toMatchObject({ type: 'parameter', name: 'frame_stock', kind: 'length', formula: { text: '18 mm' } });
    expect(kept.lists['parameters']).toContain(stock?.id);
  });

  test('a frozen link leaves its values as plain numbers, and nothing changes size', () => {
    const frozen = edited(side, { type: 'link.remove', id: link.id, readers: { mode: 'keep' } });
    expect(Object.values(frozen.records).some((record) => record.type === 'link' || record.type === 'take')).toBe(false);
    for (const { id } of readersOfStock) expect(new DocumentValues(frozen).show(id)?.exact).toBe(new DocumentValues(side).show(id)?.exact);
  });

  test('a value with an error at its source has nothing to keep', () => {
    const broken = edited(side, {
      type: 'link.put',
      link,
      takes: takes.map((take) => (take === stock ? { ...take, value: { kind: 'refused', problem: 'gone' } } : take)),
    });
    expect(applyEdit(broken, { type: 'link.remove', id: link.id, readers: { mode: 'keep' } })).toMatchObject({ ok: false, failure: { code: 'still-read' } });
  });
});

test('a lookup table that a formula reads is not deleted; nor is another record by its id', () => {
  const [table] = Object.values(sizes.records).filter((record) => record.type === 'table');
  expect(applyEdit(sizes, { type: 'table.remove', id: table?.id ?? '' })).toMatchObject({ ok: false, failure: { code: 'still-read' } });
  expect(applyEdit(sizes, { type: 'table.remove', id: 'side-gap' })).toMatchObject({ ok: false, failure: { code: 'not-found' } });
  expect(applyEdit(sizes, { type: 'guard.remove', id: 'side-gap' })).toMatchObject({ ok: false, failure: { code: 'not-found' } });
});

test('undo is refused with a word when somebody changed the same value since', () => {
  const first = applyEdit(sizes, { type: 'parameter.setFormula', id: 'side-gap', formula: { text: '13 mm' } });
  if (!first.ok) throw new Error('refused');
  const since = edited(first.value.document, { type: 'parameter.setFormula', id: 'side-gap', formula: { text: '14 mm' } });
  expect(applyEdit(since, first.value.inverse)).toMatchObject({
    ok: false,
    failure: { code: 'changed-since', message: 'side_gap was changed since; nothing was undone.' },
  });
});

test('changing the units of a document changes no size', () => {
  const bare = edited(sizes, { type: 'parameter.setFormula', id: 'inner-width', formula: { text: 'weaving_width + 24' } });
  const inches = edited(bare, { type: 'document.setUnits', units: { length: 'in', angle: 'deg', mass: 'lb' } });
  expect(new DocumentValues(inches).sheet.readNumber('inner-width')).toBe(new DocumentValues(bare).sheet.readNumber('inner-width'));
  const typedAfter = edited(inches, { type: 'parameter.setFormula', id: 'inner-width', formula: { text: 'weaving_width + 1' } });
  expect(new DocumentValues(typedAfter).sheet.readNumber('inner-width')).toBe(4_000_000 + 254_000);
});

test('a batch is all or none', () => {
  const batch: Edit = {
    type: 'batch',
    edits: [
      { type: 'value.rename', id: 'side-gap', name: 'gap' },
      { type: 'value.rename', id: 'weaving-width', name: 'if' },
    ],
  };
  expect(applyEdit(sizes, batch).ok).toBe(false);
});

describe('checks as one types', () => {
  const values = new DocumentValues(sizes);
  test('the result, and how bare numbers were read', () => {
    expect(tryFormula(values, 'beam_dia + 6')).toMatchObject({ shown: '51 mm', reading: 'beam_dia + 6 mm', diagnostics: [] });
  });
  test('a way back to the value itself is refused with its path', () => {
    expect(tryFormula(values, 'bearing_dia * 2', undefined, 'beam-dia').diagnostics[0]?.message).toBe(
      'This would make beam_dia depend on itself: beam_dia → bearing_dia → beam_dia.',
    );
  });
  test('trying changes nothing', () => {
    tryFormula(values, 'nonsense + 1');
    expect(values.show('inner-width')?.shown).toBe('424 mm');
  });
});

describe('values with rules', () => {
  test.each([
    ['frame-stock', '16 mm', 'This is not one of the choices: 12 mm, 15 mm, 18 mm, 21 mm.'],
    ['weaving-width', '50 mm', 'This is below the least allowed, 150 mm.'],
    ['weaving-width', '2 m', 'This is above the most allowed, 900 mm.'],
    ['teeth', '3.5', '3.5 is not a whole number; use round(), floor() or ceil().'],
    ['screw', '"M7"', 'This is not one of the choices: "M5", "M6", "M8".'],
    ['frame-height', 'beam_dia * beam_dia', 'This is an area (mm²); frame_height needs a length.'],
  ])('%s = %s', (id, text, message) => {
    const values = new DocumentValues(edited(sizes, { type: 'parameter.setFormula', id, formula: { text } }));
    expect(values.show(id)?.diagnostics[0]?.message).toBe(message);
  });
});

describe('project files that are not right', () => {
  const broken = (change: (file: { documents: { records: Record<string, unknown>; lists: Record<string, string[]> }[]; version: number }) => void): string => {
    const file = JSON.parse(DEMO_TEXT) as Parameters<typeof change>[0];
    change(file);
    return JSON.stringify(file);
  };
  test.each<[string, string, string]>([
    ['no JSON', '{"format":', 'not-json'],
    ['another format', '{"format":"other"}', 'not-a-project'],
    ['a newer version', broken((file) => (file.version = 99)), 'newer-version'],
    ['too deep', `{"format":"warpbeam-project","x":${'['.repeat(60)}${']'.repeat(60)}}`, 'too-deep'],
    ['a list of what is not there', broken((file) => file.documents[0]?.lists['parameters']?.push('ghost')), 'bad-reference'],
    [
      'an unknown record',
      broken((file) => {
        if (file.documents[0]) file.documents[0].records['x'] = { type: 'spell', id: 'x' };
      }),
      'bad-content',
    ],
  ])('%s', (_, text, code) => {
    const result = readProjectFile(text);
    expect(result).toMatchObject({ ok: false, failure: [{ code }] });
  });
});

test('a record called like a built-in property is dropped and reaches nothing', () => {
  const text = DEMO_TEXT.replace('"records": {', '"records": { "__proto__": { "type": "point", "polluted": true },');
  expect(readProjectFile(text).ok).toBe(true);
  expect(({} as Record<string, unknown>)['polluted']).toBeUndefined();
});

test('migrations run one after the other, and only as far as needed', () => {
  const migrations = [
    (document: Readonly<Record<string, unknown>>) => ({ ...document, a: 1 }),
    (document: Readonly<Record<string, unknown>>) => ({ ...document, b: 2 }),
  ];
  expect(migrateDocument({ schema: 1 }, migrations, 3)).toEqual({ schema: 3, a: 1, b: 2 });
  expect(migrateDocument({ schema: 2 }, migrations, 3)).toEqual({ schema: 3, b: 2 });
  expect(migrateDocument({ schema: 3 }, migrations, 3)).toEqual({ schema: 3 });
});

test('a project file of schema 1 is brought to the present form: the depth of an extrusion is a value of its slot', () => {
  const file = readProjectFile(readFileSync('tests/fixtures/project-schema-1.json', 'utf8'));
  if (!file.ok) throw new Error(JSON.stringify(file.failure));
  const side = file.value.documents.find(({ name }) => name === 'Side frame');
  expect(side?.schema).toBe(2);
  expect(side?.records['board']).toMatchObject({ type: 'extrude', values: { depth: 'stock' } });
  expect(side?.records['openings-cut']).toMatchObject({ type: 'extrude', extent: 'through', values: {} });
});

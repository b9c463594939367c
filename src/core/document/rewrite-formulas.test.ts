import type { Result } from '../kit';
import { applyEdit } from './apply-edit';
import { createDocument } from './create';
import type { Edit } from './edit-schema';
import { extractPart, inlineValue, listParts, replaceValue, type Rewriting } from './rewrite-formulas';
import { DocumentValues } from './values';

function sheet(formulas: Readonly<Record<string, string>>, ...more: Edit[]): DocumentValues {
  let document = createDocument('d', 'master', 'D');
  const edits: Edit[] = Object.entries(formulas).map(([name, text]) => ({
    type: 'parameter.add',
    parameter: { type: 'parameter', id: name, name, formula: { text }, kind: 'any' },
  }));
  for (const edit of [...edits, ...more]) {
    const result = applyEdit(document, edit);
    if (!result.ok) throw new Error(result.failure.message);
    ({ document } = result.value);
  }
  return new DocumentValues(document);
}

function after(values: DocumentValues, rewriting: Result<Rewriting, string>): Record<string, string> {
  if (!rewriting.ok) throw new Error(rewriting.failure);
  const result = applyEdit(values.document, rewriting.value.edit);
  if (!result.ok) throw new Error(result.failure.message);
  const next = new DocumentValues(result.value.document);
  return Object.fromEntries(
    Object.values(result.value.document.records).flatMap((record) =>
      record.type === 'parameter' ? [[record.name, `${record.formula.text} -> ${next.show(record.id)?.shown ?? ''}`]] : [],
    ),
  );
}

const GUARD: Edit = { type: 'guard.put', guard: { type: 'guard', id: 'g', condition: { text: 'wide > 10 mm' }, message: 'm', severity: 'error' } };

test('one value in place of another, in formulas and guards', () => {
  const values = sheet({ wide: '40 mm', span: '40 mm', half: 'wide / 2', both: 'wide + span' }, GUARD);
  const rewriting = replaceValue(values, 'wide', 'span');
  expect(after(values, rewriting)).toEqual({ wide: '40 mm -> 40 mm', span: '40 mm -> 40 mm', half: 'span / 2 -> 20 mm', both: 'span + span -> 80 mm' });
  expect(rewriting.ok && rewriting.value.changes.map(({ name }) => name)).toEqual(['half', 'both', 'a guard']);
});

test('what would depend on itself is refused, and what nothing reads', () => {
  const values = sheet({ wide: '40 mm', half: 'wide / 2', quarter: 'half / 2' });
  expect(replaceValue(values, 'wide', 'quarter')).toMatchObject({ failure: 'quarter itself reads wide; put in its place, it would depend on itself.' });
  expect(replaceValue(values, 'quarter', 'wide')).toMatchObject({ failure: 'Nothing reads quarter.' });
});

test('a formula put in where its value was read changes no value, and the value goes', () => {
  const values = sheet({ wide: '40 mm', rim: 'wide - 4 mm', twice: '2 * rim', square: 'rim ^ 2' });
  expect(after(values, inlineValue(values, 'rim'))).toEqual({
    wide: '40 mm -> 40 mm',
    twice: '2 * (wide - 4 mm) -> 72 mm',
    square: '(wide - 4 mm) ^ 2 -> 1296 mm^2',
  });
});

test('a bare number is put in with its unit', () => {
  const values = sheet({ rim: '4', twice: '2 * rim + 1 mm' }, { type: 'parameter.update', id: 'rim', changes: { kind: 'length' } });
  expect(after(values, inlineValue(values, 'rim'))).toEqual({ twice: '2 * (4 mm) + 1 mm -> 9 mm' });
});

test('a part of a formula becomes a value, wherever it stands in it', () => {
  const values = sheet({ wide: '40 mm', shape: 'sqrt((wide + 2 mm) ^ 2 + (wide + 2 mm) ^ 2)' });
  expect(listParts('sqrt((wide + 2 mm) ^ 2 + 1 mm^2)').map(({ text }) => text)).toContain('(wide + 2 mm) ^ 2');
  expect(listParts('2 * (wide + 2 mm)').map(({ text }) => text)).toEqual(['wide + 2 mm']);
  const result = after(
    values,
    extractPart(values, 'shape', 'wide + 2 mm', 'outer', () => 'new'),
  );
  expect(result['outer']).toBe('wide + 2 mm -> 42 mm');
  expect(result['shape']).toMatch(/^sqrt\(\(?outer\)? \^ 2 \+ \(?outer\)? \^ 2\) -> 59\.397 mm$/);
});

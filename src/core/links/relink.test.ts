import { DocumentValues, listRecords, type Document } from '@/core/document';
import { component, linked, placeless, withComponents, withParameters } from '../../../tests/support/assemblies';
import { edited } from '../../../tests/support/demo';
import { publishValues } from './offered';
import { relink, type RelinkSource } from './relink';

const part = edited(linked(withParameters('part', 'part', { span: '1 mm' }), 'sizes', { width: 40, depth: 30 }), {
  type: 'parameter.setFormula',
  id: 'part-span',
  formula: { text: 'width + depth' },
});

function sourceOf(document: Document): RelinkSource {
  const published = publishValues(new DocumentValues(document));
  const values = new Map(
    listRecords(document, 'parameters', 'parameter').flatMap(({ id, name }) => {
      const value = published[id];
      return value ? [[name, { id, value }] as const] : [];
    }),
  );
  return { id: `there-${document.id}`, kind: document.kind, revision: 3, hash: 'h', values };
}

let count = 0;
const copy = (document: Document, ...there: Document[]) => {
  const sources = new Map(there.map((one) => [one.name, sourceOf(one)]));
  const result = relink(
    document,
    (name) => sources.get(name),
    () => `new${++count}`,
  );
  if (!result.ok) throw new Error(result.failure.message);
  return result.value;
};
const spanOf = (document: Document): string | undefined => new DocumentValues(document).show('part-span')?.shown;

test('values of the same names are taken from there, with what they are there', () => {
  const { document, kept } = copy(part, withParameters('master', 'sizes', { width: '50 mm', depth: '35 mm' }));
  expect(kept).toEqual([]);
  expect(spanOf(document)).toBe('85 mm');
  expect(listRecords(document, 'links', 'link').map(({ source, revision }) => [source, revision])).toEqual([['there-sizes', 3]]);
});

test('what is not there, or is something else there, is kept as a value of its own', () => {
  const { document, kept } = copy(part, withParameters('master', 'sizes', { width: '50 mm', depth: '3 kg' }));
  expect(kept).toEqual(['depth']);
  expect(spanOf(document)).toBe('80 mm');
  const alone = copy(part);
  expect(alone.kept).toEqual(['width', 'depth']);
  expect([spanOf(alone.document), listRecords(alone.document, 'links', 'link')]).toEqual(['70 mm', []]);
});

test('a calc sheet of the same name is used; without one, that which was used stays as it was, for ever', () => {
  const using = withComponents(part, placeless(component('tension', 'tension')));
  const found = copy(using, withParameters('calc', 'tension', { arm: '2 mm' }));
  expect(listRecords(found.document, 'components', 'component')).toMatchObject([{ source: 'there-tension', revision: 3, policy: 'ask' }]);
  expect(listRecords(copy(using, withParameters('part', 'tension', {})).document, 'components', 'component')).toMatchObject([
    { source: 'tension', policy: 'hold' },
  ]);
  expect(listRecords(copy(using).document, 'components', 'component')).toMatchObject([{ source: 'tension', revision: 1, policy: 'hold' }]);
});

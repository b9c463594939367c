import { createDocument, type Document, type TakenValue } from '../src/core/document';
import { DocumentValues } from '../src/core/document';
import { planCatchUp, publishValues, type PlannedDocument } from '../src/core/links';
import { edited } from '../tests/support/demo';
import { measure, microseconds, type Row } from './support';

/** A master with a changed value, and documents that take it. */
function project(takers: number): PlannedDocument[] {
  const master = edited(createDocument('master', 'master', 'Sizes'), {
    type: 'parameter.add',
    parameter: { type: 'parameter', id: 'width', name: 'width', formula: { text: '480 mm' }, kind: 'length', offered: true },
  });
  const value: TakenValue = { kind: 'quantity', dimension: 'length=1', value: 4_000_000, unit: 'mm' };
  const parts = Array.from({ length: takers }, (_, i) =>
    edited(
      createDocument(`part${i}`, 'part', `Part ${i}`),
      {
        type: 'link.put',
        link: { type: 'link', id: 'link', source: 'master', sourceName: 'Sizes', policy: 'ask', revision: 1, hash: '' },
        takes: [{ type: 'take', id: 'take', link: 'link', parameter: 'width', name: 'width', sourceName: 'width', value }],
      },
      ...['half', 'third', 'edge'].map((name, k) => ({
        type: 'parameter.add' as const,
        parameter: { type: 'parameter' as const, id: name, name, formula: { text: `width / ${k + 2} + 3` }, kind: 'length' },
      })),
    ),
  );
  const planned = (document: Document): PlannedDocument => ({
    document,
    revision: 1,
    hash: '',
    published: publishValues(new DocumentValues(document)),
  });
  return [master, ...parts].map(planned);
}

export function benchLinks(): Row[] {
  const [one, thousand] = [project(1), project(1000)];
  const plan = (documents: readonly PlannedDocument[]) => planCatchUp(documents, new Set(documents.map(({ document }) => document.id)));
  const times = measure([
    { name: 'one', count: 50, run: (count) => repeat(count, () => plan(one)) },
    { name: 'thousand', count: 1, run: () => plan(thousand) },
  ]);
  const [single = NaN, all = NaN] = [times.get('one'), times.get('thousand')];
  return [
    {
      what: 'preview of values, 1,000 dependent documents',
      ours: `${microseconds(all / 1000)} each`,
      baseline: `one document ${microseconds(single)}`,
      ratio: (single * 1000) / all,
      reach: 'linear: about 1; 1 ms each',
    },
  ];
}

function repeat(count: number, work: () => unknown): void {
  for (let i = 0; i < count; i++) work();
}

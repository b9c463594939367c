import { createDocument, type Document, type Edit } from '../src/core/document';
import { searchLooseEnds } from '../src/core/loose-ends';
import { edited } from '../tests/support/demo';
import { measure, microseconds, type Row } from './support';

/** A master in which every tenth value is a plain number and the rest follow one, changed a dozen times. */
function changed(rows: number): { readonly document: Document; readonly log: readonly { readonly inverse: Edit }[] } {
  const add = (id: string, text: string): Edit => ({
    type: 'parameter.add',
    parameter: { type: 'parameter', id, name: id, formula: { text }, kind: 'length' },
  });
  const base = (i: number): Edit => ({ type: 'parameter.setFormula', id: 'base', formula: { text: `${200 + i} mm` } });
  const values = Array.from({ length: rows - 1 }, (_, i) => add(`v${i}`, i % 10 === 9 ? `${i} mm` : `base + ${i} mm`));
  const document = edited(createDocument('many', 'master', 'Many'), add('base', '200 mm'), ...values);
  const log = Array.from({ length: 12 }, (_, i) => ({ inverse: base(i) }));
  return { document, log };
}

export function benchLooseEnds(): Row[] {
  const [few, many] = [changed(200), changed(2000)];
  const search = ({ document, log }: typeof few) => searchLooseEnds({ document, log, measured: {} });
  const times = measure([
    { name: 'few', count: 3, run: () => [search(few), search(few), search(few)] },
    { name: 'many', count: 1, run: () => search(many) },
  ]);
  const [small = NaN, large = NaN] = [times.get('few'), times.get('many')];
  return [
    {
      what: 'loose ends among 2,000 values and 12 earlier states',
      ours: microseconds(large),
      baseline: `200 values ${microseconds(small)}`,
      ratio: (small * 10) / large,
      reach: 'linear: about 1',
    },
  ];
}

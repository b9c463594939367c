import { createDocument, type Document, type Edit } from '../src/core/document';
import { openComplete } from '../src/core/instances';
import { DocumentTeller, HeldDocuments, type PostedRequest } from '../src/workers/held-documents';
import { edited } from '../tests/support/demo';
import { compare, type Row } from './support';

/** A part of so many values in chains of ten, as a page would have it; no steps: the kernel is measured elsewhere. */
function partOf(count: number): Document {
  const add = (id: string, text: string): Edit => ({
    type: 'parameter.add',
    parameter: { type: 'parameter', id, name: id, formula: { text }, kind: 'length' },
  });
  return edited(
    createDocument('part', 'part', 'Part'),
    ...Array.from({ length: count }, (_, i) => add(`v${i}`, i === 0 ? '200 mm' : i % 10 === 0 ? 'v0 / 2' : `v${i - 1} + ${i % 7} mm`)),
  );
}

/** One edit of a part until the worker has its values: posted, copied on the way, and brought up there; the same with all of it told anew. */
export function benchWorker(): Row[] {
  return [50, 1_000].map((count) => {
    const document = partOf(count);
    const states = Array.from({ length: 50 }, (_, i) => edited(document, { type: 'parameter.setFormula', id: 'v3', formula: { text: `v2 + ${i} mm` } }));
    const [teller, held] = [new DocumentTeller(), new HeldDocuments()];
    let at = 0;
    const next = (): Document => states[at++ % states.length] ?? document;
    const tell = (): void => {
      const posted: PostedRequest | { readonly kind: 'file' } = structuredClone(teller.tell({ kind: 'regenerate', id: at, document: next() }));
      if (posted.kind === 'regenerate') held.open(posted);
    };
    tell();
    return compare(
      `an edit of ${count} values, until a worker has it`,
      '5 x',
      { name: 'told what differs', count: 200, run: (times) => repeat(times, tell) },
      { name: 'told whole', count: Math.ceil(1_000 / count), run: (times) => repeat(times, () => openComplete(structuredClone(next()))) },
    );
  });
}

function repeat(count: number, work: () => unknown): void {
  for (let i = 0; i < count; i++) work();
}

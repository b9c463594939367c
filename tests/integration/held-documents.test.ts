/** Documents that a worker holds, and is told only what differs of: against the same told whole, on the real kernel. */
import { applyEdit, listIds, listRecords, listSteps, type Document, type Edit } from '@/core/document';
import type { KernelPort } from '@/core/kernel-port';
import { createKernel } from '@/kernel/create-kernel';
import { DocumentTeller, type PostedRequest } from '@/workers/held-documents';
import type { WorkerReply } from '@/workers/protocol';
import { RegenerationHost } from '@/workers/regeneration-host';
import { demoDocuments, edited } from '../support/demo';
import { makeRandom } from '../support/random';

let kernel: KernelPort;
beforeAll(async () => {
  kernel = await createKernel();
});

const parts = (): Document[] => demoDocuments().filter(({ kind }) => kind === 'part');

/** A worker as it is posted to: everything that goes to it is copied. */
function worker() {
  const teller = new DocumentTeller();
  const host = new RegenerationHost(kernel);
  let id = 0;
  const posted: PostedRequest[] = [];
  return {
    posted,
    async build(document: Document) {
      const message = structuredClone(teller.tell({ kind: 'regenerate', id: ++id, document, knownMeshes: [] }));
      if (message.kind === 'file') throw new Error('no file was told');
      posted.push(message);
      return resultOf((await host.answer(message, () => undefined)).reply);
    },
    async buildWhole(document: Document) {
      return resultOf((await host.answer({ kind: 'regenerate', id: ++id, document: structuredClone(document), knownMeshes: [] }, () => undefined)).reply);
    },
  };
}

function resultOf(reply: WorkerReply) {
  if (reply.kind !== 'regenerated') throw new Error(reply.kind);
  const { result, meshes } = reply;
  return { bodies: result.bodies, steps: result.steps, measured: result.measured, meshes: Object.keys(meshes).sort() };
}

/** What somebody does to a part: values, conditions, units, its name, how far it is built; and all that taken back. */
function change(document: Document, original: Document, random: () => number): Document {
  const pick = <T>(list: readonly T[]): T | undefined => list[Math.floor(random() * list.length)];
  const literals = Object.values(document.records).flatMap((record) =>
    record.type === 'parameter' && /^[\d.]+ (mm|deg)$/.test(record.formula.text) ? [{ id: record.id, text: record.formula.text }] : [],
  );
  const one = pick(literals);
  const [amount = '', unit = ''] = one?.text.split(' ') ?? [];
  const step = pick(listSteps(document));
  const edits: (Edit | undefined)[] = [
    one && { type: 'parameter.setFormula', id: one.id, formula: { text: `${(Number(amount) * (0.95 + random() / 10)).toFixed(2)} ${unit}` } },
    one && { type: 'parameter.setFormula', id: one.id, formula: { text: `${amount} ${unit} / (1 - 1)` } },
    { type: 'document.rename', name: `Renamed ${Math.floor(random() * 9)}` },
    step && { type: 'step.update', step: { ...step, suppressed: { text: random() < 0.5 ? 'yes' : 'no' } }, values: [] },
    {
      type: 'parameter.add',
      parameter: {
        type: 'parameter',
        id: `new-${Math.floor(random() * 1e6)}`,
        name: `new_${Math.floor(random() * 1e6)}`,
        kind: 'length',
        formula: { text: '12 mm' },
      },
    },
  ];
  if (random() < 0.15) return original;
  if (random() < 0.15) return { ...document, lists: { ...document.lists, steps: listIds(document, 'steps').slice(0, 1 + Math.floor(random() * 5)) } };
  if (random() < 0.1) return { ...document, units: { ...document.units, length: document.units.length === 'mm' ? 'in' : 'mm' } };
  const edit = pick(edits);
  const applied = edit && applyEdit(document, edit);
  return applied?.ok ? applied.value.document : document;
}

test('whatever is done to a part, what is held comes to what is told whole', async () => {
  const random = makeRandom(7);
  const [holding, fresh] = [worker(), worker()];
  for (const part of parts()) {
    let document = part;
    for (let i = 0; i < 9; i++) {
      expect([part.name, i, await holding.build(document)]).toEqual([part.name, i, await fresh.buildWhole(document)]);
      document = change(document, part, random);
    }
  }
}, 240_000);

test('an edit is told as what differs; the thirteenth part takes the place of the one that was told longest ago', async () => {
  const [part] = parts();
  if (!part) throw new Error('no part');
  const held = worker();
  const copies = Array.from({ length: 13 }, (_, i) => ({ ...part, id: `copy-${i}` }));
  for (const copy of copies.slice(0, 12)) await held.build(copy);
  const [parameter] = listRecords(part, 'parameters', 'parameter');
  const wider = edited(copies[0] ?? part, { type: 'document.rename', name: 'Wider' });
  expect(parameter).toBeDefined();
  await held.build(wider);
  expect(held.posted.at(-1)).toMatchObject({ document: { changes: 'copy-0', name: 'Wider', records: {}, lists: {} } });
  await held.build(copies[12] ?? part);
  expect(held.posted.at(-1)).toMatchObject({ isHeld: true, letGo: 'copy-1' });
  await held.build(copies[1] ?? part);
  expect(held.posted.at(-1)).toMatchObject({ isHeld: true, letGo: 'copy-2' });
}, 120_000);

test('a part that stands on others is told whole', () => {
  const [part] = parts();
  if (!part) throw new Error('no part');
  const request = { kind: 'regenerate' as const, id: 1, document: { ...part, stands: {} } };
  const teller = new DocumentTeller();
  expect(teller.tell(request)).toBe(request);
  expect(teller.tell({ ...request, id: 2 })).toMatchObject({ document: { stands: {} } });
});

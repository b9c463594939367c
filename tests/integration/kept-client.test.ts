/** What was built once is shown again without a worker, and only as long as everything that decides it is the same. */
import type { Document } from '@/core/document';
import { movementsOf } from '@/core/assembly';
import { KeptRegenerationClient, type BuiltStore, type Kept } from '@/workers/kept-client';
import { ownWorker } from '@/workers/lane';
import { startSourceThread } from '@/workers/start-thread';
import { demoDocument, edited } from '../support/demo';

// What is measured here is what comes out, not how long a busy machine takes.

/** A store as a browser has one: what comes out is a copy of what went in. */
function memoryStore(): BuiltStore & { readonly entries: Map<string, unknown> } {
  const entries = new Map<string, unknown>();
  return {
    entries,
    read: <K extends keyof Kept>(kind: K, key: string) => Promise.resolve(structuredClone(entries.get(`${kind} ${key}`)) as Kept[K] | undefined),
    keep: (kind, key, value) => void entries.set(`${kind} ${key}`, structuredClone(value)),
  };
}

const bar = demoDocument('Cross rail');
const store = memoryStore();
/** Requests that the worker was sent. */
let asked = 0;
let client: KeptRegenerationClient;
beforeAll(() => {
  client = new KeptRegenerationClient(
    ownWorker((...listeners) => {
      const link = startSourceThread(...listeners);
      return {
        ...link,
        post: (request) => {
          asked++;
          link.post(request);
        },
      };
    }),
    store,
  );
});
afterAll(() => client.close());

const build = async (document: Document, describe: readonly { body: string; name: string }[] = [], known: readonly string[] = []) => {
  const before = asked;
  const reply = await client.regenerate(document, known, 'part x', describe);
  if (!reply.ok) throw new Error(reply.failure.kind);
  return { ...reply.value, asked: asked - before };
};

test('a part is built once, with the faces that were described; notes and colours change nothing, a length does', async () => {
  const first = await build(bar);
  expect([first.asked, Object.keys(first.meshes).length]).toEqual([1, 1]);
  const again = await build(bar);
  expect(again.asked).toBe(0);
  expect(again.result).toEqual(first.result);
  expect(again.meshes).toEqual(first.meshes);
  // A mesh that the page has is not read again.
  expect((await build(bar, [], Object.keys(first.meshes))).meshes).toEqual({});

  const [body] = first.result.bodies;
  const name = Object.values(first.meshes)[0]?.faces[0]?.name ?? '';
  const place = { body: body?.id ?? '', name };
  const described = await build(bar, [place]);
  expect([described.asked, described.shapes?.[0]?.kind]).toEqual([1, 'plane']);
  expect(await build(bar, [place])).toMatchObject({ asked: 0, shapes: described.shapes });
  expect(await build(bar, [{ ...place, name: 'gone' }])).toMatchObject({ asked: 1, shapes: [null] });
  expect(await build(bar, [place, { ...place, name: 'gone' }])).toMatchObject({ asked: 0, shapes: [described.shapes?.[0], null] });

  const [length] = Object.values(bar.records).flatMap((record) => (record.type === 'parameter' && record.owner === undefined ? [record] : []));
  if (!length) throw new Error('no value');
  expect((await build(edited(bar, { type: 'parameter.update', id: length.id, changes: { note: 'another' } }))).asked).toBe(0);
  expect((await build(edited(bar, { type: 'parameter.setFormula', id: length.id, formula: { text: '41 mm' } }))).asked).toBe(1);
});

test('a part with a step that fails is built each time: what it lacks may come', async () => {
  const [step] = Object.values(bar.records).flatMap((record) => (record.type === 'extrude' ? [record] : []));
  if (!step) throw new Error('no step');
  const broken = { ...bar, records: { ...bar.records, [step.id]: { ...step, sketch: 'gone' } } };
  const first = await build(broken);
  expect(first.result.steps.some(({ status }) => status === 'waiting' || status === 'failed')).toBe(true);
  expect((await build(broken)).asked).toBe(1);
});

test('what is between two bodies is kept with how they stand; a picture that is lost is built again', async () => {
  const [body] = (await build(bar)).result.bodies;
  const between = async (shift: number, turn = 0) => {
    const before = asked;
    const at = { origin: [0, shift, 0], turn: [Math.sqrt(1 - turn * turn), 0, 0, turn] } as const;
    const place = { key: body?.key ?? '' };
    const reply = await client.between('clearance', [bar, bar], [place, place], movementsOf(at));
    const box = await client.box(bar, body?.key ?? '', movementsOf(at));
    return { amount: reply.ok ? (reply.value?.amount ?? NaN) : NaN, least: box.ok ? (box.value?.min[1] ?? NaN) : NaN, asked: asked - before };
  };
  const near = await between(100);
  // The bars are 36 mm thick.
  expect(near.amount).toBeCloseTo(64, 6);
  expect(near.asked).toBe(2);
  expect(await between(100)).toEqual({ ...near, asked: 0 });
  // A solver that began elsewhere comes to the same place but for the last digits.
  expect(await between(100 + 1e-9, -1e-11)).toEqual({ ...near, asked: 0 });
  expect((await between(100, 1e-6)).asked).toBe(2);
  expect((await between(200)).asked).toBe(2);

  for (const key of store.entries.keys()) if (key.startsWith('mesh')) store.entries.delete(key);
  expect((await build(bar)).asked).toBe(1);
});

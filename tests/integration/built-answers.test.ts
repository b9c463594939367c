/** What the server has built is told to pages of the same program, over its restarts too; a page that has it builds nothing. */
import type { BuiltAnswerReply } from '@/contract';
import type { BodyMesh } from '@/core/kernel-port';
import { createBuiltStore } from '@/server/built-store';
import { BuiltAnswerRow, MeshRow } from '@/server/db/models';
import { keepAnswer, knowsNoAnswers, readKeptAnswer, tellAnswer } from '@/server/services/built-answers';
import { keepMeshes } from '@/server/services/pictures';
import { openStoreWithServer, readAnswer } from '@/ui/state/built-store';
import { KeptRegenerationClient, type BuiltStore, type Kept, type KeptKind } from '@/workers/kept-client';
import { ownWorker, type Lane } from '@/workers/lane';
import { startSourceThread } from '@/workers/start-thread';
import { demoDocument } from '../support/demo';
import { onServer } from '../support/on-server';

onServer();

const PROGRAM = `program ${Date.now()}`;
beforeAll(() => {
  Object.assign(process.env, { NEXT_PUBLIC_BUILD: PROGRAM });
});
afterAll(() => {
  Reflect.deleteProperty(process.env, 'NEXT_PUBLIC_BUILD');
});

/** What a page keeps: nothing yet. */
const nothing: BuiltStore = { read: () => Promise.resolve(undefined), keep: () => undefined };
/** A page that may build nothing itself. */
const noWorker: Lane = {
  ask: () => Promise.reject(new Error('the page has asked its kernel')),
  warm: () => undefined,
  cancel: () => undefined,
  close: () => undefined,
};
/** A page of a program before a server that has just been started: what it tells went over the wire. */
function pageOf(program: string) {
  const server = createBuiltStore();
  let asked = 0;
  const store = openStoreWithServer(nothing, async (kind, key) => {
    asked++;
    return readAnswer(kind, JSON.parse(JSON.stringify(await tellAnswer(server, kind, key, program))) as BuiltAnswerReply);
  });
  return { client: new KeptRegenerationClient(noWorker, store), store, asked: () => asked };
}

test('a part that the server has built is shown by a page without a kernel, with its meshes to the last bit', async () => {
  const rail = demoDocument('Cross rail');
  const written: Promise<void>[] = [];
  const keeping: BuiltStore = { read: (kind, key) => readKeptAnswer(kind, key), keep: (kind, key, value) => void written.push(keepAnswer(kind, key, value)) };
  const builder = new KeptRegenerationClient(ownWorker(startSourceThread), keeping);
  const built = await builder.regenerate(rail, [], 'part rail');
  builder.close();
  await Promise.all(written);
  if (!built.ok) throw new Error(built.failure.kind);

  const shown = await pageOf(PROGRAM).client.regenerate(rail, [], 'part rail');
  if (!shown.ok) throw new Error(shown.failure.kind);
  expect(shown.value.result).toEqual(built.value.result);
  expect(shown.value.meshes).toEqual(built.value.meshes);
  // Another program may build otherwise: its page builds for itself.
  await expect(pageOf('another program').client.regenerate(rail, [], 'part rail')).rejects.toThrow('the page has asked its kernel');
});

test('a mesh that is kept is not written again', async () => {
  const none = new Float32Array();
  const emptyMesh: BodyMesh = { positions: none, normals: none, indices: new Uint32Array(), faces: [], edgePoints: none, edges: [], corners: [] };
  const key = `mesh ${Date.now()}`;
  await keepMeshes({ [key]: emptyMesh });
  await MeshRow.update({ body: Buffer.from('as it was') }, { where: { key } });
  await keepMeshes({ [key]: emptyMesh, [`${key} too`]: emptyMesh });
  const rows = await MeshRow.findAll({ where: { key: [key, `${key} too`] }, order: ['key'] });
  expect(rows.map(({ body }) => body.toString() === 'as it was')).toEqual([true, false]);
});

test('what is known to nobody is not asked for on and on', async () => {
  const { store, asked } = pageOf(PROGRAM);
  for (let i = 0; i < 30; i++) expect(await store.read('box', `unknown${i}`)).toBeUndefined();
  expect(asked()).toBe(8);
});

test.each<[KeptKind, Kept[KeptKind]]>([
  ['between', { value: { amount: -0, along: [0.1 + 0.2, -0, 1e-320] } }],
  ['between', { value: undefined }],
  ['box', { value: { min: [-1, -2, -3], max: [1, 2, Infinity] } }],
])('an answer of kind %s comes back as it was', async (kind, value) => {
  const key = `kept${Math.random().toString(36).slice(2)}`;
  await keepAnswer(kind, key, value);
  expect(await pageOf(PROGRAM).store.read(kind, key)).toEqual(value);
});

test('an answer of an earlier program is never told, and gives way to that of this one', async () => {
  await BuiltAnswerRow.create({ name: 'box old', program: 'an earlier one', body: Buffer.from('{"value":{}}') });
  expect(await readKeptAnswer('box', 'old')).toBeUndefined();
  await keepAnswer('box', 'old', { value: undefined });
  expect(await BuiltAnswerRow.count({ where: { name: 'box old', program: PROGRAM } })).toBe(1);
});

test('a program that was renewed knows that it has no answers yet, and an empty database is no such case', async () => {
  await BuiltAnswerRow.destroy({ where: {} });
  expect(await knowsNoAnswers()).toBe(false);
  await BuiltAnswerRow.create({ name: 'box old', program: 'an earlier one', body: Buffer.from('{}') });
  expect(await knowsNoAnswers()).toBe(true);
  await keepAnswer('box', 'new', { value: undefined });
  expect(await knowsNoAnswers()).toBe(false);
});

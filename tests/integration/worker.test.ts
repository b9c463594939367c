/** The worker client: on real threads, and on a fake worker where a hang or a crash is wanted. */
import type { Document, StoredFile } from '@/core/document';
import { RegenerationClient } from '@/workers/client';
import { ownWorker } from '@/workers/lane';
import type { StartWorker } from '@/workers/one-worker';
import type { WorkerReply, WorkerRequest } from '@/workers/protocol';
import { clientFromSource } from '@/workers/start-thread';
import { edited, plainSide } from '../support/demo';

const side = plainSide();

test('a thread gives what the same code gives here, to the bit, and meshes only what is not known', async () => {
  const client = clientFromSource();
  const first = await client.regenerate(side, []);
  if (!first.ok) throw new Error(JSON.stringify(first.failure));
  const [body] = first.value.result.bodies;
  expect(Object.keys(first.value.meshes)).toEqual([body?.key]);
  const again = await client.regenerate(side, [body?.key ?? '']);
  expect(again).toMatchObject({ ok: true, value: { result: { rebuilt: 0 }, meshes: {} } });
  client.close();
});

/** A worker that answers when told to, or never. */
function fakeWorker(answer: (request: WorkerRequest, reply: (reply: WorkerReply) => void, crash: (message: string) => void) => void) {
  let started = 0;
  let ended = 0;
  const brought: string[] = [];
  const start: StartWorker = (onReply, onError) => {
    started++;
    return {
      post: (request) => {
        if (request.kind === 'file') {
          brought.push(request.hash);
          return;
        }
        setImmediate(() => answer(request, onReply, onError));
      },
      terminate: () => {
        ended++;
      },
    };
  };
  return { start, brought, counts: () => ({ started, ended }) };
}

const done = (id: number, memory = 0): WorkerReply => ({
  kind: 'regenerated',
  id,
  result: { steps: [], bodies: [], measured: {}, rebuilt: id },
  meshes: {},
  memory,
});

test('the newest request wins; those in between are told so', async () => {
  const { start } = fakeWorker((request, reply) => reply(done(request.id)));
  const client = new RegenerationClient(ownWorker(start));
  const replies = await Promise.all([1, 2, 3, 4].map((n) => client.regenerate(edited(side, { type: 'document.rename', name: `v${n}` }))));
  expect(replies.map((reply) => (reply.ok ? 'done' : reply.failure.kind))).toEqual(['done', 'superseded', 'superseded', 'done']);
  client.close();
});

test('a worker is brought each file once, before what needs it; one that cannot be had keeps nothing from being built', async () => {
  const { start, brought } = fakeWorker((request, reply) => reply(done(request.id, request.id === 2 ? 2 : 0)));
  const file = (id: string, digit: string): StoredFile => ({ type: 'file', id, name: 'part.step', format: 'step', hash: digit.repeat(64) });
  const withFiles: Document = { ...side, records: { ...side.records, a: file('a', 'a'), b: file('b', 'b'), lost: file('lost', 'c') } };
  const readFile = (hash: string) => Promise.resolve(hash.startsWith('c') ? undefined : 'AAAA');
  const client = new RegenerationClient(ownWorker(start, { readFile, memoryLimit: 1 }));
  for (let n = 0; n < 3; n++) expect((await client.regenerate(withFiles)).ok).toBe(true);
  // The second reply told of too much memory: the worker after it knows no file yet.
  expect(brought.map((hash) => hash[0])).toEqual(['a', 'b', 'a', 'b']);
  client.close();
});

test('files of what a document stands on are brought with its own', async () => {
  const { start, brought } = fakeWorker((request, reply) => reply(done(request.id)));
  const client = new RegenerationClient(ownWorker(start, { readFile: () => Promise.resolve('content') }));
  const file = (hash: string): StoredFile => ({ type: 'file', id: 'f', name: 'a.step', format: 'step', hash });
  const holding = (hash: string): Document => ({ ...side, records: { ...side.records, f: file(hash) } });
  await client.regenerate({ ...holding('own'), stands: { 'base@1': holding('below') } });
  expect(brought).toEqual(['own', 'below']);
  client.close();
});

test('a file that fails to be fetched fails the request that needs it, and no other', async () => {
  const { start } = fakeWorker((request, reply) => reply(done(request.id)));
  const client = new RegenerationClient(ownWorker(start, { readFile: () => Promise.reject(new Error('the database is away')) }));
  const file: StoredFile = { type: 'file', id: 'a', name: 'part.step', format: 'step', hash: 'a'.repeat(64) };
  const reply = await client.regenerate({ ...side, records: { ...side.records, a: file } });
  expect(reply).toMatchObject({ ok: false, failure: { kind: 'crashed', message: 'the database is away' } });
  expect((await client.regenerate(side)).ok).toBe(true);
  client.close();
});

test('a worker that hangs is ended, and the next request gets a new one', async () => {
  let isHanging = true;
  const { start, counts } = fakeWorker((request, reply) => {
    if (!isHanging) reply(done(request.id));
  });
  const client = new RegenerationClient(ownWorker(start, { timeLimitMs: 50 }));
  expect(await client.regenerate(side)).toMatchObject({ ok: false, failure: { kind: 'timed-out' } });
  isHanging = false;
  expect(await client.regenerate(side)).toMatchObject({ ok: true });
  expect(counts()).toEqual({ started: 2, ended: 1 });
  client.close();
});

test('a crash is reported and healed by a new worker', async () => {
  let isBroken = true;
  const { start } = fakeWorker((request, reply, crash) => (isBroken ? crash('out of memory') : reply(done(request.id))));
  const client = new RegenerationClient(ownWorker(start));
  expect(await client.regenerate(side)).toMatchObject({ ok: false, failure: { kind: 'crashed', message: 'out of memory' } });
  isBroken = false;
  expect(await client.regenerate(side)).toMatchObject({ ok: true });
  client.close();
});

test('a worker that has taken too much memory is replaced between requests', async () => {
  const { start, counts } = fakeWorker((request, reply) => reply(done(request.id, 2_000)));
  const client = new RegenerationClient(ownWorker(start, { memoryLimit: 1_000 }));
  await client.regenerate(side);
  await client.regenerate(side);
  expect(counts()).toEqual({ started: 2, ended: 2 });
  client.close();
});

test('cancelling ends the worker and what waits, and the next request gets a new one', async () => {
  const { start, counts } = fakeWorker(() => undefined);
  const client = new RegenerationClient(ownWorker(start));
  const [running, waiting] = [client.regenerate(side), client.regenerate(side)];
  client.cancel();
  expect(await running).toMatchObject({ failure: { kind: 'superseded' } });
  expect(await waiting).toMatchObject({ failure: { kind: 'superseded' } });
  void client.regenerate(side);
  expect(counts()).toEqual({ started: 2, ended: 1 });
  client.close();
});

test('closing answers what is under way', async () => {
  const { start } = fakeWorker(() => undefined);
  const client = new RegenerationClient(ownWorker(start));
  const waiting = client.regenerate(side);
  client.close();
  expect(await waiting).toMatchObject({ ok: false, failure: { kind: 'closed' } });
});

import { createStore } from 'zustand/vanilla';
import type { BodyMesh } from '@/core/kernel-port';
import { fail, succeed } from '@/core/kit';
import type { Regenerated } from '@/core/steps';
import { RegenerationClient } from '@/workers/client';
import { ownWorker } from '@/workers/lane';
import type { WorkerReply, WorkerRequest } from '@/workers/protocol';
import { plainSide } from '../../../tests/support/demo';
import { openLocally } from '../../../tests/support/local-session';
import { PageGeometry } from './page-geometry';
import type { SessionState } from './session-state';

const outcome = (failing: readonly string[] = []): Regenerated => ({
  steps: ['side-outline', 'side-board'].map((id) => ({
    id,
    status: failing.includes(id) ? 'failed' : 'done',
    isFromCache: false,
    ...(failing.includes(id) ? { problem: { message: `${id} does not fit`, about: [] } } : {}),
  })),
  bodies: [],
  measured: {},
  rebuilt: 2,
});

/** Geometry on a worker that answers at once; `failing` tells which steps fail for a document. */
function open(
  failing: (request: WorkerRequest) => readonly string[] = () => [],
  built: (request: WorkerRequest) => { readonly bodies: Regenerated['bodies']; readonly meshes: Readonly<Record<string, BodyMesh>> } = () => ({
    bodies: [],
    meshes: {},
  }),
) {
  const session = openLocally(plainSide());
  const store = createStore<SessionState>(() => ({ ...session.store.getState(), isPaused: false }));
  const seen: WorkerRequest[] = [];
  const client = new RegenerationClient(
    ownWorker((onReply) => ({
      post: (request) => {
        if (request.kind === 'file') return;
        seen.push(request);
        const { bodies, meshes } = built(request);
        const reply: WorkerReply = { kind: 'regenerated', id: request.id, result: { ...outcome(failing(request)), bodies }, meshes, memory: 0 };
        setImmediate(() => onReply(reply));
      },
      terminate: () => undefined,
    })),
  );
  const geometry = new PageGeometry(store, client, () => Promise.resolve(fail({ code: 'no-answer' as const, message: 'down' })));
  const settled = (): Promise<void> => new Promise((done) => setImmediate(() => setImmediate(() => setImmediate(() => done()))));
  return { session, store, geometry, seen, settled };
}

test('what is built stands in the store, and the newest state wins', async () => {
  const { store, geometry, settled } = open();
  geometry.regenerate();
  expect(store.getState().regeneration).toBe('running');
  await settled();
  expect(store.getState()).toMatchObject({ regeneration: 'idle', regenerated: { rebuilt: 2 } });
  geometry.close();
});

test('of answers that come in another order than they were asked for, the newest stays', async () => {
  const answers: ((rebuilt: number) => void)[] = [];
  class SlowClient extends RegenerationClient {
    override regenerate(): ReturnType<RegenerationClient['regenerate']> {
      return new Promise((settle) => answers.push((rebuilt) => settle(succeed({ result: { ...outcome(), rebuilt }, meshes: {} }))));
    }
  }
  const { store, settled } = open();
  const lane = ownWorker(() => ({ post: () => undefined, terminate: () => undefined }));
  const geometry = new PageGeometry(store, new SlowClient(lane), () => Promise.resolve(fail({ code: 'no-answer' as const, message: 'down' })));
  geometry.regenerate();
  geometry.regenerate();
  answers[1]?.(2);
  await settled();
  answers[0]?.(1);
  await settled();
  expect(store.getState().regenerated?.rebuilt).toBe(2);
  geometry.close();
});

test('while it is paused nothing is built; going on builds what is there by then', async () => {
  const { store, geometry, seen, settled } = open();
  geometry.setPaused(true);
  geometry.regenerate();
  await settled();
  expect(seen).toHaveLength(0);
  geometry.setPaused(false);
  await settled();
  expect(seen).toHaveLength(1);
  expect(store.getState().regeneration).toBe('idle');
  geometry.close();
});

test('steps that an edit would break are foreseen, and nothing is changed', async () => {
  const { store, geometry, settled } = open((request) => (request.document.name === 'broken' ? ['side-board'] : []));
  geometry.regenerate();
  await settled();
  const before = store.getState().document;
  expect(await geometry.foresee({ type: 'document.rename', name: 'broken' })).toEqual(succeed([{ id: 'side-board', message: 'side-board does not fit' }]));
  expect(await geometry.foresee({ type: 'value.rename', id: 'gone', name: 'x' })).toMatchObject({ ok: false });
  expect(store.getState().document).toBe(before);
  geometry.close();
});

test('an edit that is only tried is shown as a preview until it is let go of', async () => {
  const { store, geometry, seen, settled } = open();
  expect(geometry.preview({ type: 'document.rename', name: 'tried' })).toBeUndefined();
  await settled();
  expect(seen.at(-1)?.document.name).toBe('tried');
  expect(store.getState().preview).toBeDefined();
  geometry.preview(undefined);
  await settled();
  expect(store.getState().preview).toBeUndefined();
  expect(seen.at(-1)?.document.name).toBe('Side frame');
  geometry.close();
});

test('what an edit would break is asked beside what is to be shown, and puts nothing aside', async () => {
  const { store, geometry, settled } = open((request) => (request.document.name === 'broken' ? ['side-board'] : []));
  geometry.regenerate();
  // Waits behind the first, and with it the question.
  geometry.regenerate();
  const foreseen = geometry.foresee({ type: 'document.rename', name: 'broken' });
  for (let i = 0; i < 4; i++) await settled();
  expect(store.getState()).toMatchObject({ regeneration: 'idle', regenerated: { rebuilt: 2 } });
  expect((await foreseen).ok).toBe(true);
  geometry.close();
});

test('the mesh of a body that is shown is kept, however often another one is built', async () => {
  const mesh = (x: number): BodyMesh => ({
    positions: Float32Array.from([x, 0, 0, x + 1, 0, 0, x, 1, 0]),
    normals: Float32Array.from([0, 0, 1, 0, 0, 1, 0, 0, 1]),
    indices: Uint32Array.from([0, 1, 2]),
    faces: [{ name: 'f', start: 0, count: 3 }],
    corners: [],
    edgePoints: Float32Array.from([x, 0, 0, x + 1, 0, 0]),
    edges: [{ name: 'e', start: 0, count: 2 }],
  });
  let round = 0;
  const { store, geometry, settled } = open(
    () => [],
    (request) => {
      const keys = { still: 'still', moving: `moving-${round++}` };
      const bodies = Object.entries(keys).map(([id, key]) => ({ id, name: id, key }));
      const known = request.kind === 'regenerate' ? (request.knownMeshes ?? []) : [];
      return { bodies, meshes: Object.fromEntries(Object.values(keys).flatMap((key, i) => (known.includes(key) ? [] : [[key, mesh(i)]]))) };
    },
  );
  for (let i = 0; i < 100; i++) {
    geometry.regenerate();
    await settled();
    const { pictures, meshes } = store.getState();
    expect(pictures.map(({ key }) => meshes.get(key)?.positions.length)).toEqual([9, 9]);
  }
  expect(store.getState().meshes.size).toBeLessThan(50);
  geometry.close();
});

test('settled waits for what is being built, and not at all where nothing is', async () => {
  const { store, geometry } = open();
  store.setState({ regeneration: 'idle' });
  await geometry.settled();
  geometry.regenerate();
  expect(store.getState().regenerated).toBeUndefined();
  await geometry.settled();
  expect(store.getState()).toMatchObject({ regeneration: 'idle', regenerated: { rebuilt: 2 } });
  geometry.regenerate();
  const stopped = geometry.settled();
  geometry.setPaused(true);
  await stopped;
  geometry.close();
});

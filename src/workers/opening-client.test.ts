import type { Document } from '@/core/document';
import { succeed } from '@/core/kit';
import type { Regenerated } from '@/core/steps';
import type { BuiltStore, Kept } from './kept-client';
import type { Lane } from './lane';
import { OpeningClient } from './opening-client';
import type { Wish } from './protocol';
import { PartBuilder } from '../../tests/support/part-builder';

/** Documents that differ in a formula, as one that is edited. */
const part = (length: string): Document => new PartBuilder().value('length', length).document;

const MESH = { positions: new Float32Array(9), normals: new Float32Array(9), indices: new Uint32Array(3), edgePoints: new Float32Array(6) } as Kept['mesh'];

function lengthOf({ records }: Document): string {
  const { length } = records;
  return length?.type === 'parameter' ? length.formula.text : '';
}

/** Built without steps, into one body that is named after the length. */
function builtAs(length: string): Regenerated {
  return { steps: [], bodies: [{ id: 'b', name: 'Bar', key: `bar ${length}` }], measured: {}, rebuilt: 0 };
}

/** A client over a worker and a store that answer when they are let, and a page that nobody is at work on yet. */
function open(isSlow = false) {
  const asked: { readonly length: string; readonly wantsMeshes: boolean }[] = [];
  const kept = new Map<string, unknown>();
  let begin: (() => void) | undefined;
  let letRead: (() => void) | undefined;
  const gate = isSlow ? new Promise<void>((resolve) => (letRead = resolve)) : Promise.resolve();
  const lane: Lane = {
    ask: (wish: Wish) => {
      if (wish.kind !== 'regenerate') throw new Error(wish.kind);
      const length = lengthOf(wish.document);
      asked.push({ length, wantsMeshes: wish.knownMeshes !== undefined });
      const meshes = wish.knownMeshes ? { [`bar ${length}`]: MESH } : {};
      return Promise.resolve(succeed({ kind: 'regenerated', id: 1, result: builtAs(length), meshes, shapes: [], memory: 0 }));
    },
    warm: () => undefined,
    cancel: () => undefined,
    close: () => undefined,
  };
  const store: BuiltStore = {
    read: async <K extends keyof Kept>(kind: K, key: string) => {
      await gate;
      return kept.get(`${kind} ${key}`) as Kept[K] | undefined;
    },
    keep: (kind, key, value) => void kept.set(`${kind} ${key}`, value),
  };
  const client = (): OpeningClient => new OpeningClient(lane, store, (then) => (begin = then));
  return { asked, client, touch: () => begin?.(), letRead: () => letRead?.() };
}

async function keyShown(client: OpeningClient, length: string): Promise<string | undefined> {
  const reply = await client.regenerate(part(length), []);
  return reply.ok ? reply.value.result.bodies[0]?.key : reply.failure.kind;
}

test('a part that was built before is shown without its worker, which builds it when somebody is at work', async () => {
  const page = open();
  expect(await keyShown(page.client(), '20 mm')).toBe('bar 20 mm');
  expect(page.asked).toEqual([{ length: '20 mm', wantsMeshes: true }]);
  const reply = await page.client().regenerate(part('20 mm'), []);
  expect(reply).toEqual(succeed({ result: builtAs('20 mm'), meshes: { 'bar 20 mm': MESH }, shapes: [] }));
  expect(page.asked).toHaveLength(1);
  page.touch();
  // The page has its mesh.
  expect(page.asked.slice(1)).toEqual([{ length: '20 mm', wantsMeshes: false }]);
});

test('what is edited is built at once, and what was opened is not built beside it', async () => {
  const page = open();
  await keyShown(page.client(), '20 mm');
  const client = page.client();
  await keyShown(client, '20 mm');
  expect(await keyShown(client, '30 mm')).toBe('bar 30 mm');
  page.touch();
  expect(page.asked.map(({ length }) => length)).toEqual(['20 mm', '30 mm']);
  // Nothing of it is kept: it is another with each edit.
  expect(await keyShown(page.client(), '30 mm')).toBe('bar 30 mm');
  expect(page.asked).toHaveLength(3);
});

test('an edit that comes before the store has answered is what is shown, whatever it answers', async () => {
  const page = open(true);
  const client = page.client();
  const opened = keyShown(client, '20 mm');
  expect(await keyShown(client, '30 mm')).toBe('bar 30 mm');
  page.letRead();
  expect(await opened).toBe('superseded');
  expect(page.asked.map(({ length }) => length)).toEqual(['30 mm']);
});

test('what was opened does not come after an edit that was built meanwhile', async () => {
  const page = open();
  const client = page.client();
  const order: (string | undefined)[] = [];
  const opened = keyShown(client, '20 mm').then((key) => order.push(key));
  // Its worker is at it when the edit comes.
  while (page.asked.length === 0) await Promise.resolve();
  const edited = keyShown(client, '30 mm').then((key) => order.push(key));
  await Promise.all([opened, edited]);
  expect(page.asked.map(({ length }) => length)).toEqual(['20 mm', '30 mm']);
  expect(order.filter((key) => key !== 'superseded')).toEqual(['bar 30 mm']);
});

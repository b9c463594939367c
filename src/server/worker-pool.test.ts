import { RegenerationClient } from '@/workers/client';
import { WorkerPool } from './worker-pool';

function poolOf(most: number) {
  let opened = 0;
  const pool = new WorkerPool(() => {
    opened++;
    return new RegenerationClient(() => ({ post: () => undefined, terminate: () => undefined }));
  }, most);
  return { pool, opened: () => opened };
}

/** A job that ends when it is told to. */
function job() {
  let end = (): void => undefined;
  const ended = new Promise<void>((resolve) => (end = resolve));
  return { end, ended };
}
const turn = () => new Promise((resolve) => setImmediate(resolve));

test('as many run side by side as there are workers, and one is started only when all others are busy', async () => {
  const { pool, opened } = poolOf(2);
  const begun: string[] = [];
  const [a, b, c] = [job(), job(), job()];
  const run = (name: string, { ended }: { readonly ended: Promise<void> }) =>
    pool.run(async () => {
      begun.push(name);
      await ended;
    });
  const first = run('a', a);
  await turn();
  expect([begun, opened()]).toEqual([['a'], 1]);
  a.end();
  await first;
  const [second, third] = [run('b', b), run('c', c)];
  await turn();
  expect([begun, opened()]).toEqual([['a', 'b', 'c'], 2]);
  const fourth = run('d', { ended: Promise.resolve() });
  await turn();
  expect(begun).toEqual(['a', 'b', 'c']);
  b.end();
  await second;
  await fourth;
  c.end();
  await third;
  expect([begun, opened()]).toEqual([['a', 'b', 'c', 'd'], 2]);
});

test('no two jobs have one worker at a time; one that fails gives its worker back, and the one of the highest priority goes first', async () => {
  const { pool } = poolOf(1);
  const order: string[] = [];
  const a = job();
  let inUse = 0;
  const work = async (name: string, ended: Promise<void> = Promise.resolve()): Promise<void> => {
    expect(++inUse).toBe(1);
    order.push(name);
    await ended;
    inUse--;
  };
  const first = pool.run(() => work('a', a.ended));
  const failing = pool.run(async () => {
    await work('fails');
    throw new Error('no');
  });
  const low = pool.run(() => work('low'), -5);
  const high = pool.run(() => work('high'), 5);
  a.end();
  await expect(failing).rejects.toThrow('no');
  await Promise.all([first, low, high]);
  expect(order).toEqual(['a', 'high', 'fails', 'low']);
});

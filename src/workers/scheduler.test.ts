import fc from 'fast-check';
import { openLane } from './lane';
import { OneWorker } from './one-worker';
import type { WorkerRequest } from './protocol';
import { Scheduler, type JobOrder } from './scheduler';

type Room = 'front' | 'back';

function schedulerOf(rooms: Readonly<Record<Room, number>>, idleMs?: number) {
  const opened: OneWorker[] = [];
  const posted: WorkerRequest[] = [];
  const ended: number[] = [];
  const scheduler = new Scheduler<Room>({
    open: () => {
      const number = opened.length;
      const worker = new OneWorker(() => ({
        post: (request) => {
          if (request.kind !== 'file') posted.push(request);
        },
        terminate: () => {
          ended.push(number);
        },
      }));
      opened.push(worker);
      return worker;
    },
    rooms,
    ...(idleMs === undefined ? {} : { idleMs }),
  });
  return { scheduler, opened, posted, ended };
}

/** A job that ends when it is told to. */
function job() {
  let end = (): void => undefined;
  const ended = new Promise<void>((resolve) => (end = resolve));
  return { end, ended };
}

const order = (document: string, more: Partial<JobOrder<Room>> = {}): JobOrder<Room> => ({ room: 'front', priority: 0, document, ...more });

/** The order in which jobs begin that all wait while another runs. */
async function begunOf(orders: readonly JobOrder<Room>[]): Promise<string[]> {
  const { scheduler } = schedulerOf({ front: 1, back: 1 });
  const begun: string[] = [];
  const first = job();
  const running = scheduler.schedule(order('running'), () => first.ended);
  const jobs = orders.map((one) => scheduler.schedule(one, () => Promise.resolve(void begun.push(one.document))));
  first.end();
  await Promise.all([running, ...jobs].map(({ done }) => done));
  return begun;
}

test('as many run side by side as a room has workers, and one is opened only when all others are busy; rooms do not wait for one another', async () => {
  const { scheduler, opened } = schedulerOf({ front: 2, back: 1 });
  const begun: string[] = [];
  const run = (name: string, ended: Promise<void>, room: Room = 'front') =>
    scheduler.schedule(order(name, { room }), async () => {
      begun.push(name);
      await ended;
    });
  const [a, b, c] = [job(), job(), job()];
  const first = run('a', a.ended);
  expect([begun, opened.length]).toEqual([['a'], 1]);
  a.end();
  await first.done;
  const [second, third] = [run('b', b.ended), run('c', c.ended)];
  expect([begun, opened.length]).toEqual([['a', 'b', 'c'], 2]);
  const fourth = run('d', Promise.resolve());
  const behind = run('e', Promise.resolve(), 'back');
  expect(begun).toEqual(['a', 'b', 'c', 'e']);
  b.end();
  await Promise.all([second.done, fourth.done, behind.done]);
  c.end();
  await third.done;
  expect([begun, opened.length]).toEqual([['a', 'b', 'c', 'e', 'd'], 3]);
});

test('the highest priority goes first, of equals the smallest, then the first that came', async () => {
  const begun = await begunOf([
    order('late', { priority: -1 }),
    order('large', { size: 900 }),
    order('small', { size: 10 }),
    order('small too', { size: 10 }),
    order('urgent', { priority: 5, size: 5_000 }),
  ]);
  expect(begun).toEqual(['urgent', 'small', 'small too', 'large', 'late']);
});

test('projects take turns, and in each its documents, however many jobs one of them has', async () => {
  const of = (project: string, document: string) => order(document, { project });
  const begun = await begunOf([of('P', 'p1'), of('P', 'p1'), of('P', 'p2'), of('P', 'p1'), of('Q', 'q1'), of('Q', 'q2')]);
  expect(begun).toEqual(['p1', 'q1', 'p2', 'q2', 'p1', 'p1']);
});

test('of jobs under one key the newest is left, unless one has begun', async () => {
  const { scheduler } = schedulerOf({ front: 1, back: 1 });
  const first = job();
  const jobs = [1, 2, 3].map((n) =>
    scheduler.schedule(order('a', { key: 'show a' }), async () => {
      await first.ended;
      return n;
    }),
  );
  const other = scheduler.schedule(order('b', { key: 'show b' }), () => Promise.resolve(4));
  first.end();
  expect(await Promise.all([...jobs, other].map(({ done }) => done))).toEqual([
    { ok: true, value: 1 },
    { ok: false, failure: { kind: 'superseded' } },
    { ok: true, value: 3 },
    { ok: true, value: 4 },
  ]);
});

test('what fails gives its worker back', async () => {
  const { scheduler } = schedulerOf({ front: 1, back: 1 });
  await expect(scheduler.schedule(order('a'), () => Promise.reject(new Error('no'))).done).rejects.toThrow('no');
  expect(await scheduler.schedule(order('b'), () => Promise.resolve('yes')).done).toEqual({ ok: true, value: 'yes' });
});

test('a job that is dropped does not begin; where it has begun, its worker ends and the next job has a new one', async () => {
  const { scheduler, posted, ended } = schedulerOf({ front: 1, back: 1 });
  const [mine, theirs] = [openLane(scheduler, order('mine')), openLane(scheduler, order('theirs'))];
  const wish = { kind: 'box', document: { id: 'd', lists: {}, records: {} }, key: '', movements: [] } as never;
  const [running, waiting, other] = [mine.ask(wish, 'box'), mine.ask(wish, 'clearance'), theirs.ask(wish, 'box')];
  mine.close();
  expect(await running).toEqual({ ok: false, failure: { kind: 'closed' } });
  expect(await waiting).toEqual({ ok: false, failure: { kind: 'closed' } });
  expect(await mine.ask(wish, 'box')).toEqual({ ok: false, failure: { kind: 'closed' } });
  // Nothing but what was under way, and what waits for it.
  expect([posted.length, ended.length]).toEqual([2, 1]);
  scheduler.close();
  expect(await other).toEqual({ ok: false, failure: { kind: 'closed' } });
  expect(await theirs.ask(wish, 'box')).toEqual({ ok: false, failure: { kind: 'closed' } });
});

test('a worker serves the document that it served last', async () => {
  const { scheduler } = schedulerOf({ front: 2, back: 1 });
  const served = async (document: string, ended = Promise.resolve()) => {
    let by: OneWorker | undefined;
    await scheduler.schedule(order(document), async (worker) => {
      by = worker;
      await ended;
    }).done;
    return by;
  };
  const wait = job();
  const both = [served('a', wait.ended), served('b', wait.ended)];
  wait.end();
  const [ofA, ofB] = await Promise.all(both);
  expect(ofA).not.toBe(ofB);
  expect([await served('a'), await served('b'), await served('a')]).toEqual([ofA, ofB, ofA]);
});

test('a worker that has nothing to do is ended after a while, and one that has is not', async () => {
  jest.useFakeTimers({ doNotFake: ['setImmediate', 'queueMicrotask', 'nextTick'] });
  try {
    const { scheduler, opened } = schedulerOf({ front: 1, back: 1 }, 1_000);
    const run = async () => void (await scheduler.schedule(order('a'), () => Promise.resolve()).done);
    const turn = () => new Promise((resolve) => setImmediate(resolve));
    await run();
    await turn();
    jest.advanceTimersByTime(900);
    await run();
    await turn();
    jest.advanceTimersByTime(900);
    await run();
    await turn();
    expect(opened).toHaveLength(1);
    jest.advanceTimersByTime(1_100);
    await run();
    expect(opened).toHaveLength(2);
  } finally {
    jest.useRealTimers();
  }
});

test('a room that is held keeps its workers, with what they have at hand; they go a while after it was let go of', async () => {
  jest.useFakeTimers({ doNotFake: ['setImmediate', 'queueMicrotask', 'nextTick'] });
  try {
    const { scheduler, opened } = schedulerOf({ front: 1, back: 1 }, 1_000);
    const run = async (room: Room) => {
      await scheduler.schedule(order('a', { room }), () => Promise.resolve()).done;
      await new Promise((resolve) => setImmediate(resolve));
    };
    scheduler.warm(order('a'));
    const [release, other] = [scheduler.hold('front'), scheduler.hold('front')];
    await run('front');
    await run('back');
    jest.advanceTimersByTime(60_000);
    await run('front');
    expect(opened).toHaveLength(2);
    release();
    release();
    jest.advanceTimersByTime(60_000);
    await run('front');
    expect(opened).toHaveLength(2);
    other();
    jest.advanceTimersByTime(900);
    await run('front');
    jest.advanceTimersByTime(900);
    await run('front');
    expect(opened).toHaveLength(2);
    jest.advanceTimersByTime(1_100);
    await run('front');
    expect(opened).toHaveLength(3);
  } finally {
    jest.useRealTimers();
  }
});

test('law: whatever is asked and dropped, every job ends, none has a worker that another has, and a room has no more than its own', async () => {
  const asked = fc.record({
    room: fc.constantFrom<Room>('front', 'back'),
    priority: fc.integer({ min: 0, max: 2 }),
    document: fc.constantFrom('a', 'b', 'c'),
    project: fc.constantFrom('p', 'q'),
    key: fc.option(fc.constantFrom('k', 'l'), { nil: undefined }),
    turns: fc.integer({ min: 0, max: 3 }),
    isDropped: fc.boolean(),
  });
  await fc.assert(
    fc.asyncProperty(fc.array(asked, { maxLength: 30 }), fc.integer({ min: 1, max: 3 }), async (wishes, most) => {
      const { scheduler, opened } = schedulerOf({ front: most, back: 1 });
      const busy = new Map<OneWorker, Room>();
      let begun = 0;
      const jobs = wishes.map(({ turns, isDropped, key, ...rest }) => {
        const one = scheduler.schedule({ ...rest, ...(key === undefined ? {} : { key }) }, async (worker) => {
          begun++;
          expect(busy.has(worker)).toBe(false);
          busy.set(worker, rest.room);
          expect([...busy.values()].filter((room) => room === rest.room).length).toBeLessThanOrEqual(rest.room === 'front' ? most : 1);
          for (let turn = 0; turn < turns; turn++) await Promise.resolve();
          busy.delete(worker);
        });
        if (isDropped) one.drop({ kind: 'closed' });
        return one.done;
      });
      const ends = await Promise.all(jobs);
      expect(ends.filter(({ ok }) => ok)).toHaveLength(begun);
      expect(opened.length).toBeLessThanOrEqual(most + 1);
      expect(scheduler.countWaiting('front') + scheduler.countWaiting('back')).toBe(0);
    }),
    { numRuns: 200 },
  );
});

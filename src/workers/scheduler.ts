/**
 * Who gets a worker next, in a browser's page and at the server alike.
 *
 * Workers stand in rooms, each with so many at most, so that what somebody waits for never stands behind what nobody does. Of the jobs that wait
 * for a room the highest priority goes first; of equals one of the project that was served longest ago, of these the smallest, then one of the
 * document that was served longest ago, then the one that came first. Of jobs under one key the newest is left. A worker is started only when all
 * others of its room are busy, and the one that served a document last serves it again: it has most at hand.
 */
import { LRUCache } from 'lru-cache';
import { fail, succeed, type Result } from '@/core/kit';
import type { OneWorker, RegenerationFailure } from './one-worker';

/** Who asks, and how urgent it is. */
export interface JobOrder<Room extends string> {
  readonly room: Room;
  /** What is higher goes first. */
  readonly priority: number;
  readonly document: string;
  /** Projects are served in turn, and in each its documents. */
  readonly project?: string;
  /** In a project, what is small goes before what is large. */
  readonly size?: number;
  /** Of jobs that wait with equal keys, the newest is left. */
  readonly key?: string;
}

/** A job that waits or runs. */
export interface Job<T> {
  /** What came of it; a failure where it did not begin. */
  readonly done: Promise<Result<T, RegenerationFailure>>;
  /** Gives it up: it does not begin, or its worker ends, and with it what that is at. */
  drop: (failure: RegenerationFailure) => void;
}

interface Waiting<Room extends string> {
  readonly order: JobOrder<Room>;
  /** What takes turns: its project, and its document. */
  readonly turns: readonly [string, string];
  /** Gives what tells its asker what came of it. */
  readonly begin: (worker: OneWorker) => Promise<() => void>;
  readonly refuse: (failure: RegenerationFailure) => void;
}

interface Place {
  readonly worker: OneWorker;
  isBusy: boolean;
  /** The document that it served last. */
  document: string | undefined;
  retirement: ReturnType<typeof setTimeout> | undefined;
}

export interface SchedulerOptions<Room extends string> {
  readonly open: () => OneWorker;
  /** How many workers a room has at most. */
  readonly rooms: Readonly<Record<Room, number>>;
  /** How long a worker is kept that has nothing to do, in a room that nobody holds; for good where it is not said. */
  readonly idleMs?: number;
}

/** Projects and documents whose turn is remembered. */
const MOST_TURNS = 1_000;

export class Scheduler<Room extends string> {
  private readonly waiting = new Map<Room, Set<Waiting<Room>>>();
  private readonly places = new Map<Room, Place[]>();
  /** When projects and documents were served last, in served jobs. */
  private readonly served = new LRUCache<string, number>({ max: MOST_TURNS });
  private count = 0;
  /** How many hold each room. */
  private readonly holders = new Map<Room, number>();
  private isClosed = false;

  constructor(private readonly options: SchedulerOptions<Room>) {}

  /** `work` has the worker to itself until it has ended. */
  schedule<T>(order: JobOrder<Room>, work: (worker: OneWorker) => Promise<T>): Job<T> {
    let running: OneWorker | undefined;
    let entry: Waiting<Room> | undefined;
    const done = new Promise<Result<T, RegenerationFailure>>((settle, reject) => {
      entry = {
        order,
        turns: [`project ${order.project ?? ''}`, `document ${order.document}`],
        refuse: (failure) => settle(fail(failure)),
        begin: async (worker) => {
          running = worker;
          try {
            const value = await work(worker);
            return () => settle(succeed(value));
          } catch (problem) {
            return () => reject(problem instanceof Error ? problem : new Error(String(problem)));
          } finally {
            running = undefined;
          }
        },
      };
    });
    const drop = (failure: RegenerationFailure): void => {
      if (running) running.stop(failure);
      else if (entry && this.waitingIn(order.room).delete(entry)) entry.refuse(failure);
    };
    if (entry) this.add(entry);
    return { done, drop };
  }

  /** Starts the worker that a job would have, before it is needed. */
  warm(order: Pick<JobOrder<Room>, 'room' | 'document'>): void {
    const place = this.findPlace(order);
    place?.worker.warm();
    if (place) this.retire(order.room, place);
  }

  /** Keeps the workers of a room, with all that they have at hand, until what it gives is called. */
  hold(room: Room): () => void {
    this.holders.set(room, this.holdersOf(room) + 1);
    for (const { retirement } of this.placesIn(room)) clearTimeout(retirement);
    let isHeld = true;
    return () => {
      if (!isHeld) return;
      isHeld = false;
      this.holders.set(room, this.holdersOf(room) - 1);
      for (const place of this.placesIn(room)) if (!place.isBusy) this.retire(room, place);
    };
  }

  /** How many jobs wait for a room. */
  countWaiting(room: Room): number {
    return this.waitingIn(room).size;
  }

  /** Ends all workers, and what waits. */
  close(): void {
    this.isClosed = true;
    for (const waiting of this.waiting.values()) {
      for (const { refuse } of waiting) refuse({ kind: 'closed' });
      waiting.clear();
    }
    for (const place of [...this.places.values()].flat()) {
      clearTimeout(place.retirement);
      place.worker.stop({ kind: 'closed' });
    }
    this.places.clear();
  }

  private add(entry: Waiting<Room>): void {
    if (this.isClosed) {
      entry.refuse({ kind: 'closed' });
      return;
    }
    const { room, key } = entry.order;
    const waiting = this.waitingIn(room);
    for (const older of key === undefined ? [] : waiting) {
      if (older.order.key !== key) continue;
      waiting.delete(older);
      older.refuse({ kind: 'superseded' });
    }
    waiting.add(entry);
    this.fill(room);
  }

  /** Lets as many begin as there are workers for. */
  private fill(room: Room): void {
    for (;;) {
      const next = this.choose(this.waitingIn(room));
      const place = next && this.findPlace(next.order);
      if (!next || !place) return;
      this.waitingIn(room).delete(next);
      void this.serve(place, next);
    }
  }

  private async serve(place: Place, { order, turns, begin }: Waiting<Room>): Promise<void> {
    clearTimeout(place.retirement);
    place.isBusy = true;
    place.document = order.document;
    this.count++;
    for (const turn of turns) this.served.set(turn, this.count);
    const tell = await begin(place.worker);
    // The worker is free before its asker goes on: what is asked next finds it so.
    place.isBusy = false;
    if (!this.isClosed) this.fill(order.room);
    tell();
    if (!place.isBusy && !this.isClosed) this.retire(order.room, place);
  }

  private retire(room: Room, place: Place): void {
    const { idleMs } = this.options;
    clearTimeout(place.retirement);
    if (idleMs === undefined || this.isClosed || this.holdersOf(room) > 0) return;
    place.retirement = setTimeout(() => {
      place.worker.stop({ kind: 'closed' });
      this.places.set(
        room,
        this.placesIn(room).filter((one) => one !== place),
      );
    }, idleMs);
  }

  private choose(waiting: Iterable<Waiting<Room>>): Waiting<Room> | undefined {
    let best: Waiting<Room> | undefined;
    for (const one of waiting) if (!best || this.compare(one, best) < 0) best = one;
    return best;
  }

  /** Negative where the first is to go before the second; 0 where they are equal but for the time at which they came. */
  private compare(a: Waiting<Room>, b: Waiting<Room>): number {
    return (
      b.order.priority - a.order.priority ||
      this.turn(a.turns[0]) - this.turn(b.turns[0]) ||
      (a.order.size ?? 0) - (b.order.size ?? 0) ||
      this.turn(a.turns[1]) - this.turn(b.turns[1])
    );
  }

  private turn(of: string): number {
    return this.served.get(of) ?? 0;
  }

  private findPlace({ room, document }: Pick<JobOrder<Room>, 'room' | 'document'>): Place | undefined {
    const places = this.placesIn(room);
    const idle = places.filter(({ isBusy }) => !isBusy);
    const known = idle.find((place) => place.document === document) ?? idle.at(-1);
    if (known || places.length >= this.options.rooms[room]) return known;
    const place: Place = { worker: this.options.open(), isBusy: false, document: undefined, retirement: undefined };
    places.push(place);
    return place;
  }

  private holdersOf(room: Room): number {
    return this.holders.get(room) ?? 0;
  }

  private waitingIn(room: Room): Set<Waiting<Room>> {
    const known = this.waiting.get(room) ?? new Set();
    this.waiting.set(room, known);
    return known;
  }

  private placesIn(room: Room): Place[] {
    const known = this.places.get(room) ?? [];
    this.places.set(room, known);
    return known;
  }
}

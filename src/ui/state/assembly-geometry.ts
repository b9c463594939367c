/**
 * The geometry of an open assembly in the browser: every part that stands in it is built once for each set of values that it has there, and
 * shown wherever it stands. What is measured on one may set a value of the next, so that it goes on until nothing is left to build.
 */
import type { StoreApi } from 'zustand/vanilla';
import { assemblyTree, boxAt, placeComponents, type AssemblyPlacement, type Box, type GeometryShape } from '@/core/assembly';
import { listRecords, type DocumentValues, type Placement } from '@/core/document';
import type { Point3 } from '@/core/geometry';
import { listPlaced, type InstanceLibrary, type PlacedPart, type Stance, type Standing } from '@/core/instances';
import type { BodyMesh } from '@/core/kernel-port';
import { colourOfBody, readWhole, type Regenerated } from '@/core/steps';
import type { RegenerationClient } from '@/workers/client';
import { PartBook } from '@/workers/part-book';
import { candidatePairs, LEAST_VOLUME, type Interference, type JudgedBody } from './interference';
import type { PlacedBody, SessionState } from './session-state';

/** Built parts that are kept, to go back to. */
const MOST_BUILT = 200;
const MOST_VOLUMES = 20_000;
/** How long nothing moves before it is looked whether parts stand in one another, in milliseconds. */
const JUDGE_REST_MS = 400;

export class AssemblyGeometry {
  private readonly book = new PartBook();
  /** Where components stood last, and where they had been put then: a solve goes on from there. */
  private last = new Map<string, { readonly at: Placement | undefined; readonly stance: Stance }>();
  /** The same before something was tried out. */
  private heldStances: typeof this.last | undefined;
  private placed: readonly PlacedPart[] = [];
  private standing: Standing = () => new Map();
  /** Volumes in common, by what the two are and how they stand to one another. */
  private readonly volumes = new Map<string, number | undefined>();
  private judging: ReturnType<typeof setTimeout> | undefined;
  private wish: object | undefined;
  private isClosed = false;

  constructor(
    private readonly store: StoreApi<SessionState>,
    private readonly client: RegenerationClient | undefined,
    private readonly library: InstanceLibrary,
  ) {}

  /** Builds what stands in the assembly now; a newer call takes over from an older one. */
  regenerate(): void {
    const wish = {};
    this.wish = wish;
    this.show();
    if (this.client && this.book.next(this.store.getState().values)) void this.buildAll(this.client, wish);
    else this.rest(wish);
  }

  /** What a face or edge of a part in the assembly is; undefined where it is not there, or cannot be told now. */
  async describe(path: readonly string[], body: string, name: string): Promise<GeometryShape | undefined> {
    const part = this.placed.find((one) => one.path.join(' ') === path.join(' '));
    if (!part || !this.client) return undefined;
    const wanted = { key: part.key, body, name };
    if (this.book.shapes(wanted) === undefined) {
      const reply = await this.client.regenerate(part.document, [...this.store.getState().meshes.keys()], `describe ${part.key}`, [{ body, name }]);
      if (reply.ok) this.book.takeShapes(part.key, [{ body, name }], reply.value.shapes);
    }
    const shape = this.book.shapes(wanted);
    return shape === 'lost' ? undefined : shape;
  }

  holdStances(): void {
    this.heldStances ??= new Map(this.last);
  }

  returnStances(): void {
    if (this.heldStances) this.last = this.heldStances;
    this.heldStances = undefined;
  }

  /** The box around everything that is built, where it stands. */
  box(): Box | undefined {
    const boxes = this.placed.flatMap(({ key, at }) =>
      (this.book.results.get(key)?.bodies ?? []).flatMap(({ properties }) => (properties ? boxAt(properties.box, at) : [])),
    );
    const [first, ...rest] = boxes;
    const least = (a: Point3, b: Point3): Point3 => [Math.min(a[0], b[0]), Math.min(a[1], b[1]), Math.min(a[2], b[2])];
    const most = (a: Point3, b: Point3): Point3 => [Math.max(a[0], b[0]), Math.max(a[1], b[1]), Math.max(a[2], b[2])];
    return first && rest.reduce((all, box) => ({ min: least(all.min, box.min), max: most(all.max, box.max) }), first);
  }

  /** As it stands, with its parts by key. */
  tree() {
    return assemblyTree(this.store.getState().values, this.standing);
  }

  close(): void {
    this.isClosed = true;
    clearTimeout(this.judging);
  }

  private async buildAll(client: RegenerationClient, wish: object): Promise<void> {
    this.store.setState({ regeneration: 'running' });
    const nextWanted = () => this.book.next(this.store.getState().values);
    for (let next = nextWanted(); next; next = nextWanted()) {
      const { part, describe } = next;
      const reply = await client.regenerate(part.document, [...this.store.getState().meshes.keys()], `part ${part.key}`, describe);
      if (this.isClosed) return;
      if (reply.ok) {
        this.book.takeShapes(part.key, describe, reply.value.shapes);
        this.take(part.key, reply.value.result, reply.value.meshes);
      } else if (reply.failure.kind !== 'superseded') this.fail(part.key, part.document.name);
      if (this.wish !== wish) return;
      if (!reply.ok) {
        this.store.setState({ regeneration: reply.failure.kind === 'superseded' ? 'idle' : reply.failure });
        if (reply.failure.kind === 'superseded') return;
      }
    }
    if (typeof this.store.getState().regeneration === 'string') this.rest(wish);
  }

  /** Everything is built: what stands in one another is looked for once nothing has moved for a moment. */
  private rest(wish: object): void {
    this.store.setState({ regeneration: 'idle' });
    clearTimeout(this.judging);
    this.judging = setTimeout(() => void this.judge(wish), JUDGE_REST_MS);
  }

  private async judge(wish: object): Promise<void> {
    const { client } = this;
    if (!client || this.wish !== wish || this.isClosed) return;
    const parts = new Map(this.placed.map((part) => [part.path.join(' '), part]));
    const bodies = this.placed.flatMap(({ path, key, at }): JudgedBody[] =>
      (this.book.results.get(key)?.bodies ?? []).flatMap(({ id, key: shape, properties }) =>
        shape === undefined || !properties ? [] : { path, body: id, key: shape, box: properties.box, at },
      ),
    );
    const found: Interference[] = [];
    for (const { key, first, second, movements } of candidatePairs(bodies)) {
      const [one, other] = [parts.get(first.path.join(' ')), parts.get(second.path.join(' '))];
      if (!one || !other) continue;
      if (!this.volumes.has(key)) {
        this.store.setState({ interference: undefined });
        const reply = await client.overlap(one.document, other.document, [first.key, second.key], movements);
        if (this.wish !== wish || this.isClosed) return;
        // One that was cut short is made again the next time.
        if (reply.ok) this.volumes.set(key, reply.value);
      }
      const volume = this.volumes.get(key);
      if (volume === undefined || volume > LEAST_VOLUME) found.push({ first, second, volume });
    }
    if (this.volumes.size > MOST_VOLUMES) this.volumes.clear();
    this.store.setState({ interference: found });
  }

  private take(key: string, result: Regenerated, fresh: Readonly<Record<string, BodyMesh>>): void {
    this.book.results.set(key, result);
    this.library.keep(key, readWhole(result));
    this.store.setState((state) => ({ meshes: new Map([...state.meshes, ...Object.entries(fresh)]) }));
    this.store.getState().values.settle();
    this.store.setState((state) => ({ version: state.version + 1 }));
    this.show();
  }

  /** It is not tried again with the same values, and everything that reads it says why. */
  private fail(key: string, name: string): void {
    this.book.fail(key);
    const problem = { problem: `${name} could not be built.` };
    this.library.keep(key, { measured: {}, mass: problem, volume: problem });
    this.store.getState().values.settle();
    this.store.setState((state) => ({ version: state.version + 1 }));
  }

  private show(): void {
    const { values, placed: before, meshes } = this.store.getState();
    const placement = this.place(values);
    const placed = this.placed.flatMap(({ path, key, document, at }): PlacedBody[] => {
      const result = this.book.results.get(key);
      const bodies = result?.bodies.flatMap(({ id, key: mesh }) =>
        mesh === undefined ? [] : { path, body: id, key: mesh, colour: colourOfBody(document, id), at, isStale: false },
      );
      const name = path.join(' ');
      // The last good picture stays, where it stands now.
      return bodies ?? before.filter((body) => body.path.join(' ') === name).map((body) => ({ ...body, at, isStale: true }));
    });
    this.book.forgetOldest(MOST_BUILT, new Set(this.placed.map(({ key }) => key)));
    const kept = new Set([...placed.map(({ key }) => key), ...[...this.book.results.values()].flatMap(({ bodies }) => bodies.flatMap(({ key }) => key ?? []))]);
    this.store.setState({ placed, placement, meshes: new Map([...meshes].filter(([key]) => kept.has(key))) });
  }

  /** Solves where everything stands, on from where it stood. */
  private place(values: DocumentValues): AssemblyPlacement {
    const { shapes } = this.book;
    const components = listRecords(values.document, 'components', 'component');
    const start = new Map(
      components.flatMap(({ id, at }) => {
        const known = this.last.get(id);
        return known && known.at === at ? [[id, known.stance] as const] : [];
      }),
    );
    const solved = placeComponents(values, shapes, start);
    // What cannot be stays as it stood: mates that pull apart tear nothing.
    const placement =
      solved.status === 'placed' ? solved : { ...solved, stances: new Map([...solved.stances].map(([id, stance]) => [id, start.get(id) ?? stance])) };
    if (placement.status === 'placed') {
      for (const { id, at } of components) {
        const stance = placement.stances.get(id);
        if (stance) this.last.set(id, { at, stance });
      }
    }
    const below = new Map<DocumentValues, ReadonlyMap<string, Stance>>([[values, placement.stances]]);
    this.standing = (inside) => {
      const known = below.get(inside) ?? placeComponents(inside, shapes).stances;
      below.set(inside, known);
      return known;
    };
    this.placed = listPlaced(values, this.standing);
    return placement;
  }
}

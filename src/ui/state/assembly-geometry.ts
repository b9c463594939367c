/**
 * The geometry of an open assembly in the browser: every part that stands in it is built once for each set of values that it has there, and
 * shown wherever it stands. What is measured on one may set a value of the next, so that it goes on until nothing is left to build.
 */
import type { StoreApi } from 'zustand/vanilla';
import type { Point3 } from '@/core/geometry';
import { listPlaced, toOutside, type InstanceLibrary, type PlacedPart } from '@/core/instances';
import type { BodyMesh } from '@/core/kernel-port';
import { colourOfBody, readWhole, type Regenerated } from '@/core/steps';
import type { RegenerationClient } from '@/workers/client';
import type { PlacedBody, SessionState } from './session-state';

/** Built parts that are kept, to go back to. */
const MOST_BUILT = 200;

export class AssemblyGeometry {
  private readonly built = new Map<string, Regenerated>();
  /** Keys that were tried in vain. */
  private readonly failed = new Set<string>();
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
    if (this.client && this.nextUnbuilt()) void this.buildAll(this.client, wish);
    else this.store.setState({ regeneration: 'idle' });
  }

  /** The box around everything that is built, where it stands. */
  box(): { readonly min: Point3; readonly max: Point3 } | undefined {
    const corners = listPlaced(this.store.getState().values).flatMap(({ key, at }) =>
      (this.built.get(key)?.bodies ?? []).flatMap(({ properties }) => (properties ? cornersOf(properties.box).map((corner) => toOutside(at, corner)) : [])),
    );
    if (corners.length === 0) return undefined;
    const along = (pick: (...values: number[]) => number, i: 0 | 1 | 2): number =>
      corners.reduce((best, corner) => pick(best, corner[i]), corners[0]?.[i] ?? 0);
    return {
      min: [along(Math.min, 0), along(Math.min, 1), along(Math.min, 2)],
      max: [along(Math.max, 0), along(Math.max, 1), along(Math.max, 2)],
    };
  }

  close(): void {
    this.isClosed = true;
  }

  private async buildAll(client: RegenerationClient, wish: object): Promise<void> {
    this.store.setState({ regeneration: 'running' });
    for (let next = this.nextUnbuilt(); next; next = this.nextUnbuilt()) {
      const { key, document } = next;
      const reply = await client.regenerate(document, [...this.store.getState().meshes.keys()], `part ${key}`);
      if (this.isClosed) return;
      if (reply.ok) this.take(key, reply.value.result, reply.value.meshes);
      else if (reply.failure.kind !== 'superseded') this.fail(key, document.name);
      if (this.wish !== wish) return;
      if (!reply.ok) {
        this.store.setState({ regeneration: reply.failure.kind === 'superseded' ? 'idle' : reply.failure });
        if (reply.failure.kind === 'superseded') return;
      }
    }
    if (typeof this.store.getState().regeneration === 'string') this.store.setState({ regeneration: 'idle' });
  }

  private nextUnbuilt(): PlacedPart | undefined {
    return listPlaced(this.store.getState().values).find(({ key }) => !this.built.has(key) && !this.failed.has(key));
  }

  private take(key: string, result: Regenerated, fresh: Readonly<Record<string, BodyMesh>>): void {
    this.built.set(key, result);
    this.library.keep(key, readWhole(result));
    this.store.setState((state) => ({ meshes: new Map([...state.meshes, ...Object.entries(fresh)]) }));
    this.store.getState().values.settle();
    this.store.setState((state) => ({ version: state.version + 1 }));
    this.show();
  }

  /** It is not tried again with the same values, and everything that reads it says why. */
  private fail(key: string, name: string): void {
    this.failed.add(key);
    const problem = { problem: `${name} could not be built.` };
    this.library.keep(key, { measured: {}, mass: problem, volume: problem });
    this.store.getState().values.settle();
    this.store.setState((state) => ({ version: state.version + 1 }));
  }

  private show(): void {
    const { values, placed: before } = this.store.getState();
    const placed = listPlaced(values).flatMap(({ path, key, document, at }): PlacedBody[] => {
      const result = this.built.get(key);
      const bodies = result?.bodies.flatMap(({ id, key: mesh }) =>
        mesh === undefined ? [] : { path, body: id, key: mesh, colour: colourOfBody(document, id), at, isStale: false },
      );
      const name = path.join(' ');
      // The last good picture stays, where it stands now.
      return bodies ?? before.filter((body) => body.path.join(' ') === name).map((body) => ({ ...body, at, isStale: true }));
    });
    this.forgetOldest(new Set(listPlaced(values).map(({ key }) => key)));
    const shown = new Set(placed.map(({ key }) => key));
    const { meshes } = this.store.getState();
    const kept = new Set([...shown, ...[...this.built.values()].flatMap(({ bodies }) => bodies.flatMap(({ key }) => key ?? []))]);
    this.store.setState({ placed, meshes: new Map([...meshes].filter(([key]) => kept.has(key))) });
  }

  private forgetOldest(used: ReadonlySet<string>): void {
    for (const key of this.built.keys()) {
      if (this.built.size <= MOST_BUILT) return;
      if (!used.has(key)) this.built.delete(key);
    }
  }
}

function cornersOf({ min, max }: { readonly min: Point3; readonly max: Point3 }): Point3[] {
  return [min[0], max[0]].flatMap((x) => [min[1], max[1]].flatMap((y) => [min[2], max[2]].map((z): Point3 => [x, y, z])));
}

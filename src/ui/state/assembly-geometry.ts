/**
 * The geometry of an open assembly in the browser: every part that stands in it is built once for each set of values that it has there, and
 * shown wherever it stands. What is measured on one may set a value of the next, so that it goes on until nothing is left to build.
 */
import type { StoreApi } from 'zustand/vanilla';
import {
  assemblyTree,
  boxAt,
  datumGeometry,
  explodeShifts,
  groupByMake,
  listSolids,
  placeComponents,
  placeGeometry,
  readInMirror,
  standingIn,
  type AssemblyPlacement,
  type Box,
  type Interference,
  type MateDirection,
  type OneMeasure,
  type Pull,
} from '@/core/assembly';
import { findRecord, measuresGeometry, type Component, type DocumentValues, type MateRecord, type MeasuredValue, plainId } from '@/core/document';
import type { Point3, Curve, Frame } from '@/core/geometry';
import {
  listPlaced,
  placeWithin,
  WHOLE,
  type InstanceLibrary,
  type PlacedPart,
  type Stance,
  type Standing,
  relativeTo,
  rotate,
  STANDING,
  toOutside,
} from '@/core/instances';
import type { GeometryShape, BodyMesh } from '@/core/kernel-port';
import { colourOfBody, readWhole, type Regenerated } from '@/core/steps';
import { AssemblyJudge } from '@/workers/assembly-judge';
import type { RegenerationClient } from '@/workers/client';
import { PartBook } from '@/workers/part-book';
import type { PlacedBody, SessionState } from './session-state';

/** Built parts that are kept, to go back to. */
const MOST_BUILT = 200;
/** A cylindrical face of a part that stands in the assembly. */
export interface PlacedCylinder {
  readonly path: readonly string[];
  readonly body: string;
  readonly name: string;
  /** In the space of the part, which stands at `at`. */
  readonly shape: Extract<GeometryShape, { readonly kind: 'round' }>;
  readonly at: Stance;
}

/** How long nothing moves before it is looked whether parts stand in one another, in milliseconds. */
const JUDGE_REST_MS = 400;

const AS_IT_STANDS: ReadonlyMap<string, Point3> = new Map();

export class AssemblyGeometry {
  private readonly book = new PartBook();
  /** Where components stood last, by their paths, and what they had been put as then: a solve goes on from there. */
  private last = new Map<string, { readonly put: Component | undefined; readonly stance: Stance }>();
  /** How far mates that count turns had turned then, in radians. */
  private lastTurned = new Map<string, { readonly put: MateRecord | undefined; readonly turned: number }>();
  /** The same before something was tried out. */
  private held: { readonly last: AssemblyGeometry['last']; readonly lastTurned: AssemblyGeometry['lastTurned'] } | undefined;
  private placed: readonly PlacedPart[] = [];
  private standing: Standing = () => new Map();
  private readonly judgement: AssemblyJudge | undefined;
  /** How often what is measured was read, and the newest reading that was taken. */
  private readings = 0;
  private takenReading = 0;
  private judging: ReturnType<typeof setTimeout> | undefined;
  private wish: object | undefined;
  private isClosed = false;
  private pull: Pull | undefined;

  constructor(
    private readonly store: StoreApi<SessionState>,
    private readonly client: RegenerationClient | undefined,
    private readonly library: InstanceLibrary,
  ) {
    this.judgement = client && new AssemblyJudge(client, this.book);
  }

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

  /** All cylinders of the parts that stand there, copies left out: holes and shafts; undefined where nothing can be built here. */
  async cylinders(): Promise<readonly PlacedCylinder[] | undefined> {
    const found: PlacedCylinder[] = [];
    for (const { path, key, document, at } of this.placed) {
      if (path.some((id) => plainId(id) !== id)) continue;
      const { meshes } = this.store.getState();
      const bodies = this.book.results.get(key)?.bodies ?? [];
      const wanted = bodies.flatMap((body) => (meshes.get(body.key ?? '')?.faces ?? []).map(({ name }) => ({ body: body.id, name })));
      const unknown = wanted.filter((one) => this.book.shapes({ key, ...one }) === undefined);
      if (unknown.length > 0) {
        const reply = await this.client?.regenerate(document, [...meshes.keys()], `describe ${key}`, unknown);
        if (reply?.ok !== true) return undefined;
        this.book.takeShapes(key, unknown, reply.value.shapes);
      }
      for (const { body, name } of wanted) {
        const shape = this.book.shapes({ key, body, name });
        if (shape !== undefined && shape !== 'lost' && shape.kind === 'round') found.push({ path, body, name, shape, at });
      }
    }
    return found;
  }

  /** What components weigh together, in kilograms, and their common centre in millimetres; undefined where one is not built or has no mass. */
  weigh(components: ReadonlySet<string>): { readonly mass: number; readonly centre: Point3 } | undefined {
    let [mass, x, y, z] = [0, 0, 0, 0];
    for (const { path, key, at } of this.placed) {
      if (!components.has(plainId(path[0] ?? ''))) continue;
      const bodies = this.book.results.get(key)?.bodies;
      if (!bodies) return undefined;
      for (const body of bodies) {
        if (!body.properties) continue;
        if (body.mass === undefined) return undefined;
        const centre = toOutside(at, body.properties.centre);
        mass += body.mass;
        x += body.mass * centre[0];
        y += body.mass * centre[1];
        z += body.mass * centre[2];
      }
    }
    return mass > 0 ? { mass, centre: [x / mass, y / mass, z / mass] } : undefined;
  }

  /** Measures the assembly as it stands, without keeping anything; undefined where nothing can be built here. */
  async measureNow(wanted: readonly OneMeasure[]): Promise<Readonly<Record<string, MeasuredValue>> | undefined> {
    for (const { measure } of wanted) {
      for (const { path, body, name } of 'on' in measure && measure.what === 'angle' ? measure.on : []) {
        if (body !== undefined && name !== undefined) await this.describe(path, body, name);
      }
    }
    const { values, interference } = this.store.getState();
    return this.judgement?.measure(values, this.standing, () => !this.isClosed, interference, wanted);
  }

  /** Where a plane cuts the assembly as it stands, in x and y of its frame; undefined where a part is not built, or cannot be cut. */
  async section(frame: Frame): Promise<readonly Curve[] | undefined> {
    const curves: Curve[] = [];
    for (const { key, document, at } of this.placed) {
      const keys = (this.book.results.get(key)?.bodies ?? []).flatMap((body) => body.key ?? []);
      const back = relativeTo(at, STANDING);
      const turned = (way: Point3): Point3 => rotate(back.turn, way);
      const inside = { origin: toOutside(back, frame.origin), x: turned(frame.x), y: turned(frame.y), normal: turned(frame.normal) };
      const found = await this.client?.section(document, keys, inside);
      if (found?.ok !== true || !found.value) return undefined;
      curves.push(...found.value);
    }
    return curves;
  }

  /** How far components are shifted to be seen apart, by their ids, in millimetres. */
  explode(amount: number): ReadonlyMap<string, Point3> {
    if (amount === 0) return AS_IT_STANDS;
    const { values, placement } = this.store.getState();
    const directionAt: MateDirection = (mate, side) => {
      const reference = mate[side];
      const place = placeWithin(values, reference.path, this.standing);
      if (!place || !placement) return undefined;
      const shape = 'body' in reference ? this.book.shapes({ key: place.key, body: reference.body, name: reference.name }) : undefined;
      const geometry = datumGeometry(reference) ?? (shape === undefined || shape === 'lost' ? undefined : readInMirror(shape, place));
      return geometry && placeGeometry(geometry, place.at);
    };
    return explodeShifts(
      values,
      listSolids(this.placed, (key) => this.book.results.get(key)?.bodies),
      directionAt,
      amount,
    );
  }

  /** Of each make, the first that stands in the assembly, by its item number in the parts list: the middle of it, in millimetres. */
  itemPlaces(): readonly { readonly item: number; readonly component: string; readonly at: Point3 }[] {
    return groupByMake(this.placed).flatMap(([first], i) => {
      const boxes = (this.book.results.get(first.key)?.bodies ?? []).flatMap(({ properties }) => (properties ? boxAt(properties.box, first.at) : []));
      const [box] = boxes;
      if (!box) return [];
      const middle = ([0, 1, 2] as const).map((axis) => (box.min[axis] + box.max[axis]) / 2);
      const [x = 0, y = 0, z = 0] = middle;
      return [{ item: i + 1, component: plainId(first.path[0] ?? ''), at: [x, y, z] as const }];
    });
  }

  holdStances(): void {
    this.held ??= { last: this.last, lastTurned: this.lastTurned };
  }

  returnStances(): void {
    if (this.held) ({ last: this.last, lastTurned: this.lastTurned } = this.held);
    this.held = undefined;
  }

  keepStances(): void {
    this.held = undefined;
  }

  /** Shows a component dragged; what is measured is read along. */
  dragTo(pull: Pull | undefined): void {
    this.pull = pull;
    if (!pull) return;
    this.show();
    const wish = {};
    this.wish = wish;
    if (measuresGeometry(this.store.getState().document)) void this.measure(wish);
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
    if (measuresGeometry(this.store.getState().document)) void this.measure(wish);
    this.judging = setTimeout(() => void this.judge(wish), JUDGE_REST_MS);
  }

  private async judge(wish: object): Promise<void> {
    if (!this.judgement || !this.isCurrent(wish)) return;
    const { values } = this.store.getState();
    const found = await this.judgement.interference(
      values,
      this.standing,
      () => this.isCurrent(wish),
      () => this.store.setState({ interference: undefined }),
    );
    if (!found) return;
    this.store.setState({ interference: found });
    await this.measure(wish, found);
  }

  private isCurrent(wish: object): boolean {
    return this.wish === wish && !this.isClosed;
  }

  /** Reads what is measured on the assembly, and on those that stand in it, as they stand; what comes out different is built anew. */
  private async measure(wish: object, interference?: readonly Interference[]): Promise<void> {
    const { judgement } = this;
    if (!judgement) return;
    const { values } = this.store.getState();
    const order = ++this.readings;
    // While something is dragged, what was read a moment ago is taken too, unless something newer has been.
    const isWanted = (): boolean => !this.isClosed && order >= this.takenReading;
    let isChanged = false;
    for await (const { key, values: inside, found } of judgement.readAll(values, this.standing, isWanted, interference)) {
      this.takenReading = order;
      if (key !== WHOLE) this.library.keep(key, { ...this.library.built(key), measured: { ...this.library.built(key)?.measured, ...found } });
      if (!inside.setMeasured(found)) continue;
      isChanged = true;
      values.settle();
      this.store.setState((state) => ({ version: state.version + 1 }));
    }
    // What reads them may set values of components, and of mates.
    if (isChanged && this.isCurrent(wish)) this.regenerate();
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
    const placed = this.placed.flatMap(({ path, key, document, at, colour }): PlacedBody[] => {
      const result = this.book.results.get(key);
      const bodies = result?.bodies.flatMap(({ id, key: mesh }) =>
        mesh === undefined ? [] : { path, body: id, key: mesh, colour: colour ?? colourOfBody(document, id), at, isStale: false },
      );
      const name = path.join(' ');
      // The last good picture stays, where it stands now.
      return bodies ?? before.filter((body) => body.path.join(' ') === name).map((body) => ({ ...body, at, isStale: true }));
    });
    this.book.forgetOldest(MOST_BUILT, new Set(this.placed.map(({ key }) => key)));
    const kept = new Set([...placed.map(({ key }) => key), ...[...this.book.results.values()].flatMap(({ bodies }) => bodies.flatMap(({ key }) => key ?? []))]);
    const isKept = [...meshes.keys()].every((key) => kept.has(key));
    this.store.setState({ placed, placement, ...(isKept ? {} : { meshes: new Map([...meshes].filter(([key]) => kept.has(key))) }) });
  }

  /** Solves where everything stands, on from where it stood. */
  private place(values: DocumentValues): AssemblyPlacement {
    const { shapes } = this.book;
    // Those whose places were edited begin where they were put.
    const isWhere = (path: string, put: Component | undefined): boolean => {
      const component = findRecord(values.document, path.split(' ', 1)[0] ?? '', 'component');
      return component !== undefined && component.at === put?.at && component.inside === put?.inside;
    };
    const start = new Map([...this.last].flatMap(([path, { put, stance }]) => (isWhere(path, put) ? [[path, stance] as const] : [])));
    const mate = (id: string) => findRecord(values.document, id, 'mate');
    const turned = new Map([...this.lastTurned].flatMap(([id, one]) => (mate(id) === one.put ? [[id, one.turned] as const] : [])));
    const solved = placeComponents(values, shapes, { startAt: { stances: start, turned }, pull: this.pull });
    // What cannot be stays as it stood: mates that pull apart tear nothing.
    const placement =
      solved.status === 'placed' ? solved : { ...solved, stances: new Map([...solved.stances].map(([id, stance]) => [id, start.get(id) ?? stance])) };
    if (placement.status === 'placed') {
      const put = (path: string) => findRecord(values.document, path.split(' ', 1)[0] ?? '', 'component');
      this.last = new Map([...placement.stances].map(([path, stance]) => [path, { put: put(path), stance }]));
      this.lastTurned = new Map([...placement.turned].map(([id, angle]) => [id, { put: mate(id), turned: angle }]));
    }
    this.standing = placement === solved ? solved.standing : standingIn(values, placement.stances, shapes);
    this.placed = listPlaced(values, this.standing);
    // A drag does not tell how much everything can still move.
    const before = this.pull && this.store.getState().placement;
    return before ? { ...placement, freedom: before.freedom, degreesOfFreedom: before.degreesOfFreedom } : placement;
  }
}

/**
 * What has been built of the parts that stand in assemblies, by key: their results, and the faces and edges that mates hold on to. What is
 * measured on one part may set a value of the next, so that one goes on until nothing is left to build.
 */
import {
  listMeasured,
  listWanted,
  measuresOf,
  placeComponents,
  type GeometryShape,
  type Interference,
  type PlacedSolid,
  type ShapeSource,
  type WantedShape,
} from '@/core/assembly';
import type { Document, DocumentValues, MeasuredValue } from '@/core/document';
import { listPlaced, openValues, WHOLE, type BuiltInstance, type InstanceKey, type InstanceSource, type PlacedPart, type Standing } from '@/core/instances';
import type { BodyMesh } from '@/core/kernel-port';
import { readWhole, type Regenerated } from '@/core/steps';
import { AssemblyJudge } from './assembly-judge';
import type { RegenerationClient, RegenerationFailure } from './client';
import type { NamedGeometry } from './protocol';

export interface WantedPart {
  readonly part: PlacedPart;
  readonly describe: readonly NamedGeometry[];
}

export class PartBook {
  readonly results = new Map<InstanceKey, Regenerated>();
  readonly shapes: ShapeSource = (wanted) => this.described.get(shapeKey(wanted));
  private readonly described = new Map<string, GeometryShape | 'lost'>();
  private readonly failed = new Set<InstanceKey>();

  /** A part that has not been built, or of which faces or edges are still to be described; parts that failed are not asked for again. */
  next(values: DocumentValues): WantedPart | undefined {
    const wanted = listWanted(values).filter((one) => !this.described.has(shapeKey(one)));
    for (const part of listPlaced(values)) {
      if (this.failed.has(part.key)) continue;
      const describe = wanted.filter(({ key }) => key === part.key).map(({ body, name }) => ({ body, name }));
      if (!this.results.has(part.key) || describe.length > 0) return { part, describe };
    }
    return undefined;
  }

  takeShapes(key: InstanceKey, wanted: readonly NamedGeometry[], shapes: readonly (GeometryShape | null)[] = []): void {
    wanted.forEach(({ body, name }, i) => this.described.set(shapeKey({ key, body, name }), shapes[i] ?? 'lost'));
  }

  fail(key: InstanceKey): void {
    this.failed.add(key);
  }

  /** Lets go of the oldest results that nobody uses, down to so many. */
  forgetOldest(most: number, used: ReadonlySet<InstanceKey>): void {
    for (const key of this.results.keys()) {
      if (this.results.size <= most) return;
      if (!used.has(key)) this.results.delete(key);
    }
  }
}

function shapeKey({ key, body, name }: WantedShape): string {
  return `${key} ${body} ${name}`;
}

/** An assembly with the values that it has, and what was read off it as it stands. */
export interface MeasuredDocument {
  readonly document: Document;
  readonly measured: Readonly<Record<string, MeasuredValue>>;
}

/** An assembly with everything built that stands in it. */
export interface WholeAssembly {
  readonly values: DocumentValues;
  readonly source: InstanceSource;
  readonly standing: Standing;
  readonly shapes: ShapeSource;
  readonly results: ReadonlyMap<InstanceKey, Regenerated>;
  /** What stands in one another, where that was asked for. */
  readonly interference?: readonly Interference<PlacedSolid>[];
  /** What was read off it, and off assemblies that stand in it. */
  readonly measured: readonly MeasuredDocument[];
  /** By key of a body; empty where no meshes were asked for. */
  readonly meshes: ReadonlyMap<string, BodyMesh>;
}

interface BuildOptions {
  readonly built?: Map<InstanceKey, BuiltInstance>;
  readonly withMeshes?: boolean;
  /** Whether it is looked for what stands in one another. */
  readonly isJudged?: boolean;
}

/** Builds an assembly whole, part after part; `built` takes what each tells of itself. The failure of a part that could not be built at all. */
export async function buildWhole(
  client: RegenerationClient,
  document: Document,
  snapshot: InstanceSource['snapshot'],
  { built = new Map(), withMeshes = false, isJudged = false }: BuildOptions = {},
): Promise<WholeAssembly | { readonly failure: RegenerationFailure; readonly part: string }> {
  const book = new PartBook();
  const meshes = new Map<string, BodyMesh>();
  const source: InstanceSource = { snapshot, built: (key) => built.get(key) };
  const values = openValues(document, source);
  const { shapes, results } = book;
  const judge = new AssemblyJudge(client, book);
  const measured: MeasuredDocument[] = [];
  for (let round = 0; ; round++) {
    const next = book.next(values);
    if (!next) {
      const { standing } = placeComponents(values, shapes);
      measured.length = 0;
      const isChanged = await measureAll(judge, values, { standing, built, measured });
      if (isChanged && round < MOST_ROUNDS) continue;
      const interference = isJudged ? await judge.interference(values, standing, () => true) : undefined;
      return { values, source, shapes, results, meshes, standing, measured, ...(interference ? { interference } : {}) };
    }
    const { part, describe } = next;
    const reply = await client.regenerate(part.document, withMeshes ? [...meshes.keys()] : undefined, 'show', describe);
    if (!reply.ok) return { failure: reply.failure, part: part.document.name };
    book.takeShapes(part.key, describe, reply.value.shapes);
    results.set(part.key, reply.value.result);
    built.set(part.key, readWhole(reply.value.result));
    for (const [key, mesh] of Object.entries(reply.value.meshes)) meshes.set(key, mesh);
    values.settle();
  }
}

/** Values that are measured on one another go on for no longer than this. */
const MOST_ROUNDS = 10_000;

interface Measuring {
  readonly standing: Standing;
  readonly built: Map<InstanceKey, BuiltInstance>;
  readonly measured: MeasuredDocument[];
}

/** Reads what is measured on the assembly and on those that stand in it; whether anything came out different. */
async function measureAll(judge: AssemblyJudge, values: DocumentValues, { standing, built, measured }: Measuring): Promise<boolean> {
  const always = (): boolean => true;
  let isChanged = false;
  for (const { key, values: inside } of listMeasured(values)) {
    const wantsInterference = measuresOf(inside.document).some(({ measure }) => measure.what === 'interference');
    const interference = wantsInterference ? await judge.interference(inside, standing, always) : undefined;
    const found = (await judge.measure(inside, standing, always, interference)) ?? {};
    measured.push({ document: inside.document, measured: found });
    if (key !== WHOLE) built.set(key, { measured: found });
    if (!inside.setMeasured(found)) continue;
    isChanged = true;
    values.settle();
  }
  return isChanged;
}

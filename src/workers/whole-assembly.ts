/** An assembly built whole, part after part, measured and judged as it stands: for the server and the command line. */
import { placeComponents, type AssemblyPlacement, type Interference, type PlacedSolid, type ShapeSource, type Yielding } from '@/core/assembly';
import type { Document, DocumentValues, MeasuredValue } from '@/core/document';
import { openValues, WHOLE, type BuiltInstance, type InstanceKey, type InstanceSource, type Standing } from '@/core/instances';
import type { BodyMesh } from '@/core/kernel-port';
import { readWhole, type Regenerated } from '@/core/steps';
import { AssemblyJudge, wantsInterference, type JudgedPairs } from './assembly-judge';
import type { RegenerationClient } from './client';
import type { RegenerationFailure } from './one-worker';
import { PartBook } from './part-book';

/** An assembly with the values that it has, and what was read off it as it stands. */
export interface MeasuredDocument {
  readonly document: Document;
  readonly measured: Readonly<Record<string, MeasuredValue>>;
}

/** An assembly with everything built that stands in it. */
export interface WholeAssembly {
  readonly values: DocumentValues;
  readonly source: InstanceSource;
  /** Where everything stands, and what became of the mates. */
  readonly placement: AssemblyPlacement;
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
  /** Whether it is looked for what stands in one another; or for how long that goes on, after which it is not told. */
  readonly isJudged?: boolean | (() => boolean);
  /** What is known of pairs of bodies from other states: only what moved is looked at again. */
  readonly known?: JudgedPairs | undefined;
  /** Equations of mates that give way to the others. */
  readonly yielding?: Yielding | undefined;
}

/** Builds an assembly whole, part after part; `built` takes what each tells of itself. The failure of a part that could not be built at all. */
export async function buildWhole(
  client: RegenerationClient,
  document: Document,
  snapshot: InstanceSource['snapshot'],
  { built = new Map(), withMeshes = false, isJudged = false, known, yielding }: BuildOptions = {},
): Promise<WholeAssembly | { readonly failure: RegenerationFailure; readonly part: string }> {
  const book = new PartBook();
  const meshes = new Map<string, BodyMesh>();
  const source: InstanceSource = { snapshot, built: (key) => built.get(key) };
  const values = openValues(document, source);
  const { shapes, results } = book;
  const judge = new AssemblyJudge(client, book, known);
  const measured: MeasuredDocument[] = [];
  for (let round = 0; ; round++) {
    const next = book.next(values);
    if (!next) {
      const placement = placeComponents(values, shapes, yielding ? { yielding } : {});
      const { standing } = placement;
      measured.length = 0;
      const isChanged = await measureAll(judge, values, { standing, built, measured });
      if (isChanged && round < MOST_ROUNDS) continue;
      const interference = isJudged === false ? undefined : await judge.interference(values, standing, isJudged === true ? () => true : isJudged);
      return { values, source, shapes, results, meshes, placement, measured, ...(interference ? { interference } : {}) };
    }
    const { part, describe } = next;
    const reply = await client.regenerate(part.document, withMeshes ? [...meshes.keys()] : undefined, `part ${part.key}`, describe);
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
  const interference = wantsInterference(values.document) ? await judge.interference(values, standing, always) : undefined;
  let isChanged = false;
  for await (const { key, values: inside, found } of judge.readAll(values, standing, always, interference)) {
    measured.push({ document: inside.document, measured: found });
    if (key !== WHOLE) built.set(key, { measured: found });
    if (!inside.setMeasured(found)) continue;
    isChanged = true;
    values.settle();
  }
  return isChanged;
}

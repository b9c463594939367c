/**
 * Geometry in the background: after a revision is saved, its bodies are regenerated in a worker thread and
 * their properties attached to it, outside its content hash. Losing a job loses nothing but the figures.
 */
import { LRUCache } from 'lru-cache';
import { Op } from 'sequelize';
import type { SavedBody } from '@/contract';
import { measuresGeometry, type Document } from '@/core/document';
import { complete, pinText, type BuiltInstance, type CompleteDocument, type InstanceSource } from '@/core/instances';
import { readWhole, type Regenerated } from '@/core/steps';
import type { RegenerationClient } from '@/workers/client';
import type { RegenerationFailure } from '@/workers/one-worker';
import { drawnOfPart } from '@/workers/small-picture';
import { buildWhole, type WholeAssembly } from '@/workers/whole-assembly';
import { buildAssembly } from './assembly-build';
import type { Published, ToBuild, Together } from './calculation/operations';
import { calculate } from './calculation/run';
import { contentHash } from './content-hash';
import { database } from './db/connect';
import { DocumentRow, RevisionRow } from './db/models';
import { unpack } from './db/packing';
import { publish } from './events';
import { awaitedClient, inBackground } from './geometry-workers';
import { knowsNoAnswers } from './services/built-answers';
import { keepEvaluation, keepFailure, readTried } from './services/evaluations';
import { keepMeshes } from './services/pictures';
import { forgetPlanned } from './services/planned-documents';
import { readSnapshots } from './services/snapshots';
import { drawThumbnail } from './thumbnail';

const shared = globalThis as typeof globalThis & {
  /** Revisions that wait to be built: each stands in the queue once. */
  warpbeamScheduled?: Set<string>;
  warpbeamBuilt?: LRUCache<string, BuiltContent>;
  warpbeamInstances?: LRUCache<string, BuiltInstance>;
};

function scheduled(): Set<string> {
  return (shared.warpbeamScheduled ??= new Set());
}

/** A revision to be built in the background; `size` in characters. */
export interface RevisionToBuild {
  readonly documentId: string;
  readonly revision: number;
  readonly project: string;
  readonly size: number;
}

export function scheduleRegeneration({ documentId, revision, project, size }: RevisionToBuild): void {
  if (process.env['WARPBEAM_NO_JOBS'] === '1') return;
  const key = `${documentId} ${revision}`;
  if (scheduled().has(key)) return;
  scheduled().add(key);
  inBackground({ document: documentId, project, size }, (client) => attachBodies(client, documentId, revision))
    .catch((problem: unknown) => {
      console.error(`regenerating ${documentId} revision ${revision} failed:`, problem);
    })
    .finally(() => scheduled().delete(key));
}

/** How many revisions wait to be built, or are being built. */
export function countScheduled(): number {
  return scheduled().size;
}

/** What a document publishes, with what its geometry measures; without a kernel where it measures nothing. `size` in characters. */
export async function publishWithGeometry(document: Document, size: number): Promise<Published> {
  if (document.kind === 'assembly') return calculate('publish', { document, together: await buildTogether(document, size) }, size);
  const stands = await readSnapshots([document]);
  const built = document.kind === 'part' && measuresGeometry(document) ? await buildGeometry({ document, stands }) : undefined;
  return calculate('publish', { document, measured: built?.measured, together: { stands, built: new Map() } }, size);
}

/** What a document measures and which of its steps fail; undefined where it could not be built at all. */
export async function buildGeometry({ document, stands }: ToBuild): Promise<Regenerated | undefined> {
  if (document.kind === 'assembly') {
    const whole = await measureWhole(document, stands);
    const own = whole?.measured.find((one) => one.document === whole.values.document);
    return whole && { steps: [], bodies: [], measured: own?.measured ?? {}, rebuilt: 0 };
  }
  const whole = complete(document, snapshotsIn(stands));
  const reply = await awaitedClient(document.id).regenerate(whole, undefined, `part ${document.id}`);
  return reply.ok ? reply.value.result : undefined;
}

/** What the components of an assembly stand for, all of them built: what is measured on one may set a value of the next. */
export async function buildTogether(document: Document, size: number): Promise<Together> {
  const stands = await readSnapshots([document]);
  const built = new Map<string, BuiltInstance>();
  for (;;) {
    const unbuilt = await calculate('listUnbuilt', { document, together: { stands, built } }, size);
    if (unbuilt.length === 0) break;
    for (const part of unbuilt) built.set(contentHash(part), await buildInstance({ document: part, stands }));
  }
  if (![document, ...Object.values(stands)].some((one) => one.kind === 'assembly' && measuresGeometry(one))) return { stands, built };
  for (const one of (await measureWhole(document, stands))?.measured ?? []) built.set(contentHash(one.document), { measured: one.measured });
  return { stands, built };
}

function snapshotsIn(stands: ToBuild['stands']): Pick<InstanceSource, 'snapshot'> {
  return { snapshot: (source, revision) => stands[pinText({ source, revision })] };
}

async function measureWhole(document: Document, stands: ToBuild['stands']): Promise<WholeAssembly | undefined> {
  const { snapshot } = snapshotsIn(stands);
  const whole = await buildWhole(awaitedClient(document.id), document, snapshot);
  return 'failure' in whole ? undefined : whole;
}

/** Instances that were built lately. */
const MOST_INSTANCES = 2_000;

/** What an assembly reads of a part, whose values are set from outside as a rule; why it cannot, where it could not be built. */
export async function buildInstance({ document: part, stands }: ToBuild): Promise<BuiltInstance> {
  const kept = (shared.warpbeamInstances ??= new LRUCache({ max: MOST_INSTANCES }));
  // What is read off an assembly depends on what it stands on too.
  const content = part.kind === 'part' ? geometryHash(complete(part, snapshotsIn(stands))) : undefined;
  const known = content === undefined ? undefined : kept.get(content);
  if (known) return known;
  const result = await buildGeometry({ document: part, stands });
  const problem = { problem: `${part.name} could not be built.` };
  const built = result ? readWhole(result) : { measured: {}, mass: problem, volume: problem };
  if (content !== undefined) kept.set(content, built);
  return built;
}

/** Schedules the latest revisions that have no figures yet: those imported, or saved when the server was stopped. All of them, where another program built them. */
export async function scheduleMissing(): Promise<void> {
  database();
  const isOtherProgram = await knowsNoAnswers();
  const rows = await DocumentRow.findAll({
    attributes: ['id', 'projectId', 'revision', 'size'],
    where: { kind: ['part', 'assembly'], revision: { [Op.gt]: 0 } },
  });
  const wasTried = await readTried(rows.map(({ id }) => id));
  for (const { id, projectId, revision, size } of rows) {
    // Pages are shown what this program has built.
    const isWanted = isOtherProgram || !wasTried({ documentId: id, number: revision });
    if (isWanted) scheduleRegeneration({ documentId: id, revision, project: projectId, size });
  }
}

function describeFailure(failure: Extract<RegenerationFailure, { readonly kind: 'timed-out' | 'crashed' }>): string {
  return failure.kind === 'timed-out' ? `It took more than ${failure.seconds} seconds to build.` : `It could not be built: ${failure.message}`.slice(0, 300);
}

async function attachBodies(client: RegenerationClient, documentId: string, number: number): Promise<void> {
  const row = await RevisionRow.findOne({ where: { documentId, number } });
  if (!row) return;
  const kept = unpack<Document>(row.body);
  if (kept.kind === 'assembly') await attachAssembly(client, row, kept);
  if (kept.kind !== 'part') return;
  const stands = await readSnapshots([kept]);
  const document = complete(kept, snapshotsIn(stands));
  const content = geometryHash(document);
  const known = builtContents().get(content);
  const built = known ?? (await buildRevision(client, document, row));
  if (!built) return;
  builtContents().set(content, built);
  const owner = await DocumentRow.findByPk(documentId, { attributes: ['projectId', 'size'] });
  if (!owner) return;
  const published = await calculate('publish', { document: kept, measured: built.measured, together: { stands, built: new Map() } }, owner.size);
  await keepEvaluation(row, { bodies: built.bodies, published, thumbnail: built.thumbnail });
  forgetPlanned(documentId);
  await DocumentRow.update({ thumbnail: built.thumbnail ?? null }, { where: { id: documentId, revision: number } });
  publish({ type: 'project', project: owner.projectId });
}

async function attachAssembly(client: RegenerationClient, row: RevisionRow, document: Document): Promise<void> {
  const built = await buildAssembly(client, document, await readSnapshots([document]));
  if ('failure' in built) {
    const { failure } = built;
    // Tried in vain, it would be tried in vain again at every start.
    if (failure.kind === 'timed-out' || failure.kind === 'crashed') await keepFailure(row, describeFailure(failure));
    return;
  }
  const owner = await DocumentRow.findByPk(row.documentId, { attributes: ['projectId'] });
  if (!owner) return;
  await keepEvaluation(row, built);
  forgetPlanned(row.documentId);
  await DocumentRow.update({ thumbnail: built.thumbnail ?? null }, { where: { id: row.documentId, revision: row.number } });
  publish({ type: 'project', project: owner.projectId });
}

/** What a revision is attached that was built. */
interface BuiltContent {
  readonly bodies: readonly SavedBody[];
  readonly measured: Regenerated['measured'];
  readonly thumbnail: Buffer | undefined;
}

/** Contents that were built lately: a copy of a document, under whatever id, is not built again. */
const MOST_BUILT = 300;

function builtContents(): LRUCache<string, BuiltContent> {
  return (shared.warpbeamBuilt ??= new LRUCache({ max: MOST_BUILT }));
}

/** Fingerprint of all that geometry depends on: which document it is, what it is called and where its values come from are no part of it. */
function geometryHash(document: CompleteDocument): string {
  return contentHash({
    ...document,
    id: '',
    name: '',
    records: Object.fromEntries(
      Object.entries(document.records).map(([id, record]) => [id, record.type === 'link' ? { ...record, source: '', sourceName: '' } : record]),
    ),
  });
}

/** Undefined where it could not be built, which is noted. */
async function buildRevision(client: RegenerationClient, document: CompleteDocument, row: RevisionRow): Promise<BuiltContent | undefined> {
  const reply = await client.regenerate(document, [], `part ${document.id}`);
  if (!reply.ok) {
    // Tried in vain, it would be tried in vain again at every start. One that the server's end cut short is not such.
    if (reply.failure.kind === 'timed-out' || reply.failure.kind === 'crashed') await keepFailure(row, describeFailure(reply.failure));
    return undefined;
  }
  const { result, meshes } = reply.value;
  await keepMeshes(meshes);
  const bodies: SavedBody[] = result.bodies.map(({ id, name, key, mass, properties }) => ({
    id,
    name,
    ...(key === undefined ? {} : { key }),
    ...(mass === undefined ? {} : { mass }),
    ...(properties ? { properties } : {}),
  }));
  return { bodies, measured: result.measured, thumbnail: drawThumbnail(drawnOfPart(document, result, meshes)) };
}

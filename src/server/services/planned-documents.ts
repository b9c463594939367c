/**
 * The documents of a project as catch-up plans need them, and how they stand to one another. What was unpacked once is
 * kept while its head stands where it stood; heads are read anew each time, so that nothing kept is ever shown as fresh.
 */
import { setImmediate as nextTurn } from 'node:timers/promises';
import { LRUCache } from 'lru-cache';
import { col, Op } from 'sequelize';
import type { SavedBody, UnsavedSource } from '@/contract';
import { hasComponents, listIds, type DocumentKind } from '@/core/document';
import type { BuiltInstance } from '@/core/instances';
import { linkedNode, listSources, reachOf, type CatchUpPlan, type PlannedDocument } from '@/core/links';
import { ALONE } from '../calculation/operations';
import { calculate } from '../calculation/run';
import { database } from '../db/connect';
import { DocumentRow, EvaluationRow, RevisionRow } from '../db/models';
import { unpack } from '../db/packing';
import { publishedOf } from './evaluations';
import { readState } from './document-store';
import { readSnapshots, readStands } from './snapshots';

export interface LoadedDocument {
  /** Where it stood when it was read. */
  readonly head: Pick<DocumentRow, 'id' | 'seq' | 'revision' | 'savedSeq' | 'name' | 'size'>;
  readonly planned: PlannedDocument;
  readonly bodies: readonly SavedBody[];
  /** Guards that do not hold now, measured values as of the latest revision. */
  readonly brokenGuards: number;
}

/** Nothing is built for how documents stand: what only geometry tells waits. */
const NOT_BUILT: ReadonlyMap<string, BuiltInstance> = new Map();

/** Packed bytes of documents that are kept unpacked. */
const MOST_KEPT = 16_000_000;
const MOST_PROJECTS = 8;
const MOST_FORGOTTEN = 10_000;

// On globalThis: route handlers and start-up are separate bundles.
const shared = globalThis as typeof globalThis & {
  warpbeamPlanned?: {
    readonly documents: LRUCache<string, LoadedDocument>;
    readonly standings: LRUCache<string, KeptStanding>;
    /** By document: the count at which it was last forgotten. What was read before that is not kept. */
    readonly forgotten: LRUCache<string, number>;
    count: number;
  };
};

function kept() {
  return (shared.warpbeamPlanned ??= {
    documents: new LRUCache({ maxSize: MOST_KEPT }),
    standings: new LRUCache({ max: MOST_PROJECTS }),
    forgotten: new LRUCache({ max: MOST_FORGOTTEN }),
    count: 0,
  });
}

/** What was attached to a revision after it was made is to be read anew. */
export function forgetPlanned(documentId: string): void {
  const { documents, forgotten } = kept();
  documents.delete(documentId);
  // Whoever is reading it just now may have read it as it was.
  forgotten.set(documentId, ++kept().count);
}

/** A document that cannot be read. It is left out of every list and plan, which go on without it. */
export interface BrokenDocument {
  readonly id: string;
  readonly name: string;
  readonly reason: string;
}

/** All documents of a project that can be read, by kind and name. */
export async function loadPlanned(projectId: string): Promise<LoadedDocument[]> {
  return (await loadProject(projectId)).loaded;
}

/** All documents of a project: one query for the heads, and one for those that moved. */
async function loadProject(projectId: string): Promise<{ readonly loaded: LoadedDocument[]; readonly broken: readonly BrokenDocument[] }> {
  database();
  const { documents } = kept();
  const heads = await DocumentRow.findAll({ attributes: ['id', 'seq', 'revision'], where: { projectId } });
  const isKept = ({ id, seq, revision }: DocumentRow): boolean => {
    const known = documents.get(id);
    return known?.head.seq === seq && known.head.revision === revision;
  };
  // Held here too: a project may be larger than what is kept.
  const loaded = new Map(heads.filter(isKept).map(({ id }) => [id, documents.get(id)]));
  const { entries, broken } = await readMoved(heads.filter((head) => !isKept(head)).map(({ id }) => id));
  for (const entry of entries) loaded.set(entry.head.id, entry);
  return { loaded: [...loaded.values()].flatMap((entry) => entry ?? []).sort(inOrder), broken };
}

const KIND_ORDER: Readonly<Record<DocumentKind, number>> = { master: 0, calc: 1, part: 2, assembly: 3 };
const NAMES = new Intl.Collator('en', { numeric: true });

/** As people look for documents: by kind, masters first, then by name, `Rail 2` before `Rail 10`. */
function inOrder({ head: a, planned: { document: one } }: LoadedDocument, { head: b, planned: { document: other } }: LoadedDocument): number {
  return KIND_ORDER[one.kind] - KIND_ORDER[other.kind] || NAMES.compare(a.name, b.name) || (a.id < b.id ? -1 : 1);
}

/** Of the latest revision of each. */
const LATEST = { where: { number: { [Op.eq]: col('Document.revision') } }, required: false };

async function readMoved(ids: readonly string[]): Promise<{ readonly entries: readonly LoadedDocument[]; readonly broken: readonly BrokenDocument[] }> {
  if (ids.length === 0) return { entries: [], broken: [] };
  const since = kept().count;
  const rows = await DocumentRow.findAll({
    attributes: { exclude: ['thumbnail'] },
    where: { id: [...ids] },
    include: [
      { model: RevisionRow, as: 'revisions', attributes: ['documentId', 'number', 'hash', 'published'], ...LATEST },
      { model: EvaluationRow, as: 'evaluations', attributes: ['documentId', 'number', 'published', 'bodies'], ...LATEST },
    ],
  });
  const entries: LoadedDocument[] = [];
  const broken: BrokenDocument[] = [];
  for (const row of rows) {
    await nextTurn();
    try {
      entries.push(await readEntry(row, since));
    } catch (problem) {
      // Stored by a program with a fault, or damaged: what else there is must not suffer from it.
      console.error(`document ${row.id} cannot be read:`, problem);
      broken.push({ id: row.id, name: row.name, reason: problem instanceof Error ? problem.message : String(problem) });
    }
  }
  return { entries, broken };
}

/** `since`: what is forgotten after this count is not kept. */
async function readEntry(row: DocumentRow, since: number): Promise<LoadedDocument> {
  const [[revision], [evaluation = null]] = [row.revisions ?? [], row.evaluations ?? []];
  const document = readState(row);
  const { id, seq, savedSeq, name, size } = row;
  const together = hasComponents(document) ? { stands: await readSnapshots([document]), built: NOT_BUILT } : ALONE;
  const published = revision ? publishedOf({ published: revision.published, evaluation }) : await calculate('publish', { document, together }, size);
  const entry: LoadedDocument = {
    head: { id, seq, revision: row.revision, savedSeq, name, size },
    planned: {
      document,
      revision: row.revision,
      hash: revision?.hash ?? '',
      published,
    },
    bodies: evaluation?.bodies ? unpack<SavedBody[]>(evaluation.bodies) : [],
    brokenGuards: listIds(document, 'guards').length === 0 ? 0 : await calculate('countBrokenGuards', { document, published, together }, size),
  };
  const { documents, forgotten } = kept();
  if ((forgotten.get(id) ?? 0) <= since) documents.set(id, entry, { size: row.body.length + (revision?.published.length ?? 0) });
  return entry;
}

/** How documents stand to one another: what catching up all of them would bring. */
export interface Standing {
  readonly loaded: readonly LoadedDocument[];
  readonly plan: CatchUpPlan;
  readonly broken: readonly BrokenDocument[];
}

/** A standing that is known, or is being made, of what was loaded then. */
interface KeptStanding {
  readonly loaded: readonly LoadedDocument[];
  readonly broken: readonly BrokenDocument[];
  readonly standing: Promise<Standing>;
}

export async function readStanding(projectId: string): Promise<Standing> {
  const { loaded, broken } = await loadProject(projectId);
  return standingOf(projectId, loaded, broken);
}

/** How one document stands: among what it takes from alone, which is little also in a large project. */
export async function readStandingNear(projectId: string, documentId: string): Promise<Standing> {
  const loaded = await loadPlanned(projectId);
  const near = reachOf(
    loaded.map(({ planned }) => linkedNode(planned.document)),
    documentId,
    'sources',
  );
  return standAmong(loaded.filter(({ head }) => near.has(head.id)));
}

/** Made once of what is loaded, however many ask. */
function standingOf(projectId: string, loaded: readonly LoadedDocument[], broken: readonly BrokenDocument[]): Promise<Standing> {
  const { standings } = kept();
  const known = standings.get(projectId);
  const isKnown = known?.loaded.length === loaded.length && known.loaded.every((entry, i) => entry === loaded[i]);
  if (isKnown && known.broken.length === broken.length) return known.standing;
  const standing = standWithout(loaded, broken);
  standings.set(projectId, { loaded, broken, standing });
  // Tried in vain, it would be tried in vain again: whoever asks gets the reason.
  standing.catch(() => undefined);
  return standing;
}

/** A document that no plan can be made with is left out like one that cannot be read. */
async function standWithout(loaded: readonly LoadedDocument[], broken: readonly BrokenDocument[]): Promise<Standing> {
  try {
    return { ...(await standAmong(loaded)), broken };
  } catch (problem) {
    console.error('a project cannot be planned as a whole:', problem);
    const faults = new Map<LoadedDocument, string>();
    for (const entry of loaded) {
      const fault = await faultOf(entry);
      if (fault !== undefined) faults.set(entry, fault);
    }
    if (faults.size === 0) throw problem;
    const named = [...faults].map(([{ head }, reason]) => ({ id: head.id, name: head.name, reason }));
    return { ...(await standAmong(loaded.filter((entry) => !faults.has(entry)))), broken: [...broken, ...named] };
  }
}

async function faultOf({ planned, head }: LoadedDocument): Promise<string | undefined> {
  try {
    await calculate('publish', { document: planned.document }, head.size);
    return undefined;
  } catch (problem) {
    return problem instanceof Error ? problem.message : String(problem);
  }
}

async function standAmong(loaded: readonly LoadedDocument[]): Promise<Standing> {
  const targets = new Set(loaded.map(({ head }) => head.id));
  const documents = loaded.map(({ planned }) => planned);
  const together = { stands: await readStands(documents), built: NOT_BUILT };
  const { plan } = await calculate('plan', { documents, targets, isStrict: true, together }, sizeOfPlan(loaded));
  return { loaded, plan, broken: [] };
}

/** Characters of what a plan may evaluate: documents that take nothing stay as they are. */
export function sizeOfPlan(loaded: readonly LoadedDocument[]): number {
  return loaded.reduce((sum, { head, planned }) => sum + (listSources(planned.document).length > 0 ? head.size : 0), 0);
}

/** Sources of a document with edits that are in no revision yet: it does not see them. */
export function listUnsavedSources({ loaded }: Standing, documentId: string): UnsavedSource[] {
  const own = loaded.find(({ head }) => head.id === documentId);
  const sources = new Set(own ? listSources(own.planned.document).map(({ source }) => source) : []);
  return loaded.flatMap(({ head }) =>
    sources.has(head.id) && head.seq > head.savedSeq ? [{ id: head.id, name: head.name, edits: head.seq - head.savedSeq }] : [],
  );
}

/** What a document takes that has another value at its source now: none when it is up to date. */
export function listBehind({ plan }: Standing, documentId: string) {
  return (plan.documents.find(({ id }) => id === documentId)?.changes ?? []).filter(({ isTaken }) => isTaken);
}

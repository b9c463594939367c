/** The list of projects: how each stands, when it was changed, and a picture of it. */
import PQueue from 'p-queue';
import { BaseError, Op, type FindOptions } from 'sequelize';
import type { ProjectCard } from '@/contract';
import { listSources } from '@/core/links';
import { DocumentRow, EditRow, ProjectRow, RevisionRow } from '../db/models';
import { publish } from '../events';
import { listPictured } from './pictures';
import { readStanding, type LoadedDocument, type Standing } from './planned-documents';

type KnownCard = Pick<ProjectCard, 'id' | 'name' | 'documents'>;

export async function listProjects(): Promise<ProjectCard[]> {
  const projects = await ProjectRow.findAll({ order: [['createdAt', 'ASC']] });
  const counts = await DocumentRow.count({ group: ['projectId'] });
  const documents = new Map(counts.map((row) => [String(row['projectId']), row.count]));
  return Promise.all(projects.map(({ id, name }) => describeProject({ id, name, documents: documents.get(id) ?? 0 })));
}

/** Many projects are not looked through all at once: others need the database too. */
const looking = new PQueue({ concurrency: 3 });

/** How long a list waits to know how a project stands, in milliseconds. */
const LIST_TIME_LIMIT_MS = 400;

/** One that cannot be opened is listed with the reason, and one that takes long without its counts: the others are there all the same. */
async function describeProject(card: KnownCard): Promise<ProjectCard> {
  try {
    const described = looking.add(async () => describeStanding(card, await readStanding(card.id)));
    const known = await withinTimeLimit(described);
    if (known) return known;
    const tell = (): void => publish({ type: 'project', project: card.id });
    described.then(tell, tell);
    return card;
  } catch (problem) {
    if (!(problem instanceof Error) || problem instanceof BaseError) throw problem;
    console.error(`project ${card.id} cannot be opened:`, problem);
    return { ...card, documents: 0, behind: 0, problem: problem.message };
  }
}

async function describeStanding({ id, name }: KnownCard, standing: Standing): Promise<ProjectCard> {
  const { loaded, broken, plan } = standing;
  const pictured = await listPictured(id);
  const shown = chooseShown(loaded, pictured);
  if (!changes.has(standing)) changes.set(standing, await lastChange(loaded.map(({ head }) => head)));
  const changed = changes.get(standing);
  return {
    id,
    name,
    documents: loaded.length + broken.length,
    behind: plan.documents.length,
    failing: loaded.filter(({ planned, brokenGuards }) => brokenGuards > 0 || Object.values(planned.published).some(({ kind }) => kind === 'refused')).length,
    ...(shown ? { picture: { document: shown.head.id, revision: shown.head.revision } } : {}),
    ...(changed ? { changed } : {}),
  };
}

/** What a project is about: of the documents that have a picture one that goes into no other, an assembly rather than a part. */
export function chooseShown(documents: readonly LoadedDocument[], pictured: ReadonlySet<string>): LoadedDocument | undefined {
  const taken = new Set(documents.flatMap(({ planned }) => listSources(planned.document).map(({ source }) => source)));
  const candidates = documents.filter(({ head }) => pictured.has(head.id));
  return candidates.findLast(({ head }) => !taken.has(head.id)) ?? candidates.at(-1);
}

/** A standing is kept as long as no head has moved, and so is when that was. */
const changes = new WeakMap<Standing, ProjectCard['changed']>();

/** The latest edit or revision of some documents. Each is found by its key, however many there are. */
async function lastChange(heads: readonly Standing['loaded'][number]['head'][]): Promise<ProjectCard['changed']> {
  const edited = heads.filter(({ seq }) => seq > 0);
  const found = await Promise.all([
    edited.length > 0 && EditRow.findOne({ ...LATEST, where: { [Op.or]: edited.map(({ id, seq }) => ({ documentId: id, seq })) } }),
    heads.length > 0 && RevisionRow.findOne({ ...LATEST, where: { [Op.or]: heads.map(({ id, revision }) => ({ documentId: id, number: revision })) } }),
  ]);
  const changes = found.flatMap((row) => (row ? [{ at: row.createdAt.toISOString(), author: row.author }] : []));
  return changes.sort((a, b) => b.at.localeCompare(a.at))[0];
}

const LATEST = { attributes: ['author', 'createdAt'], order: [['createdAt', 'DESC']] } satisfies FindOptions;

/** Undefined where it takes longer. */
async function withinTimeLimit<T>(work: Promise<T>): Promise<T | undefined> {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const late = new Promise<undefined>((settle) => {
    timer = setTimeout(() => settle(undefined), LIST_TIME_LIMIT_MS);
  });
  return Promise.race([work, late]).finally(() => clearTimeout(timer));
}

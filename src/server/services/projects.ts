/** Projects: listing, importing and exporting the open file, the state of all their documents. */
import type { z } from 'zod';
import type { newDocumentSchema, ProjectCard, ProjectReply } from '@/contract';
import {
  createDocument,
  DocumentValues,
  listHashes,
  listIds,
  listRecords,
  putContentsIn,
  readProjectFile,
  takeContentsOut,
  writeProjectFile,
  type Document,
} from '@/core/document';
import { fail, succeed, type Result } from '@/core/kit';
import { publishValues } from '@/core/links';
import { BaseError, Op, type Transaction } from 'sequelize';
import { publish } from '../events';
import { DocumentRow, ProjectRow } from '../db/models';
import { pack } from '../db/packing';
import { writeChanges } from './document-store';
import { keepContents, readContents } from './files';
import { newId } from './ids';
import { listBehind, readStanding } from './planned-documents';
import { inOneTransaction, refuse, type Refusal } from './refusal';
import { listDeletedDocuments } from './deletion';

export async function listProjects(): Promise<ProjectCard[]> {
  const projects = await ProjectRow.findAll({ order: [['createdAt', 'ASC']] });
  return Promise.all(projects.map(({ id, name }) => describeProject(id, name)));
}

/** One that cannot be opened is listed with the reason: the others are there all the same. */
async function describeProject(id: string, name: string): Promise<ProjectCard> {
  try {
    const { loaded, plan, broken } = await readStanding(id);
    return { id, name, documents: loaded.length + broken.length, behind: plan.documents.length };
  } catch (problem) {
    if (!(problem instanceof Error) || problem instanceof BaseError) throw problem;
    console.error(`project ${id} cannot be opened:`, problem);
    return { id, name, documents: 0, behind: 0, problem: problem.message };
  }
}

export async function readProject(id: string): Promise<Result<ProjectReply, Refusal>> {
  const project = await ProjectRow.findByPk(id);
  if (!project) return fail(refuse('not-found', 'There is no such project.'));
  const standing = await readStanding(id);
  const pictured = new Set((await DocumentRow.findAll({ attributes: ['id'], where: { projectId: id, thumbnail: { [Op.not]: null } } })).map((row) => row.id));
  return succeed({
    id,
    name: project.name,
    broken: standing.broken,
    deleted: await listDeletedDocuments(id),
    documents: standing.loaded.map(({ head, planned: { document, published }, bodies, brokenGuards }) => ({
      id: document.id,
      name: document.name,
      kind: document.kind,
      revision: head.revision,
      unsavedEdits: head.seq - head.savedSeq,
      behind: listBehind(standing, document.id).length,
      failing: Object.values(published).filter(({ kind }) => kind === 'refused').length,
      brokenGuards,
      links: listRecords(document, 'links', 'link').map(({ id: link, source, policy }) => ({
        source,
        policy,
        values: listIds(document, `${link}/takes`).length,
      })),
      bodies,
      hasThumbnail: pictured.has(document.id),
    })),
  });
}

/** Imports a project file. Documents whose ids are taken get fresh ones, and links follow. */
export async function importProject(text: string, author: string): Promise<Result<{ readonly id: string; readonly name: string }, Refusal>> {
  const file = readProjectFile(text);
  if (!file.ok) {
    const [first] = file.failure;
    return fail(refuse('bad-file', first?.message ?? 'The file cannot be read.', { problems: file.failure }));
  }
  const id = newId();
  const done = await inOneTransaction(async (transaction) => {
    await ProjectRow.create({ id, name: file.value.name, createdAt: new Date() }, { transaction });
    const known = await DocumentRow.unscoped().findAll({ attributes: ['id'], where: { id: file.value.documents.map((document) => document.id) }, transaction });
    const fresh = new Map(known.map((row) => [row.id, newId()]));
    await insertDocuments(
      id,
      file.value.documents.map((document) => withFreshIds(document, fresh)),
      author,
      transaction,
    );
  });
  return done.ok ? succeed({ id, name: file.value.name }) : done;
}

export async function createProject(name: string): Promise<{ readonly id: string; readonly name: string }> {
  const id = newId();
  await ProjectRow.create({ id, name, createdAt: new Date() });
  publish({ type: 'project', project: id });
  return { id, name };
}

/** A new, empty document with its first revision. */
export async function createDocumentIn(project: string, wanted: z.infer<typeof newDocumentSchema>): Promise<Result<{ readonly id: string }, Refusal>> {
  if (!(await ProjectRow.findByPk(project))) return fail(refuse('not-found', 'There is no such project.'));
  const document = createDocument(newId(), wanted.kind, wanted.name);
  const done = await inOneTransaction((transaction) => insertDocuments(project, [document], wanted.author, transaction));
  if (!done.ok) return done;
  publish({ type: 'project', project });
  return succeed({ id: document.id });
}

async function insertDocuments(projectId: string, whole: readonly Document[], author: string, transaction: Transaction): Promise<void> {
  const { data: documents, contents } = takeContentsOut(whole);
  const rows = await DocumentRow.bulkCreate(
    documents.map((document) => ({
      id: document.id,
      projectId,
      kind: document.kind,
      name: document.name,
      body: pack(document),
      seq: 0,
      revision: 0,
      savedSeq: 0,
    })),
    { transaction },
  );
  for (const document of documents) await keepContents(document.id, listHashes(document), contents, transaction);
  const changes = rows.flatMap((row, i) => {
    const document = documents[i];
    const published = document && publishValues(new DocumentValues(document));
    return published ? [{ row, envelopes: [], revision: { published, message: 'Imported', author, changeSet: null } }] : [];
  });
  await writeChanges(changes, transaction);
}

function withFreshIds(document: Document, fresh: ReadonlyMap<string, string>): Document {
  const records = Object.fromEntries(
    Object.entries(document.records).map(([id, record]) => [
      id,
      record.type === 'link' ? { ...record, source: fresh.get(record.source) ?? record.source } : record,
    ]),
  );
  return { ...document, id: fresh.get(document.id) ?? document.id, records };
}

export async function exportProject(id: string): Promise<Result<string, Refusal>> {
  const project = await ProjectRow.findByPk(id);
  if (!project) return fail(refuse('not-found', 'There is no such project.'));
  const { loaded: planned, broken } = await readStanding(id);
  const [lost] = broken;
  // A file without it would look whole.
  if (lost)
    return fail(
      refuse('bad-file', `${lost.name} cannot be read (${lost.reason}), so the project cannot be exported. Delete that document, then export again.`),
    );
  const documents = planned.map((entry) => entry.planned.document);
  return succeed(writeProjectFile({ name: project.name, documents: putContentsIn(documents, await readContents(listHashes(documents))) }));
}

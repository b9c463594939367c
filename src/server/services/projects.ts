/** Projects: listing, importing and exporting the open file, the state of all their documents. */
import { customAlphabet } from 'nanoid';
import type { z } from 'zod';
import type { newDocumentSchema, ProjectCard, ProjectReply, SavedBody } from '@/contract';
import { createDocument, DocumentValues, listIds, listRecords, readProjectFile, writeProjectFile, type Document, type TakenValue } from '@/core/document';
import { fail, succeed, type Result } from '@/core/kit';
import { findBehind, publishValues, type PlannedDocument } from '@/core/links';
import { Op, type Transaction } from 'sequelize';
import { database } from '../db/connect';
import { publish } from '../events';
import { DocumentRow, ProjectRow, RevisionRow } from '../db/models';
import { pack, unpack } from '../db/packing';
import { readState, writeRevision } from './document-store';
import { refuse, type Refusal } from './refusal';

export const newId = customAlphabet('0123456789abcdefghijklmnopqrstuvwxyz', 12);

export async function listProjects(): Promise<ProjectCard[]> {
  const projects = await ProjectRow.findAll({ order: [['createdAt', 'ASC']] });
  return Promise.all(
    projects.map(async ({ id, name }) => {
      const planned = await loadPlanned(id);
      return { id, name, documents: planned.length, behind: findBehind(planned.map((entry) => entry.planned)).size };
    }),
  );
}

export async function readProject(id: string): Promise<Result<ProjectReply, Refusal>> {
  const project = await ProjectRow.findByPk(id);
  if (!project) return fail(refuse('not-found', 'There is no such project.'));
  const planned = await loadPlanned(id);
  const behind = findBehind(planned.map((entry) => entry.planned));
  const pictured = new Set((await DocumentRow.findAll({ attributes: ['id'], where: { projectId: id, thumbnail: { [Op.not]: null } } })).map((row) => row.id));
  return succeed({
    id,
    name: project.name,
    documents: planned.map(({ row, planned: { document }, bodies }) => ({
      id: document.id,
      name: document.name,
      kind: document.kind,
      revision: row.revision,
      unsavedEdits: row.seq - row.savedSeq,
      behind: behind.get(document.id) ?? 0,
      sources: listRecords(document, 'links', 'link').map((link) => link.source),
      links: listRecords(document, 'links', 'link').map(({ id: link, source }) => ({ source, values: listIds(document, `${link}/takes`).length })),
      bodies,
      hasThumbnail: pictured.has(document.id),
    })),
  });
}

export interface LoadedDocument {
  readonly row: DocumentRow;
  readonly planned: PlannedDocument;
  readonly bodies: readonly SavedBody[];
}

/** All documents of a project as catch-up plans need them, in order of their names' making. */
export async function loadPlanned(projectId: string, transaction?: Transaction): Promise<LoadedDocument[]> {
  const within = { transaction: transaction ?? null };
  const rows = await DocumentRow.findAll({ attributes: { exclude: ['thumbnail'] }, where: { projectId }, order: [['id', 'ASC']], ...within });
  const revisions = await RevisionRow.findAll({
    attributes: ['documentId', 'number', 'hash', 'published', 'bodies'],
    where: { documentId: rows.map((row) => row.id) },
    ...within,
  });
  const latest = new Map<string, RevisionRow>();
  for (const revision of revisions) {
    if ((latest.get(revision.documentId)?.number ?? 0) < revision.number) latest.set(revision.documentId, revision);
  }
  const kinds = { master: 0, part: 1 };
  return rows
    .map((row) => {
      const document = readState(row);
      const revision = latest.get(row.id);
      return {
        row,
        planned: {
          document,
          revision: row.revision,
          hash: revision?.hash ?? '',
          published: revision ? unpack<Record<string, TakenValue>>(revision.published) : publishValues(new DocumentValues(document)),
          hasUnsavedEdits: row.seq !== row.savedSeq,
        },
        bodies: revision?.bodies ? unpack<SavedBody[]>(revision.bodies) : [],
      };
    })
    .sort((a, b) => kinds[a.planned.document.kind] - kinds[b.planned.document.kind]);
}

/** Imports a project file. Documents whose ids are taken get fresh ones, and links follow. */
export async function importProject(text: string, author: string): Promise<Result<{ readonly id: string; readonly name: string }, Refusal>> {
  const file = readProjectFile(text);
  if (!file.ok) {
    const [first] = file.failure;
    return fail(refuse('bad-file', first?.message ?? 'The file cannot be read.', { problems: file.failure }));
  }
  const id = newId();
  await database().transaction(async (transaction) => {
    await ProjectRow.create({ id, name: file.value.name, createdAt: new Date() }, { transaction });
    const known = await DocumentRow.findAll({ attributes: ['id'], where: { id: file.value.documents.map((document) => document.id) }, transaction });
    const fresh = new Map(known.map((row) => [row.id, newId()]));
    for (const document of file.value.documents) await insertDocument(id, withFreshIds(document, fresh), author, transaction);
  });
  return succeed({ id, name: file.value.name });
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
  await database().transaction((transaction) => insertDocument(project, document, wanted.author, transaction));
  publish({ type: 'project', project });
  return succeed({ id: document.id });
}

async function insertDocument(projectId: string, document: Document, author: string, transaction: Transaction): Promise<void> {
  const row = await DocumentRow.create(
    { id: document.id, projectId, kind: document.kind, name: document.name, body: pack(document), seq: 0, revision: 0, savedSeq: 0 },
    { transaction },
  );
  const published = publishValues(new DocumentValues(document));
  await writeRevision(row, { document, published, message: 'Imported', author, changeSet: null }, transaction);
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
  const planned = await loadPlanned(id);
  return succeed(writeProjectFile({ name: project.name, documents: planned.map((entry) => entry.planned.document) }));
}

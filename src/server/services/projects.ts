/** Projects: importing and exporting the open file, the state of all their documents. */
import { readFile } from 'node:fs/promises';
import path from 'node:path';
import type * as z from 'zod/mini';
import type { changeProjectSchema, DocumentCard, newDocumentSchema, ProjectReply } from '@/contract';
import { createDocument, listHashes, listIds, listRecords, putContentsIn, writeProjectFile, type Document, type FileProblem } from '@/core/document';
import { listEarlierStates, pinText } from '@/core/instances';
import { fail, succeed, type Result } from '@/core/kit';
import type { Transaction } from 'sequelize';
import { calculate } from '../calculation/run';
import { readyDocument, type ProjectContents, type ReadyDocument } from '../calculation/operations';
import { database } from '../db/connect';
import { DocumentRow, ProjectRow, RevisionRow } from '../db/models';
import { publish } from '../events';
import { checkDocumentSize, checkProjectSizes, CHUNK, writeLinkIndex } from './document-store';
import { keepContents, readContents, sizeOfContents } from './files';
import { newId } from './ids';
import { listPictured } from './pictures';
import { listBehind, readStanding } from './planned-documents';
import { inOneTransaction, refuse, type Refusal } from './refusal';
import { listDeletedDocuments } from './deletion';
import { readSnapshots } from './snapshots';
import { insertWhatIfs, listWhatIfs } from './what-ifs';

export async function readProject(id: string): Promise<Result<ProjectReply, Refusal>> {
  const project = await ProjectRow.findByPk(id);
  if (!project) return fail(refuse('not-found', 'There is no such project.'));
  const standing = await readStanding(id);
  const pictured = await listPictured(id);
  return succeed({
    id,
    name: project.name,
    material: project.material,
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
      links: listTakings(document),
      bodies,
      hasThumbnail: pictured.has(document.id),
    })),
  });
}

/** What it takes from each source: values through a link, or components. */
function listTakings(document: Document): DocumentCard['links'] {
  const links = listRecords(document, 'links', 'link').map(({ id: link, source, policy }) => ({
    source,
    policy,
    values: listIds(document, `${link}/takes`).length,
  }));
  const components = listRecords(document, 'components', 'component');
  const sources = new Map(components.map((component) => [component.source, component.policy]));
  const counted = [...sources].map(([source, policy]) => ({ source, policy, values: components.filter((one) => one.source === source).length }));
  return [...links, ...counted];
}

/** Imports a project file. Documents whose ids are taken get fresh ones, and links follow. */
export async function importProject(text: string, author: string): Promise<Result<{ readonly id: string; readonly name: string }, Refusal>> {
  // Read twice, as nothing is kept in a thread: what takes long is the evaluation after it.
  const file = await calculate('checkProject', text, text.length);
  if (!file.ok) return fail(badFile(file.failure));
  // Who imports the same file at the same moment takes its ids: they are taken then, and others are found.
  const first = await insertProject(text, file.value, author);
  return first.ok || first.failure.code !== 'moved-on' ? first : insertProject(text, file.value, author);
}

async function insertProject(
  text: string,
  { name, material, ids, whatIfs }: ProjectContents,
  author: string,
): Promise<Result<{ readonly id: string; readonly name: string }, Refusal>> {
  database();
  const known = await DocumentRow.unscoped().findAll({ attributes: ['id'], where: { id: [...ids] } });
  const fresh = new Map(known.map((row) => [row.id, newId()]));
  const documents = await calculate('readyProject', { text, fresh }, text.length);
  if (!documents.ok) return fail(badFile(documents.failure));
  const id = newId();
  const done = await inOneTransaction(async (transaction) => {
    await ProjectRow.create({ id, name, material, createdAt: new Date() }, { transaction });
    await insertDocuments(id, documents.value, { author, message: 'Imported' }, transaction);
    await insertWhatIfs(
      whatIfs.map((one) => ({ ...one, document: fresh.get(one.document) ?? one.document })),
      transaction,
    );
  });
  return done.ok ? succeed({ id, name }) : done;
}

function badFile(problems: readonly FileProblem[]): Refusal {
  return refuse('bad-file', problems[0]?.message ?? 'The file cannot be read.', { problems });
}

export async function createProject(name: string): Promise<{ readonly id: string; readonly name: string }> {
  const id = newId();
  await ProjectRow.create({ id, name, createdAt: new Date() });
  publish({ type: 'project', project: id });
  return { id, name };
}

/** What is not named stays as it is. */
export async function changeProject(id: string, { name, material }: z.infer<typeof changeProjectSchema>): Promise<Result<{ readonly name: string }, Refusal>> {
  const project = await ProjectRow.findByPk(id);
  if (!project) return fail(refuse('not-found', 'There is no such project.'));
  await project.update({ ...(name === undefined ? {} : { name }), ...(material === undefined ? {} : { material }) });
  publish({ type: 'project', project: id });
  return succeed({ name: project.name });
}

/** A new, empty document with its first revision. */
export async function createDocumentIn(project: string, wanted: z.infer<typeof newDocumentSchema>): Promise<Result<{ readonly id: string }, Refusal>> {
  if (!(await ProjectRow.findByPk(project))) return fail(refuse('not-found', 'There is no such project.'));
  const document = createDocument(newId(), wanted.kind, wanted.name);
  const ready = readyDocument({ revisions: [document], isDeleted: false });
  const done = await inOneTransaction((transaction) => insertDocuments(project, [ready], { author: wanted.author, message: 'Created' }, transaction));
  if (!done.ok) return done;
  publish({ type: 'project', project });
  return succeed({ id: document.id });
}

/** New documents, each with its revisions; deleted ones can be reopened. */
export async function insertDocuments(
  projectId: string,
  documents: readonly ReadyDocument[],
  { author, message }: { readonly author: string; readonly message: string },
  transaction: Transaction,
): Promise<void> {
  const createdAt = new Date();
  for (let from = 0; from < documents.length; from += CHUNK) {
    const ready = documents.slice(from, from + CHUNK);
    const rows = ready.map(({ id, kind, name, revisions, length, isDeleted }) => ({
      id,
      projectId,
      kind,
      name,
      body: Buffer.from((revisions.at(-1) ?? revisions[0]).body),
      seq: 0,
      revision: revisions.length,
      savedSeq: 0,
      size: length,
      ...(isDeleted ? { deletedAt: createdAt } : {}),
    }));
    await DocumentRow.bulkCreate(rows, { transaction });
    const revisions = ready.flatMap(({ id, revisions: states }) =>
      states.map(({ hash, body, published }, i) => ({
        documentId: id,
        number: i + 1,
        hash,
        body: Buffer.from(body),
        published: Buffer.from(published),
        message,
        author,
        changeSetId: null,
        seq: 0,
        createdAt,
      })),
    );
    await RevisionRow.bulkCreate(revisions, { transaction });
    await writeLinkIndex(
      ready.flatMap(({ links }) => links),
      transaction,
    );
    for (const document of ready) await keepFilesOf(document, transaction);
  }
  await checkProjectSizes([projectId], transaction);
}

/** The files of a new document, which is as large as it is with them. */
async function keepFilesOf({ id, name, length, fileHashes, contents }: ReadyDocument, transaction: Transaction): Promise<void> {
  await keepContents(id, fileHashes, contents, transaction);
  const size = length + (await sizeOfContents(fileHashes, transaction));
  checkDocumentSize(name, size);
  if (size !== length) await DocumentRow.update({ size }, { where: { id }, transaction });
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
  const stands = await readSnapshots(documents);
  const earlier = listEarlierStates(documents, { snapshot: (source, revision) => stands[pinText({ source, revision })] });
  const contents = await readContents(listHashes([documents, earlier]));
  const whatIfs = await listWhatIfs(documents.map((document) => document.id));
  return succeed(
    writeProjectFile({
      name: project.name,
      ...(project.material === '' ? {} : { material: project.material }),
      documents: putContentsIn(documents, contents),
      ...(earlier.length > 0 ? { earlier: putContentsIn(earlier, contents) } : {}),
      ...(whatIfs.length > 0 ? { whatIfs } : {}),
    }),
  );
}

/** The project that ships with the program: opened where it is there under its name, imported where it is not. */
export async function openExample(): Promise<Result<{ readonly id: string; readonly name: string }, Refusal>> {
  const known = await ProjectRow.findOne({ where: { name: EXAMPLE }, order: [['createdAt', 'ASC']] });
  if (known) return succeed({ id: known.id, name: known.name });
  return importProject(await readFile(path.join(process.cwd(), 'demo', 'table-loom.json'), 'utf8'), 'import');
}

const EXAMPLE = 'Table loom';

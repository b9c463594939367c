/** Change sets: which revisions were made together, and taking one back as a new one. */
import { Op, type Transaction } from 'sequelize';
import type { ChangeSetReply, ChangeSetsReply, Envelope, LoggedEdit, UndoChangeSetReply } from '@/contract';
import { applyEdit, compareSnapshots, type Document } from '@/core/document';
import { fail, succeed, type Result } from '@/core/kit';
import type { LeftBehind } from '@/core/links';
import type { Published } from '../calculation/operations';
import { ChangeSetRow, DocumentRow, EditRow, RevisionRow } from '../db/models';
import { unpack } from '../db/packing';
import { publishWithGeometry } from '../jobs';
import { mapInTurns } from '../turns';
import { announce } from './announce';
import { createChangeSet } from './write-plan';
import { lockDocuments, readState, writeChanges } from './document-store';
import { isPictured, PICTURED, publishedOf } from './evaluations';
import { newId } from './ids';
import { listBehind, readStanding } from './planned-documents';
import { inOneTransaction, refuse, RefusedTransaction, type Refusal } from './refusal';

const PAGE = 30;

/** The place after which a page begins: those made in one moment are told apart by their ids. */
export interface ChangeSetPlace {
  readonly at: Date;
  readonly id: string;
}

/** A page of the change sets of a project, newest first: one query. */
export async function listChangeSets(projectId: string, before?: ChangeSetPlace): Promise<ChangeSetsReply> {
  const rows = await ChangeSetRow.findAll({
    where: {
      projectId,
      ...(before ? { [Op.or]: [{ createdAt: { [Op.lt]: before.at } }, { createdAt: before.at, id: { [Op.gt]: before.id } }] } : {}),
    },
    order: [
      ['createdAt', 'DESC'],
      ['id', 'ASC'],
    ],
    limit: PAGE + 1,
    include: [
      {
        model: RevisionRow,
        as: 'revisions',
        attributes: ['documentId', 'number', 'changeSetId'],
        include: [{ model: DocumentRow.unscoped(), as: 'document', attributes: ['name', 'revision'] }],
      },
      { model: ChangeSetRow, as: 'undoneBy', attributes: ['id'] },
    ],
  });
  return {
    hasMore: rows.length > PAGE,
    changeSets: rows.slice(0, PAGE).map((row) => ({
      id: row.id,
      message: row.message,
      author: row.author,
      at: row.createdAt.toISOString(),
      isUndone: row.undoneBy != null,
      undoes: row.undoes,
      leftBehind: row.leftBehind ? unpack<LeftBehind[]>(row.leftBehind) : [],
      documents: (row.revisions ?? [])
        .map(({ documentId, number, document }) => ({ id: documentId, name: document?.name ?? '', revision: number }))
        .sort((a, b) => (a.name < b.name ? -1 : 1)),
    })),
  };
}

/** One revision of the set in a document that has gone on since. */
interface Step {
  readonly row: DocumentRow;
  /** The edits of the set in this document, oldest first. */
  readonly edits: readonly LoggedEdit[];
}

/**
 * Takes a change set back with a new one: the edits that are in its revisions, in every document, or none. What was
 * edited since stays, and refuses the whole when it stands in the way.
 */
export async function undoChangeSet(id: string, author: string): Promise<Result<UndoChangeSetReply, Refusal>> {
  const set = await ChangeSetRow.findByPk(id, { include: [{ model: ChangeSetRow, as: 'undoneBy', attributes: ['id'] }] });
  if (!set) return fail(refuse('not-found', 'There is no such change set.'));
  if (set.undoneBy) return fail(refuse('moved-on', 'This change set was undone already.'));
  const steps = await readSteps(id);
  if (!steps.ok) return steps;
  const after = new Map<string, Published>();
  for (const step of steps.value) {
    const document = takeBack(step);
    if (!document.ok) return document;
    after.set(step.row.id, await publishWithGeometry(document.value, step.row.size));
  }
  const message = set.undoes === null ? `Undone: ${set.message}` : `Done again: ${set.message.replace(/^Undone: /, '')}`;
  const done = await inOneTransaction(async (transaction) => {
    const changeSet = await createChangeSet({ project: set.projectId, message, author, undoes: id }, transaction);
    const heads = await lockUnmoved(steps.value, transaction);
    const changes = steps.value.flatMap((step) => {
      const [row, published] = [heads.get(step.row.id), after.get(step.row.id)];
      return row && published ? [{ row, envelopes: reversed(step, author), revision: { published, message, author, changeSet } }] : [];
    });
    await writeChanges(changes, transaction);
    return { changeSet, documents: changes.map(({ row }) => ({ id: row.id, revision: row.revision, seq: row.seq })) };
  });
  if (!done.ok) return done;
  announce(set.projectId, done.value.documents);
  const standing = await readStanding(set.projectId);
  const behind = standing.plan.documents.map(({ id: document, name }) => ({ id: document, name, values: listBehind(standing, document).length }));
  return succeed({ ...done.value, nowBehind: behind });
}

async function readSteps(changeSetId: string): Promise<Result<Step[], Refusal>> {
  const revisions = await RevisionRow.findAll({ attributes: ['documentId', 'number', 'seq'], where: { changeSetId } });
  const rows = await DocumentRow.findAll({ attributes: { exclude: ['thumbnail'] }, where: { id: revisions.map(({ documentId }) => documentId) } });
  const steps: Step[] = [];
  for (const { documentId, number, seq } of revisions) {
    const row = rows.find((one) => one.id === documentId);
    const previous = await RevisionRow.findOne({ attributes: ['seq'], where: { documentId, number: number - 1 } });
    if (!row || seq === null || previous?.seq == null)
      return fail(refuse('moved-on', 'This change set is older than undo of change sets; restore the revisions one by one.'));
    if (row.seq !== row.savedSeq) {
      const count = row.seq - row.savedSeq;
      return fail(
        refuse('moved-on', `${row.name} has ${count} edit${count === 1 ? '' : 's'} since its last revision. Save or undo there first; nothing was changed.`),
      );
    }
    const edits = await EditRow.findAll({ where: { documentId, seq: { [Op.gt]: previous.seq, [Op.lte]: seq } }, order: [['seq', 'ASC']] });
    steps.push({ row, edits: edits.map(({ body }) => unpack<LoggedEdit>(body)) });
  }
  return succeed(steps);
}

function reversed({ edits }: Step, author: string): Envelope[] {
  return [...edits].reverse().map(({ key, inverse }) => ({ key: newId(), edit: inverse, reverts: key, author }));
}

function takeBack(step: Step): Result<Document, Refusal> {
  let document = readState(step.row);
  for (const { edit } of reversed(step, '-')) {
    const applied = applyEdit(document, edit);
    if (!applied.ok) {
      return fail(refuse('moved-on', `${step.row.name} was changed in the same place since: ${applied.failure.message} Nothing was changed.`));
    }
    document = applied.value.document;
  }
  return succeed(document);
}

async function lockUnmoved(steps: readonly Step[], transaction: Transaction): Promise<Map<string, DocumentRow>> {
  const heads = await lockDocuments(
    steps.map(({ row }) => row.id),
    transaction,
  );
  const moved = steps.find(({ row }) => heads.get(row.id)?.seq !== row.seq || heads.get(row.id)?.revision !== row.revision);
  if (moved) throw new RefusedTransaction(refuse('moved-on', `${moved.row.name} was changed just now. Nothing was undone; try again.`));
  return heads;
}

/** What the revisions of a change set changed, document by document. */
export async function readChangeSet(id: string): Promise<Result<ChangeSetReply, Refusal>> {
  const revisions = await RevisionRow.findAll({ attributes: ['documentId', 'number'], where: { changeSetId: id } });
  if (revisions.length === 0) return fail(refuse('not-found', 'There is no such change set.'));
  const pairs = await RevisionRow.findAll({
    where: { [Op.or]: revisions.map(({ documentId, number }) => ({ documentId, number: [number, number - 1] })) },
    include: PICTURED,
  });
  const snapshot = (documentId: string, number: number) => {
    const row = pairs.find((one) => one.documentId === documentId && one.number === number);
    return row && { document: unpack<Document>(row.body), values: publishedOf(row), isPictured: isPictured(row) };
  };
  const documents = await mapInTurns(revisions, ({ documentId, number }) => {
    const [before, after] = [snapshot(documentId, number - 1), snapshot(documentId, number)];
    if (!before || !after) return [];
    const pictured = {
      ...(before.isPictured ? { before: number - 1 } : {}),
      ...(after.isPictured ? { after: number } : {}),
    };
    return [{ id: documentId, name: after.document.name, differs: compareSnapshots(before, after).values, pictured }];
  });
  return succeed({ documents: documents.flat() });
}

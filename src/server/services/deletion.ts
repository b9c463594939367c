/**
 * Deleted projects and documents: out of every list at once, kept for a while, restored as they were, then gone for good. What
 * others took from a deleted document they keep; their links stand as they are until it is restored or they are changed.
 */
import { col, Op } from 'sequelize';
import type { DeletedCard } from '@/contract';
import { fail, succeed, type Result } from '@/core/kit';
import { database } from '../db/connect';
import { DocumentRow, LinkRow, ProjectRow } from '../db/models';
import { publish } from '../events';
import { checkProjectSizes } from './document-store';
import { purgeFiles } from './files';
import { forgetPlanned } from './planned-documents';
import { inOneTransaction, refuse, type Refusal } from './refusal';

/** How long something deleted is kept. */
const KEPT_DAYS = 30;
const KEPT_MS = KEPT_DAYS * 86_400_000;

export async function deleteDocument(id: string): Promise<Result<{ readonly id: string }, Refusal>> {
  const row = await DocumentRow.findByPk(id, { attributes: ['id', 'projectId'] });
  if (!row) return fail(refuse('not-found', 'There is no such document.'));
  await DocumentRow.update({ deletedAt: new Date() }, { where: { id } });
  forgetPlanned(id);
  publish({ type: 'project', project: row.projectId });
  return succeed({ id });
}

export async function restoreDocument(id: string): Promise<Result<{ readonly id: string }, Refusal>> {
  const row = await DocumentRow.unscoped().findByPk(id, { attributes: ['id', 'projectId', 'deletedAt'] });
  if (!row || !(await ProjectRow.findByPk(row.projectId))) return fail(refuse('not-found', 'There is no such document any more.'));
  const done = await inOneTransaction(async (transaction) => {
    await DocumentRow.unscoped().update({ deletedAt: null }, { where: { id }, transaction });
    await checkProjectSizes([row.projectId], transaction);
  });
  if (!done.ok) return done;
  publish({ type: 'project', project: row.projectId });
  return succeed({ id });
}

/** A project with all its documents; those that were deleted before it stay what they are when it is restored. */
export async function deleteProject(id: string): Promise<Result<{ readonly id: string }, Refusal>> {
  if (!(await ProjectRow.findByPk(id))) return fail(refuse('not-found', 'There is no such project.'));
  const at = new Date();
  await ProjectRow.update({ deletedAt: at }, { where: { id } });
  await DocumentRow.update({ deletedAt: at }, { where: { projectId: id } });
  publish({ type: 'project', project: id });
  return succeed({ id });
}

export async function restoreProject(id: string): Promise<Result<{ readonly id: string }, Refusal>> {
  const row = await ProjectRow.unscoped().findByPk(id);
  if (!row) return fail(refuse('not-found', 'There is no such project any more.'));
  await DocumentRow.unscoped().update({ deletedAt: null }, { where: { projectId: id, deletedAt: row.deletedAt } });
  await ProjectRow.unscoped().update({ deletedAt: null }, { where: { id } });
  publish({ type: 'project', project: id });
  return succeed({ id });
}

export async function listDeletedProjects(): Promise<DeletedCard[]> {
  return (await ProjectRow.unscoped().findAll({ where: { deletedAt: { [Op.not]: null } }, order: [['deletedAt', 'DESC']] })).flatMap(cardOf);
}

export async function listDeletedDocuments(projectId: string): Promise<DeletedCard[]> {
  const rows = await DocumentRow.unscoped().findAll({
    attributes: ['id', 'name', 'deletedAt'],
    where: { projectId, deletedAt: { [Op.not]: null } },
    order: [['deletedAt', 'DESC']],
  });
  return rows.flatMap(cardOf);
}

function cardOf({ id, name, deletedAt }: Pick<DocumentRow, 'id' | 'name' | 'deletedAt'>): DeletedCard[] {
  return deletedAt ? [{ id, name, at: deletedAt.toISOString(), until: new Date(deletedAt.getTime() + KEPT_MS).toISOString() }] : [];
}

/** Lets go of what was deleted long ago, with its revisions and edits. */
export async function purgeDeleted(now = new Date()): Promise<void> {
  database();
  const where = { deletedAt: { [Op.lt]: new Date(now.getTime() - KEPT_MS) } };
  // What stands in an assembly stays as it was taken, however long ago its document was deleted.
  const standing = await LinkRow.findAll({ attributes: ['sourceId'], where: { linkId: col('parameter_id') } });
  await DocumentRow.unscoped().destroy({ where: { ...where, id: { [Op.notIn]: [...new Set(standing.map(({ sourceId }) => sourceId))] } } });
  await ProjectRow.unscoped().destroy({ where });
  await purgeFiles();
}

/** Copies of documents, into their own project or into another one, with other values. */
import type * as z from 'zod/mini';
import type { copyDocumentSchema, CopyReply } from '@/contract';
import { applyEdit, findRecord, listIds, listNamed, type Document, type DocumentValues, type EditFailure } from '@/core/document';
import { openValues } from '@/core/instances';
import { relink, type RelinkSource } from '@/core/links';
import { fail, succeed, type Result } from '@/core/kit';
import { readyDocument, sourceOf } from '../calculation/operations';
import { DocumentRow, ProjectRow, RevisionRow } from '../db/models';
import { unpack } from '../db/packing';
import { publish } from '../events';
import { scheduleRegeneration } from '../jobs';
import { readState } from './document-store';
import { MEASURED, publishedOf } from './evaluations';
import { newId } from './ids';
import { insertDocuments } from './projects';
import { inOneTransaction, refuse, type Refusal } from './refusal';
import { readSnapshots } from './snapshots';

/**
 * Copies a document as it is now, its unsaved edits too. In its own project links stay; in another one they lead to documents and values of the same
 * names there, and what is not there becomes a value of the copy. All that is wrong is told before anything is made.
 */
export async function copyDocument(id: string, wish: z.infer<typeof copyDocumentSchema>): Promise<Result<CopyReply, Refusal>> {
  const row = await DocumentRow.findByPk(id);
  if (!row) return fail(refuse('not-found', 'There is no such document.'));
  if (!(await ProjectRow.findByPk(wish.project))) return fail(refuse('not-found', 'There is no such project.'));
  const original = readState(row);
  if (original.kind === 'assembly' && wish.project !== row.projectId) {
    return fail(refuse('bad-request', 'An assembly is copied within its project: what stands in it is there.'));
  }
  const own = { document: { ...original, id: newId(), name: wish.name }, kept: [] };
  const moved = wish.project === row.projectId ? succeed(own) : relink(own.document, await sourcesIn(wish.project), newId);
  if (!moved.ok) return fail(badCopy(moved.failure));
  const valued = withFormulas(moved.value.document, wish.formulas);
  if (!valued.ok) return fail(badCopy(valued.failure));
  const document = valued.value;
  const among = sourceOf({ stands: await readSnapshots([document]), built: new Map() });
  const wrong = wrongFormula(openValues(document, among), Object.keys(wish.formulas));
  if (wrong) return fail(wrong);
  const ready = readyDocument({ revisions: [document], isDeleted: false }, among);
  const done = await inOneTransaction((transaction) =>
    insertDocuments(wish.project, [ready], { author: wish.author, message: `Copied from ${original.name}` }, transaction),
  );
  if (!done.ok) return done;
  publish({ type: 'project', project: wish.project });
  if (listIds(document, 'steps').length > 0 || document.kind === 'assembly') {
    scheduleRegeneration({ documentId: document.id, revision: 1, project: wish.project, size: row.size });
  }
  return succeed({ id: document.id, name: document.name, kept: moved.value.kept });
}

function badCopy(failure: EditFailure): Refusal {
  return refuse('edit-refused', failure.message, { failure });
}

/** What is wrong with one of the values that were given another formula. */
function wrongFormula(values: DocumentValues, ids: readonly string[]): Refusal | undefined {
  for (const id of ids) {
    const [problem] = values.show(id)?.diagnostics ?? [];
    if (problem) return refuse('bad-request', `${findRecord(values.document, id, 'parameter')?.name ?? 'A value'}: ${problem.message}`);
  }
  return undefined;
}

/** With other formulas of its values, by their ids. */
function withFormulas(document: Document, formulas: Readonly<Record<string, string>>): Result<Document, EditFailure> {
  let current = document;
  for (const [id, text] of Object.entries(formulas)) {
    const applied = applyEdit(current, { type: 'parameter.setFormula', id, formula: { text } });
    if (!applied.ok) {
      const name = findRecord(document, id, 'parameter')?.name;
      return fail(name === undefined ? applied.failure : { ...applied.failure, message: `${name}: ${applied.failure.message}` });
    }
    current = applied.value.document;
  }
  return succeed(current);
}

/** Documents of a project by their names, with what they hand over at their latest revisions; of two with one name always the same. */
async function sourcesIn(project: string): Promise<(name: string) => RelinkSource | undefined> {
  const rows = await DocumentRow.findAll({ attributes: ['id', 'name', 'kind', 'revision'], where: { projectId: project }, order: [['id', 'DESC']] });
  const found = new Map<string, RelinkSource>();
  for (const { id, revision: number } of rows) {
    const revision = await RevisionRow.findOne({ where: { documentId: id, number }, include: MEASURED });
    if (!revision) continue;
    const document = unpack<Document>(revision.body);
    const published = publishedOf(revision);
    const values = new Map(
      listNamed(document).flatMap((record) => {
        const value = Object.hasOwn(published, record.id) ? published[record.id] : undefined;
        return value ? [[record.name, { id: record.id, value }] as const] : [];
      }),
    );
    found.set(document.name, { id, kind: document.kind, revision: number, hash: revision.hash, values });
  }
  return (name) => found.get(name);
}

/** The revisions of a document: listed with what differs, read, named. */
import { Op } from 'sequelize';
import type { HistoryReply, RevisionReply, ValueHistoryReply } from '@/contract';
import { compareSnapshots, findRecord, showTaken, type Document, type Snapshot } from '@/core/document';
import { fail, succeed, type Result } from '@/core/kit';
import { RevisionRow } from '../db/models';
import { unpack } from '../db/packing';
import { mapInTurns } from '../turns';
import { isPictured, MEASURED, PICTURED, publishedOf } from './evaluations';
import { refuse, type Refusal } from './refusal';

const PAGE = 20;
/** How many differing values a card names; the rest is counted. */
const NAMED = 6;

/** A page of revisions, newest first, below `before`: one query. */
export async function listRevisions(documentId: string, before?: number): Promise<HistoryReply> {
  const rows = await RevisionRow.findAll({
    where: { documentId, ...(before === undefined ? {} : { number: { [Op.lt]: before } }) },
    include: PICTURED,
    order: [['number', 'DESC']],
    limit: PAGE + 1,
  });
  const shown = rows.slice(0, PAGE);
  let unpacked: Snapshot | undefined;
  return {
    hasMore: rows.length > PAGE,
    revisions: await mapInTurns(shown, (row, i) => {
      const previous = rows[i + 1];
      // Each is unpacked once: from the newest down.
      const after = unpacked ?? snapshotOf(row);
      unpacked = previous && snapshotOf(previous);
      const { values, steps } = unpacked ? compareSnapshots(unpacked, after) : { values: [], steps: [] };
      return { ...cardOf(row), differs: values.slice(0, NAMED), differing: values.length, steps, hasThumbnail: isPictured(row) };
    }),
  };
}

/** How far back a value is followed. */
const MOST_REVISIONS = 300;

/** What a value was, from its revisions: one query. */
export async function listValueHistory(documentId: string, value: string): Promise<ValueHistoryReply> {
  const rows = await RevisionRow.findAll({ where: { documentId }, include: MEASURED, order: [['number', 'DESC']], limit: MOST_REVISIONS });
  const states = await mapInTurns(rows, (row) => {
    const { document, values } = snapshotOf(row);
    const taken = Object.hasOwn(values, value) ? values[value] : undefined;
    const formula = findRecord(document, value, 'parameter')?.formula.text;
    return { row, shown: taken && showTaken(taken), formula };
  });
  return {
    changes: states.flatMap(({ row, shown, formula }, i) => {
      const before = states[i + 1];
      const isOther = before ? before.shown !== shown || before.formula !== formula : shown !== undefined;
      if (!isOther) return [];
      const { number: revision, author } = row;
      const at = row.createdAt.toISOString();
      return [{ revision, author, at, ...(shown === undefined ? {} : { shown }), ...(formula === undefined ? {} : { formula }) }];
    }),
  };
}

export async function readRevision(documentId: string, number: number): Promise<Result<RevisionReply, Refusal>> {
  const row = await RevisionRow.findOne({ where: { documentId, number }, include: MEASURED });
  return row ? succeed({ ...cardOf(row), ...snapshotOf(row) }) : fail(refuse('not-found', 'There is no such revision.'));
}

/** Gives a revision a name, or another one; its content stays as it is. */
export async function nameRevision(documentId: string, number: number, message: string): Promise<Result<{ readonly message: string }, Refusal>> {
  const row = await RevisionRow.findOne({ where: { documentId, number } });
  if (!row) return fail(refuse('not-found', 'There is no such revision.'));
  await row.update({ message });
  return succeed({ message });
}

function cardOf(row: RevisionRow) {
  return { number: row.number, hash: row.hash, message: row.message, author: row.author, at: row.createdAt.toISOString(), changeSet: row.changeSetId };
}

function snapshotOf(row: RevisionRow): Snapshot {
  return { document: unpack<Document>(row.body), values: publishedOf(row) };
}

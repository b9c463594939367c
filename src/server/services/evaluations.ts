/**
 * What was measured on revisions: a record beside each, written once its geometry has been built. Whoever asks what a revision hands over is
 * told what was measured on it; as long as nothing was, what it was saved with.
 */
import { col, fn, Op, type IncludeOptions } from 'sequelize';
import type { SavedBody } from '@/contract';
import type { TakenValue } from '@/core/document';
import { EvaluationRow, type RevisionRow } from '../db/models';
import { pack, unpack } from '../db/packing';

type Published = Readonly<Record<string, TakenValue>>;

/** A revision by its document and number. */
interface RevisionKey {
  readonly documentId: string;
  readonly number: number;
}

/** Has what was measured on revisions read with them. */
export const MEASURED: IncludeOptions = {
  model: EvaluationRow,
  as: 'evaluation',
  attributes: ['published'],
  where: { number: { [Op.eq]: col('Revision.number') } },
  required: false,
};

/** The same, with whether there is a small picture of them. */
export const PICTURED: IncludeOptions = { ...MEASURED, attributes: ['published', [fn('ISNULL', col('evaluation.thumbnail')), 'lacksThumbnail']] };

/** Whether there is a small picture of a revision that was read with {@link PICTURED}. */
export function isPictured({ evaluation }: Pick<RevisionRow, 'evaluation'>): boolean {
  return evaluation != null && Number(evaluation.get('lacksThumbnail')) === 0;
}

/** What a revision hands over, that was read with what was measured on it. */
export function publishedOf({ published, evaluation }: Pick<RevisionRow, 'published' | 'evaluation'>): Published {
  return unpack<Record<string, TakenValue>>(evaluation?.published ?? published);
}

interface Evaluation {
  readonly bodies: readonly SavedBody[];
  readonly published: Published;
  /** A small picture, as PNG. */
  readonly thumbnail?: Buffer | undefined;
}

/** Attaches what was measured. */
export async function keepEvaluation({ documentId, number }: RevisionKey, { bodies, published, thumbnail }: Evaluation): Promise<void> {
  await EvaluationRow.upsert({ documentId, number, bodies: pack(bodies), published: pack(published), thumbnail: thumbnail ?? null, unbuilt: null });
}

/** Notes that a revision was tried in vain. */
export async function keepFailure({ documentId, number }: RevisionKey, reason: string): Promise<void> {
  await EvaluationRow.upsert({ documentId, number, bodies: null, published: null, unbuilt: reason });
}

/** Which revisions of these documents were built, or tried in vain. */
export async function readTried(documents: readonly string[]): Promise<(revision: RevisionKey) => boolean> {
  const rows = await EvaluationRow.findAll({ attributes: ['documentId', 'number'], where: { documentId: [...documents] } });
  const tried = new Set(rows.map(keyOf));
  return (revision) => tried.has(keyOf(revision));
}

function keyOf({ documentId, number }: RevisionKey): string {
  return `${documentId} ${number}`;
}

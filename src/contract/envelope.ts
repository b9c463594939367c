/** Edits on their way between browser and server. */
import * as z from 'zod/mini';
import { editSchema, type Edit } from '@/core/document';

export const keySchema = z.string().check(z.regex(/^[A-Za-z0-9_-]{8,40}$/));

/** An edit with what makes it safe to send: made once, sent as often as needed, applied once. */
export const envelopeSchema = z.strictObject({
  /** Idempotency key, made by the client. */
  key: keySchema,
  edit: editSchema,
  /** Key of the edit that this one takes back: an undo, or the redo of an undo. */
  reverts: z.optional(keySchema),
  author: z.string().check(z.minLength(1), z.maxLength(60)),
});

export type Envelope = Readonly<z.infer<typeof envelopeSchema>>;

function answers(edit: Edit): boolean {
  return edit.type === 'outside.answer' || (edit.type === 'batch' && edit.edits.some(answers));
}

export const postEditsSchema = z.strictObject({
  /** Sequence number that the first of the edits was made on. */
  base: z.int().check(z.gte(0)),
  envelopes: z.array(envelopeSchema).check(
    z.minLength(1),
    z.maxLength(200),
    z.refine((envelopes) => envelopes.every(({ edit }) => !answers(edit)), 'hold an answer, which only the server keeps'),
    z.refine((envelopes) => new Set(envelopes.map(({ key }) => key)).size === envelopes.length, 'hold one key twice'),
  ),
});

export type PostEdits = Readonly<z.infer<typeof postEditsSchema>>;

/** An edit as the log keeps it. */
export interface LoggedEdit extends Envelope {
  readonly seq: number;
  /** The patch that takes it back, as the server computed it. */
  readonly inverse: Envelope['edit'];
}

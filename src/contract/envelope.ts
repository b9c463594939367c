/** Edits on their way between browser and server. */
import { z } from 'zod';
import { editSchema, type Edit } from '@/core/document';

export const keySchema = z.string().regex(/^[A-Za-z0-9_-]{8,40}$/);

/** An edit with what makes it safe to send: made once, sent as often as needed, applied once. */
export const envelopeSchema = z.strictObject({
  /** Idempotency key, made by the client. */
  key: keySchema,
  edit: editSchema,
  /** Key of the edit that this one takes back: an undo, or the redo of an undo. */
  reverts: keySchema.optional(),
  author: z.string().min(1).max(60),
});

export type Envelope = Readonly<z.infer<typeof envelopeSchema>>;

function answers(edit: Edit): boolean {
  return edit.type === 'outside.answer' || (edit.type === 'batch' && edit.edits.some(answers));
}

export const postEditsSchema = z.strictObject({
  /** Sequence number that the first of the edits was made on. */
  base: z.int().min(0),
  envelopes: z
    .array(envelopeSchema)
    .min(1)
    .max(200)
    .refine((envelopes) => envelopes.every(({ edit }) => !answers(edit)), 'hold an answer, which only the server keeps')
    .refine((envelopes) => new Set(envelopes.map(({ key }) => key)).size === envelopes.length, 'hold one key twice'),
});

export type PostEdits = Readonly<z.infer<typeof postEditsSchema>>;

/** An edit as the log keeps it. */
export interface LoggedEdit extends Envelope {
  readonly seq: number;
  /** The patch that takes it back, as the server computed it. */
  readonly inverse: Envelope['edit'];
}

/** What-ifs of a document: kept beside it, one change at a time. */
import * as z from 'zod/mini';
import { whatIfSchema, type WhatIf } from '@/core/document';

/** In the place of the one with its id, or as one more; or without it. */
export const changeWhatIfSchema = z.union([z.strictObject({ put: whatIfSchema }), z.strictObject({ remove: z.string().check(z.maxLength(40)) })]);

/** In the order in which they were made. */
export interface WhatIfsReply {
  readonly whatIfs: readonly WhatIf[];
}

export const previewWhatIfSchema = z.strictObject({
  whatIf: whatIfSchema,
  /** Builds the geometry where values are measured on it. */
  isMeasured: z.optional(z.boolean()),
});

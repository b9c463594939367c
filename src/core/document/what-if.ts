/**
 * What-ifs: named sets of formulas that are not the document's. They stand beside a document, not in it: no revision holds them, nothing is behind by
 * them. Each keeps the text that it would replace, so that it can be told where that has changed since.
 */
import * as z from 'zod/mini';
import { typedFormulaSchema } from './edit-schema';
import { id, text, title } from './schema-parts';

/** So many are kept of one document, and stand side by side. */
export const MOST_WHAT_IFS = 8;
const MOST_VALUES = 200;

export const whatIfSchema = z.strictObject({
  id,
  name: title,
  /** By the ids of parameters and taken values. `instead`: what the document said of the value as this was written. */
  values: z
    .record(id, z.strictObject({ formula: typedFormulaSchema, instead: text }))
    .check(z.refine((values) => Object.keys(values).length <= MOST_VALUES, `sets more than ${MOST_VALUES} values`)),
});

export type WhatIf = Readonly<z.infer<typeof whatIfSchema>>;

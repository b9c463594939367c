/** Small schemas that the schemas of documents are made of. */
import { z } from 'zod';

/** Caps on what comes in, so that no file can exhaust the program. */
export const LIMITS = { records: 50_000, listLength: 20_000, text: 4_000, nameLength: 80, tableCells: 20_000, fileSize: 4_000_000 } as const;

export const id = z.string().regex(/^[A-Za-z0-9][A-Za-z0-9_-]{0,39}$/);
export const text = z.string().max(LIMITS.text);
export const name = z.string().min(1).max(LIMITS.nameLength);
export const finite = z.number().refine(Number.isFinite, 'must be finite');

export const unitSystemSchema = z.strictObject({ length: z.string().max(20), angle: z.string().max(20), mass: z.string().max(20) });

/** A formula as typed. `readIn`: the units its bare numbers take, where they are not the document's. */
export const formulaSchema = z.strictObject({ text, readIn: unitSystemSchema.optional() });

/** What was found as the sizes of a document were checked: kept beside the document, and told old where a size has changed since. */
import * as z from 'zod/mini';

/** Sizes told in one request. */
const MOST_AT_ONCE = 200;

const word = z.string().check(z.maxLength(1000));

export const checkedSizeSchema = z.strictObject({
  /** Fingerprint of what the size was then. */
  key: z.string().check(z.minLength(1), z.maxLength(64)),
  /** Kilograms, of all bodies; absent where it has none. */
  mass: z.optional(z.number().check(z.gte(0))),
  /** Cubic millimetres, of all bodies; absent where there is none. */
  volume: z.optional(z.number().check(z.gte(0))),
  /** What is wrong, in words; none where all is well. */
  problems: z.array(word).check(z.maxLength(100)),
  /** What rests on a held result of an outside calculation, by name. */
  held: z.array(word).check(z.maxLength(100)),
  /** The values that the table shows, as they were: in internal units, and rounded with their unit. */
  readings: z.record(z.string().check(z.maxLength(40)), z.strictObject({ value: z.nullable(z.number()), shown: word })),
  /** How long it took, in milliseconds. */
  time: z.number().check(z.gte(0)),
  /** A small picture: a PNG as a data address. */
  picture: z.optional(z.string().check(z.maxLength(60_000), z.regex(/^data:image\/png;base64,[A-Za-z0-9+/]*=*$/))),
});

export type CheckedSize = Readonly<z.infer<typeof checkedSizeSchema>>;

export const keepSizeChecksSchema = z.strictObject({
  checked: z
    .record(z.string().check(z.minLength(1), z.maxLength(40)), checkedSizeSchema)
    .check(z.refine((checked) => Object.keys(checked).length <= MOST_AT_ONCE, 'tells too many sizes at once')),
});

/** When it was checked, and which revision was the latest then. */
export interface KeptSizeCheck extends CheckedSize {
  readonly revision: number;
  readonly at: string;
}

/** By the ids of the sizes. */
export interface SizeChecksReply {
  readonly checked: Readonly<Record<string, KeptSizeCheck>>;
}

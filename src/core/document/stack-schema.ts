/** How the tolerance stack of a value is read: kept with the value, so that everybody reads it alike. */
import * as z from 'zod/mini';
import { formulaSchema, valuePath } from './schema-parts';

/** Evenly; normally, the limits three standard deviations from the middle; or as a triangle that is highest in the middle. */
export const DISTRIBUTIONS = ['even', 'normal', 'triangular'] as const;
export type Distribution = (typeof DISTRIBUTIONS)[number];

/** By which way of adding up a requirement is to be met. */
export const BASES = ['worst-case', 'root-sum-square'] as const;
export type Basis = (typeof BASES)[number];

/** What is said of one contributor: so many pieces instead of one; another distribution than the rest; how dear it is to hold closely, beside the rest. */
const contributorReadingSchema = z.strictObject({
  pieces: z.optional(z.int().check(z.gte(2), z.lte(50))),
  distribution: z.optional(z.enum(DISTRIBUTIONS)),
  cost: z.optional(z.number().check(z.positive(), z.lte(1e6))),
});

/** Even, by the worst case, and with the limits of the value where it says nothing else. */
export const stackReadingSchema = z.strictObject({
  distribution: z.optional(z.enum(DISTRIBUTIONS)),
  basis: z.optional(z.enum(BASES)),
  /** What is asked of the value; an empty formula asks for nothing. */
  atLeast: z.optional(formulaSchema),
  atMost: z.optional(formulaSchema),
  /** By the id of the contributor, after those of the components on the way to it; what is none of them counts for nothing. */
  contributors: z.optional(z.record(valuePath, contributorReadingSchema)),
});

export type ContributorReading = Readonly<z.infer<typeof contributorReadingSchema>>;
export type StackReading = Readonly<z.infer<typeof stackReadingSchema>>;

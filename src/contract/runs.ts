/** Range runs at the server, of one value or two: they go on without the page that started them, and are kept until somebody deletes them. */
import * as z from 'zod/mini';

export const MOST_RUN_SAMPLES = 10_000;
/** Of one document, at once. */
export const MOST_RUNS = 12;

const id = z.string().check(z.minLength(1), z.maxLength(40));
const amount = z.number().check(z.refine(Number.isFinite, 'not a number'));

/** Amounts in internal units, both of them run: evenly between them, or as `amounts` has them. */
const rangeShape = {
  value: id,
  from: amount,
  to: amount,
  count: z.int().check(z.gte(2), z.lte(MOST_RUN_SAMPLES)),
  amounts: z.optional(z.array(amount).check(z.minLength(2), z.maxLength(MOST_RUN_SAMPLES))),
};

const runWishSchema = z
  .strictObject({
    id,
    /** The value that is run. */
    ...rangeShape,
    /** Another that is run with it: every amount of the one with every amount of the other. */
    second: z.optional(z.strictObject(rangeShape)),
    /** Whether it is looked for what stands in one another, in an assembly. */
    isJudged: z.optional(z.boolean()),
    /** What is read at each. */
    outputs: z.array(id).check(z.maxLength(5_000)),
    author: z.string().check(z.maxLength(60)),
  })
  .check(
    z.refine(({ count, amounts }) => amounts === undefined || amounts.length === count, 'there are as many amounts as samples'),
    z.refine((wish) => samplesOf(wish) <= MOST_RUN_SAMPLES, `a run has ${MOST_RUN_SAMPLES} samples at most`),
  );

/** How many samples a run comes to. */
export function samplesOf({ count, second }: { readonly count: number; readonly second?: { readonly count: number } | undefined }): number {
  return count * (second?.count ?? 1);
}

export const changeRunsSchema = z.union([z.strictObject({ start: runWishSchema }), z.strictObject({ stop: id }), z.strictObject({ remove: id })]);

export type RunWish = Readonly<z.infer<typeof runWishSchema>>;
export type RunStatus = 'under-way' | 'done' | 'stopped' | 'failed';

/** As a sample of a run in the page; null for what is not a number there. */
export interface KeptSample {
  readonly at: number;
  /** Of the second value, where there is one. */
  readonly also?: number;
  readonly outputs: Readonly<Record<string, number | null>>;
  readonly problems: readonly string[];
  readonly held: readonly string[];
}

export interface RunReply extends RunWish {
  readonly status: RunStatus;
  /** Milliseconds since 1970. */
  readonly startedAt: number;
  /** Equal for states of the document that come to the same: which one was run. */
  readonly state: string;
  /** How many samples there are so far. */
  readonly done: number;
}

/** The newest first. */
export interface RunsReply {
  readonly runs: readonly RunReply[];
}

/** What a run has come to so far. */
export interface RunSamplesReply {
  readonly samples: readonly KeptSample[];
}

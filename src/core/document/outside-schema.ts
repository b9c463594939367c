/**
 * Outside calculations: what a service or a spreadsheet computes from values of the document. Each has inputs, which are formulas, and hands
 * back outputs, which are values of the document that read them (`measure.of === 'outside'`).
 *
 * A *question* is an outside calculation with the numbers that its inputs have; an *answer* is what came back for one. Answers are kept in the
 * document, so that it comes to the same wherever it is opened, asked or not. Only who asks writes them.
 */
import * as z from 'zod/mini';
import { finite, formulaSchema, id, name, text, unitText, valueKind } from './schema-parts';

/** What a service or a cell calls an input or output. */
const key = z.string().check(z.minLength(1), z.maxLength(120));

export const MOST_INPUTS = 50;
/** Answers kept of one calculation: those of inputs that it had before serve an undo. */
export const MOST_ANSWERS = 30;

export const askedSchema = z.discriminatedUnion('of', [
  /** A service that the administrator has listed, by its name there, and what it is to compute. */
  z.strictObject({ of: z.literal('service'), service: name, function: key }),
  /** A spreadsheet that is kept in the document, by the id of its file. */
  z.strictObject({ of: z.literal('spreadsheet'), file: id }),
]);

export const outsideSchema = z.strictObject({
  type: z.literal('outside'),
  id,
  name,
  asked: askedSchema,
  inputs: z.array(z.strictObject({ key, kind: valueKind, unit: unitText, formula: formulaSchema })).check(z.maxLength(MOST_INPUTS)),
  /** What it hands back, and the unit that a bare number of it is in. */
  outputs: z.array(z.strictObject({ key, kind: valueKind, unit: unitText })).check(z.maxLength(MOST_INPUTS)),
  note: z.optional(text),
});

/** An amount in a unit: a number of `unit`. */
const amountSchema = z.strictObject({ value: finite, unit: unitText });

/** Of an output that could not be computed anew: `stored` says why, and the amount is what its spreadsheet was saved with. It is held. */
const outputSchema = z.extend(amountSchema, { stored: z.optional(z.string().check(z.maxLength(400))) });

export const answerSchema = z.strictObject({
  type: z.literal('answer'),
  id,
  outside: id,
  /** Ids of the components, outermost first, in which it was asked; empty for the document itself. */
  within: z.array(id).check(z.maxLength(32)),
  /** Equal for equal questions. */
  question: z.string().check(z.minLength(1), z.maxLength(100)),
  inputs: z.record(key, amountSchema),
  outputs: z.record(key, outputSchema),
  /** When it was answered, in UTC; no content of the document. */
  at: z.iso.datetime(),
  /** What answered: the service's version, or the spreadsheet's name. */
  version: z.string().check(z.maxLength(200)),
});

export type OutsideCalculation = Readonly<z.infer<typeof outsideSchema>>;
export type Asked = Readonly<z.infer<typeof askedSchema>>;
export type Answer = Readonly<z.infer<typeof answerSchema>>;
export type Amount = Readonly<z.infer<typeof amountSchema>>;
export type AnsweredAmount = Readonly<z.infer<typeof outputSchema>>;

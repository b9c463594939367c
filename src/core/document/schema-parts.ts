/** Small schemas that the schemas of documents are made of. */
import { en } from 'zod/locales';
import * as z from 'zod/mini';
import { isDimensionKey, isUnitSystem, parseUnit, QUANTITY_KINDS } from '../units';

// The small edition of the library says no more than "Invalid input" unless it is given words.
z.config(en());

/**
 * Caps on what comes in, so that no file can exhaust the program. Sizes of documents and edits are characters of their JSON;
 * that of a file is characters of its packed content.
 */
export const LIMITS = {
  records: 50_000,
  listLength: 20_000,
  text: 4_000,
  nameLength: 80,
  tableCells: 20_000,
  fileSize: 4_000_000,
  editSize: 9_000_000,
  documentSize: 12_000_000,
  projectSize: 20_000_000,
} as const;

const BROKEN_TEXT = /[\uD800-\uDFFF]|\0/u;
/** Characters that are not seen, or turn what is seen around: they have no place in what things are called. */
const UNSEEN = /[\p{Cc}\u061C\u200B-\u200F\u202A-\u202E\u2060-\u2069\uFEFF]/u;

const ID = '[A-Za-z0-9][A-Za-z0-9_-]{0,39}';
export const id = z.string().check(z.regex(new RegExp(`^${ID}$`), 'is no id: letters, digits, _ and -, at most 40'));
/** A component, or with a number the copy of one that is repeated. */
export const idOfCopy = z.string().check(z.regex(new RegExp(`^${ID}(#[1-9][0-9]{0,3})?$`), 'is no id of a component or of a copy'));
/** A value inside components: ids, outermost first, with spaces between. */
export const valuePath = z.string().check(z.regex(new RegExp(`^${ID}( ${ID}){0,32}$`), 'is no path of ids with spaces between'));
export const text = z.string().check(
  z.maxLength(LIMITS.text),
  z.refine((value) => !BROKEN_TEXT.test(value), 'holds invalid characters'),
);
/** What something is called: a step, a body, a column. */
export const name = z.string().check(
  z.minLength(1),
  z.maxLength(LIMITS.nameLength),
  z.refine((value) => !BROKEN_TEXT.test(value) && !UNSEEN.test(value), 'holds characters that cannot be seen'),
);
/** The same of documents and projects, which have longer names. */
export const title = z.string().check(
  z.minLength(1),
  z.maxLength(120),
  z.refine((value) => value.trim() !== '' && !BROKEN_TEXT.test(value) && !UNSEEN.test(value), 'holds characters that cannot be seen'),
);
/** A name that formulas can read. */
export const valueName = z
  .string()
  .check(z.maxLength(LIMITS.nameLength), z.regex(/^[\p{L}_][\p{L}\p{Nd}\p{M}_]*$/u, 'is not a name for a value: a letter or _, then letters, digits and _'));
export const finite = z.number().check(z.refine(Number.isFinite, 'must be finite'));
/** A place in a sketch, in millimetres: within ten kilometres. */
export const coordinate = finite.check(z.gte(-1e7), z.lte(1e7));

export const unitSystemSchema = z
  .strictObject({ length: z.string().check(z.maxLength(20)), angle: z.string().check(z.maxLength(20)), mass: z.string().check(z.maxLength(20)) })
  .check(z.refine(isUnitSystem, 'must be a unit of length, of angle and of mass'));
/** A unit to show a value in; empty for a plain number. */
export const unitText = z.string().check(
  z.maxLength(200),
  z.refine((value) => value === '' || parseUnit(value) !== undefined, 'is not a unit'),
);
export const dimensionKey = z.string().check(z.maxLength(200), z.refine(isDimensionKey, 'is no dimension'));
const KINDS: ReadonlySet<string> = new Set([...QUANTITY_KINDS, 'yes-no', 'text', 'any']);
/** A quantity kind of the units module, `yes-no`, `text`, or `any` for whatever the formula yields. */
export const valueKind = z.string().check(
  z.maxLength(40),
  z.refine((value) => KINDS.has(value), 'is not a kind of value'),
);

/** A formula as typed. `readIn`: the units its bare numbers take, where they are not the document's. */
export const formulaSchema = z.strictObject({ text, readIn: z.optional(unitSystemSchema) });
/** Red, green and blue: `#8a6a4f`. */
export const colourSchema = z.string().check(z.regex(/^#[0-9a-f]{6}$/));

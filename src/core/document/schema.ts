/**
 * What a document is: plain immutable data, records by id plus ordered lists of ids. It survives JSON and
 * structured clone unchanged. These Zod schemas check it once, at the door; nothing inside checks again.
 *
 * Lists, by key: `parameters`, `links`, `tables`, `guards`, `goals`, `steps` of the document; `<step>/values`,
 * `<sketch>/entities`, `<sketch>/constraints` of a step; `<link>/takes` of a link.
 */
import * as z from 'zod/mini';
import { measureSchema } from './measure';
import {
  colourSchema,
  coordinate,
  dimensionKey,
  finite,
  formulaSchema,
  id,
  LIMITS,
  name,
  text,
  title,
  unitSystemSchema,
  unitText,
  valueKind,
  valueName,
} from './schema-parts';
import { componentSchema, driveSchema, mateSchema } from './assembly-schema';
import { answerSchema, outsideSchema } from './outside-schema';
import { stackReadingSchema } from './stack-schema';
import { stepSchema, type PlaneName } from './step-schema';
import { GENERAL_CLASSES, type GeneralClass } from '../tolerance';

/** Raised when documents stored before would not be read as they are; each rise has a migration in `migrations.ts`. */
export const SCHEMA_VERSION = 2;
/** Version of the formula language that the formulas are written in. */
export const LANGUAGE_VERSION = 1;

/** How far a value may be off: amounts are formulas; a fit is a tolerance class of ISO 286, for lengths. */
export const toleranceSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('symmetric'), by: formulaSchema }),
  z.strictObject({ kind: z.literal('deviations'), upper: formulaSchema, lower: formulaSchema }),
  z.strictObject({ kind: z.literal('limits'), upper: formulaSchema, lower: formulaSchema }),
  z.strictObject({ kind: z.literal('fit'), fit: z.string().check(z.maxLength(10)) }),
]);

export const parameterSchema = z.strictObject({
  type: z.literal('parameter'),
  id,
  /** The step that owns it, as a dimension; absent for a user parameter. */
  owner: z.optional(id),
  name: valueName,
  formula: formulaSchema,
  kind: valueKind,
  displayUnit: z.optional(unitText),
  decimals: z.optional(z.int().check(z.gte(0), z.lte(12))),
  note: z.optional(text),
  pinned: z.optional(z.boolean()),
  offered: z.optional(z.boolean()),
  least: z.optional(formulaSchema),
  most: z.optional(formulaSchema),
  choices: z.optional(z.array(text).check(z.maxLength(200))),
  tolerance: z.optional(toleranceSchema),
  stack: z.optional(stackReadingSchema),
  /** Read off the geometry, not computed by its formula, which is empty then. */
  measure: z.optional(measureSchema),
});

const columnsSchema = z.array(z.strictObject({ name, kind: valueKind })).check(z.minLength(1), z.maxLength(100));
const rowsSchema = z.array(z.array(text)).check(z.maxLength(5_000));
const hasFewCells = (table: { readonly columns: readonly unknown[]; readonly rows: readonly unknown[] }): boolean =>
  table.columns.length * table.rows.length <= LIMITS.tableCells;

/** A value as one document hands it to another: complete in itself. */
export const takenValueSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('quantity'),
    /** Key of the dimension: `length=1`. */
    dimension: dimensionKey,
    /** Internal base units. */
    value: finite,
    /** Unit to show it in. */
    unit: unitText,
    /** Whether the value must be whole. */
    isCount: z.optional(z.boolean()),
    /** Deviations that it may have at its source, in internal base units. */
    tolerance: z.optional(z.strictObject({ upper: finite, lower: finite })),
    /** Rests on the result of an outside calculation that is older than its inputs. */
    isHeld: z.optional(z.boolean()),
  }),
  z.strictObject({ kind: z.literal('temperature'), value: finite, unit: unitText }),
  z.strictObject({ kind: z.literal('yes-no'), value: z.union([z.literal(0), z.literal(1)]) }),
  z.strictObject({ kind: z.literal('text'), value: text }),
  /** A lookup table, whole; its cells are read in the units that the source had. */
  z
    .strictObject({ kind: z.literal('table'), columns: columnsSchema, rows: rowsSchema, units: unitSystemSchema })
    .check(z.refine(hasFewCells, 'too many cells')),
  /** The source has an error there; the words say which. */
  z.strictObject({ kind: z.literal('refused'), problem: text }),
]);

export const linkSchema = z.strictObject({
  type: z.literal('link'),
  id,
  source: id,
  /** The source's name when last seen, for messages when it is not at hand. */
  sourceName: text,
  policy: z.enum(['follow', 'ask', 'hold']),
  /** Revision of the source that the values were taken from, and its content hash. */
  revision: z.int().check(z.gte(0)),
  hash: z.string().check(z.maxLength(100)),
});

/** One value taken through a link, under its local name. */
export const takeSchema = z.strictObject({
  type: z.literal('take'),
  id,
  link: id,
  /** Id of the value in the source. */
  parameter: id,
  name: valueName,
  sourceName: name,
  value: takenValueSchema,
  pinned: z.optional(z.boolean()),
  note: z.optional(text),
});

export const tableSchema = z
  .strictObject({
    type: z.literal('table'),
    id,
    name: valueName,
    /** The first column holds the keys. */
    columns: columnsSchema,
    /** Cells are formulas without names: `5.5 mm`, `"M5"`. */
    rows: rowsSchema,
    /** Where bare numbers in cells are not read in the document's own units: a table that was taken from another one. */
    readIn: z.optional(unitSystemSchema),
  })
  .check(z.refine(hasFewCells, 'too many cells'));

export const guardSchema = z.strictObject({
  type: z.literal('guard'),
  id,
  condition: formulaSchema,
  message: text,
  severity: z.enum(['error', 'warning']),
});

/** What a formula is to come to, by other values: watched, and reached again on request. */
export const goalSchema = z.strictObject({
  type: z.literal('goal'),
  id,
  of: formulaSchema,
  wanted: formulaSchema,
  /** How far off it may be; by no more than is lost in computing where it is not said. */
  within: z.optional(formulaSchema),
  /** Names of the values that may change for it. */
  by: z.array(formulaSchema).check(z.minLength(1), z.maxLength(6)),
});

/** Geometry that follows an edge of a body, or a curve or point of another sketch, as it looks from the sketch plane. */
/**
 * What it is taken from. `sense` of a straight edge: whether the line runs with the turn from the first to the second of its faces, by which it is
 * told which way the edge runs, whatever the kernel makes of it.
 */
const sourceSchema = z.optional(
  z.union([
    z.strictObject({ body: id, edge: z.string().check(z.minLength(1), z.maxLength(1000)), sense: z.optional(z.union([z.literal(1), z.literal(-1)])) }),
    z.strictObject({ sketch: id, entity: id }),
  ]),
);

/** Sketch geometry, in millimetres in the sketch plane; where a solve starts. */
export const entitySchema = z.discriminatedUnion('type', [
  z.strictObject({ type: z.literal('point'), id, sketch: id, x: coordinate, y: coordinate, isConstruction: z.optional(z.boolean()), from: sourceSchema }),
  z.strictObject({ type: z.literal('line'), id, sketch: id, start: id, end: id, isConstruction: z.optional(z.boolean()), from: sourceSchema }),
  z.strictObject({ type: z.literal('circle'), id, sketch: id, centre: id, radius: coordinate, isConstruction: z.optional(z.boolean()), from: sourceSchema }),
  /** Runs counter-clockwise from start to end. */
  z.strictObject({ type: z.literal('arc'), id, sketch: id, centre: id, start: id, end: id, isConstruction: z.optional(z.boolean()), from: sourceSchema }),
]);

export const CONSTRAINT_KINDS = [
  'coincident',
  'horizontal',
  'vertical',
  'parallel',
  'perpendicular',
  'equal',
  'concentric',
  'tangent',
  'fixed',
  'midpoint',
  /** Two points, or two circles or arcs, on either side of a line: in that order. */
  'symmetric',
] as const;

/** `on` names entities of the sketch, or `origin`, `x-axis`, `y-axis`. */
export const constraintSchema = z.strictObject({
  type: z.literal('constraint'),
  id,
  sketch: id,
  kind: z.enum(CONSTRAINT_KINDS),
  on: z.array(id).check(z.minLength(1), z.maxLength(4)),
});

/** Curves of a sketch drawn again in further places. How many, and how far apart, are values of the sketch. */
export const repeatSchema = z.strictObject({
  type: z.literal('repeat'),
  id,
  sketch: id,
  form: z.enum(['linear', 'circular']),
  of: z.array(id).check(z.minLength(1), z.maxLength(500)),
  /** Linear: a line or axis that gives the direction; circular: the point to turn about. */
  about: id,
  isReversed: z.optional(z.boolean()),
  count: id,
  /** From one place to the next. */
  spacing: id,
});

export const DIMENSION_KINDS = ['length', 'horizontal', 'vertical', 'radius', 'diameter', 'angle', 'arc-length'] as const;

/** A dimension constrains by the value of its parameter; a reference dimension only reads the shape. */
export const dimensionSchema = z.strictObject({
  type: z.literal('dimension'),
  id,
  sketch: id,
  kind: z.enum(DIMENSION_KINDS),
  on: z.array(id).check(z.minLength(1), z.maxLength(3)),
  parameter: id,
  isReference: z.optional(z.boolean()),
  /**
   * Of horizontal and vertical ones, the side on which it was made: 1 where a positive value puts the second point at the larger
   * coordinate, -1 where at the smaller. Absent in what was stored before there was one: the side on which it lies in the drawn shape.
   */
  sense: z.optional(z.union([z.literal(1), z.literal(-1)])),
  /** Where its text stands, in the sketch plane, in millimetres. */
  at: z.tuple([coordinate, coordinate]),
});

export const bodySchema = z.strictObject({
  type: z.literal('body'),
  id,
  name,
  /** Name of a material of the density table, or of its own when `density` is given. */
  material: z.string().check(z.maxLength(60)),
  /** Its density, where that does not come from the table. */
  density: z.optional(formulaSchema),
  colour: z.optional(colourSchema),
});

/** The bytes of a file, packed with gzip and written in base64. */
export const fileContentSchema = z.string().check(z.maxLength(LIMITS.fileSize), z.regex(/^[A-Za-z0-9+/]*={0,2}$/, 'is not base64'));
/** SHA-256 of a content, in hexadecimal digits. */
export const fileHashSchema = z.string().check(z.regex(/^[0-9a-f]{64}$/, 'is no hash of a content'));

/**
 * A file of another program, kept so that what is made from it can be made again. In a project file it has its content; where a
 * server keeps the content apart, the hash of it.
 */
export const fileSchema = z
  .strictObject({
    type: z.literal('file'),
    id,
    name: z.string().check(z.minLength(1), z.maxLength(200)),
    format: z.enum(['step', 'xlsx']),
    content: z.optional(fileContentSchema),
    hash: z.optional(fileHashSchema),
  })
  .check(z.refine(({ content, hash }) => (content === undefined) !== (hash === undefined), 'has either its content or the hash of it'));

/** A text on the page of a calc sheet, in Markdown without HTML. */
export const paragraphSchema = z.strictObject({ type: z.literal('paragraph'), id, text });

/**
 * A chart on the page: values over a range of one of them, between amounts that are formulas; a curve for each value, or for each amount of
 * another one where `by` tells that.
 */
export const chartSchema = z.strictObject({
  type: z.literal('chart'),
  id,
  title: text,
  over: id,
  from: formulaSchema,
  to: formulaSchema,
  of: z.array(id).check(z.minLength(1), z.maxLength(8)),
  by: z.optional(z.strictObject({ value: id, amounts: z.array(formulaSchema).check(z.minLength(1), z.maxLength(8)) })),
});

/** The order of the lines of the page, by their ids. */
export const pageSchema = z.strictObject({ type: z.literal('page'), id, order: z.array(id).check(z.maxLength(LIMITS.listLength)) });

/** One size of the document: formulas that count instead of those of its values, by their ids. */
export const sizeSchema = z.strictObject({ type: z.literal('size'), id, name: title, cells: z.record(id, formulaSchema) });

/** The values that sizes may set, those that are shown of each size beside them, and the size that the document has; it is as written without one. */
export const sizeTableSchema = z.strictObject({
  type: z.literal('size-table'),
  id,
  columns: z.array(id).check(z.maxLength(200)),
  results: z.optional(z.array(id).check(z.maxLength(50))),
  used: z.optional(id),
});

/** A loose end that somebody has looked at and left, with the reason. */
export const dismissalSchema = z.strictObject({ type: z.literal('dismissal'), id, key: z.string().check(z.minLength(1), z.maxLength(400)), reason: text });

export const recordSchema = z.discriminatedUnion('type', [
  parameterSchema,
  linkSchema,
  takeSchema,
  tableSchema,
  guardSchema,
  goalSchema,
  ...entitySchema.def.options,
  constraintSchema,
  dimensionSchema,
  repeatSchema,
  ...stepSchema.def.options,
  bodySchema,
  fileSchema,
  dismissalSchema,
  paragraphSchema,
  chartSchema,
  pageSchema,
  sizeSchema,
  sizeTableSchema,
  componentSchema,
  driveSchema,
  mateSchema,
  outsideSchema,
  answerSchema,
]);

/** Lists of the document, and lists of a step or a link by its id. */
export const listKey = z.string().check(z.regex(/^(?:[a-z]+|[A-Za-z0-9][A-Za-z0-9_-]{0,39}\/[a-z]+)$/, 'is no list'));

export const documentKind = z.enum(['master', 'calc', 'part', 'assembly']);

export const documentSchema = z.strictObject({
  schema: z.literal(SCHEMA_VERSION),
  language: z.literal(LANGUAGE_VERSION),
  id,
  kind: documentKind,
  name: title,
  units: unitSystemSchema,
  /** The class of ISO 2768-1 that typed lengths without a tolerance of their own have; they are exact without. */
  general: z.optional(z.enum(GENERAL_CLASSES)),
  records: z.record(id, recordSchema).check(z.refine((records) => Object.keys(records).length <= LIMITS.records, 'too many records')),
  lists: z.record(listKey, z.array(id).check(z.maxLength(LIMITS.listLength))),
});

export type Formula = Readonly<z.infer<typeof formulaSchema>>;
export type Tolerance = Readonly<z.infer<typeof toleranceSchema>>;
export type Parameter = Readonly<z.infer<typeof parameterSchema>>;
export type TakenValue = Readonly<z.infer<typeof takenValueSchema>>;
export type Link = Readonly<z.infer<typeof linkSchema>>;
export type Take = Readonly<z.infer<typeof takeSchema>>;
export type Table = Readonly<z.infer<typeof tableSchema>>;
export type Dismissal = Readonly<z.infer<typeof dismissalSchema>>;
export type Guard = Readonly<z.infer<typeof guardSchema>>;
export type Goal = Readonly<z.infer<typeof goalSchema>>;
export type Entity = Readonly<z.infer<typeof entitySchema>>;
export type ConstraintKind = (typeof CONSTRAINT_KINDS)[number];
export type SketchConstraint = Readonly<z.infer<typeof constraintSchema>>;
export type SketchRepeat = Readonly<z.infer<typeof repeatSchema>>;
export type DimensionKind = (typeof DIMENSION_KINDS)[number];
export type SketchDimension = Readonly<z.infer<typeof dimensionSchema>>;
export type StoredFile = Readonly<z.infer<typeof fileSchema>>;
export type Paragraph = Readonly<z.infer<typeof paragraphSchema>>;
export type Chart = Readonly<z.infer<typeof chartSchema>>;
export type Size = Readonly<z.infer<typeof sizeSchema>>;
export type SizeTable = Readonly<z.infer<typeof sizeTableSchema>>;
export type Body = Readonly<z.infer<typeof bodySchema>>;
export type DocumentRecord = Readonly<z.infer<typeof recordSchema>>;
export type DocumentKind = z.infer<typeof documentKind>;

export interface Document {
  readonly schema: typeof SCHEMA_VERSION;
  readonly language: typeof LANGUAGE_VERSION;
  readonly id: string;
  readonly kind: DocumentKind;
  readonly name: string;
  readonly units: { readonly length: string; readonly angle: string; readonly mass: string };
  /** The class of general tolerances; none where typed lengths without a tolerance are exact. */
  readonly general?: GeneralClass | undefined;
  readonly records: Readonly<Record<string, DocumentRecord>>;
  readonly lists: Readonly<Record<string, readonly string[]>>;
  /** Of an assembly that stands mirrored in another, and of no document that is kept: in which plane, and its components by their ids. */
  readonly turnedOver?: { readonly plane: PlaneName; readonly components: Readonly<Record<string, TurnedOver>> };
}

/** A component of a mirrored assembly: the plane of its own that it is reflected in, and whether it stands as it is, being alike on both sides. */
export interface TurnedOver {
  readonly in: PlaneName;
  readonly isAsItIs: boolean;
}

/**
 * What a document is: plain immutable data, records by id plus ordered lists of ids. It survives JSON and
 * structured clone unchanged. These Zod schemas check it once, at the door; nothing inside checks again.
 *
 * Lists, by key: `parameters`, `links`, `tables`, `guards`, `goals`, `steps` of the document; `<step>/values`,
 * `<sketch>/entities`, `<sketch>/constraints` of a step; `<link>/takes` of a link.
 */
import { z } from 'zod';
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
  z.strictObject({ kind: z.literal('fit'), fit: z.string().max(10) }),
]);

export const parameterSchema = z.strictObject({
  type: z.literal('parameter'),
  id,
  /** The step that owns it, as a dimension; absent for a user parameter. */
  owner: id.optional(),
  name: valueName,
  formula: formulaSchema,
  kind: valueKind,
  displayUnit: unitText.optional(),
  decimals: z.int().min(0).max(12).optional(),
  note: text.optional(),
  pinned: z.boolean().optional(),
  offered: z.boolean().optional(),
  least: formulaSchema.optional(),
  most: formulaSchema.optional(),
  choices: z.array(text).max(200).optional(),
  tolerance: toleranceSchema.optional(),
  stack: stackReadingSchema.optional(),
  /** Read off the geometry, not computed by its formula, which is empty then. */
  measure: measureSchema.optional(),
});

const columnsSchema = z
  .array(z.strictObject({ name, kind: valueKind }))
  .min(1)
  .max(100);
const rowsSchema = z.array(z.array(text)).max(5_000);
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
    isCount: z.boolean().optional(),
    /** Deviations that it may have at its source, in internal base units. */
    tolerance: z.strictObject({ upper: finite, lower: finite }).optional(),
    /** Rests on the result of an outside calculation that is older than its inputs. */
    isHeld: z.boolean().optional(),
  }),
  z.strictObject({ kind: z.literal('temperature'), value: finite, unit: unitText }),
  z.strictObject({ kind: z.literal('yes-no'), value: z.union([z.literal(0), z.literal(1)]) }),
  z.strictObject({ kind: z.literal('text'), value: text }),
  /** A lookup table, whole; its cells are read in the units that the source had. */
  z.strictObject({ kind: z.literal('table'), columns: columnsSchema, rows: rowsSchema, units: unitSystemSchema }).refine(hasFewCells, 'too many cells'),
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
  revision: z.int().min(0),
  hash: z.string().max(100),
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
  pinned: z.boolean().optional(),
  note: text.optional(),
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
    readIn: unitSystemSchema.optional(),
  })
  .refine(hasFewCells, 'too many cells');

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
  within: formulaSchema.optional(),
  /** Names of the values that may change for it. */
  by: z.array(formulaSchema).min(1).max(6),
});

/** Geometry that follows an edge of a body, or a curve or point of another sketch, as it looks from the sketch plane. */
/**
 * What it is taken from. `sense` of a straight edge: whether the line runs with the turn from the first to the second of its faces, by which it is
 * told which way the edge runs, whatever the kernel makes of it.
 */
const sourceSchema = z
  .union([
    z.strictObject({ body: id, edge: z.string().min(1).max(1000), sense: z.union([z.literal(1), z.literal(-1)]).optional() }),
    z.strictObject({ sketch: id, entity: id }),
  ])
  .optional();

/** Sketch geometry, in millimetres in the sketch plane; where a solve starts. */
export const entitySchema = z.discriminatedUnion('type', [
  z.strictObject({ type: z.literal('point'), id, sketch: id, x: coordinate, y: coordinate, isConstruction: z.boolean().optional(), from: sourceSchema }),
  z.strictObject({ type: z.literal('line'), id, sketch: id, start: id, end: id, isConstruction: z.boolean().optional(), from: sourceSchema }),
  z.strictObject({ type: z.literal('circle'), id, sketch: id, centre: id, radius: coordinate, isConstruction: z.boolean().optional(), from: sourceSchema }),
  /** Runs counter-clockwise from start to end. */
  z.strictObject({ type: z.literal('arc'), id, sketch: id, centre: id, start: id, end: id, isConstruction: z.boolean().optional(), from: sourceSchema }),
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
  on: z.array(id).min(1).max(4),
});

/** Curves of a sketch drawn again in further places. How many, and how far apart, are values of the sketch. */
export const repeatSchema = z.strictObject({
  type: z.literal('repeat'),
  id,
  sketch: id,
  form: z.enum(['linear', 'circular']),
  of: z.array(id).min(1).max(500),
  /** Linear: a line or axis that gives the direction; circular: the point to turn about. */
  about: id,
  isReversed: z.boolean().optional(),
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
  on: z.array(id).min(1).max(3),
  parameter: id,
  isReference: z.boolean().optional(),
  /**
   * Of horizontal and vertical ones, the side on which it was made: 1 where a positive value puts the second point at the larger
   * coordinate, -1 where at the smaller. Absent in what was stored before there was one: the side on which it lies in the drawn shape.
   */
  sense: z.union([z.literal(1), z.literal(-1)]).optional(),
  /** Where its text stands, in the sketch plane, in millimetres. */
  at: z.tuple([coordinate, coordinate]),
});

export const bodySchema = z.strictObject({
  type: z.literal('body'),
  id,
  name,
  /** Name of a material of the density table, or of its own when `density` is given. */
  material: z.string().max(60),
  /** Its density, where that does not come from the table. */
  density: formulaSchema.optional(),
  colour: colourSchema.optional(),
});

/** The bytes of a file, packed with gzip and written in base64. */
export const fileContentSchema = z
  .string()
  .max(LIMITS.fileSize)
  .regex(/^[A-Za-z0-9+/]*={0,2}$/, 'is not base64');
/** SHA-256 of a content, in hexadecimal digits. */
export const fileHashSchema = z.string().regex(/^[0-9a-f]{64}$/, 'is no hash of a content');

/**
 * A file of another program, kept so that what is made from it can be made again. In a project file it has its content; where a
 * server keeps the content apart, the hash of it.
 */
export const fileSchema = z
  .strictObject({
    type: z.literal('file'),
    id,
    name: z.string().min(1).max(200),
    format: z.enum(['step', 'xlsx']),
    content: fileContentSchema.optional(),
    hash: fileHashSchema.optional(),
  })
  .refine(({ content, hash }) => (content === undefined) !== (hash === undefined), 'has either its content or the hash of it');

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
  of: z.array(id).min(1).max(8),
  by: z.strictObject({ value: id, amounts: z.array(formulaSchema).min(1).max(8) }).optional(),
});

/** The order of the lines of the page, by their ids. */
export const pageSchema = z.strictObject({ type: z.literal('page'), id, order: z.array(id).max(LIMITS.listLength) });

/** One size of the document: formulas that count instead of those of its values, by their ids. */
export const sizeSchema = z.strictObject({ type: z.literal('size'), id, name: title, cells: z.record(id, formulaSchema) });

/** The values that sizes may set, those that are shown of each size beside them, and the size that the document has; it is as written without one. */
export const sizeTableSchema = z.strictObject({
  type: z.literal('size-table'),
  id,
  columns: z.array(id).max(200),
  results: z.array(id).max(50).optional(),
  used: id.optional(),
});

/** A loose end that somebody has looked at and left, with the reason. */
export const dismissalSchema = z.strictObject({ type: z.literal('dismissal'), id, key: z.string().min(1).max(400), reason: text });

export const recordSchema = z.discriminatedUnion('type', [
  parameterSchema,
  linkSchema,
  takeSchema,
  tableSchema,
  guardSchema,
  goalSchema,
  ...entitySchema.options,
  constraintSchema,
  dimensionSchema,
  repeatSchema,
  ...stepSchema.options,
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
export const listKey = z.string().regex(/^(?:[a-z]+|[A-Za-z0-9][A-Za-z0-9_-]{0,39}\/[a-z]+)$/, 'is no list');

export const documentKind = z.enum(['master', 'calc', 'part', 'assembly']);

export const documentSchema = z.strictObject({
  schema: z.literal(SCHEMA_VERSION),
  language: z.literal(LANGUAGE_VERSION),
  id,
  kind: documentKind,
  name: title,
  units: unitSystemSchema,
  /** The class of ISO 2768-1 that typed lengths without a tolerance of their own have; they are exact without. */
  general: z.enum(GENERAL_CLASSES).optional(),
  records: z.record(id, recordSchema).refine((records) => Object.keys(records).length <= LIMITS.records, 'too many records'),
  lists: z.record(listKey, z.array(id).max(LIMITS.listLength)),
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

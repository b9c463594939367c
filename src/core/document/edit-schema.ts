/**
 * Edits: the only way from one document to the next. Tagged JSON, checked by these schemas where it comes
 * in. Formulas in edits carry the ids that their names meant, so that they survive a rename by somebody else.
 */
import * as z from 'zod/mini';
import { componentPatternSchema, componentSchema, driveSchema, mateSchema, placementSchema } from './assembly-schema';
import {
  bodySchema,
  chartSchema,
  constraintSchema,
  dimensionSchema,
  dismissalSchema,
  entitySchema,
  fileSchema,
  goalSchema,
  guardSchema,
  linkSchema,
  listKey,
  paragraphSchema,
  parameterSchema,
  recordSchema,
  repeatSchema,
  tableSchema,
  takeSchema,
  takenValueSchema,
  toleranceSchema,
} from './schema';
import { answerSchema, outsideSchema } from './outside-schema';
import { coordinate, finite, id, text, title, unitSystemSchema, unitText, valueKind, LIMITS } from './schema-parts';
import { stackReadingSchema } from './stack-schema';
import { GENERAL_CLASSES } from '../tolerance';
import { stepSchema } from './step-schema';

const name = z.string().check(z.maxLength(200));

/** A formula as it was typed just now; `names` tells which value each name meant then. */
export const typedFormulaSchema = z.strictObject({
  text,
  readIn: z.optional(unitSystemSchema),
  names: z.optional(z.record(z.string().check(z.maxLength(80)), id)),
});

/** What becomes of formulas that read something deleted. */
export const readersSchema = z.discriminatedUnion('mode', [
  /** Refuse the deletion if anything reads it. */
  z.strictObject({ mode: z.literal('refuse') }),
  /** Dimensions and taken values that are read stay, as user parameters. */
  z.strictObject({
    mode: z.literal('keep'),
    /** Those that nothing reads stay as well. */
    all: z.optional(z.boolean()),
  }),
  /** Put numbers in: the formula text for each deleted value that is read. */
  z.strictObject({ mode: z.literal('numbers'), numbers: z.record(id, z.string().check(z.maxLength(200))) }),
]);

const typedSizeSchema = z.strictObject({ id, name: title, cells: z.record(id, typedFormulaSchema) });

const listPlace = z.strictObject({
  list: listKey,
  id,
  /** The id in front of it; null at the head. */
  after: z.nullable(id),
});

/** A class of general tolerances; null for none. */
const generalSchema = z.nullable(z.enum(GENERAL_CLASSES));

export const patchOpSchema = z.discriminatedUnion('op', [
  z.strictObject({ op: z.literal('put'), id, before: z.nullable(recordSchema), after: z.nullable(recordSchema) }),
  z.extend(listPlace, { op: z.literal('insert') }),
  z.extend(listPlace, { op: z.literal('remove') }),
  z.strictObject({ op: z.literal('name'), before: z.string(), after: title }),
  z.strictObject({ op: z.literal('units'), before: unitSystemSchema, after: unitSystemSchema }),
  z.strictObject({ op: z.literal('general'), before: generalSchema, after: generalSchema }),
]);

/** Positions of points and radii of circles, in millimetres. */
const shapeSchema = z.strictObject({
  points: z.record(id, z.tuple([coordinate, coordinate])),
  radii: z.record(id, finite.check(z.gte(0), z.lte(1e7))),
});

const parameterChanges = z.strictObject({
  kind: z.optional(valueKind),
  displayUnit: z.optional(z.nullable(unitText)),
  decimals: z.optional(z.nullable(z.int().check(z.gte(0), z.lte(12)))),
  note: z.optional(z.nullable(text)),
  pinned: z.optional(z.nullable(z.boolean())),
  offered: z.optional(z.nullable(z.boolean())),
  least: z.optional(z.nullable(typedFormulaSchema)),
  most: z.optional(z.nullable(typedFormulaSchema)),
  choices: z.optional(z.nullable(z.array(z.string().check(z.maxLength(200))).check(z.maxLength(200)))),
  tolerance: z.optional(z.nullable(toleranceSchema)),
  stack: z.optional(z.nullable(stackReadingSchema)),
});

const singleEditSchema = z.discriminatedUnion('type', [
  z.strictObject({ type: z.literal('document.rename'), name: title }),
  z.strictObject({ type: z.literal('document.setUnits'), units: unitSystemSchema }),
  z.strictObject({ type: z.literal('document.setGeneral'), general: generalSchema }),

  z.strictObject({
    type: z.literal('parameter.add'),
    parameter: parameterSchema,
    names: z.optional(z.record(z.string(), id)),
    after: z.optional(z.nullable(id)),
  }),
  /** The formula that counts: that of the used size where it has one of that value, unless the value's own is meant. */
  z.strictObject({ type: z.literal('parameter.setFormula'), id, formula: typedFormulaSchema, isOwn: z.optional(z.boolean()) }),
  z.strictObject({ type: z.literal('parameter.update'), id, changes: parameterChanges }),
  z.strictObject({ type: z.literal('parameter.move'), id, after: z.nullable(id) }),
  z.strictObject({ type: z.literal('parameter.remove'), id, readers: readersSchema }),
  /** Adds a value that is read off a sketch or a body, after the step that owns it. */
  z.strictObject({ type: z.literal('measure.add'), parameter: parameterSchema }),
  /** Renames a parameter, a dimension, a taken value or a table; every formula follows. */
  z.strictObject({ type: z.literal('value.rename'), id, name }),

  z.strictObject({ type: z.literal('table.put'), table: tableSchema }),
  z.strictObject({ type: z.literal('table.remove'), id }),
  z.strictObject({ type: z.literal('guard.put'), guard: guardSchema }),
  z.strictObject({ type: z.literal('guard.remove'), id }),
  z.strictObject({ type: z.literal('goal.put'), goal: goalSchema }),
  z.strictObject({ type: z.literal('goal.remove'), id }),
  z.strictObject({ type: z.literal('dismissal.put'), dismissal: dismissalSchema }),
  z.strictObject({ type: z.literal('dismissal.remove'), id }),

  /**
   * Adds a link, or replaces it with what it takes. Values under a new local name are renamed in every formula;
   * those taken no more are deleted, and `readers` says what becomes of formulas that read them.
   */
  z.strictObject({ type: z.literal('link.put'), link: linkSchema, takes: z.array(takeSchema).check(z.maxLength(5000)), readers: z.optional(readersSchema) }),
  /** New values through a link, as a catch-up brings them. */
  z.strictObject({
    type: z.literal('link.catchUp'),
    id,
    revision: z.int().check(z.gte(0)),
    hash: z.string().check(z.maxLength(100)),
    values: z.record(id, takenValueSchema),
  }),
  z.strictObject({ type: z.literal('link.remove'), id, readers: readersSchema }),
  /**
   * Values taken through one link are taken through another from now on, under their names and ids: `takes` as they will be.
   * A link without values is removed.
   */
  z.strictObject({ type: z.literal('takes.move'), from: id, to: linkSchema, takes: z.array(takeSchema).check(z.minLength(1), z.maxLength(5000)) }),
  z.strictObject({
    type: z.literal('take.update'),
    id,
    changes: z.strictObject({ pinned: z.optional(z.nullable(z.boolean())), note: z.optional(z.nullable(text)) }),
  }),

  z.strictObject({
    type: z.literal('step.add'),
    step: stepSchema,
    values: z.array(parameterSchema).check(z.maxLength(50)),
    body: z.optional(bodySchema),
    /** The file that it reads. */
    file: z.optional(fileSchema),
    after: z.optional(z.nullable(id)),
  }),
  z.strictObject({
    type: z.literal('step.update'),
    step: stepSchema,
    /** Values that it did not have before; those of slots that it has no more are deleted. */
    values: z.array(parameterSchema).check(z.maxLength(50)),
    /** A body that it brings about from now on. */
    body: z.optional(bodySchema),
    readers: z.optional(readersSchema),
  }),
  z.strictObject({ type: z.literal('step.rename'), id, name }),
  z.strictObject({ type: z.literal('step.move'), id, after: z.nullable(id) }),
  /** Removes a step; with `sketches`, also the sketches that it alone is made from. */
  z.strictObject({ type: z.literal('step.remove'), id, readers: readersSchema, sketches: z.optional(z.boolean()) }),
  z.strictObject({ type: z.literal('body.put'), body: bodySchema }),

  /** Adds geometry, constraints and dimensions with their parameters to a sketch, at once. */
  z.strictObject({
    type: z.literal('sketch.draw'),
    sketch: id,
    entities: z.array(entitySchema).check(z.maxLength(5000)),
    constraints: z.array(constraintSchema).check(z.maxLength(5000)),
    dimensions: z.array(dimensionSchema).check(z.maxLength(5000)),
    repeats: z.optional(z.array(repeatSchema).check(z.maxLength(500))),
    values: z.array(parameterSchema).check(z.maxLength(5000)),
    /** The solved shape that it was drawn on, taken as the new start of the solve. */
    shape: z.optional(shapeSchema),
  }),
  /** New positions of points and radii of circles: where the next solve starts. */
  z.strictObject({
    type: z.literal('sketch.reshape'),
    sketch: id,
    ...shapeSchema.shape,
  }),
  /** Removes geometry, constraints or dimensions, with what depends on them. */
  z.strictObject({ type: z.literal('sketch.erase'), sketch: id, ids: z.array(id).check(z.minLength(1), z.maxLength(5000)), readers: readersSchema }),
  /** Moves an end of a line or arc to another point of the sketch; a point that nothing uses any more goes. */
  z.strictObject({ type: z.literal('sketch.reconnect'), id, start: z.optional(id), end: z.optional(id) }),
  z.strictObject({
    type: z.literal('dimension.update'),
    id,
    at: z.optional(z.tuple([coordinate, coordinate])),
    isReference: z.optional(z.boolean()),
    /** Other geometry of the same sketch to measure. */
    on: z.optional(z.array(id).check(z.minLength(1), z.maxLength(3))),
  }),
  z.strictObject({ type: z.literal('entity.setConstruction'), ids: z.array(id).check(z.maxLength(5000)), isConstruction: z.boolean() }),

  /** Adds a component, or changes everything about it but its name, drives and source. */
  z.strictObject({ type: z.literal('paragraph.put'), paragraph: paragraphSchema }),
  z.strictObject({ type: z.literal('paragraph.remove'), id }),
  z.strictObject({ type: z.literal('chart.put'), chart: chartSchema }),
  z.strictObject({ type: z.literal('chart.remove'), id }),
  z.strictObject({ type: z.literal('page.order'), order: z.array(id).check(z.maxLength(LIMITS.listLength)) }),
  /** A size, in the place of one of that id; a cell with an empty text is none. */
  z.strictObject({ type: z.literal('size.put'), size: typedSizeSchema, after: z.optional(z.nullable(id)) }),
  /** The same for many, as a table brings them; new ones are last. */
  z.strictObject({ type: z.literal('sizes.put'), sizes: z.array(typedSizeSchema).check(z.minLength(1), z.maxLength(5000)) }),
  z.strictObject({ type: z.literal('size.remove'), id }),
  z.strictObject({ type: z.literal('size.move'), id, after: z.nullable(id) }),
  z.strictObject({ type: z.literal('sizes.columns'), columns: z.array(id).check(z.maxLength(200)) }),
  /** The values that are shown of each size beside those that it sets. */
  z.strictObject({ type: z.literal('sizes.results'), results: z.array(id).check(z.maxLength(50)) }),
  /** The size that the document has from now on; null for as it is written. */
  z.strictObject({ type: z.literal('sizes.use'), size: z.nullable(id) }),
  z.strictObject({ type: z.literal('component.put'), component: componentSchema, after: z.optional(z.nullable(id)) }),
  /** Copies of a component, in the place of those that it has; null for none. Values that formulas read are replaced as the readers say. */
  z.strictObject({
    type: z.literal('component.repeat'),
    id,
    pattern: z.nullable(componentPatternSchema),
    values: z.array(parameterSchema).check(z.maxLength(2)),
    readers: z.optional(readersSchema),
  }),
  /** Removes a component with its drives; refused while formulas read it. */
  z.strictObject({ type: z.literal('component.remove'), id }),
  /** Where components stand from now on. */
  z.strictObject({
    type: z.literal('component.place'),
    places: z.record(id, placementSchema),
    /** Where components stand within flexible ones, by the id of those and their paths. */
    inside: z.optional(z.record(id, z.record(z.string().check(z.maxLength(3000)), placementSchema))),
    /** How far mates that count turns had turned then, in degrees, by their ids. */
    turned: z.optional(z.record(id, finite)),
  }),
  /** Another revision of its source; `names` are the new names of values that were renamed there, by paths after the component's name. */
  z.strictObject({
    type: z.literal('component.catchUp'),
    id,
    revision: z.int().check(z.gte(0)),
    hash: z.string().check(z.maxLength(100)),
    sourceName: text,
    names: z.optional(z.record(z.string().check(z.maxLength(3000)), z.string().check(z.maxLength(3000)))),
  }),
  /** Sets a value of a component from here, or by another formula. */
  z.strictObject({ type: z.literal('drive.put'), drive: driveSchema, names: z.optional(z.record(z.string(), id)) }),
  z.strictObject({ type: z.literal('drive.remove'), id }),
  /** Adds a mate with its values, or changes one; values of slots that it has no more are deleted. */
  z.strictObject({ type: z.literal('mate.put'), mate: mateSchema, values: z.array(parameterSchema).check(z.maxLength(4)), readers: z.optional(readersSchema) }),
  z.strictObject({ type: z.literal('mate.remove'), id, readers: readersSchema }),

  /** Adds an outside calculation, or changes it; `outputs` are values that it did not have before, `file` is the spreadsheet that it reads. */
  z.strictObject({
    type: z.literal('outside.put'),
    outside: outsideSchema,
    outputs: z.array(parameterSchema).check(z.maxLength(50)),
    file: z.optional(fileSchema),
    names: z.optional(z.record(z.string(), id)),
  }),
  /** Removes an outside calculation with its outputs and answers. */
  z.strictObject({ type: z.literal('outside.remove'), id, readers: readersSchema }),
  /** Keeps an answer; only a server that has asked makes this edit. Older ones of the same calculation go. */
  z.strictObject({ type: z.literal('outside.answer'), answer: answerSchema }),

  /** Exact changes, as inverses are written. Refused where what it would replace is no longer there. */
  z.strictObject({ type: z.literal('patch'), ops: z.array(patchOpSchema).check(z.maxLength(20_000)) }),
]);

export const editSchema = z.discriminatedUnion('type', [
  ...singleEditSchema.def.options,
  /** Several edits as one: all or none, and one undo. */
  z.strictObject({ type: z.literal('batch'), edits: z.array(singleEditSchema).check(z.minLength(1), z.maxLength(1000)) }),
]);

export type Edit = Readonly<z.infer<typeof editSchema>>;
export type EditOf<T extends Edit['type']> = Extract<Edit, { readonly type: T }>;
export type PatchOp = Readonly<z.infer<typeof patchOpSchema>>;
export type TypedFormula = Readonly<z.infer<typeof typedFormulaSchema>>;
export type Readers = Readonly<z.infer<typeof readersSchema>>;

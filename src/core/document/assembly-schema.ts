/** What stands in an assembly, or in anything that uses another document: components, what is set in them, and mates. */
import * as z from 'zod/mini';
import { colourSchema, coordinate, finite, formulaSchema, id, idOfCopy, name, text, valueName } from './schema-parts';
import { PLANES } from './step-schema';

/** A unit quaternion, the scalar first: by the right hand, as the component is turned from its own axes. */
const turnSchema = z
  .tuple([finite, finite, finite, finite])
  .check(z.refine((turn) => Math.abs(Math.hypot(...turn) - 1) < 1e-6, 'is no rotation: the four numbers must have length 1'));

/** A face or edge of a part, reached through components. */
const placedFaceSchema = z.strictObject({
  path: z.array(id).check(z.minLength(1), z.maxLength(32)),
  body: id,
  name: z.string().check(z.minLength(1), z.maxLength(1000)),
});

/** More copies than this in one pattern are a mistake, or would take too long. */
export const MOST_COPIES = 2000;

/** Where a component stands in its assembly: its origin in millimetres, and how it is turned about that. */
export const placementSchema = z.strictObject({ origin: z.tuple([coordinate, coordinate, coordinate]), turn: turnSchema });

/**
 * Copies of a component in a row or round an axis, all of them like the first: along an axis of the assembly, or the direction or axis of a
 * face or edge. Its slots `count` and `span` are values: how many there are, and the distance or angle from one to the next.
 */
const spacedPatternSchema = z.strictObject({
  form: z.enum(['linear', 'circular']),
  along: z.union([z.strictObject({ axis: z.enum(['x', 'y', 'z']) }), placedFaceSchema]),
  isReversed: z.optional(z.boolean()),
  /** Places left out, counted from 1, which is the first and never is. */
  skip: z.optional(z.array(z.int().check(z.gte(2), z.lte(MOST_COPIES))).check(z.maxLength(MOST_COPIES))),
  values: z.strictObject({ count: id, span: id }),
});

/** Copies at each place of a pattern in a part that stands in the assembly, as many as that has: screws in its holes. */
const followedPatternSchema = z.strictObject({
  form: z.literal('followed'),
  along: z.strictObject({ path: z.array(id).check(z.minLength(1), z.maxLength(32)), step: id }),
  skip: z.optional(z.array(z.int().check(z.gte(2), z.lte(MOST_COPIES))).check(z.maxLength(MOST_COPIES))),
  values: z.strictObject({}),
});

export const componentPatternSchema = z.union([spacedPatternSchema, followedPatternSchema]);

/**
 * Another document in an assembly, at a revision that never changes. One without a place has no geometry here: its driven values hold for
 * all components that take them from that document.
 */
export const componentSchema = z.strictObject({
  type: z.literal('component'),
  id,
  name: valueName,
  source: id,
  /** The source's name when last seen. */
  sourceName: text,
  policy: z.enum(['follow', 'ask', 'hold']),
  revision: z.int().check(z.gte(0)),
  hash: z.string().check(z.maxLength(100)),
  /** Where it stands, or where a solve begins. */
  at: z.optional(placementSchema),
  isAnchored: z.optional(z.boolean()),
  /** The plane of its own that it is mirrored in before it is placed. */
  mirrored: z.optional(z.enum(PLANES)),
  /** A plane of its own on both sides of which it is alike: where what it stands in is mirrored, it is placed as it is. */
  alike: z.optional(z.enum(PLANES)),
  /** Whether the components of a sub-assembly move with the mates of this assembly; it is rigid otherwise. */
  isFlexible: z.optional(z.boolean()),
  /** Where these stand within it, by their paths of ids, joined with slashes. */
  inside: z.optional(z.record(z.string().check(z.maxLength(3000)), placementSchema)),
  pattern: z.optional(componentPatternSchema),
  /** How it is shown here; as its bodies are without one. */
  colour: z.optional(colourSchema),
  suppressed: z.optional(formulaSchema),
  /** A text: the name of the size that its document has here; as it is there without one. */
  size: z.optional(formulaSchema),
  note: z.optional(text),
});

/** A value of a component that the assembly sets: `path` leads to it by ids, through components of sub-assemblies. */
export const driveSchema = z.strictObject({
  type: z.literal('drive'),
  id,
  component: id,
  path: z.array(id).check(z.minLength(1), z.maxLength(32)),
  /** The value's name when last seen. */
  sourceName: z.string().check(z.maxLength(3000)),
  formula: formulaSchema,
});

export const MATE_KINDS = [
  'coplanar',
  'coaxial',
  'coincident',
  'parallel',
  'perpendicular',
  'angle',
  'tangent',
  'centred',
  'slot',
  'gears',
  'screw',
  'together',
] as const;

/** Ids of components, outermost first, those of copies with their numbers. */
const matePath = z.array(idOfCopy).check(z.maxLength(32));

/**
 * What a mate holds on to: a face or edge of a part, reached through components, or a plane, axis or the origin of a component; of the assembly
 * itself where the path is empty.
 */
export const mateReferenceSchema = z.union([
  z.extend(placedFaceSchema, { path: matePath.check(z.minLength(1)) }),
  z.strictObject({ path: matePath, plane: z.enum(PLANES) }),
  z.strictObject({ path: matePath, axis: z.enum(['x', 'y', 'z']) }),
  z.strictObject({ path: matePath, origin: z.literal(true) }),
]);

/** How two components stand to each other: the second to the first. Which values it has follows from its kind. */
export const mateSchema = z.strictObject({
  type: z.literal('mate'),
  id,
  name,
  kind: z.enum(MATE_KINDS),
  first: mateReferenceSchema,
  second: mateReferenceSchema,
  /** The other face that something is centred between, the other end of a slot, or what two gears turn in. */
  third: z.optional(mateReferenceSchema),
  /**
   * Whether normals and directions run the same way, or are opposed. Of gears: whether they turn the same way; of a screw: whether it is
   * right-handed; of round ones that touch: whether from outside.
   */
  sense: z.union([z.literal(1), z.literal(-1)]),
  values: z.record(z.string().check(z.maxLength(30)), id),
  /** Of an angle: the direction that it is about, in the space of the first component. */
  about: z.optional(z.tuple([finite, finite, finite])),
  /** Of two that are together: where the second stands within the first; of a screw: where it stood before any turn. */
  within: z.optional(placementSchema),
  /** Of gears: how each stood in the third before any turn. */
  starts: z.optional(z.tuple([turnSchema, turnSchema])),
  /** Of gears, a screw, an angle with limits: how far it had turned when its places were last kept, in degrees, over full turns. */
  turned: z.optional(finite),
  /** Whether it moves freely between two values, instead of being held at one. */
  isLimited: z.optional(z.boolean()),
  suppressed: z.optional(formulaSchema),
});

export type Placement = Readonly<z.infer<typeof placementSchema>>;
export type Component = Readonly<z.infer<typeof componentSchema>>;
export type MateKind = (typeof MATE_KINDS)[number];
export type ComponentPattern = Readonly<z.infer<typeof componentPatternSchema>>;
export type SpacedPattern = Readonly<z.infer<typeof spacedPatternSchema>>;
export type MateReference = Readonly<z.infer<typeof mateReferenceSchema>>;
export type MateRecord = Readonly<z.infer<typeof mateSchema>>;
export type Drive = Readonly<z.infer<typeof driveSchema>>;

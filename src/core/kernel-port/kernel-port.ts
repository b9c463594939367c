/**
 * What a geometry kernel must do, as data in and data out. Millimetres and radians.
 *
 * A *body* is a number that the kernel gave for a shape it holds, good until released or until the kernel is
 * closed. Every face of a body has a stable name, said at birth by the operation that made it and carried
 * through later ones; an edge is named by the faces that meet in it. Operations never change a body: they
 * make a new one.
 */
import type { Curve, Frame, PlanePath, Point2, Point3, Profile } from '../geometry';
import type { Result } from '../kit';

export type BodyHandle = number;

export interface KernelFailure {
  readonly operation: string;
  /** In words of the trade. */
  readonly reason: string;
  /** The face or edge that was looked for and is not there any more. */
  readonly lost?: string;
  /** It was done, and nothing is left of the body. */
  readonly isEmpty?: boolean;
}

interface ProfileRequest {
  readonly profiles: readonly Profile[];
  readonly frame: Frame;
  /** Names of the new faces start with this: `<step>/side(<curve>)`, `<step>/start(<curve>)`, `<step>/end(<curve>)`. */
  readonly step: string;
}

export interface ExtrudeRequest extends ProfileRequest {
  /** Heights along the normal where it starts and ends; they differ. */
  readonly from: number;
  readonly to: number;
  /** Angle by which the sides lean inwards on the way from the plane, in radians; 0 for upright ones. */
  readonly taper?: number;
  /** Full names of sides by curve, where they are not named after the step. */
  readonly names?: Readonly<Record<string, string>>;
}

export interface RevolveRequest extends ProfileRequest {
  /** The axis, in the sketch plane. */
  readonly axis: { readonly origin: Point2; readonly direction: Point2 };
  /** In radians, by the right hand about the axis; 2 pi and more is a full turn. */
  readonly angle: number;
}

/**
 * Profiles drawn along a path in a plane, standing to it all the way as they do at its start; corners are mitred.
 * Sides are named `<step>/side(<curve>)`, on a path of several curves `<step>/side(<curve>.<curve of the path>)`.
 */
export interface SweepRequest extends ProfileRequest {
  readonly path: PlanePath;
  readonly pathFrame: Frame;
}

/** A solid through outlines, in order. Sides are named after the curves of the first. */
export interface LoftRequest {
  readonly sections: readonly { readonly profile: Profile; readonly frame: Frame }[];
  /** Straight from one to the next, or smooth through all. */
  readonly isRuled: boolean;
  readonly step: string;
}

/** A body to be written to a file. */
export interface NamedExport {
  readonly body: BodyHandle;
  readonly name: string;
  /** Red, green and blue, each from 0 to 1, as they are shown (sRGB). */
  readonly colour?: readonly [number, number, number];
}

/** A product of a file with structure: bodies of its own, and others put into it. */
export interface ExportedProduct {
  readonly name: string;
  readonly bodies: readonly NamedExport[];
  /** Each is of a product by its key, called by its own name, and stands where the movements bring it. */
  readonly parts: readonly { readonly name: string; readonly product: string; readonly movements: readonly Movement[] }[];
}

/** A line in space; the direction is a unit vector. */
export interface Axis {
  readonly origin: Point3;
  readonly direction: Point3;
}

/** A rigid movement, or the reflection in a plane. */
export type Movement =
  | { readonly kind: 'shift'; readonly by: Point3 }
  | { readonly kind: 'turn'; readonly about: Axis; readonly angle: number }
  | { readonly kind: 'mirror'; readonly plane: Pick<Frame, 'origin' | 'normal'> };

/** `angle` leans from the first of the two faces, in radians. */
export type ChamferSize = { readonly distance: number; readonly second?: number; readonly angle?: number };

/** What a face is, with its area; `revolved` is one about an axis that is no cylinder: a cone, a torus. */
export type FaceShape = { readonly area: number } & (
  | { readonly kind: 'plane'; readonly frame: Frame }
  | { readonly kind: 'round'; readonly axis: Axis; readonly radius: number }
  | { readonly kind: 'revolved'; readonly axis: Axis }
  | { readonly kind: 'sphere'; readonly centre: Point3; readonly radius: number }
  | { readonly kind: 'other' }
);

/** The places where two things are nearest to one another, in millimetres: at a distance of 0 where they meet or one stands in the other. */
export interface Nearest {
  readonly distance: number;
  readonly from: Point3;
  readonly to: Point3;
}

/** What an edge is, with its length and ends. */
export type EdgeShape = { readonly length: number; readonly start: Point3; readonly end: Point3 } & (
  | {
      readonly kind: 'line';
      /** Whether it runs from start to end with the turn from the first of its faces, as it is named, to the second; of plane faces only. */
      readonly sense?: 1 | -1;
    }
  | { readonly kind: 'circle'; readonly axis: Axis; readonly radius: number }
  | { readonly kind: 'other' }
);

/** Where faces meet in a point. */
export interface CornerShape {
  readonly kind: 'corner';
  readonly point: Point3;
}

export type GeometryShape = FaceShape | EdgeShape | CornerShape;

export interface BodyProperties {
  readonly volume: number;
  readonly area: number;
  readonly centre: Point3;
  /** Integrals of y² + z², z² + x², x² + y² over the body, about its centre; mm⁵. */
  readonly inertia: Point3;
  readonly box: { readonly min: Point3; readonly max: Point3 };
  readonly isValid: boolean;
  readonly solids: number;
  readonly faces: number;
}

/** Triangles of a body with their faces, and its edges as polylines. */
export interface BodyMesh {
  /** x, y, z of each vertex. */
  readonly positions: Float32Array;
  readonly normals: Float32Array;
  /** Three vertex numbers for each triangle. */
  readonly indices: Uint32Array;
  /** Faces in order: the indices from `start`, `count` of them, belong to the face of that name. */
  readonly faces: readonly { readonly name: string; readonly start: number; readonly count: number }[];
  /** x, y, z of the points of all edge polylines. */
  readonly edgePoints: Float32Array;
  /** Edges in order: points from `start`, `count` of them, joined in pairs of neighbours. */
  readonly edges: readonly { readonly name: string; readonly start: number; readonly count: number }[];
  /** Where three faces or more meet. */
  readonly corners: readonly { readonly name: string; readonly at: Point3 }[];
}

export interface SavedBody {
  readonly bytes: Uint8Array;
  /** Names of the faces, in the order in which the kernel reads them back. */
  readonly faceNames: readonly string[];
}

/** A body, or a face, edge or corner of it. */
export interface NamedPlace {
  readonly body: BodyHandle;
  readonly name?: string | undefined;
}

export interface KernelPort {
  /** Part of every cache key: results of another version are not trusted. */
  readonly version: string;
  extrude: (request: ExtrudeRequest) => Result<BodyHandle, KernelFailure>;
  revolve: (request: RevolveRequest) => Result<BodyHandle, KernelFailure>;
  sweep: (request: SweepRequest) => Result<BodyHandle, KernelFailure>;
  loft: (request: LoftRequest) => Result<BodyHandle, KernelFailure>;
  /** The solids of a STEP file as one body. Faces are named `<step>/face(<number>)` in the order of the file. */
  importStep: (bytes: Uint8Array, step: string) => Result<BodyHandle, KernelFailure>;
  /** One body with the tools added or removed, or what it has in common with them, in one go. */
  combine: (operation: 'add' | 'remove' | 'keep', body: BodyHandle, tools: readonly BodyHandle[]) => Result<BodyHandle, KernelFailure>;
  /** Rounds edges. The new faces are named `<step>/round(...)`. */
  fillet: (body: BodyHandle, edges: readonly string[], radius: number, step: string) => Result<BodyHandle, KernelFailure>;
  /** Cuts edges off. The new faces are named `<step>/cut(...)`. */
  chamfer: (body: BodyHandle, edges: readonly string[], size: ChamferSize, step: string) => Result<BodyHandle, KernelFailure>;
  /** Hollows a body to a wall, with faces left open. The new faces are named `<step>/inner(...)`. */
  shell: (body: BodyHandle, open: readonly string[], wall: number, step: string) => Result<BodyHandle, KernelFailure>;
  /** Turns faces about where they meet a plane; a positive angle leans them inwards along its normal. */
  draft: (body: BodyHandle, faces: readonly string[], plane: Frame, angle: number, step: string) => Result<BodyHandle, KernelFailure>;
  /** A moved copy. With a prefix, names of its faces become `<prefix>:<name>`. */
  move: (body: BodyHandle, movements: readonly Movement[], prefix?: string) => Result<BodyHandle, KernelFailure>;
  /** Moved copies in one body, each with the prefix that its place gives it. */
  repeat: (body: BodyHandle, places: readonly { readonly movements: readonly Movement[]; readonly prefix: string }[]) => Result<BodyHandle, KernelFailure>;
  /** What a face or edge of that name is; of several pieces, the first. Undefined when there is none. */
  describeFace: (body: BodyHandle, name: string) => FaceShape | undefined;
  describeEdge: (body: BodyHandle, name: string) => EdgeShape | undefined;
  describeCorner: (body: BodyHandle, name: string) => CornerShape | undefined;
  /** Names of all faces and edges of the body. */
  names: (body: BodyHandle) => { readonly faces: readonly string[]; readonly edges: readonly string[] };
  /** Where two bodies, or faces or edges of them, are nearest; undefined when one is not there. */
  nearest: (first: NamedPlace, second: NamedPlace) => Nearest | undefined;
  measure: (body: BodyHandle) => BodyProperties;
  /** The outlines where a plane cuts the body, in x and y of its frame; undefined where that cannot be told. */
  section: (body: BodyHandle, frame: Frame) => readonly Curve[] | undefined;
  mesh: (body: BodyHandle) => BodyMesh;
  save: (body: BodyHandle) => SavedBody;
  load: (saved: SavedBody) => BodyHandle;
  /** STEP with names and colours, or the triangles as binary STL. */
  exportFile: (bodies: readonly NamedExport[], format: 'step' | 'stl') => Uint8Array;
  /** STEP with product structure: products by key, each written once however often it is put in; `root` is the key of the whole. */
  exportProducts: (products: ReadonlyMap<string, ExportedProduct>, root: string) => Uint8Array;
  release: (body: BodyHandle) => void;
  /** Bytes of memory that the kernel has taken; it never gives any back. */
  memory: () => number;
}

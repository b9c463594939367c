/**
 * What goes between a worker and its client. Buffers of meshes and files are transferred: the worker keeps
 * none of them.
 */
import type { CompleteDocument } from '@/core/instances';
import type { TreeNode } from '@/core/assembly';
import type { Point3, Curve, Frame } from '@/core/geometry';
import type { BodyMesh, BodyProperties, GeometryShape, Movement } from '@/core/kernel-port';
import type { BodyDifference, KeyedPlace, Overlap, Regenerated } from '@/core/steps';

export const EXPORT_FORMATS = ['step', 'stl', '3mf', 'glb'] as const;
export type ExportFormat = (typeof EXPORT_FORMATS)[number];

/** Formats of a whole assembly. */
export const ASSEMBLY_FORMATS = ['step', '3mf', 'glb'] as const satisfies readonly ExportFormat[];
export type AssemblyFormat = (typeof ASSEMBLY_FORMATS)[number];

/** Contents of files come before the request that needs them, and are not answered. */
export interface FileNotice {
  readonly kind: 'file';
  readonly hash: string;
  readonly content: string;
}

/** A face or edge of a body, by its name. */
export interface NamedGeometry {
  readonly body: string;
  readonly name: string;
}

/** What can be asked of a worker. */
export type Wish =
  | {
      readonly kind: 'regenerate';
      readonly document: CompleteDocument;
      /** Keys of bodies whose meshes the client has; undefined for a client that wants no meshes. */
      readonly knownMeshes?: readonly string[];
      /** Faces and edges that are to be described, by body. */
      readonly describe?: readonly NamedGeometry[];
    }
  | {
      readonly kind: 'export';
      readonly document: CompleteDocument;
      readonly format: ExportFormat;
      /** Bodies by id; all of them when absent. */
      readonly bodies?: readonly string[];
    }
  /** An assembly as a file: STEP with its structure, meshes as the bodies stand. */
  | {
      readonly kind: 'export-assembly';
      readonly document: CompleteDocument;
      readonly format: AssemblyFormat;
      /** Parts with the values that they have there, by key. */
      readonly parts: Readonly<Record<string, CompleteDocument>>;
      readonly root: TreeNode;
    }
  /** Bodies of two parts, or faces or edges of them, the second moved: what they have in common, or how far they are apart. */
  | {
      readonly kind: 'between';
      readonly wants: 'overlap' | 'clearance';
      readonly document: CompleteDocument;
      readonly other: CompleteDocument;
      readonly places: readonly [KeyedPlace, KeyedPlace];
      readonly movements: readonly Movement[];
    }
  /** Where a plane cuts bodies of a part, by their keys. */
  | { readonly kind: 'section'; readonly document: CompleteDocument; readonly keys: readonly string[]; readonly frame: Frame }
  /** The box around a body of a part that is moved. */
  | { readonly kind: 'box'; readonly document: CompleteDocument; readonly key: string; readonly movements: readonly Movement[] }
  /** Two states of a part; the shapes are only asked for when they are to be seen. */
  | {
      readonly kind: 'compare';
      readonly before: CompleteDocument;
      readonly document: CompleteDocument;
      readonly wants: 'outcomes' | 'meshes' | 'differences';
    };

/** Each has a number, which its reply repeats. */
export type WorkerRequest = Wish extends infer W ? (W extends Wish ? W & { readonly id: number } : never) : never;

/** What two bodies have in common, in cubic millimetres; or how far they are apart, in millimetres, and the way from the first to the second where that is least, in the space of the first. */
export interface Between {
  readonly amount: number;
  readonly along?: Point3;
}

export type WorkerReply =
  | { readonly kind: 'ready' }
  | {
      readonly kind: 'regenerated';
      readonly id: number;
      readonly result: Regenerated;
      readonly meshes: Readonly<Record<string, BodyMesh>>;
      /** What was to be described, in that order; null for what is not there. */
      readonly shapes?: readonly (GeometryShape | null)[];
      /** Bytes that the kernel has taken; the client recycles the worker when they are too many. */
      readonly memory: number;
    }
  | {
      readonly kind: 'compared';
      readonly id: number;
      readonly before: Regenerated;
      readonly after: Regenerated;
      readonly meshes: Readonly<Record<string, BodyMesh>>;
      readonly differences: readonly BodyDifference[];
      /** Bodies that stand in one another, before and after; looked for with the differences. */
      readonly overlaps: { readonly before: readonly Overlap[]; readonly after: readonly Overlap[] };
      readonly memory: number;
    }
  /** Null where the kernel cannot tell. */
  | { readonly kind: 'between'; readonly id: number; readonly found: Between | null; readonly memory: number }
  /** In x and y of the frame, of all bodies together; null where one cannot be told. */
  | { readonly kind: 'section'; readonly id: number; readonly curves: readonly Curve[] | null; readonly memory: number }
  /** Millimetres; null where the body is not there. */
  | { readonly kind: 'box'; readonly id: number; readonly box: BodyProperties['box'] | null; readonly memory: number }
  /** `bodies` counts those that the file holds: none when nothing could be built. */
  | { readonly kind: 'exported'; readonly id: number; readonly bytes: Uint8Array; readonly bodies: number }
  /** How far a long request is. */
  | { readonly kind: 'progress'; readonly id: number; readonly done: number; readonly of: number }
  /** The program itself went wrong; the client restarts the worker. */
  | { readonly kind: 'crashed'; readonly id: number; readonly message: string };

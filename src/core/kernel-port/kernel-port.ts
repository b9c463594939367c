/**
 * What a geometry kernel must do, as data in and data out. Millimetres and radians.
 *
 * A *body* is a number that the kernel gave for a shape it holds, good until released or until the kernel is
 * closed. Every face of a body has a stable name, said at birth by the operation that made it and carried
 * through later ones; an edge is named by the faces that meet in it. Operations never change a body: they
 * make a new one.
 */
import type { Frame, Point3, Profile } from '../geometry';
import type { Result } from '../kit';

export type BodyHandle = number;

export interface KernelFailure {
  readonly operation: string;
  /** In words of the trade. */
  readonly reason: string;
}

export interface ExtrudeRequest {
  readonly profiles: readonly Profile[];
  readonly frame: Frame;
  /** Heights along the normal where it starts and ends; they differ. */
  readonly from: number;
  readonly to: number;
  /** Names of the new faces start with this: `<step>/side(<curve>)`, `<step>/start(<curve>)`, `<step>/end(<curve>)`. */
  readonly step: string;
}

export interface BodyProperties {
  readonly volume: number;
  readonly area: number;
  readonly centre: Point3;
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
}

export interface SavedBody {
  readonly bytes: Uint8Array;
  /** Names of the faces, in the order in which the kernel reads them back. */
  readonly faceNames: readonly string[];
}

export interface KernelPort {
  /** Part of every cache key: results of another version are not trusted. */
  readonly version: string;
  extrude: (request: ExtrudeRequest) => Result<BodyHandle, KernelFailure>;
  /** One body with the tools added or removed, in one go. */
  combine: (operation: 'add' | 'remove', body: BodyHandle, tools: readonly BodyHandle[]) => Result<BodyHandle, KernelFailure>;
  measure: (body: BodyHandle) => BodyProperties;
  mesh: (body: BodyHandle) => BodyMesh;
  save: (body: BodyHandle) => SavedBody;
  load: (saved: SavedBody) => BodyHandle;
  exportFile: (bodies: readonly BodyHandle[], format: 'step' | 'stl') => Uint8Array;
  release: (body: BodyHandle) => void;
  /** Bytes of memory that the kernel has taken; it never gives any back. */
  memory: () => number;
}

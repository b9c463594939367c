/** What the 3D picture shows, as plain data. */
import type { Point3 } from '@/core/geometry';
import type { BodyMesh } from '@/core/kernel-port';

export interface ShownBody {
  readonly key: string;
  /** Id of the body, where it can be picked from. */
  readonly body?: string;
  readonly mesh: BodyMesh;
  /** Red, green and blue, `#8a6a4f`; that of unbleached wood without one. */
  readonly colour?: string;
  /**
   * Solid, greyed (the last good picture of a body that failed), or in a preview: the outline of what was before, what is
   * after, and the material that was added or removed. A target is not seen: where there are targets, they are what is
   * picked, while something else is shown. What stands around is seen through, and neither picked nor framed.
   */
  readonly look: 'solid' | 'stale' | 'around' | 'before' | 'after' | 'added' | 'removed' | 'target';
  /** Where it stands, as a matrix by columns; as it was built without one. */
  readonly place?: readonly number[];
  /** On which side of a split picture it is seen; on both without. */
  readonly side?: 'left' | 'right';
}

/** `either`: a face or an edge; `any`: corners too; `body`: a body as a whole. */
export type PickKind = 'face' | 'edge' | 'either' | 'any' | 'body';

/** The name of what is picked where that is the whole body. */
export const WHOLE_BODY = '*';

export interface PickedGeometry {
  readonly body: string | undefined;
  readonly name: string;
}

/** A plane that the bodies are cut by: what lies on the side of its normal is left out. */
export interface SectionPlane {
  readonly normal: Point3;
  /** How far it lies from the origin along its normal, in millimetres. */
  readonly offset: number;
}

/** A matrix that is told row by row, as the picture takes it: column by column. */
export function byColumns(rows: readonly number[]): number[] {
  return rows.map((_, i) => rows[4 * (i % 4) + Math.floor(i / 4)] ?? 0);
}

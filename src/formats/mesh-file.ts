/** What files of triangles are written from. */
import type { BodyMesh } from '@/core/kernel-port';

export interface MeshedBody {
  readonly name: string;
  /** Red, green and blue: `#8a6a4f`. */
  readonly colour: string;
  /** Millimetres, z upwards. */
  readonly mesh: Pick<BodyMesh, 'positions' | 'normals' | 'indices'>;
}

/** Red, green and blue from 0 to 1, as they are shown (sRGB). */
export function readColour(colour: string): readonly [number, number, number] {
  const part = (from: number): number => Number.parseInt(colour.slice(from, from + 2), 16) / 255;
  return [part(1), part(3), part(5)];
}

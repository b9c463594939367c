/** Meshes as JSON: arrays of numbers as their bytes, little-endian, in base64. */
import type { BodyMesh } from '@/core/kernel-port';

type Arrays = 'positions' | 'normals' | 'indices' | 'edgePoints';

/** What older programs kept has no corners. */
export type MeshText = Omit<BodyMesh, Arrays | 'corners'> & Partial<Pick<BodyMesh, 'corners'>> & Readonly<Record<Arrays, string>>;

/** The solid of the latest revision as it is shown, before any kernel is loaded. */
export interface PictureReply {
  readonly revision: number;
  readonly bodies: readonly { readonly id: string; readonly key: string; readonly mesh: MeshText }[];
}

/** What geometry has answered before: a mesh, or anything else as exact JSON; neither where it is not known. */
export interface BuiltAnswerReply {
  readonly mesh?: MeshText;
  readonly exact?: string;
}

export function writeMesh({ faces, edges, corners, ...arrays }: BodyMesh): MeshText {
  const text = (array: Float32Array | Uint32Array): string => {
    const bytes = new Uint8Array(array.buffer, array.byteOffset, array.byteLength);
    let words = '';
    for (let at = 0; at < bytes.length; at += 8192) words += String.fromCharCode(...bytes.subarray(at, at + 8192));
    return btoa(words);
  };
  return {
    faces,
    edges,
    corners,
    positions: text(arrays.positions),
    normals: text(arrays.normals),
    indices: text(arrays.indices),
    edgePoints: text(arrays.edgePoints),
  };
}

export function readMesh({ faces, edges, corners = [], ...arrays }: MeshText): BodyMesh {
  const buffer = (text: string): ArrayBuffer => Uint8Array.from(atob(text), (character) => character.charCodeAt(0)).buffer;
  return {
    faces,
    edges,
    corners,
    positions: new Float32Array(buffer(arrays.positions)),
    normals: new Float32Array(buffer(arrays.normals)),
    indices: new Uint32Array(buffer(arrays.indices)),
    edgePoints: new Float32Array(buffer(arrays.edgePoints)),
  };
}

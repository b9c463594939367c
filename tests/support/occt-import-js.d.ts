/** What the tests use of a package that comes without types. */
declare module 'occt-import-js' {
  export interface OcctMesh {
    readonly name: string;
    readonly color?: readonly [number, number, number];
    readonly attributes: { readonly position: { readonly array: readonly number[] } };
    readonly index: { readonly array: readonly number[] };
  }
  export interface OcctNode {
    readonly name: string;
    /** Places in the list of meshes. */
    readonly meshes: readonly number[];
    readonly children: readonly OcctNode[];
  }
  export default function load(): Promise<{
    readonly ReadStepFile: (bytes: Uint8Array, options: null) => { readonly success: boolean; readonly root: OcctNode; readonly meshes: readonly OcctMesh[] };
  }>;
}

/** What is used of WebAssembly: every engine has it, though the language itself does not know it. */
export interface WasmEngine {
  readonly Memory: new (size: { readonly initial: number }) => { readonly buffer: ArrayBuffer };
  readonly Module: new (bytes: Uint8Array<ArrayBuffer>) => object;
  readonly Instance: new (
    module: object,
    imports: { readonly env: Readonly<Record<string, unknown>> },
  ) => { readonly exports: Readonly<Record<string, unknown>> };
}

/** Undefined where there is none. */
export const WASM = (globalThis as { readonly WebAssembly?: WasmEngine }).WebAssembly;

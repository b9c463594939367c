/** The part of the `dxf` package that is used; it comes without types. */
declare module 'dxf' {
  export function parseString(text: string): {
    readonly header: Readonly<Record<string, unknown>>;
    readonly entities: readonly Readonly<Record<string, unknown>>[];
  };
}

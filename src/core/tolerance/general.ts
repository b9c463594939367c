/** General tolerances of lengths by ISO 2768-1:1989, table 1, for dimensions without one of their own. Entered from memory of the standard. */

export const GENERAL_CLASSES = ['f', 'm', 'c', 'v'] as const;
export type GeneralClass = (typeof GENERAL_CLASSES)[number];

/** Up to which size in millimetres, and the deviation to both sides in each class; undefined where the table has none. */
const LENGTHS: readonly { readonly upTo: number; readonly by: Readonly<Record<GeneralClass, number | undefined>> }[] = [
  { upTo: 3, by: { f: 0.05, m: 0.1, c: 0.2, v: undefined } },
  { upTo: 6, by: { f: 0.05, m: 0.1, c: 0.3, v: 0.5 } },
  { upTo: 30, by: { f: 0.1, m: 0.2, c: 0.5, v: 1 } },
  { upTo: 120, by: { f: 0.15, m: 0.3, c: 0.8, v: 1.5 } },
  { upTo: 400, by: { f: 0.2, m: 0.5, c: 1.2, v: 2.5 } },
  { upTo: 1000, by: { f: 0.3, m: 0.8, c: 2, v: 4 } },
  { upTo: 2000, by: { f: 0.5, m: 1.2, c: 3, v: 6 } },
  { upTo: 4000, by: { f: undefined, m: 2, c: 4, v: 8 } },
];

/** The deviation to both sides of a length, in millimetres; undefined below 0.5 mm, above 4 m, and where the class has none. */
export function generalDeviation(millimetres: number, wanted: GeneralClass): number | undefined {
  const size = Math.abs(millimetres);
  if (size < 0.5) return undefined;
  return LENGTHS.find(({ upTo }) => size <= upTo)?.by[wanted];
}

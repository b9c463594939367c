/** Numbers of the picture in the units of the document, for what no value owns. */
import type { DocumentValues } from '@/core/document';
import { quantityType } from '@/core/formula';
import { kindDimension, prettyUnit, type QuantityKind } from '@/core/units';

/** Whole base units, as the kernel and values count them, for a millimetre and a degree. */
const BASE = { length: 10_000, angle: 1 } as const;

/** A length in millimetres or an angle in degrees, rounded as values are. */
export function amountWords(values: DocumentValues, kind: keyof typeof BASE, amount: number): string {
  return baseWords(values, kind, amount * BASE[kind]);
}

/** A quantity of a kind in whole base units. */
export function baseWords(values: DocumentValues, kind: QuantityKind, value: number): string {
  const type = quantityType(kindDimension(kind));
  return prettyUnit(values.words({ type, value, diagnostics: [] }, values.unitOf(undefined, { type, typedUnit: undefined })).shown);
}

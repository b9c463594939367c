/** What the result of a formula can be. Interned: equal types are one object. */
import { PLAIN, type Dimension } from '../units';

export type ValueType =
  | { readonly kind: 'quantity'; readonly dimension: Dimension }
  | { readonly kind: 'temperature' }
  | { readonly kind: 'yes-no' }
  | { readonly kind: 'text' };

/** An absolute temperature; a difference of two is a quantity in K. */
export const TEMPERATURE_POINT: ValueType = { kind: 'temperature' };
export const YES_NO: ValueType = { kind: 'yes-no' };
export const TEXT: ValueType = { kind: 'text' };

const quantities = new Map<Dimension, ValueType>();

export function quantityType(dimension: Dimension): ValueType {
  let type = quantities.get(dimension);
  if (!type) quantities.set(dimension, (type = { kind: 'quantity', dimension }));
  return type;
}

export const PLAIN_NUMBER = quantityType(PLAIN);

/** Copies of components that are repeated: how many there are, and how paths call them. */
import type { ComponentPattern, DocumentValues } from '../document';

/** Stands for the n-th of a component that is repeated, counted from 1, in paths. */
export function copyId(component: string, n: number): string {
  return n === 1 ? component : `${component}#${n}`;
}

/** The component that a copy is of. */
export function plainId(id: string): string {
  return id.split('#', 1)[0] ?? id;
}

/** Numbers of the copies of a component, those beside the first; none while their count has no value. */
export function countCopies(values: DocumentValues, { values: { count }, skip = [] }: ComponentPattern): number[] {
  const many = values.sheet.readNumber(count);
  if (Number.isNaN(many)) return [];
  const skipped = new Set(skip);
  return Array.from({ length: Math.min(Math.max(0, Math.round(many) - 1), MOST_SHOWN) }, (_, i) => i + 2).filter((n) => !skipped.has(n));
}

/** No more copies than this are shown; the count itself is judged where it is typed. */
const MOST_SHOWN = 2000;

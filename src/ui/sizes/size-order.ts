/** Which sizes the table lists, and in which order. */
import type { CheckedSize } from '@/contract';
import type { Size } from '@/core/document';

/** A column to sort by: a value by its id, or something of its own. */
export type SortKey = { readonly by: 'name' | 'mass' | 'volume' } | { readonly by: 'value'; readonly id: string };

export interface SizeOrder {
  readonly key: SortKey;
  readonly isDown: boolean;
}

export const FILTERS = { all: 'All sizes', wrong: 'With problems', good: 'Without problems', old: 'To be checked' } as const;
export type SizeFilter = keyof typeof FILTERS;

/** What is known of a size. */
export interface KnownSize {
  readonly size: Size;
  readonly checked: CheckedSize | undefined;
  readonly isOld: boolean;
  /** The value as it is in the size: a number to sort by, and its words. */
  readonly read: (id: string) => { readonly value: number; readonly shown: string } | undefined;
}

/** The sizes whose name, words or problems hold the text, in the order that is asked for; those without a number come last. */
export function orderSizes(
  known: readonly KnownSize[],
  {
    find,
    filter,
    order,
    values,
  }: { readonly find: string; readonly filter: SizeFilter; readonly order: SizeOrder | undefined; readonly values: readonly string[] },
): KnownSize[] {
  const wanted = find.trim().toLowerCase();
  const holds = (text: string): boolean => text.toLowerCase().includes(wanted);
  const listed = known.filter((one) => {
    if (!FILTER_BY[filter](one)) return false;
    if (wanted === '' || holds(one.size.name)) return true;
    return (one.checked?.problems ?? []).some(holds) || values.some((id) => holds(one.read(id)?.shown ?? ''));
  });
  if (!order) return listed;
  const { key, isDown } = order;
  const turn = isDown ? -1 : 1;
  if (key.by === 'name') return listed.sort((a, b) => turn * a.size.name.localeCompare(b.size.name, 'en', { numeric: true }));
  const rank = (one: KnownSize): number => {
    if (key.by === 'value') return one.read(key.id)?.value ?? NaN;
    return (key.by === 'mass' ? one.checked?.mass : one.checked?.volume) ?? NaN;
  };
  return listed
    .map((one) => ({ one, at: rank(one) }))
    .sort((a, b) => (Number.isNaN(a.at) ? (Number.isNaN(b.at) ? 0 : 1) : Number.isNaN(b.at) ? -1 : turn * (a.at - b.at)))
    .map(({ one }) => one);
}

/** Never checked, or another now than when it was. */
export function isToBeChecked({ checked, isOld }: KnownSize): boolean {
  return !checked || isOld;
}

const FILTER_BY: Readonly<Record<SizeFilter, (one: KnownSize) => boolean>> = {
  all: () => true,
  wrong: ({ checked }) => checked !== undefined && checked.problems.length > 0,
  good: ({ checked, isOld }) => checked?.problems.length === 0 && !isOld,
  old: isToBeChecked,
};

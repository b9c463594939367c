/** What a key means on a row of the ledger that has the focus: a table, without the page. */

export type RowTarget = 'next' | 'previous' | 'page-down' | 'page-up' | 'first' | 'last';

export type RowAction =
  | { readonly kind: 'edit'; readonly what: 'formula' | 'name' }
  /** A formula is begun with what was typed. */
  | { readonly kind: 'type'; readonly text: string }
  | { readonly kind: 'go'; readonly to: RowTarget; readonly marks: boolean }
  | { readonly kind: 'move'; readonly by: 1 | -1 }
  | { readonly kind: 'fold'; readonly isFolded: boolean }
  | { readonly kind: 'delete' | 'copy' | 'fill-down' | 'mark' | 'mark-all' | 'unmark' | 'details' };

export interface KeyStroke {
  readonly key: string;
  readonly ctrlKey: boolean;
  readonly metaKey: boolean;
  readonly shiftKey: boolean;
  readonly altKey: boolean;
}

const TARGETS: Readonly<Record<string, RowTarget>> = {
  ArrowDown: 'next',
  ArrowUp: 'previous',
  PageDown: 'page-down',
  PageUp: 'page-up',
  Home: 'first',
  End: 'last',
};

/** Undefined for what is not the row's: it is left to the page. */
export function readRowKey({ key, ctrlKey, metaKey, shiftKey, altKey }: KeyStroke): RowAction | undefined {
  const isControl = ctrlKey || metaKey;
  if (key === 'Enter' && altKey) return { kind: 'details' };
  if (key === 'Enter' || key === 'F2') return isControl ? undefined : { kind: 'edit', what: shiftKey ? 'name' : 'formula' };
  if (altKey && (key === 'ArrowUp' || key === 'ArrowDown')) return { kind: 'move', by: key === 'ArrowUp' ? -1 : 1 };
  const to = TARGETS[key];
  if (to !== undefined) return altKey ? undefined : { kind: 'go', to, marks: shiftKey };
  if (key === 'ArrowLeft' || key === 'ArrowRight') return altKey || isControl ? undefined : { kind: 'fold', isFolded: key === 'ArrowLeft' };
  if (key === 'Delete') return { kind: 'delete' };
  if (key === 'Escape') return { kind: 'unmark' };
  if (isControl) return altKey ? undefined : CONTROL[key.toLowerCase()];
  // An accent or a word that is put together: the box takes it from its first key on.
  if (COMPOSING.has(key)) return { kind: 'type', text: '' };
  // One character, with AltGr too: a formula is begun. A space scrolls.
  return [...key].length === 1 && key !== ' ' ? { kind: 'type', text: key } : undefined;
}

/** Keys that begin what is put together of several, by an accent or an input method. */
const COMPOSING = new Set(['Dead', 'Process']);

const CONTROL: Readonly<Record<string, RowAction>> = {
  d: { kind: 'fill-down' },
  a: { kind: 'mark-all' },
  c: { kind: 'copy' },
  ' ': { kind: 'mark' },
};

/** How many rows a page is. */
const PAGE = 15;

/** The row that is gone to, among those that are there. */
export function rowAt(order: readonly string[], from: string, to: RowTarget): string | undefined {
  const at = order.indexOf(from);
  const last = order.length - 1;
  const within = (index: number): string | undefined => order[Math.min(last, Math.max(0, index))];
  switch (to) {
    case 'next':
      return order[at + 1];
    case 'previous':
      return order[at - 1];
    case 'page-down':
      return within(at + PAGE);
    case 'page-up':
      return within(at - PAGE);
    case 'first':
      return order[0];
    case 'last':
      return order[last];
  }
}

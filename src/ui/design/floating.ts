'use client';
/** How menus and boxes over the page get what draws them (`floating-parts.ts`), which no page needs before one is opened. */
import { useState } from 'react';

export type FloatingParts = typeof import('./floating-parts');

let loaded: FloatingParts | undefined;

/** Fetches them, once. */
export async function loadFloating(): Promise<FloatingParts> {
  loaded ??= await import('./floating-parts');
  return loaded;
}

/** Them, once they are there. */
export function floatingNow(): FloatingParts | undefined {
  return loaded;
}

interface Opening {
  /** Undefined until it was opened for the first time. */
  readonly parts: FloatingParts | undefined;
  readonly isOpen: boolean;
  readonly setOpen: (isOpen: boolean) => void;
  /** For the plain button: what is pointed at, or has the focus, is about to be pressed. */
  readonly foresee: { readonly onPointerEnter: () => void; readonly onFocus: () => void };
}

// What fails now is tried again by the press.
const fetchAhead = (): void => void loadFloating().catch(() => undefined);
const FORESEE = { onPointerEnter: fetchAhead, onFocus: fetchAhead };

/** State of one menu or box. Where its parts are still to be loaded and the server does not answer, it stays closed. */
export function useFloating(): Opening {
  const [parts, setParts] = useState<FloatingParts>();
  const [isOpen, setIsOpen] = useState(false);
  const setOpen = (is: boolean): void => {
    setIsOpen(is);
    if (!is || parts) return;
    if (loaded) setParts(loaded);
    else void loadFloating().then(setParts, () => setIsOpen(false));
  };
  return { parts, isOpen, setOpen, foresee: FORESEE };
}

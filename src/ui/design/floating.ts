'use client';
/** How menus and boxes over the page get what draws them, which no page needs before one is opened. */
import { useState } from 'react';

/** Parts that are fetched once, when they are asked for. */
class Later<T> {
  private readonly fetchParts: () => Promise<T>;
  private fetched: T | undefined;

  constructor(fetchParts: () => Promise<T>) {
    this.fetchParts = fetchParts;
  }

  get now(): T | undefined {
    return this.fetched;
  }

  async load(): Promise<T> {
    this.fetched ??= await this.fetchParts();
    return this.fetched;
  }

  /** Before they are needed. What fails is tried again when they are. */
  readonly fetchAhead = (): void => void this.load().catch(() => undefined);

  /** For a plain button: what is pointed at, or has the focus, is about to be pressed. */
  readonly foresee = { onPointerEnter: this.fetchAhead, onFocus: this.fetchAhead };
}

export const menus = new Later(() => import('./menu-parts'));
export const boxes = new Later(() => import('./box-parts'));

interface Opening<T> {
  /** Undefined until it was opened for the first time. */
  readonly parts: T | undefined;
  readonly isOpen: boolean;
  readonly setOpen: (isOpen: boolean) => void;
}

/** State of one menu or box. Where its parts are still to be loaded and the server does not answer, it stays closed. */
export function useFloating<T>(later: Later<T>): Opening<T> {
  const [parts, setParts] = useState<T>();
  const [isOpen, setIsOpen] = useState(false);
  const setOpen = (is: boolean): void => {
    setIsOpen(is);
    if (!is || parts !== undefined) return;
    const { now } = later;
    if (now !== undefined) setParts(now);
    else
      void later.load().then(
        (loaded) => setParts(loaded),
        () => setIsOpen(false),
      );
  };
  return { parts, isOpen, setOpen };
}

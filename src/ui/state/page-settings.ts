/** How the page of a document is laid out, remembered in this browser. */
import { useStore } from 'zustand';
import { remembered } from './remembered';

export interface PageSettings {
  /** How much of the width the ledger has beside a picture, in hundredths. */
  readonly ledgerShare: number;
  /** Height of the panel under the ledger, in pixels; undefined for what suits what is in it. */
  readonly panelHeight: number | undefined;
  readonly isPanelFolded: boolean;
  /** Widths of columns of the ledger, in pixels. */
  readonly columns: { readonly value: number; readonly name: number };
}

/** Limits of those widths, and what they begin with. */
export const COLUMNS = { value: { least: 64, most: 240, usual: 84 }, name: { least: 80, most: 480, usual: 140 } } as const;

/** The same of that share. */
export const LEDGER_SHARE = { least: 25, most: 75, usual: 42 } as const;

export const pageSettings = remembered<PageSettings>('warpbeam-page', {
  ledgerShare: LEDGER_SHARE.usual,
  panelHeight: undefined,
  isPanelFolded: false,
  columns: { value: COLUMNS.value.usual, name: COLUMNS.name.usual },
});

export function usePageSettings<T>(select: (settings: PageSettings) => T): T {
  return useStore(pageSettings, select);
}

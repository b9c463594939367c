/** How the page of a document is laid out, remembered in this browser. */
import { useStore } from 'zustand';
import { remembered } from './remembered';

export interface PageSettings {
  /** Height of the panel under the ledger, in pixels; undefined for what suits what is in it. */
  readonly panelHeight: number | undefined;
  readonly isPanelFolded: boolean;
}

export const pageSettings = remembered<PageSettings>('warpbeam-page', { panelHeight: undefined, isPanelFolded: false });

export function usePageSettings<T>(select: (settings: PageSettings) => T): T {
  return useStore(pageSettings, select);
}

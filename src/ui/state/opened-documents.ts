/** The documents that were opened last in this browser, to be found again on the first page. */
import type { DocumentKind } from '@/core/document';
import { remembered } from './remembered';

export interface OpenedDocument {
  readonly id: string;
  readonly name: string;
  readonly kind: DocumentKind;
  /** The id of its project. */
  readonly project: string;
}

/** More would be a list to search, which the project is. */
const MOST = 6;

export const openedDocuments = remembered<{ readonly documents: readonly OpenedDocument[] }>('warpbeam-opened', { documents: [] });

/** The one that is opened goes first; what is kept of it is as it is now. */
export function noteOpened(opened: OpenedDocument): void {
  openedDocuments.setState(({ documents }) => ({ documents: [opened, ...documents.filter(({ id }) => id !== opened.id)].slice(0, MOST) }));
}

export function forgetOpened(gone: string): void {
  openedDocuments.setState(({ documents }) => ({ documents: documents.filter(({ id }) => id !== gone) }));
}

/** It may have another name now; where it stands in the list stays. */
export function renameOpened(opened: OpenedDocument): void {
  openedDocuments.setState(({ documents }) => ({ documents: documents.map((one) => (one.id === opened.id ? opened : one)) }));
}

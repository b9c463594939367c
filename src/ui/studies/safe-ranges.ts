'use client';
/** Safe ranges that were found in this page, on the rows of their values for as long as the document is otherwise the same. */
import { findRecord, type Document } from '@/core/document';
import { meaningText } from '@/core/instances';
import { useSessionState, useWorkspace } from '../state/context';
import type { WorkspaceStore } from '../state/workspace';

export function noteSafeRange(workspace: WorkspaceStore, document: Document, value: string, words: string): void {
  workspace.setState(({ safeRanges }) => ({ safeRanges: new Map(safeRanges).set(value, { of: meaningBeside(document, value), words }) }));
}

/** Undefined where none is known, or where something else is another since. */
export function useSafeRange(value: string): string | undefined {
  const known = useWorkspace((state) => state.safeRanges.get(value));
  const document = useSessionState((state) => (known ? state.document : undefined));
  return known && document && meaningBeside(document, value) === known.of ? known.words : undefined;
}

/** What decides all values and the shape but for the value itself. */
function meaningBeside(document: Document, value: string): string {
  const parameter = findRecord(document, value, 'parameter');
  return parameter ? meaningText({ ...document, records: { ...document.records, [value]: { ...parameter, formula: { text: '' } } } }) : '';
}

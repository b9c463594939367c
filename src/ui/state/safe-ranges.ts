'use client';
/** Safe ranges that were found in this page, on the rows of their values for as long as the document is otherwise the same. */
import type { Document } from '@/core/document';
import { useSessionState, useWorkspace } from './context';
import type { WorkspaceStore } from './workspace';

export function noteSafeRange(workspace: WorkspaceStore, document: Document, value: string, words: string): void {
  workspace.setState(({ safeRanges }) => ({ safeRanges: new Map(safeRanges).set(value, { of: document, words }) }));
}

/** Undefined where none is known, or where something else has changed since. */
export function useSafeRange(value: string): string | undefined {
  const known = useWorkspace((state) => state.safeRanges.get(value));
  const isSame = useSessionState((state) => known !== undefined && isSameBeside(known.of, state.document, value));
  return isSame ? known?.words : undefined;
}

/** Whether two states differ in one value at most, told by the identity of their records: rows ask with every frame of a drag. */
function isSameBeside(before: Document, after: Document, value: string): boolean {
  if (before === after) return true;
  if (before.units !== after.units || before.general !== after.general || before.lists !== after.lists) return false;
  const ids = Object.keys(after.records);
  return ids.length === Object.keys(before.records).length && ids.every((id) => id === value || before.records[id] === after.records[id]);
}

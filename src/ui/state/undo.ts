/** What undo and redo would take back, from the log of edits: so that both work across a reload. */
import type { Edit } from '@/core/document';

export interface RevertibleEdit {
  readonly key: string;
  readonly author: string;
  readonly reverts?: string | undefined;
  readonly inverse: Edit;
}

export interface UndoStacks {
  readonly undo: readonly RevertibleEdit[];
  readonly redo: readonly RevertibleEdit[];
}

/**
 * Stacks of one author's edits, oldest first. An edit that reverts the top of the undo stack is an undo and
 * goes on the redo stack; one that reverts the top of the redo stack is a redo. A new edit empties the redo stack.
 */
export function findUndoStacks(log: readonly RevertibleEdit[], author: string): UndoStacks {
  const undo: RevertibleEdit[] = [];
  const redo: RevertibleEdit[] = [];
  for (const edit of log) {
    if (edit.author !== author) continue;
    if (edit.reverts === undefined) {
      undo.push(edit);
      redo.length = 0;
    } else if (undo.at(-1)?.key === edit.reverts) {
      undo.pop();
      redo.push(edit);
    } else if (redo.at(-1)?.key === edit.reverts) {
      redo.pop();
      undo.push(edit);
    }
  }
  return { undo, redo };
}

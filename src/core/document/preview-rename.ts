/** What a new name would change, before it is given. */
import { findRecord } from './access';
import { applyEdit } from './apply-edit';
import type { Document } from './schema';

export interface RenamePreview {
  /** Why the name cannot be had. */
  readonly refusal: string | undefined;
  /** Values whose formulas are rewritten. */
  readonly changes: readonly { readonly id: string; readonly name: string; readonly before: string; readonly after: string }[];
}

export function previewRename(document: Document, id: string, name: string): RenamePreview {
  const applied = applyEdit(document, { type: 'value.rename', id, name });
  if (!applied.ok) return { refusal: applied.failure.message, changes: [] };
  const changes = applied.value.diff.records.flatMap(({ id: changed, after }) => {
    const before = findRecord(document, changed, 'parameter');
    if (after?.type !== 'parameter' || !before || before.formula.text === after.formula.text) return [];
    return [{ id: changed, name: after.name, before: before.formula.text, after: after.formula.text }];
  });
  return { refusal: undefined, changes };
}

/** Edits of the sizes of a document. */
import { findAny, findRecord, listIds } from './access';
import type { Draft } from './draft';
import { notFound, otherKind, type EditFailure } from './edit-failure';
import type { EditOf } from './edit-schema';
import { resolveTyped } from './formulas-in';
import type { Formula, Size, SizeTable } from './schema';
import { listSizes, SIZE_TABLE, sizeTable } from './sizes';

type SizeEdit = EditOf<'size.put' | 'size.remove' | 'sizes.columns' | 'sizes.use'>;

export function applySizeEdit(draft: Draft, edit: SizeEdit): EditFailure | undefined {
  switch (edit.type) {
    case 'size.put':
      return putSize(draft, edit);
    case 'size.remove': {
      if (!findRecord(draft.document, edit.id, 'size')) return notFound('This size');
      const table = sizeTable(draft.document);
      if (table?.used === edit.id) putTable(draft, withoutUsed(table));
      draft.removeFromList('sizes', edit.id);
      draft.put(edit.id, null);
      return undefined;
    }
    case 'sizes.columns':
      return setColumns(draft, edit.columns);
    case 'sizes.use': {
      if (edit.size !== null && !findRecord(draft.document, edit.size, 'size')) return notFound('This size');
      const rest = withoutUsed(sizeTable(draft.document) ?? EMPTY);
      putTable(draft, edit.size === null ? rest : { ...rest, used: edit.size });
      return undefined;
    }
  }
}

const EMPTY: SizeTable = { type: 'size-table', id: SIZE_TABLE, columns: [] };

function withoutUsed({ used: _, ...rest }: SizeTable): SizeTable {
  return rest;
}

function putTable(draft: Draft, table: SizeTable): void {
  if (!findAny(draft.document, SIZE_TABLE)) draft.insert('sizing', SIZE_TABLE);
  draft.put(SIZE_TABLE, table);
}

function putSize(draft: Draft, { size, after }: EditOf<'size.put'>): EditFailure | undefined {
  const there = findAny(draft.document, size.id);
  if (there && there.type !== 'size') return otherKind(size.id);
  const name = size.name.trim();
  const twin = listSizes(draft.document).find((other) => other.id !== size.id && other.name.toLowerCase() === name.toLowerCase());
  if (twin) return { code: 'already-there', message: `There is a size ${twin.name} already. Give this one another name.`, ids: [twin.id] };
  const cells: Record<string, Formula> = {};
  for (const [id, typed] of Object.entries(size.cells)) {
    const parameter = findRecord(draft.document, id, 'parameter');
    if (!parameter) return notFound('A value of this size');
    if (parameter.measure) return { code: 'wrong-owner', message: `${parameter.name} is measured; no size can set it.` };
    if (typed.text.trim() !== '') cells[id] = resolveTyped(draft.document, typed);
  }
  const put: Size = { type: 'size', id: size.id, name, cells };
  if (!there) draft.insert('sizes', size.id, after);
  draft.put(size.id, put);
  const table = sizeTable(draft.document) ?? EMPTY;
  const columns = [...table.columns, ...Object.keys(cells).filter((id) => !table.columns.includes(id))];
  putTable(draft, { ...table, columns });
  return undefined;
}

/** Cells of columns that are no longer there go with them. */
function setColumns(draft: Draft, columns: readonly string[]): EditFailure | undefined {
  for (const id of columns) {
    const parameter = findRecord(draft.document, id, 'parameter');
    if (!parameter) return notFound('A value of this table');
    if (parameter.measure) return { code: 'wrong-owner', message: `${parameter.name} is measured; no size can set it.` };
  }
  const kept = new Set(columns);
  for (const id of listIds(draft.document, 'sizes')) keepCells(draft, id, (column) => kept.has(column));
  putTable(draft, { ...(sizeTable(draft.document) ?? EMPTY), columns: [...kept] });
  return undefined;
}

/** A value is gone: no size says anything of it any more. */
export function dropFromSizes(draft: Draft, value: string): void {
  const table = sizeTable(draft.document);
  if (!table?.columns.includes(value)) return;
  putTable(draft, { ...table, columns: table.columns.filter((id) => id !== value) });
  for (const id of listIds(draft.document, 'sizes')) keepCells(draft, id, (column) => column !== value);
}

function keepCells(draft: Draft, id: string, isKept: (column: string) => boolean): void {
  const size = findRecord(draft.document, id, 'size');
  if (size) draft.put(id, { ...size, cells: Object.fromEntries(Object.entries(size.cells).filter(([column]) => isKept(column))) });
}

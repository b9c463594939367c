/** Edits of the sizes of a document. */
import { findAny, findRecord, listIds } from './access';
import type { Draft } from './draft';
import { notFound, otherKind, type EditFailure } from './edit-failure';
import type { EditOf } from './edit-schema';
import { resolveTyped } from './formulas-in';
import type { Formula, Size, SizeTable } from './schema';
import { listSizes, SIZE_TABLE, sizeTable } from './sizes';

type SizeEdit = EditOf<'size.put' | 'sizes.put' | 'size.remove' | 'size.move' | 'sizes.columns' | 'sizes.results' | 'sizes.use'>;

export function applySizeEdit(draft: Draft, edit: SizeEdit): EditFailure | undefined {
  switch (edit.type) {
    case 'size.put':
      return putSizes(draft, [edit.size], edit.after);
    case 'sizes.put':
      return putSizes(draft, edit.sizes);
    case 'size.remove': {
      if (!findRecord(draft.document, edit.id, 'size')) return notFound('This size');
      const table = sizeTable(draft.document);
      if (table?.used === edit.id) putTable(draft, withoutUsed(table));
      draft.removeFromList('sizes', edit.id);
      draft.put(edit.id, null);
      return undefined;
    }
    case 'size.move':
      if (!findRecord(draft.document, edit.id, 'size')) return notFound('This size');
      draft.removeFromList('sizes', edit.id);
      draft.insert('sizes', edit.id, edit.after);
      return undefined;
    case 'sizes.columns':
      return setColumns(draft, edit.columns);
    case 'sizes.results':
      return setResults(draft, edit.results);
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

type TypedSize = EditOf<'size.put'>['size'];

function putSizes(draft: Draft, sizes: readonly TypedSize[], after?: string | null): EditFailure | undefined {
  const byName = new Map(listSizes(draft.document).map((size) => [size.name.toLowerCase(), size.id]));
  const set = new Set<string>();
  for (const size of sizes) {
    const failure = putSize(draft, size, { byName, set, after });
    if (failure) return failure;
  }
  const table = sizeTable(draft.document) ?? EMPTY;
  putTable(draft, { ...table, columns: [...table.columns, ...[...set].filter((id) => !table.columns.includes(id))] });
  return undefined;
}

interface PutTogether {
  /** Ids of the sizes by their names in small letters. */
  readonly byName: Map<string, string>;
  /** The values that some size sets. */
  readonly set: Set<string>;
  readonly after: string | null | undefined;
}

function putSize(draft: Draft, size: TypedSize, { byName, set, after }: PutTogether): EditFailure | undefined {
  const there = findAny(draft.document, size.id);
  if (there && there.type !== 'size') return otherKind(size.id);
  const name = size.name.trim();
  const twin = byName.get(name.toLowerCase());
  if (twin !== undefined && twin !== size.id) {
    return {
      code: 'already-there',
      message: `There is a size ${findRecord(draft.document, twin, 'size')?.name ?? name} already. Give this one another name.`,
      ids: [twin],
    };
  }
  const cells: Record<string, Formula> = {};
  for (const [id, typed] of Object.entries(size.cells)) {
    const parameter = findRecord(draft.document, id, 'parameter');
    if (!parameter) return notFound('A value of this size');
    if (parameter.measure) return { code: 'wrong-owner', message: `${parameter.name} is measured; no size can set it.` };
    if (typed.text.trim() === '') continue;
    cells[id] = resolveTyped(draft.document, typed);
    set.add(id);
  }
  if (there) byName.delete(there.name.toLowerCase());
  else draft.insert('sizes', size.id, after);
  byName.set(name.toLowerCase(), size.id);
  draft.put(size.id, { type: 'size', id: size.id, name, cells } satisfies Size);
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

function setResults(draft: Draft, wanted: readonly string[]): EditFailure | undefined {
  const results = [...new Set(wanted)];
  if (results.some((id) => !findRecord(draft.document, id, 'parameter') && !findRecord(draft.document, id, 'take'))) return notFound('A value of this table');
  const { results: _, ...rest } = sizeTable(draft.document) ?? EMPTY;
  putTable(draft, results.length > 0 ? { ...rest, results } : rest);
  return undefined;
}

/** A value is gone: no size says anything of it any more. */
export function dropFromSizes(draft: Draft, value: string): void {
  const shown = sizeTable(draft.document)?.results ?? [];
  if (shown.includes(value))
    setResults(
      draft,
      shown.filter((id) => id !== value),
    );
  const table = sizeTable(draft.document);
  if (!table?.columns.includes(value)) return;
  putTable(draft, { ...table, columns: table.columns.filter((id) => id !== value) });
  for (const id of listIds(draft.document, 'sizes')) keepCells(draft, id, (column) => column !== value);
}

function keepCells(draft: Draft, id: string, isKept: (column: string) => boolean): void {
  const size = findRecord(draft.document, id, 'size');
  if (size) draft.put(id, { ...size, cells: Object.fromEntries(Object.entries(size.cells).filter(([column]) => isKept(column))) });
}

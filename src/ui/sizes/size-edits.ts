/** Sizes of a document, as edits, and as a table of texts. */
import {
  findRecord,
  findSize,
  formulaNow,
  listIds,
  listSizes,
  meantNames,
  sizeColumns,
  type Document,
  type Edit,
  type EditOf,
  type Parameter,
  type Size,
} from '@/core/document';
import { newId } from '../state/identity';

type PutSize = EditOf<'size.put'>;

/** The size with another formula for one value; an empty one leaves that to the document. */
export function cellEdit(document: Document, size: Size, value: string, text: string): PutSize {
  return {
    type: 'size.put',
    size: { id: size.id, name: size.name, cells: { ...typedCells(document, size), [value]: { text, names: meantNames(document, text) } } },
  };
}

export function renameSize(document: Document, size: Size, name: string): PutSize {
  return { type: 'size.put', size: { id: size.id, name, cells: typedCells(document, size) } };
}

/** The cells with what their names mean now, as they are sent. */
function typedCells(document: Document, { cells }: Size): PutSize['size']['cells'] {
  return Object.fromEntries(Object.entries(cells).map(([id, formula]) => [id, { ...formula, names: meantNames(document, formula.text) }]));
}

/** A new size with the formulas that the columns have now; the first one begins with the columns that are given. */
export function addSize(document: Document, values: readonly string[] = []): PutSize {
  const columns = sizeColumns(document);
  const wanted = columns.length > 0 ? columns : values.flatMap((id) => findRecord(document, id, 'parameter') ?? []);
  const cells = Object.fromEntries(wanted.map((parameter) => [parameter.id, formulaOf(document, parameter)]));
  return { type: 'size.put', size: { id: newId(), name: freeName(document), cells } };
}

function formulaOf(document: Document, parameter: Parameter) {
  const { text } = formulaNow(document, parameter);
  return { text, names: meantNames(document, text) };
}

function freeName(document: Document): string {
  for (let n = listSizes(document).length + 1; ; n++) if (!findSize(document, `Size ${n}`)) return `Size ${n}`;
}

/** The table with its heading, `size` and the names of the values; a first row without a name is the document as it is written. */
export function sizeCells(document: Document): string[][] {
  const columns = sizeColumns(document);
  return [
    ['size', ...columns.map(({ name }) => name)],
    ['', ...columns.map(({ formula }) => formula.text)],
    ...listSizes(document).map(({ name, cells }) => [name, ...columns.map(({ id }) => cells[id]?.text ?? '')]),
  ];
}

/** The most sizes that one table brings. */
const MOST_SIZES = 5000;

export interface SizeChange {
  readonly size: string;
  /** The value, or undefined for a size that is added. */
  readonly value?: string;
  readonly before: string;
  readonly after: string;
}

/** What a table from a spreadsheet would change. */
export interface SizePlan {
  readonly edit: Edit;
  readonly changes: readonly SizeChange[];
}

/** Sizes as a table from a spreadsheet says them: those of a name are changed, others added. The problem where it is no such table. */
export function readSizeCells(document: Document, cells: readonly (readonly string[])[]): SizePlan | { readonly problem: string } {
  const [head = [], ...rows] = cells;
  const [, ...names] = head.map((name) => name.trim());
  const parameters = names.map((name) => Object.values(document.records).find((record) => record.type === 'parameter' && record.name === name));
  const unknown = names.filter((_, i) => !parameters[i]);
  if (names.length === 0) return { problem: 'The first row must name values: size, then their names.' };
  if (unknown.length > 0) return { problem: `${document.name} has no value ${unknown.join(', ')}. The first row must name values of it.` };
  const named = rows.filter(([name = '']) => name.trim() !== '');
  if (named.length === 0) return { problem: 'The first column must name the sizes.' };
  if (named.length > MOST_SIZES) return { problem: `The table has ${named.length} sizes; ${MOST_SIZES} are taken at once, at most. Bring them in parts.` };
  const known = new Map(listSizes(document).map((size) => [size.name.toLowerCase(), size]));
  const taken = new Set<string>();
  const sizes: PutSize['size'][] = [];
  const changes: SizeChange[] = [];
  for (const [name = '', ...texts] of named) {
    const title = name.trim();
    if (taken.has(title.toLowerCase())) return { problem: `Two rows are called ${title}.` };
    taken.add(title.toLowerCase());
    const there = known.get(title.toLowerCase());
    if (!there) changes.push({ size: title, before: '', after: 'new' });
    const cellsOf = names.flatMap((column, i) => {
      const parameter = parameters[i];
      const text = (texts[i] ?? '').trim();
      if (!parameter) return [];
      const before = there?.cells[parameter.id]?.text ?? '';
      if (text !== before) changes.push({ size: there?.name ?? title, value: column, before, after: text });
      return [[parameter.id, { text, names: meantNames(document, text) }] as const];
    });
    sizes.push({ id: there?.id ?? newId(), name: there?.name ?? title, cells: { ...there?.cells, ...Object.fromEntries(cellsOf) } });
  }
  return { edit: { type: 'sizes.put', sizes }, changes };
}

/** A size moved by so many rows. */
export function moveSize(document: Document, id: string, by: -1 | 1): EditOf<'size.move'> {
  const rest = listIds(document, 'sizes').filter((other) => other !== id);
  const at = Math.max(0, Math.min(rest.length, listIds(document, 'sizes').indexOf(id) + by));
  return { type: 'size.move', id, after: rest[at - 1] ?? null };
}

/** A size beside another, with its cells. */
export function copySize(document: Document, size: Size): PutSize {
  return { type: 'size.put', size: { id: newId(), name: freeName(document), cells: typedCells(document, size) }, after: size.id };
}

/** A column of the table moved by one place. */
export function moveColumn(document: Document, id: string, by: -1 | 1): EditOf<'sizes.columns'> {
  const columns = sizeColumns(document).map((column) => column.id);
  const at = columns.indexOf(id);
  const rest = columns.filter((column) => column !== id);
  return { type: 'sizes.columns', columns: [...rest.slice(0, Math.max(0, at + by)), id, ...rest.slice(Math.max(0, at + by))] };
}

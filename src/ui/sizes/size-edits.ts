/** Sizes of a document, as edits, and as a table of texts. */
import {
  findRecord,
  findSize,
  formulaNow,
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

/** Sizes as a table from a spreadsheet says them: those of a name are changed, others added. The problem where it is no such table. */
export function readSizeCells(document: Document, cells: readonly (readonly string[])[]): { readonly edit: Edit } | { readonly problem: string } {
  const [head = [], ...rows] = cells;
  const [, ...names] = head.map((name) => name.trim());
  const parameters = names.map((name) => Object.values(document.records).find((record) => record.type === 'parameter' && record.name === name));
  const unknown = names.filter((_, i) => !parameters[i]);
  if (names.length === 0) return { problem: 'The first row must name values: size, then their names.' };
  if (unknown.length > 0) return { problem: `${document.name} has no value ${unknown.join(', ')}. The first row must name values of it.` };
  const named = rows.filter(([name = '']) => name.trim() !== '');
  if (named.length === 0) return { problem: 'The first column must name the sizes.' };
  const taken = new Set<string>();
  const edits: PutSize[] = [];
  for (const [name = '', ...texts] of named) {
    const title = name.trim();
    if (taken.has(title.toLowerCase())) return { problem: `Two rows are called ${title}.` };
    taken.add(title.toLowerCase());
    const known = findSize(document, title);
    const cellsOf = texts.flatMap((text, i) => {
      const parameter = parameters[i];
      return parameter ? [[parameter.id, { text: text.trim(), names: meantNames(document, text) }] as const] : [];
    });
    edits.push({
      type: 'size.put',
      size: { id: known?.id ?? newId(), name: known?.name ?? title, cells: { ...known?.cells, ...Object.fromEntries(cellsOf) } },
    });
  }
  return { edit: { type: 'batch', edits } };
}

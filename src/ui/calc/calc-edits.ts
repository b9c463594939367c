/** Lines of a calc sheet, as edits. */
import { listDriving, listLines, orderWith, type Chart, type Document, type Edit, type EditOf, type Paragraph } from '@/core/document';
import { newId } from '../state/identity';
import { newTable } from '../state/value-edits';

type SingleEdit = Exclude<Edit, EditOf<'batch'>>;

/** Puts a line in, behind another one. */
function putLine(document: Document, edit: SingleEdit, id: string, after: string | undefined): Edit {
  return { type: 'batch', edits: [edit, { type: 'page.order', order: orderWith(document, id, { after }) }] };
}

export function addParagraph(document: Document, after: string | undefined): { readonly edit: Edit; readonly id: string } {
  const paragraph: Paragraph = { type: 'paragraph', id: newId(), text: '' };
  return { edit: putLine(document, { type: 'paragraph.put', paragraph }, paragraph.id, after), id: paragraph.id };
}

export function addTable(document: Document, after: string | undefined): { readonly edit: Edit; readonly id: string } {
  const table = newTable(document);
  return { edit: putLine(document, { type: 'table.put', table }, table.id, after), id: table.id };
}

/** A chart of the value that was computed last over the first one that is an amount; undefined where there are no two. */
export function addChart(
  document: Document,
  after: string | undefined,
  ranges: (id: string) => readonly [string, string] | undefined,
): { readonly edit: Edit; readonly id: string } | undefined {
  const values = listDriving(document).filter(({ id }) => ranges(id) !== undefined);
  const [over, ...others] = values;
  const of = others.at(-1);
  const range = over && ranges(over.id);
  if (!over || !of || !range) return undefined;
  const chart: Chart = {
    type: 'chart',
    id: newId(),
    title: `${of.name} over ${over.name}`,
    over: over.id,
    from: { text: range[0] },
    to: { text: range[1] },
    of: [of.id],
  };
  return { edit: putLine(document, { type: 'chart.put', chart }, chart.id, after), id: chart.id };
}

export function moveLine(document: Document, id: string, by: 1 | -1): Edit {
  return { type: 'page.order', order: orderWith(document, id, { by }) };
}

/** Puts a line where it was dropped: before another, or behind it; undefined where it stands there already. */
export function dropLine(document: Document, id: string, over: string, where: 'before' | 'after'): Edit | undefined {
  if (id === over) return undefined;
  const order = orderWith(document, id, where === 'before' ? { before: over } : { after: over });
  const isThere = listLines(document).every((line, i) => line.id === order[i]);
  return isThere ? undefined : { type: 'page.order', order };
}

/** Where the documents stand on the map: in columns from masters to what takes from them, threads with few crossings. */
import type { DocumentCard } from '@/contract';
import { layerDocuments } from '@/core/links';

export const BOX = { width: 190, height: 44 } as const;
const COLUMN = 252;
const ROW = 56;
const MARGIN = 16;
/** A column with more rows goes on beside itself. */
const MOST_ROWS = 22;
/** How far the next part of such a column stands from the one before. */
const PART = BOX.width + 16;
/** Sweeps over the columns that settle the order. */
const SWEEPS = 4;

export interface Placed {
  readonly document: DocumentCard;
  readonly x: number;
  readonly y: number;
}

export interface MapLayout {
  readonly placed: readonly Placed[];
  readonly width: number;
  readonly height: number;
}

/** Each document near the middle of what it is linked with in the column before and after, again and again (barycentre heuristic). */
export function layOutMap(documents: readonly DocumentCard[]): MapLayout {
  const layers = layerDocuments(documents.map(({ id, links }) => ({ id, sources: links.map(({ source }) => source) })));
  const columns: DocumentCard[][] = [];
  for (const document of documents) {
    const column = layers.get(document.id) ?? 0;
    for (let c = columns.length; c <= column; c++) columns.push([]);
    columns[column]?.push(document);
  }
  const neighbours = new Map<string, string[]>(documents.map(({ id }) => [id, []]));
  for (const { id, links } of documents) {
    for (const { source } of links) {
      neighbours.get(id)?.push(source);
      neighbours.get(source)?.push(id);
    }
  }
  const heights = new Map<string, number>();
  const stack = (column: DocumentCard[]): void => {
    column.forEach(({ id }, i) => heights.set(id, i - (column.length - 1) / 2));
  };
  columns.forEach(stack);
  for (let sweep = 0; sweep < SWEEPS; sweep++) {
    for (const column of sweep % 2 === 0 ? columns : [...columns].reverse()) {
      const wish = new Map(column.map(({ id }) => [id, middleOf(neighbours.get(id) ?? [], heights) ?? heights.get(id) ?? 0]));
      column.sort((a, b) => (wish.get(a.id) ?? 0) - (wish.get(b.id) ?? 0));
      stack(column);
    }
  }
  const tallest = Math.max(1, ...columns.map(({ length }) => Math.min(length, MOST_ROWS)));
  const placed: Placed[] = [];
  let x = MARGIN;
  for (const column of columns) {
    const parts = Math.max(1, Math.ceil(column.length / MOST_ROWS));
    // Filled row by row, so that what stands high in the order stands high in every part.
    const rows = Math.ceil(column.length / parts);
    column.forEach((document, i) => {
      const y = MARGIN + (Math.floor(i / parts) + (tallest - rows) / 2) * ROW;
      placed.push({ document, x: x + (i % parts) * PART, y });
    });
    x += (parts - 1) * PART + COLUMN;
  }
  return { placed, width: x - COLUMN + BOX.width + MARGIN, height: (tallest - 1) * ROW + BOX.height + 2 * MARGIN };
}

function middleOf(ids: readonly string[], heights: ReadonlyMap<string, number>): number | undefined {
  const known = ids.flatMap((id) => heights.get(id) ?? []);
  return known.length === 0 ? undefined : known.reduce((sum, height) => sum + height, 0) / known.length;
}

/** Small words for the documents of the shelf: their lines stand on the page in the order in which they are told. */
import { createDocument, type Document, type DocumentKind, type Edit, type Parameter } from '../../src/core/document';
import { build } from '../demo/shapes';

/** An edit that makes one line of a page. */
export interface Line {
  readonly id: string;
  readonly edit: Edit;
}

const idOf = (name: string): string => name.replaceAll('_', '-');

export function sheet(kind: DocumentKind, id: string, name: string, lines: readonly Line[]): Document {
  const order: Edit = { type: 'page.order', order: lines.map((line) => line.id) };
  return build(createDocument(id, kind, name), [...lines.map(({ edit }) => edit), ...(kind === 'calc' ? [order] : [])]);
}

/** A value to be set. */
export function input(name: string, text: string, kind: string, note: string, more: Partial<Parameter> = {}): Line {
  return value(name, text, kind, { note, ...more });
}

/** What follows from others, and is handed on. */
export function result(name: string, text: string, kind: string, note: string, more: Partial<Parameter> = {}): Line {
  return value(name, text, kind, { note, offered: true, ...more });
}

function value(name: string, text: string, kind: string, more: Partial<Parameter>): Line {
  const id = idOf(name);
  return { id, edit: { type: 'parameter.add', parameter: { type: 'parameter', id, name, formula: { text }, kind, ...more } } };
}

export function say(id: string, markdown: string): Line {
  return { id, edit: { type: 'paragraph.put', paragraph: { type: 'paragraph', id, text: markdown } } };
}

export function check(id: string, condition: string, message: string, severity: 'error' | 'warning' = 'warning'): Line {
  return { id, edit: { type: 'guard.put', guard: { type: 'guard', id, condition: { text: condition }, message, severity } } };
}

/** A value over another one: `[over, from, to]`. */
export function chart(id: string, title: string, of: string, [over, from, to]: readonly [string, string, string]): Line {
  return {
    id,
    edit: { type: 'chart.put', chart: { type: 'chart', id, title, over: idOf(over), from: { text: from }, to: { text: to }, of: [idOf(of)] } },
  };
}

/** A lookup table; the first column holds the keys. */
export function table(name: string, columns: Readonly<Record<string, string>>, rows: readonly (readonly string[])[]): Line {
  const id = idOf(name);
  return {
    id,
    edit: {
      type: 'table.put',
      table: { type: 'table', id, name, columns: Object.entries(columns).map(([column, kind]) => ({ name: column, kind })), rows: rows.map((row) => [...row]) },
    },
  };
}

/** What is typed into a value box, as edits: a formula, or `name = formula`, which names the value too. */
import {
  findRecord,
  formulaNow,
  meantNames,
  takenNames,
  tryFormula,
  type Document,
  type DocumentValues,
  type Edit,
  type EditOf,
  type Table,
} from '@/core/document';
import { newId } from './identity';

const NAMED = /^\s*([\p{L}_][\p{L}\p{Nd}\p{M}_]*)\s*=(?!=)\s*(\S.*)$/su;

/** `rail_gap = 21 mm` as a name and a formula; anything else is a formula alone. */
export function splitNamed(text: string): { readonly name: string | undefined; readonly formula: string; readonly offset: number } {
  const named = NAMED.exec(text);
  if (!named) return { name: undefined, formula: text.trim(), offset: text.length - text.trimStart().length };
  const formula = named[2] ?? '';
  return { name: named[1], formula: formula.trim(), offset: text.length - formula.length };
}

type SingleEdit = Exclude<Edit, EditOf<'batch'>>;

/** The edit for what was typed into the box of an existing value; undefined when nothing changed. */
export function editValue(document: Document, id: string, text: string): Edit | undefined {
  const parameter = findRecord(document, id, 'parameter');
  if (!parameter) return undefined;
  const { name, formula } = splitNamed(text);
  const edits: SingleEdit[] = [];
  if (name !== undefined && name !== parameter.name) edits.push({ type: 'value.rename', id, name });
  if (formula !== formulaNow(document, parameter).text)
    edits.push({ type: 'parameter.setFormula', id, formula: { text: formula, names: meantNames(document, formula) } });
  const [first] = edits;
  return edits.length > 1 ? { type: 'batch', edits } : first;
}

/** What a new value that is one plain number may be, the likeliest first. */
export const PLAIN_READINGS = ['length', 'angle', 'count', 'number'] as const;
export type PlainReading = (typeof PLAIN_READINGS)[number];

/** A new user parameter from `name = formula`. A plain number is what `plainAs` says. */
export function addParameter(
  values: DocumentValues,
  name: string,
  formula: string,
  plainAs: PlainReading = 'length',
): { readonly edit: Edit; readonly id: string } {
  const id = newId();
  const { isPlainNumber } = tryFormula(values, formula);
  return {
    id,
    edit: {
      type: 'parameter.add',
      parameter: { type: 'parameter', id, name, formula: { text: formula }, kind: isPlainNumber ? plainAs : 'any' },
      names: meantNames(values.document, formula),
    },
  };
}

/** A lookup table to begin with, under a name that is free. */
export function newTable(document: Document): Table {
  const isTaken = takenNames(document);
  let name = 'sizes';
  for (let n = 2; isTaken(name); n++) name = `sizes_${n}`;
  const columns = [
    { name: 'size', kind: 'text' },
    { name: 'width', kind: 'length' },
  ];
  return { type: 'table', id: newId(), name, columns, rows: [['"small"', '10 mm']] };
}

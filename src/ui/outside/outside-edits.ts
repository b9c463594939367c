/** Outside calculations as edits: made from what a service tells or a spreadsheet holds, and changed. */
import {
  listNamed,
  listOutside,
  meantNames,
  takenNames,
  type Asked,
  type DocumentValues,
  type EditOf,
  type OutsideCalculation,
  type Parameter,
  type StoredFile,
} from '@/core/document';
import { freeName } from '../state/free-name';
import { newId } from '../state/identity';

/** An input or output as it is offered: by a service, or in a cell. */
export interface Port {
  readonly key: string;
  readonly kind: string;
  readonly unit: string;
}

export interface NewOutside {
  readonly name: string;
  readonly asked: Asked;
  readonly inputs: readonly (Port & { readonly formula: string })[];
  readonly outputs: readonly Port[];
  readonly file?: StoredFile;
}

export function addOutside(
  { document }: DocumentValues,
  { name, asked, inputs, outputs, file }: NewOutside,
): { readonly edit: EditOf<'outside.put'>; readonly id: string } {
  const id = newId();
  const isTaken = takenNames(document);
  const given = new Set<string>();
  const values = outputs.map(({ key, kind, unit }): Parameter => {
    const own = freeName(key.replace(/^.*!/, ''), (other) => isTaken(other) || given.has(other));
    given.add(own);
    return {
      type: 'parameter',
      id: newId(),
      owner: id,
      name: own,
      formula: { text: '' },
      kind,
      ...(unit === '' ? {} : { displayUnit: unit }),
      measure: { of: 'outside', what: 'answer', outside: id, output: key },
    };
  });
  const outside: OutsideCalculation = {
    type: 'outside',
    id,
    name: freeTitle(document, name),
    asked,
    inputs: inputs.map(({ key, kind, unit, formula }) => ({ key, kind, unit, formula: { text: formula } })),
    outputs: outputs.map(({ key, kind, unit }) => ({ key, kind, unit })),
  };
  const names = meantNames(document, inputs.map(({ formula }) => `(${formula})`).join(' + '));
  return { id, edit: { type: 'outside.put', outside, outputs: values, names, ...(file ? { file } : {}) } };
}

function freeTitle(document: DocumentValues['document'], name: string): string {
  const taken = new Set(listOutside(document).map((one) => one.name));
  for (let n = 1; ; n++) {
    const free = n === 1 ? name : `${name} ${n}`;
    if (!taken.has(free)) return free;
  }
}

/** The calculation with another formula for one of its inputs. */
export function setInput(values: DocumentValues, outside: OutsideCalculation, key: string, text: string): EditOf<'outside.put'> {
  return {
    type: 'outside.put',
    outside: { ...outside, inputs: outside.inputs.map((input) => (input.key === key ? { ...input, formula: { text } } : input)) },
    outputs: [],
    names: meantNames(values.document, text),
  };
}

/** A value of the document that is likely meant by an input: of its dimension, and called like it. */
export function likelyValue(values: DocumentValues, { key, unit }: Port, dimensionOf: (unit: string) => unknown): string | undefined {
  const wanted = key.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '_');
  return listNamed(values.document).find(({ id, name }) => {
    const type = values.show(id)?.type;
    return name.toLowerCase() === wanted && type?.kind === 'quantity' && type.dimension === dimensionOf(unit);
  })?.name;
}

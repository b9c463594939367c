/** The document as it is and as its what-ifs would have it, side by side. */
import {
  findRecord,
  isTable,
  listDriving,
  listNamed,
  listOutputs,
  listOwned,
  meantNames,
  slotOf,
  slotOfTaken,
  tryFormula,
  type Document,
  type DocumentValues,
  type MeasuredValue,
  type NamedRecord,
  type WhatIf,
} from '@/core/document';
import { openValues, type InstanceSource } from '@/core/instances';
import { asWhatIf, builtAt, textNow, type BuiltAt } from '@/core/studies';
import { AT_WORDS } from '../studies/show-at';

export interface Column {
  readonly key: string;
  /** Undefined for the document as it is, and at its limits. */
  readonly whatIf: WhatIf | undefined;
  readonly name: string;
  readonly document: Document;
  readonly values: DocumentValues;
  /** Why values are not set, by their ids. */
  readonly refused: ReadonlyMap<string, string>;
}

export const AS_IT_IS = 'As it is';

interface Beside {
  readonly whatIfs: readonly WhatIf[];
  /** With the document at the limits of its tolerances. */
  readonly limits: readonly BuiltAt[];
  readonly measured: Readonly<Record<string, MeasuredValue>> | undefined;
}

/** The document as it is first; then at its limits, and as its what-ifs would have it. */
export function readColumns(values: DocumentValues, { whatIfs, limits, measured }: Beside, source: InstanceSource): Column[] {
  const { document } = values;
  const nothing = new Map<string, string>();
  const own: Column = { key: '', whatIf: undefined, name: AS_IT_IS, document, values, refused: nothing };
  return [
    own,
    ...limits.map((at): Column => {
      const there = builtAt(document, source, at, measured).document;
      return {
        key: `at-${at}`,
        whatIf: undefined,
        name: AT_WORDS[at].replace(/^a/, 'A'),
        document: there,
        values: openValues(there, source),
        refused: nothing,
      };
    }),
    ...whatIfs.map((whatIf) => asColumn(values, whatIf, source)),
  ];
}

/** What was read last of a what-if, and of which document: of several only the one that is typed into is read anew. */
const known = new WeakMap<WhatIf, { readonly of: Document; readonly column: Column }>();

function asColumn(values: DocumentValues, whatIf: WhatIf, source: InstanceSource): Column {
  const before = known.get(whatIf);
  if (before?.of === values.document) {
    // What components stand for may have come in since.
    before.column.values.settle();
    return before.column;
  }
  const state = asWhatIf(values, whatIf);
  const column = { key: whatIf.id, whatIf, name: whatIf.name, document: state.document, values: openValues(state.document, source), refused: state.problems };
  known.set(whatIf, { of: values.document, column });
  return column;
}

export interface Row {
  readonly id: string;
  readonly name: string;
}

/** Values that some what-if sets, in the order of the ledger, and one that somebody asks about. */
export function rowsSet(document: Document, whatIfs: readonly WhatIf[], asked: string | undefined): Row[] {
  const ids = new Set([...whatIfs.flatMap(({ values }) => Object.keys(values)), ...(asked === undefined ? [] : [asked])]);
  const known = inLedgerOrder(document).flatMap(({ id, name }) => (ids.delete(id) ? { id, name } : []));
  return [...known, ...[...ids].map((id) => ({ id, name: 'a value that is gone' }))];
}

/** All that has a value and a name: what drives first, then what steps, mates and components have, then results. */
function inLedgerOrder(document: Document): NamedRecord[] {
  return [...new Set([...listDriving(document), ...listOwned(document), ...listOutputs(document), ...listNamed(document)])].filter(
    (record) => !isTable(record),
  );
}

/** Values that come out different in some column without being set there; pinned ones in any case. */
export function rowsFollowing(columns: readonly Column[], set: readonly Row[], measured: (column: Column) => DocumentValues): Row[] {
  const [own] = columns;
  if (!own) return [];
  const isSet = new Set(set.map(({ id }) => id));
  const all = columns.map(measured);
  return inLedgerOrder(own.document).flatMap((record) => {
    if (isSet.has(record.id)) return [];
    const shown = all.map((values) => values.show(record.id)?.shown);
    const isPinned = (record.type === 'parameter' || record.type === 'take') && record.pinned === true;
    return isPinned || new Set(shown).size > 1 ? { id: record.id, name: record.name } : [];
  });
}

/** Values that a what-if can set: those with a formula, and linked ones. */
export function settable(document: Document): Row[] {
  return inLedgerOrder(document).flatMap((record) => (record.type === 'parameter' && record.measure !== undefined ? [] : { id: record.id, name: record.name }));
}

/** Why a text cannot be what a value is set to; undefined where it can. */
export function problemOfSetting(values: DocumentValues, id: string, text: string): string | undefined {
  const parameter = findRecord(values.document, id, 'parameter');
  const take = findRecord(values.document, id, 'take');
  const slot = parameter ? slotOf(parameter) : take ? slotOfTaken(take.value, take.name) : undefined;
  return slot && tryFormula(values, text, slot, id).diagnostics[0]?.message;
}

/** The what-if with another text for a value; an empty one leaves it as it is in the document. */
export function withSetting(values: DocumentValues, whatIf: WhatIf, id: string, text: string): WhatIf {
  if (text === '') return { ...whatIf, values: Object.fromEntries(Object.entries(whatIf.values).filter(([value]) => value !== id)) };
  return { ...whatIf, values: { ...whatIf.values, [id]: { formula: { text, names: meantNames(values.document, text) }, instead: textNow(values, id) } } };
}

/** `What if 2`: one that no other has. */
export function freeName(whatIfs: readonly WhatIf[]): string {
  const taken = new Set(whatIfs.map(({ name }) => name));
  let n = 1;
  while (taken.has(`What if ${n}`)) n++;
  return `What if ${n}`;
}

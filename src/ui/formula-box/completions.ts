/** What can be completed in a formula: values with their present value, functions, units that fit. */
import type { NearValue } from '../state/link-draft';
import { findRecord, listDriving, listIds, listNamed, isNamed, isTable, type DocumentValues } from '@/core/document';
import { CONSTANTS, listFunctions } from '@/core/formula';
import { listUnitSymbols } from '@/core/units';

export interface Completion {
  readonly label: string;
  /** Shown beside it: the value, the signature. */
  readonly detail: string;
  readonly kind: 'value' | 'function' | 'constant' | 'unit';
  /** Higher comes first. */
  readonly rank: number;
  readonly insert: string;
  /** A value of another document: it is linked when it is chosen. */
  readonly near?: NearValue;
}

/** Completions for a word; names match inside as well; pinned values come first, then what is near in use to the value `forId`. */
export function findCompletions(
  values: DocumentValues,
  word: string,
  isAfterNumber: boolean,
  near: () => readonly NearValue[] = () => [],
  forId?: string,
): Completion[] {
  if (isAfterNumber) {
    return listUnitSymbols()
      .filter((symbol) => /^[\p{L}µΩ]/u.test(symbol) && symbol.toLowerCase().startsWith(word.toLowerCase()))
      .map((symbol): Completion => ({ label: symbol, detail: 'unit', kind: 'unit', rank: symbol === word ? 1 : 0, insert: symbol }))
      .sort((a, b) => b.rank - a.rank)
      .slice(0, 12);
  }
  const wanted = word.toLowerCase();
  const close = forId === undefined ? new Set<string>() : findClose(values, forId);
  const driving = new Set(listDriving(values.document).map(({ id }) => id));
  const names = listNamed(values.document)
    .filter((record) => isNamed(record) && record.name.toLowerCase().includes(wanted))
    .map((record): Completion => {
      const isPinned = record.type !== 'table' && record.pinned === true;
      const startsWith = record.name.toLowerCase().startsWith(wanted);
      return {
        label: record.name,
        detail: isTable(record) ? 'table' : (values.show(record.id)?.shown ?? ''),
        kind: 'value',
        rank: (record.name === word ? 8 : 0) + (isPinned ? 4 : 0) + (startsWith ? 2 : 0) + (close.has(record.id) ? 1.5 : 0) + (driving.has(record.id) ? 1 : 0),
        insert: record.name,
      };
    });
  const within = wanted === '' ? [] : pathsOf(values, wanted);
  const functions = listFunctions()
    .filter(({ name }) => name.startsWith(wanted))
    .map(({ name, signature }): Completion => ({ label: name, detail: signature, kind: 'function', rank: -1, insert: `${name}(` }));
  const constants = [...CONSTANTS.keys()]
    .filter((name) => name.startsWith(wanted) && wanted !== '')
    .map((name): Completion => ({ label: name, detail: 'constant', kind: 'constant', rank: -2, insert: name }));
  // Other documents only once something is typed: there may be thousands of values.
  const others = wanted === '' ? [] : near().filter(({ value, alias }) => value.name.toLowerCase().includes(wanted) || alias.toLowerCase().includes(wanted));
  const linked = others.slice(0, 12).map((one): Completion => {
    const { value, alias } = one;
    return { label: alias, detail: `${value.shown}, links ${value.documentName}`, kind: 'value', rank: value.isOffered ? -1.5 : -3, insert: alias, near: one };
  });
  return [...names, ...within, ...functions, ...constants, ...linked].sort((a, b) => b.rank - a.rank || (a.label < b.label ? -1 : 1)).slice(0, 40);
}

/** Values of components: with what is typed in their path, nearer ones first; of many, as many as a list shows. */
function pathsOf(values: DocumentValues, wanted: string): Completion[] {
  const found: string[] = [];
  for (const path of values.components?.listPaths() ?? []) {
    if (path.toLowerCase().includes(wanted)) found.push(path);
    if (found.length >= MOST_PATHS) break;
  }
  return found
    .sort((a, b) => depthOf(a) - depthOf(b))
    .slice(0, 40)
    .map((path): Completion => ({
      label: path,
      detail: values.components?.showPath(path) ?? '',
      kind: 'value',
      rank: (path.toLowerCase().startsWith(wanted) ? 1 : 0) - depthOf(path) / 4,
      insert: path,
    }));
}

const MOST_PATHS = 400;

function depthOf(path: string): number {
  return path.split('.').length;
}

/** Values that stand near in use: those of the same step, and what its formulas read. */
function findClose({ document, sheet }: DocumentValues, id: string): ReadonlySet<string> {
  const owner = findRecord(document, id, 'parameter')?.owner;
  const beside = owner === undefined ? neighbours(listIds(document, 'parameters'), id) : listIds(document, `${owner}/values`);
  return new Set(beside.flatMap((other) => [...(other === id ? [] : [other]), ...sheet.listReads(other)]));
}

/** The rows just before and after. */
function neighbours(ids: readonly string[], id: string): readonly string[] {
  const at = ids.indexOf(id);
  return at < 0 ? ids.slice(-3) : ids.slice(Math.max(0, at - 2), at + 3);
}

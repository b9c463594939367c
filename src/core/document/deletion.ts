/** Deleting values without breaking what reads them: refuse, keep them as user parameters, or put numbers in. */
import { findRecord } from './access';
import type { Draft } from './draft';
import type { EditFailure } from './edit-failure';
import type { Readers } from './edit-schema';
import { findReaders, renameEverywhere } from './formulas-in';

/**
 * Takes values out of the document. `ids` are parameters or taken values; `going` tells records that are
 * deleted along with them, whose reading does not count.
 */
export function removeValues(draft: Draft, ids: readonly string[], readers: Readers, going: ReadonlySet<string>): EditFailure | undefined {
  const named = new Map<string, string>();
  for (const id of ids) {
    const record = findRecord(draft.document, id, 'parameter') ?? findRecord(draft.document, id, 'take');
    if (record) named.set(record.name, id);
  }
  const outside = findReaders(draft.document, new Set(named.keys())).filter((record) => !going.has(record.id) && !ids.includes(record.id));
  // Only a value that a step owns can be kept without it.
  const isRefused =
    readers.mode === 'refuse' || (readers.mode === 'keep' && ids.some((id) => findRecord(draft.document, id, 'parameter')?.owner === undefined));
  if (outside.length > 0 && isRefused) {
    return {
      code: 'still-read',
      message: `${[...named.keys()].join(', ')} ${named.size === 1 ? 'is' : 'are'} still read by ${outside.length} formula${outside.length === 1 ? '' : 's'}.`,
      ids: outside.map((record) => record.id),
    };
  }
  if (readers.mode === 'keep') {
    keepAsParameters(draft, [...named.values()], outside.length > 0);
    return undefined;
  }
  for (const [, id] of named) dropValue(draft, id);
  if (readers.mode === 'numbers') {
    const { numbers } = readers;
    renameEverywhere(draft, (name) => {
      const id = named.get(name);
      const number = id === undefined || !Object.hasOwn(numbers, id) ? undefined : numbers[id];
      return number === undefined ? undefined : `(${number})`;
    });
  }
  return undefined;
}

function keepAsParameters(draft: Draft, ids: readonly string[], anyRead: boolean): void {
  for (const id of ids) {
    const record = findRecord(draft.document, id, 'parameter');
    if (!record || !anyRead) {
      dropValue(draft, id);
      continue;
    }
    if (record.owner !== undefined) draft.removeFromList(`${record.owner}/values`, id);
    const { owner: _, ...free } = record;
    draft.put(id, free);
    draft.insert('parameters', id);
  }
}

function dropValue(draft: Draft, id: string): void {
  const parameter = findRecord(draft.document, id, 'parameter');
  const take = findRecord(draft.document, id, 'take');
  const list = parameter ? (parameter.owner === undefined ? 'parameters' : `${parameter.owner}/values`) : `${take?.link ?? ''}/takes`;
  draft.removeFromList(list, id);
  draft.put(id, null);
}

/**
 * Deleting values without breaking what reads them: refuse, keep them as user parameters, or put numbers in.
 * A dimension is kept with its formula, a taken value with the number that it has.
 */
import { findRecord } from './access';
import { dropFromSizes } from './apply-size';
import type { Draft } from './draft';
import type { EditFailure } from './edit-failure';
import type { Readers } from './edit-schema';
import { doesRead, findReaders, renameEverywhere } from './formulas-in';
import type { DocumentRecord, Parameter, Table } from './schema';
import { kindOfTaken, writeTaken } from './taken-text';

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
  const isRefused =
    readers.mode === 'refuse' ||
    (readers.mode === 'keep' && ids.some((id) => !canBeKept(draft, id))) ||
    (readers.mode === 'numbers' && lacksNumber(named, readers.numbers, outside));
  if (outside.length > 0 && isRefused) {
    return {
      code: 'still-read',
      message: `${[...named.keys()].join(', ')} ${named.size === 1 ? 'is' : 'are'} still read by ${outside.length} formula${outside.length === 1 ? '' : 's'}.`,
      ids: outside.map((record) => record.id),
    };
  }
  if (readers.mode === 'keep') {
    keepAsParameters(draft, [...named.values()], outside.length > 0 || readers.all === true);
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

/** Whether something is read for which no number is given. */
function lacksNumber(named: ReadonlyMap<string, string>, numbers: Readonly<Record<string, string>>, readers: readonly DocumentRecord[]): boolean {
  const missing = new Set([...named].flatMap(([name, id]) => (Object.hasOwn(numbers, id) ? [] : name)));
  return missing.size > 0 && readers.some((record) => doesRead(record, missing));
}

/** A user parameter is what it would be kept as; a taken value with an error has nothing to keep. */
function canBeKept(draft: Draft, id: string): boolean {
  const take = findRecord(draft.document, id, 'take');
  const parameter = findRecord(draft.document, id, 'parameter');
  return take ? take.value.kind !== 'refused' : parameter?.owner !== undefined && parameter.measure?.of !== 'outside';
}

function keepAsParameters(draft: Draft, ids: readonly string[], anyRead: boolean): void {
  for (const id of ids) {
    const free = anyRead ? (asTable(draft, id) ?? asUserParameter(draft, id)) : undefined;
    dropValue(draft, id);
    if (!free) continue;
    draft.put(id, free);
    draft.insert(free.type === 'table' ? 'tables' : 'parameters', id);
  }
}

function asTable(draft: Draft, id: string): Table | undefined {
  const take = findRecord(draft.document, id, 'take');
  if (take?.value.kind !== 'table') return undefined;
  const { columns, rows, units } = take.value;
  return { type: 'table', id, name: take.name, columns, rows, readIn: units };
}

function asUserParameter(draft: Draft, id: string): Parameter | undefined {
  const take = findRecord(draft.document, id, 'take');
  if (take) {
    const text = writeTaken(take.value);
    const { name, note, pinned } = take;
    if (text === undefined) return undefined;
    return {
      type: 'parameter',
      id,
      name,
      formula: { text },
      kind: kindOfTaken(take.value),
      ...(note === undefined ? {} : { note }),
      ...(pinned ? { pinned } : {}),
    };
  }
  const parameter = findRecord(draft.document, id, 'parameter');
  if (!parameter) return undefined;
  const { owner: _, ...free } = parameter;
  return free;
}

function dropValue(draft: Draft, id: string): void {
  const parameter = findRecord(draft.document, id, 'parameter');
  const take = findRecord(draft.document, id, 'take');
  const list = parameter ? (parameter.owner === undefined ? 'parameters' : `${parameter.owner}/values`) : `${take?.link ?? ''}/takes`;
  draft.removeFromList(list, id);
  draft.put(id, null);
  dropFromSizes(draft, id);
}

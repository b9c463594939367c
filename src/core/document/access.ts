/** Reading a document: records of one type, lists, names. Ids are looked up with own properties only. */
import type { Document, DocumentRecord, Parameter, Take } from './schema';
import { isStepType } from './step-kinds';
import type { Step } from './step-schema';

type RecordOf<T extends DocumentRecord['type']> = Extract<DocumentRecord, { readonly type: T }>;

export function findRecord<T extends DocumentRecord['type']>(document: Document, id: string, type: T): RecordOf<T> | undefined {
  const record = findAny(document, id);
  return record?.type === type ? (record as RecordOf<T>) : undefined;
}

export function findAny(document: Pick<Document, 'records'>, id: string): DocumentRecord | undefined {
  return Object.hasOwn(document.records, id) ? document.records[id] : undefined;
}

export function listIds(document: Pick<Document, 'lists'>, key: string): readonly string[] {
  return (Object.hasOwn(document.lists, key) ? document.lists[key] : undefined) ?? NO_IDS;
}

const NO_IDS: readonly string[] = [];

/** The records of a list that have that type, in order. */
export function listRecords<T extends DocumentRecord['type']>(document: Document, key: string, type: T): RecordOf<T>[] {
  return listIds(document, key).flatMap((id) => findRecord(document, id, type) ?? []);
}

export function listSteps(document: Document): Step[] {
  return listIds(document, 'steps').flatMap((id) => findStep(document, id) ?? []);
}

export function findStep(document: Pick<Document, 'records'>, id: string): Step | undefined {
  const record = findAny(document, id);
  return record && isStep(record) ? record : undefined;
}

export function isStep(record: DocumentRecord): record is Step {
  return isStepType(record.type);
}

/** Everything that has a name which formulas can read: parameters, dimensions, taken values, tables. */
export type NamedRecord = Parameter | Take | RecordOf<'table'>;

export function listNamed(document: Document): NamedRecord[] {
  return Object.values(document.records).filter(isNamed);
}

export function isNamed(record: DocumentRecord): record is NamedRecord {
  return record.type === 'parameter' || record.type === 'take' || record.type === 'table';
}

/** Everything that has a name in the one name space of a document: what formulas can read, and components. */
export function hasName(record: DocumentRecord): record is NamedRecord | RecordOf<'component'> {
  return isNamed(record) || record.type === 'component';
}

/** A lookup table, of the document itself or taken through a link. */
export function isTable(record: NamedRecord): boolean {
  return record.type === 'table' || (record.type === 'take' && record.value.kind === 'table');
}

export function findNamed(document: Document, name: string): NamedRecord | undefined {
  return listNamed(document).find((record) => record.name === name);
}

/** Values that steps, mates and components have, in the order of these. */
export function listOwned(document: Document): Parameter[] {
  const owners = [...listSteps(document), ...listRecords(document, 'mates', 'mate'), ...listRecords(document, 'components', 'component')];
  return owners.flatMap(({ id }) => listRecords(document, `${id}/values`, 'parameter'));
}

/** User parameters and taken values: the driving values, in their order. */
export function listDriving(document: Document): (Parameter | Take)[] {
  const parameters: (Parameter | Take)[] = listRecords(document, 'parameters', 'parameter');
  const takes = listRecords(document, 'links', 'link').flatMap((link) => listRecords(document, `${link.id}/takes`, 'take'));
  return [...takes, ...parameters];
}

/**
 * Stored documents of older schema versions, brought up to the present one. Migration n turns version n
 * into n + 1; they are contiguous, pure, and run before the schema check. Every released version keeps a
 * fixture that must load.
 */
import { SCHEMA_VERSION } from './schema';

type Migration = (document: Readonly<Record<string, unknown>>) => Record<string, unknown>;

/** At index n - 1, the step from version n to n + 1. */
const MIGRATIONS: readonly Migration[] = [slotsOfExtrusions];

/** 1 to 2: an extrusion's depth became one of the named values of its slots. */
function slotsOfExtrusions(document: Readonly<Record<string, unknown>>): Record<string, unknown> {
  const { records } = document;
  if (typeof records !== 'object' || records === null) return { ...document };
  const changed = Object.entries(records).map(([id, record]: [string, unknown]) => {
    if (typeof record !== 'object' || record === null || !('type' in record) || record.type !== 'extrude') return [id, record];
    const { depth, ...rest }: Record<string, unknown> = { ...record };
    return [id, { ...rest, values: depth === undefined ? {} : { depth } }];
  });
  return { ...document, records: Object.fromEntries(changed) as Record<string, unknown> };
}

/** Data of another shape than a document is returned as it is: the schema check says what is wrong. */
export function migrateDocument(data: unknown, migrations: readonly Migration[] = MIGRATIONS, target: number = SCHEMA_VERSION): unknown {
  if (typeof data !== 'object' || data === null || !('schema' in data)) return data;
  const { schema } = data;
  if (typeof schema !== 'number' || !Number.isInteger(schema) || schema < 1 || schema >= target) return data;
  let document: Record<string, unknown> = { ...data };
  for (let version = schema; version < target; version++) {
    const migrate = migrations[version - 1];
    if (!migrate) throw new Error(`Bug: no migration from schema version ${version}`);
    document = { ...migrate(document), schema: version + 1 };
  }
  return document;
}

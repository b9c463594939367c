/** New, empty documents. */
import { MILLIMETRES, type UnitSystem } from '../units';
import { LANGUAGE_VERSION, SCHEMA_VERSION, type Document, type DocumentKind } from './schema';

export function createDocument(id: string, kind: DocumentKind, name: string, units: UnitSystem = MILLIMETRES): Document {
  return { schema: SCHEMA_VERSION, language: LANGUAGE_VERSION, id, kind, name, units: { ...units }, records: {}, lists: {} };
}

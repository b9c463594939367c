/**
 * The open project file: one JSON text for a whole project, versioned, byte-stable for equal content (keys
 * sorted, two spaces, a final newline), so that it can live in version control. Its JSON Schema is
 * generated from the Zod schema here and published in docs/.
 */
import { z } from 'zod';
import { fail, succeed, type Result } from '../kit';
import { listRecords } from './access';
import { migrateDocument } from './migrations';
import { documentSchema, type Document } from './schema';

export const PROJECT_FORMAT = 'warpbeam-project';
export const PROJECT_VERSION = 1;
/** Largest project file that is read, in UTF-16 units. */
export const MAX_PROJECT_SIZE = 20_000_000;
const MAX_DOCUMENTS = 2_000;
const MAX_DEPTH = 20;

export const projectFileSchema = z.strictObject({
  format: z.literal(PROJECT_FORMAT),
  version: z.literal(PROJECT_VERSION),
  name: z.string().min(1).max(120),
  documents: z.array(documentSchema).max(MAX_DOCUMENTS),
});

export interface ProjectFile {
  readonly name: string;
  readonly documents: readonly Document[];
}

export interface FileProblem {
  readonly code: 'too-large' | 'not-json' | 'too-deep' | 'not-a-project' | 'newer-version' | 'bad-content' | 'bad-reference';
  readonly message: string;
  /** Where in the file: `documents[2].records.x7.formula`. */
  readonly path?: string;
}

/** Reads and checks a project file. */
export function readProjectFile(text: string): Result<ProjectFile, readonly FileProblem[]> {
  if (text.length > MAX_PROJECT_SIZE) {
    return refuse('too-large', `The file has ${text.length} characters; at most ${MAX_PROJECT_SIZE} are read.`);
  }
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch (problem) {
    return refuse('not-json', `The file is not JSON: ${problem instanceof Error ? problem.message : 'it cannot be read'}.`);
  }
  if (depthOf(data, MAX_DEPTH) > MAX_DEPTH) return refuse('too-deep', `The file is nested more than ${MAX_DEPTH} levels deep.`);
  if (!isObject(data) || data['format'] !== PROJECT_FORMAT) {
    return refuse('not-a-project', `This is not a project file: its "format" is not "${PROJECT_FORMAT}".`);
  }
  if (typeof data['version'] === 'number' && data['version'] > PROJECT_VERSION) {
    return refuse('newer-version', `The file was written by a newer program (version ${data['version']}; this one reads up to ${PROJECT_VERSION}).`);
  }
  const documents = Array.isArray(data['documents']) ? data['documents'].map((document: unknown) => migrateDocument(document)) : data['documents'];
  const parsed = projectFileSchema.safeParse({ ...data, documents });
  if (!parsed.success) {
    return fail(parsed.error.issues.slice(0, 20).map((issue) => ({ code: 'bad-content', message: issue.message, path: pathText(issue.path) })));
  }
  const project = { name: parsed.data.name, documents: parsed.data.documents as readonly Document[] };
  const problems = project.documents.flatMap((document, index) => checkReferences(document, `documents[${index}]`));
  return problems.length > 0 ? fail(problems.slice(0, 20)) : succeed(project);
}

/** Writes a project file; equal content gives equal bytes. */
export function writeProjectFile(project: ProjectFile): string {
  return `${stableJson({ format: PROJECT_FORMAT, version: PROJECT_VERSION, name: project.name, documents: project.documents }, 2)}\n`;
}

/**
 * What a document says, as text that is equal for equal content. Which revision of a source a link has seen is no
 * content: what it took is.
 */
export function contentText(document: Document): string {
  const links = listRecords(document, 'links', 'link').map((link) => [link.id, { ...link, revision: 0, hash: '' }] as const);
  return stableJson({ ...document, records: { ...document.records, ...Object.fromEntries(links) } });
}

/** JSON with sorted keys. */
export function stableJson(data: unknown, indent?: number): string {
  return JSON.stringify(
    data,
    (_, value: unknown) => (isObject(value) ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1))) : value),
    indent,
  );
}

/** The published JSON Schema of the format. */
export function projectJsonSchema(): unknown {
  return z.toJSONSchema(projectFileSchema, { target: 'draft-2020-12', unrepresentable: 'any' });
}

/** Lists and records must agree: every listed id exists, every record is its own id, none is listed twice. */
function checkReferences(document: Document, path: string): FileProblem[] {
  const problems: FileProblem[] = [];
  for (const [id, record] of Object.entries(document.records)) {
    if (record.id !== id) problems.push({ code: 'bad-reference', message: `The record ${id} calls itself ${record.id}.`, path: `${path}.records.${id}` });
  }
  const listed = new Set<string>();
  for (const [list, ids] of Object.entries(document.lists)) {
    for (const id of ids) {
      if (!Object.hasOwn(document.records, id))
        problems.push({ code: 'bad-reference', message: `${list} lists ${id}, which is not there.`, path: `${path}.lists` });
      if (listed.has(id)) problems.push({ code: 'bad-reference', message: `${id} is listed twice.`, path: `${path}.lists` });
      listed.add(id);
    }
  }
  for (const [id, record] of Object.entries(document.records)) {
    if (!listed.has(id)) problems.push({ code: 'bad-reference', message: `${record.type} ${id} is in no list.`, path: `${path}.records.${id}` });
  }
  return problems;
}

function refuse(code: FileProblem['code'], message: string): Result<never, readonly FileProblem[]> {
  return fail([{ code, message }]);
}

/** Nesting of arrays and objects, counted no further than `limit` + 1. */
function depthOf(data: unknown, limit: number): number {
  if (typeof data !== 'object' || data === null) return 0;
  if (limit < 0) return 1;
  let deepest = 0;
  for (const value of Object.values(data)) deepest = Math.max(deepest, depthOf(value, limit - 1));
  return deepest + 1;
}

function isObject(value: unknown): value is Record<string, unknown> {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}

function pathText(path: readonly PropertyKey[]): string {
  return path
    .map((part) => (typeof part === 'number' ? `[${part}]` : `.${String(part)}`))
    .join('')
    .replace(/^\./, '');
}

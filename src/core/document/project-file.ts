/**
 * The open project file: one JSON text for a whole project, versioned, byte-stable for equal content (keys
 * sorted, two spaces, a final newline), so that it can live in version control. Its JSON Schema is
 * generated from the Zod schema here and published in docs/.
 */
import * as z from 'zod/mini';
import { fail, succeed, type Result } from '../kit';
import { listRecords } from './access';
import { migrateDocument } from './migrations';
import { findBreaches } from './integrity';
import { documentSchema, type Document, type DocumentRecord } from './schema';
import { id, LIMITS, title } from './schema-parts';
import { MOST_WHAT_IFS, whatIfSchema, type WhatIf } from './what-if';

export const PROJECT_FORMAT = 'warpbeam-project';
export const PROJECT_VERSION = 1;
/**
 * Largest project file that is read, in UTF-16 units: more than any project that a server holds, which are measured without the
 * indentation.
 */
export const MAX_PROJECT_SIZE = LIMITS.projectSize + 1_000_000;
const MAX_DOCUMENTS = 2_000;
const MAX_DEPTH = 20;

export const projectFileSchema = z.strictObject({
  format: z.literal(PROJECT_FORMAT),
  version: z.literal(PROJECT_VERSION),
  name: title,
  /** The material of new bodies; of none where it is left out. */
  material: z.optional(z.string().check(z.minLength(1), z.maxLength(60))),
  documents: z.array(documentSchema).check(z.maxLength(MAX_DOCUMENTS)),
  /** What components stand for where that is not the document as it is: by its id and the revision that they name. */
  earlier: z.optional(z.array(z.strictObject({ revision: z.int().check(z.gte(1)), document: documentSchema })).check(z.maxLength(MAX_DOCUMENTS))),
  /** Outside the content of documents: no revision holds them. */
  whatIfs: z.optional(
    z
      .array(z.strictObject({ document: id, whatIfs: z.array(whatIfSchema).check(z.minLength(1), z.maxLength(MOST_WHAT_IFS)) }))
      .check(z.maxLength(MAX_DOCUMENTS)),
  ),
});

/** A document as a revision of it was. */
export interface EarlierState {
  readonly revision: number;
  readonly document: Document;
}

/** The what-ifs of one document. */
export interface WhatIfsOfDocument {
  readonly document: string;
  readonly whatIfs: readonly WhatIf[];
}

export interface ProjectFile {
  readonly name: string;
  readonly material?: string;
  readonly documents: readonly Document[];
  readonly earlier?: readonly EarlierState[];
  readonly whatIfs?: readonly WhatIfsOfDocument[];
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
    // Some editors put a byte order mark in front.
    data = JSON.parse(text.replace(/^\uFEFF/, ''));
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
  const earlier = Array.isArray(data['earlier'])
    ? data['earlier'].map((state: unknown) => (isObject(state) ? { ...state, document: migrateDocument(state['document']) } : state))
    : data['earlier'];
  const parsed = projectFileSchema.safeParse({ ...data, documents, ...(earlier === undefined ? {} : { earlier }) });
  if (!parsed.success) {
    return fail(parsed.error.issues.slice(0, 20).map((issue) => ({ code: 'bad-content', message: describeIssue(issue.message), path: pathText(issue.path) })));
  }
  const states = (parsed.data.earlier ?? []) as readonly EarlierState[];
  const project: ProjectFile = {
    name: parsed.data.name,
    ...(parsed.data.material === undefined ? {} : { material: parsed.data.material }),
    documents: parsed.data.documents,
    ...(states.length > 0 ? { earlier: states } : {}),
    ...((parsed.data.whatIfs?.length ?? 0) > 0 ? { whatIfs: parsed.data.whatIfs ?? [] } : {}),
  };
  const problems = [
    ...project.documents.flatMap((document, index) => breachesOf(document, `documents[${index}]`)),
    ...states.flatMap(({ document }, index) => breachesOf(document, `earlier[${index}].document`)),
  ];
  const twice = project.documents.find(({ id }, index) => project.documents.findIndex((other) => other.id === id) !== index);
  const { whatIfs = [] } = project;
  for (const [index, { document }] of whatIfs.entries()) {
    const tell = (message: string): void => void problems.push({ code: 'bad-reference', message, path: `whatIfs[${index}].document` });
    if (!project.documents.some(({ id: known }) => known === document)) tell(`There is no document ${document}.`);
    if (whatIfs.findIndex((other) => other.document === document) !== index) tell(`The what-ifs of ${document} stand in two places.`);
  }
  if (twice) problems.push({ code: 'bad-reference', message: `Two documents have the id ${twice.id}.` });
  return problems.length > 0 ? fail(problems.slice(0, 20)) : succeed(project);
}

function breachesOf(document: Document, place: string): FileProblem[] {
  return findBreaches(document).map(({ message, at }) => ({
    code: 'bad-reference',
    message,
    path: `${place}.${at in document.lists ? 'lists' : 'records'}.${at}`,
  }));
}

/** Writes a project file; equal content gives equal bytes. One that would be too large to be read again is written without indentation. */
export function writeProjectFile(project: ProjectFile): string {
  const data = { format: PROJECT_FORMAT, version: PROJECT_VERSION, ...project };
  const indented = `${stableJson(data, 2)}\n`;
  return indented.length <= MAX_PROJECT_SIZE ? indented : `${stableJson(data)}\n`;
}

/**
 * What a document says, as text that is equal for equal content. Which revision of a source a link has seen is no
 * content: what it took is. Of a component, the content of its revision counts, not the number; nor does it count when an answer came.
 */
export function contentText(document: Document): string {
  const records: Record<string, DocumentRecord> = { ...document.records };
  for (const link of listRecords(document, 'links', 'link')) records[link.id] = { ...link, revision: 0, hash: '' };
  for (const component of listRecords(document, 'components', 'component')) records[component.id] = { ...component, revision: 0 };
  for (const answer of listRecords(document, 'answers', 'answer')) records[answer.id] = { ...answer, at: '' };
  return stableJson({ ...document, records });
}

/** JSON with sorted keys. */
export function stableJson(data: unknown, indent?: number): string {
  return JSON.stringify(
    data,
    (_, value: unknown) => (isObject(value) ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1))) : value),
    indent,
  );
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

/** Messages of our own begin with a verb: they are said of the place. */
function describeIssue(message: string): string {
  return /^[a-z]/.test(message) ? `This ${message}.` : message;
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

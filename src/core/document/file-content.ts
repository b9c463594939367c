/** Contents of the files that documents hold, by their hashes: kept apart from documents, so that no edit and no state repeats them. */
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import type { Document, StoredFile } from './schema';

/** The hash under which a content is kept. */
export function hashOfContent(content: string): string {
  return bytesToHex(sha256(utf8ToBytes(content)));
}

export function listFiles(document: Pick<Document, 'records'>): StoredFile[] {
  return Object.values(document.records).flatMap((record) => (record.type === 'file' ? record : []));
}

/**
 * The same data (a document, an edit, a logged edit) with hashes in the place of contents, and those contents by their hashes.
 * What holds no content is given back as it is.
 */
export function takeContentsOut<T>(data: T): { readonly data: T; readonly contents: ReadonlyMap<string, string> } {
  const contents = new Map<string, string>();
  const taken = mapFiles(data, ({ content, ...rest }) => {
    if (content === undefined) return undefined;
    const hash = hashOfContent(content);
    contents.set(hash, content);
    return { ...rest, hash };
  });
  return { data: taken, contents };
}

/** The same data with contents in the place of hashes; a content that is not among those given is left a hash. */
export function putContentsIn<T>(data: T, contents: ReadonlyMap<string, string>): T {
  return mapFiles(data, ({ hash, ...rest }) => {
    const content = hash === undefined ? undefined : contents.get(hash);
    return content === undefined ? undefined : { ...rest, content };
  });
}

/** Hashes of the contents that the data names and does not hold. */
export function listHashes(data: unknown): Set<string> {
  const hashes = new Set<string>();
  mapFiles(data, ({ hash }) => {
    if (hash !== undefined) hashes.add(hash);
    return undefined;
  });
  return hashes;
}

/** Whether two files are the same one, of which either may hold its content or the hash of it. */
export function isSameFile(one: StoredFile, other: StoredFile): boolean {
  return one.id === other.id && one.name === other.name && one.format === other.format && hashOf(one) === hashOf(other);
}

function hashOf({ content, hash }: StoredFile): string | undefined {
  return content === undefined ? hash : hashOfContent(content);
}

/** Wherever a file stands in the data, `change` gives the one in its place, or undefined to leave it. What is unchanged is shared. */
function mapFiles<T>(data: T, change: (file: StoredFile) => StoredFile | undefined): T {
  if (typeof data !== 'object' || data === null) return data;
  if (isFile(data)) return (change(data) ?? data) as T;
  if (Array.isArray(data)) {
    const mapped = data.map((entry: unknown) => mapFiles(entry, change));
    return mapped.some((entry, i) => entry !== data[i]) ? (mapped as T) : data;
  }
  const entries = Object.entries(data).map(([key, entry]: [string, unknown]) => [key, mapFiles(entry, change), entry] as const);
  return entries.some(([, mapped, entry]) => mapped !== entry) ? (Object.fromEntries(entries.map(([key, mapped]) => [key, mapped])) as T) : data;
}

function isFile(data: object): data is StoredFile {
  return 'type' in data && data.type === 'file' && 'format' in data && ('content' in data || 'hash' in data);
}

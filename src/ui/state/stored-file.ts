/** A file that the user chose, as a document keeps it. */
import type { StoredFile } from '@/core/document';
import { fail, succeed, type Result } from '@/core/kit';

/** Bytes that are read at most; packed, a document keeps four million characters. */
const MOST_BYTES = 40_000_000;
const MOST_PACKED = 4_000_000;

/** Fails with words for the user when the file is none that can be kept. */
export async function readStoredFile(file: File, id: string): Promise<Result<StoredFile, string>> {
  if (file.size > MOST_BYTES) return fail(`${file.name} has ${megabytes(file.size)}; at most ${megabytes(MOST_BYTES)} are read.`);
  const bytes = new Uint8Array(await file.arrayBuffer());
  // ISO 10303-21: every exchange file begins with these words.
  if (!new TextDecoder().decode(bytes.subarray(0, 200)).includes('ISO-10303-21')) return fail(`${file.name} is not a STEP file.`);
  const content = await packFile(file.name, bytes);
  return content.ok ? succeed({ type: 'file', id, name: file.name.slice(0, 200), format: 'step', content: content.value }) : content;
}

/** The bytes of a file packed with gzip, in base64; or that they are too many. */
export async function packFile(name: string, bytes: Uint8Array): Promise<Result<string, string>> {
  const { gzipSync } = await import('fflate');
  const content = toBase64(gzipSync(bytes, { level: 9, mtime: 0 }));
  return content.length > MOST_PACKED
    ? fail(`${name} is too large: packed it has ${megabytes(content.length)}, at most ${megabytes(MOST_PACKED)}.`)
    : succeed(content);
}

function megabytes(bytes: number): string {
  return `${(bytes / 1e6).toFixed(1)} MB`;
}

function toBase64(bytes: Uint8Array): string {
  let text = '';
  for (let at = 0; at < bytes.length; at += 8192) text += String.fromCharCode(...bytes.subarray(at, at + 8192));
  return btoa(text);
}

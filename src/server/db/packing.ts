/** JSON as bytes for the database: compressed when it is long. */
import { gunzipSync, gzipSync } from 'node:zlib';

const COMPRESS_ABOVE = 16_384;

export function pack(data: unknown): Buffer {
  return packText(JSON.stringify(data));
}

/** The same of JSON that is text already. */
export function packText(text: string): Buffer {
  const bytes = Buffer.from(text, 'utf8');
  return bytes.length > COMPRESS_ABOVE ? gzipSync(bytes, { level: 1 }) : bytes;
}

/** What {@link pack} packed; its shape is known to the caller, who packed it. */
export function unpack<T>(bytes: Buffer): T {
  return JSON.parse(unpackText(bytes)) as T;
}

export function unpackText(bytes: Buffer): string {
  // JSON never starts with the gzip mark.
  const isCompressed = bytes[0] === 0x1f && bytes[1] === 0x8b;
  return (isCompressed ? gunzipSync(bytes) : bytes).toString('utf8');
}

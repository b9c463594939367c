/** Content keys: equal keys, equal results. */
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { stableJson } from '../document';

export function keyOf(parts: unknown): string {
  return bytesToHex(sha256(utf8ToBytes(stableJson(parts)))).slice(0, 40);
}

/** Replies of services, which may be anything of any length. */
import { fail, succeed, type Result } from '@/core/kit';

/** Longer replies are no numbers. */
const MOST_BYTES = 64_000;

/** The JSON of a reply; or why there is none, with the beginning of what came. */
export async function readReply(response: Response): Promise<Result<unknown, string>> {
  const text = await readText(response);
  if (text === undefined) return fail(`The reply is longer than ${MOST_BYTES / 1000} kB.`);
  try {
    return succeed(JSON.parse(text));
  } catch {
    return fail(`The reply is not JSON: ${quote(text)}`);
  }
}

async function readText(response: Response): Promise<string | undefined> {
  const parts: Uint8Array[] = [];
  let size = 0;
  const reader = response.body?.getReader();
  for (let part = await reader?.read(); part?.done === false; part = await reader?.read()) {
    const bytes = part.value as Uint8Array;
    size += bytes.byteLength;
    if (size > MOST_BYTES) {
      await reader?.cancel();
      return undefined;
    }
    parts.push(bytes);
  }
  return Buffer.concat(parts).toString('utf8');
}

/** The beginning of a text that may hold anything. */
export function quote(text: string): string {
  const plain = text.replace(/[\p{Cc}\p{Cf}\s]+/gu, ' ').trim();
  return plain === '' ? 'it is empty.' : `"${plain.slice(0, 80)}${plain.length > 80 ? '…' : ''}"`;
}

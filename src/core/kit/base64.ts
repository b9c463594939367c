const ALPHABET = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';
const SIX_BITS = new Map([...ALPHABET].map((character, i) => [character, i]));

/** The bytes of a base64 text (RFC 4648 §4), with padding; undefined for another text. */
export function readBase64(text: string): Uint8Array | undefined {
  const bare = text.replace(/={1,2}$/, '');
  if (text.length % 4 !== 0 || bare.length % 4 === 1) return undefined;
  const bytes = new Uint8Array(Math.floor((bare.length * 3) / 4));
  let [bits, held, at] = [0, 0, 0];
  for (const character of bare) {
    const six = SIX_BITS.get(character);
    if (six === undefined) return undefined;
    bits = ((bits << 6) | six) & 0xffffff;
    held += 6;
    if (held < 8) continue;
    held -= 8;
    bytes[at++] = (bits >> held) & 0xff;
  }
  return bytes;
}

/** How a formula was read, for the box: the text with every unit that a bare number took written out. */
import type { Adoption } from './checking';

/** `beam_dia + 6` read in millimetres gives `beam_dia + 6 mm`; without adoptions, undefined. */
export function formatReading(text: string, adopted: readonly Adoption[]): string | undefined {
  if (adopted.length === 0) return undefined;
  let result = text;
  for (const { span, unit } of [...adopted].sort((a, b) => b.span.from - a.span.from)) {
    const bare = result.slice(span.from, span.to);
    const isNumber = /^-?[\d. /]+$/.test(bare) || /^\(.*\)$/.test(bare);
    result = `${result.slice(0, span.from)}${isNumber ? bare : `(${bare})`} ${unit}${result.slice(span.to)}`;
  }
  return result;
}

/** Tolerances as they are written beside a size: `±0.1 mm`, `+0.2/-0.1`, `44.9..45.1`, `H7`. */
import { isFitClass } from './iso-286';

export type WrittenTolerance =
  | { readonly kind: 'symmetric'; readonly by: string }
  | { readonly kind: 'deviations' | 'limits'; readonly upper: string; readonly lower: string }
  | { readonly kind: 'fit'; readonly fit: string };

/** What a text means as a tolerance; undefined when it is none. Amounts are formulas. */
export function readTolerance(text: string): WrittenTolerance | undefined {
  const trimmed = text.trim();
  if (isFitClass(trimmed)) return { kind: 'fit', fit: trimmed };
  const symmetric = /^(?:±|\+\/-|\+-)\s*(.+)$/s.exec(trimmed);
  if (symmetric?.[1] !== undefined) return { kind: 'symmetric', by: symmetric[1].trim() };
  const limits = /^(.+?)\s*(?:\.\.|…|\bto\b)\s*(.+)$/s.exec(trimmed);
  if (limits?.[1] !== undefined && limits[2] !== undefined) return { kind: 'limits', lower: limits[1].trim(), upper: limits[2].trim() };
  // A sign before both: what stands between them is parted by a stroke with spaces, or right before the second sign.
  const deviations = /^([+-].+?|0(?![.\d])[^/]*)\s*\/\s*([+-].+|0(?![.\d]).*)$/s.exec(trimmed);
  if (deviations?.[1] !== undefined && deviations[2] !== undefined) {
    return { kind: 'deviations', upper: withoutPlus(deviations[1]), lower: withoutPlus(deviations[2]) };
  }
  return undefined;
}

export function writeTolerance(tolerance: WrittenTolerance): string {
  switch (tolerance.kind) {
    case 'symmetric':
      return `±${tolerance.by}`;
    case 'deviations':
      return `${withSign(tolerance.upper)}/${withSign(tolerance.lower)}`;
    case 'limits':
      return `${tolerance.lower}..${tolerance.upper}`;
    case 'fit':
      return tolerance.fit;
  }
}

function withoutPlus(text: string): string {
  return text.trim().replace(/^\+\s*/, '');
}

function withSign(text: string): string {
  return /^(-|0(?![.\d]))/.test(text) ? text : `+${text}`;
}

/** A value that a formula reads and that is not there: what it could be made as. Pure. */
import { findRecord, type Document, type TriedFormula } from '@/core/document';
import { checkName, type Slot } from '@/core/formula';
import { kindDimension, type QuantityKind } from '@/core/units';

export interface MissingValue {
  readonly name: string;
  readonly formula: string;
}

/** What a new value is begun with, by the kind of what is wanted, where nothing better is known. */
const BEGUN_WITH: readonly (readonly [kind: QuantityKind, formula: string])[] = [
  ['angle', '45 deg'],
  ['area', '100 mm^2'],
  ['volume', '1000 mm^3'],
  ['mass', '1 kg'],
];

/**
 * The first unknown name of a formula as a value that could be made: with what the edited value is now where the name is all of its formula,
 * so that nothing moves; undefined where another fault comes first, or it is no name that a value may have.
 */
export function missingValue(document: Document, formula: string, tried: TriedFormula, slot: Slot, forId: string | undefined): MissingValue | undefined {
  const [wrong] = tried.diagnostics;
  if (wrong?.code !== 'unknown-name') return undefined;
  const name = formula.slice(wrong.from, wrong.to);
  if (checkName(name, () => false)) return undefined;
  const now = findRecord(document, forId ?? '', 'parameter')?.formula.text.trim();
  const isAll = formula.trim() === name;
  if (isAll && now !== undefined && now !== '' && now !== name && /^[\d.+-]/.test(now)) return { name, formula: now };
  return { name, formula: begunWith(slot) };
}

function begunWith(slot: Slot): string {
  if (slot.kind !== 'quantity') return '10 mm';
  if (slot.isCount === true) return '1';
  return BEGUN_WITH.find(([kind]) => kindDimension(kind) === slot.dimension)?.[1] ?? '10 mm';
}

/** What stands before the first equals sign, where it is meant as a name and is none because of its spaces. */
export function spacedName(text: string): { readonly name: string; readonly from: number } | undefined {
  const found = /^(\s*)([\p{L}_][^=<>!]*?\s[^=<>!]*?)\s*=(?!=)/u.exec(text);
  const [, before = '', name = ''] = found ?? [];
  return found && name.split(/\s+/).every((word) => /^[\p{L}\p{Nd}_]+$/u.test(word)) ? { name, from: before.length } : undefined;
}

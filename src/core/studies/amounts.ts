/** Amounts as they are typed, for ranges and goals. */
import { tryFormula, type DocumentValues } from '../document';
import { PLAIN, type Unit } from '../units';

/** A formula as an amount in internal units; a plain number is in the unit. Undefined for a formula with an error, or of another kind than the unit. */
export function amountIn(values: DocumentValues, unit: Unit | undefined, text: string): number | undefined {
  if (text.trim() === '') return undefined;
  const tried = tryFormula(values, text);
  if (tried.diagnostics.length > 0) return undefined;
  const isPlain = tried.isPlainNumber || tried.unit?.dimension === PLAIN;
  if (unit && isPlain) return tried.value * unit.size;
  return !unit || tried.unit?.dimension === unit.dimension ? tried.value : undefined;
}

/** The same, of the kind that a value is of, and in its unit. */
export function amountOf(values: DocumentValues, like: string, text: string): number | undefined {
  const shown = values.show(like);
  return shown?.type?.kind === 'quantity' ? amountIn(values, shown.unit, text) : undefined;
}

/** What was typed as an amount of a value, so that it is read alike wherever it stands: a plain number gets the unit that the value is shown in. */
export function withOwnUnit(values: DocumentValues, like: string, text: string): string {
  const unit = values.show(like)?.unit;
  const tried = tryFormula(values, text);
  if (!unit || unit.dimension === PLAIN || tried.diagnostics.length > 0) return text;
  if (tried.isPlainNumber) return `${text.trim()} ${unit.symbol}`;
  return tried.unit?.dimension === PLAIN ? `(${text.trim()}) * 1 ${unit.symbol}` : text;
}

/** From one amount on in steps, to the last that is not beyond the other. */
export function inSteps(from: number, to: number, step: number): number[] {
  // A hair more, so that an end that the steps meet is among them.
  const count = Math.floor((to - from) / step + 1e-9);
  return Array.from({ length: count + 1 }, (_, i) => from + i * step);
}

/** Amounts with semicolons between them, or with commas where there are none; rising, each once. Undefined where one is none. */
export function listedAmounts(values: DocumentValues, like: string, text: string): number[] | undefined {
  const parts = text.split(text.includes(';') ? ';' : ',').map((part) => part.trim());
  const amounts = parts.flatMap((part) => (part === '' ? [] : [amountOf(values, like, part)]));
  if (amounts.length === 0 || amounts.includes(undefined)) return undefined;
  return [...new Set(amounts.flatMap((amount) => amount ?? []))].sort((a, b) => a - b);
}

/** What a value must be beside its dimension: whole, one of its choices, within its limits. */
import { snapWhole, type FormulaDiagnostic } from '../formula';
import type { FormulaDefinition } from './definition';

/** A limit: its value and its words. */
export interface Bound {
  readonly value: number;
  readonly text: string;
}

export function hasRules(definition: FormulaDefinition): boolean {
  const { slot, least, most, choices } = definition;
  return least !== undefined || most !== undefined || choices !== undefined || (slot.kind === 'quantity' && slot.isCount);
}

/** The value to keep (a count exactly whole), or what is wrong with it. */
export function judge({ slot, choices, text }: FormulaDefinition, value: number, low: Bound | undefined, high: Bound | undefined): number | FormulaDiagnostic {
  const span = { from: 0, to: text.length };
  const replacing = (texts: readonly string[]) => ({ repairs: texts.map((choice) => ({ label: choice, ...span, text: choice })) });
  const isCount = slot.kind === 'quantity' && slot.isCount;
  const kept = isCount ? snapWhole(value) : value;
  if (isCount && !Number.isInteger(kept)) {
    const message = `${Number(value.toPrecision(12))} is not a whole number; use round(), floor() or ceil().`;
    return { code: 'not-whole', message, ...span, ...replacing(['round', 'floor', 'ceil'].map((name) => `${name}(${text.trim()})`)) };
  }
  if (choices && !choices.some((choice) => choice.value === kept)) {
    const offered = choices.map((choice) => choice.text);
    return { code: 'not-a-choice', message: `This is not one of the choices: ${offered.join(', ')}.`, ...span, ...replacing(offered.slice(0, 12)) };
  }
  if (low && kept < low.value) {
    return { code: 'below-limit', message: `This is below the least allowed, ${low.text}.`, ...span, ...replacing([low.text]) };
  }
  if (high && kept > high.value) {
    return { code: 'above-limit', message: `This is above the most allowed, ${high.text}.`, ...span, ...replacing([high.text]) };
  }
  return kept;
}

/** What is said of a value on a cycle: the path in names, from the value back to itself. */
export function describeCycle(path: readonly string[], text: string): FormulaDiagnostic {
  const names = [...path, ...path.slice(0, 1)];
  const shown = names.length > 12 ? [...names.slice(0, 6), '…', ...names.slice(-5)] : names;
  return { code: 'cycle', message: `This value depends on itself: ${shown.join(' → ')}.`, from: 0, to: text.length };
}

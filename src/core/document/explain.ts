/** A value as its chain, in symbols and in numbers: `bearing_dia = beam_dia + clearance = 45 mm + 0.4 mm = 45.4 mm`. */
import { renameInFormula, renamePathsInFormula } from '../formula';
import { findNamed, findRecord } from './access';
import { formulaNow } from './sizes';
import type { DocumentValues } from './values';

/** The parts of the chain, to be joined by equals signs; undefined for a value without a formula. */
export function explainValue(values: DocumentValues, id: string): string[] | undefined {
  const parameter = findRecord(values.document, id, 'parameter');
  const shown = values.show(id);
  if (!parameter || !shown || shown.diagnostics.length > 0) return undefined;
  if (parameter.measure?.of === 'outside') {
    const outside = findRecord(values.document, parameter.measure.outside, 'outside');
    return [parameter.name, ...(outside ? [`${outside.name}: ${parameter.measure.output}`] : []), shown.shown];
  }
  if (values.isMeasured(id)) return [parameter.name, shown.shown];
  const formula = formulaNow(values.document, parameter).text;
  const read = renamePathsInFormula(formula, (path) => values.components?.showPath(path) || undefined);
  const numbers = renameInFormula(read, (name) => {
    const record = findNamed(values.document, name);
    const value = record && values.show(record.id);
    return value === undefined || value.shown === '' ? undefined : value.shown;
  });
  const chain = [parameter.name, formula, numbers, shown.shown];
  return chain.filter((part, i) => i === 0 || part !== chain[i - 1]);
}

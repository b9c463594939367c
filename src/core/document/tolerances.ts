/** The limits of a value, from its tolerance. */
import { fitDeviations, generalDeviation, readTolerance, writeTolerance } from '../tolerance';
import { findRecord } from './access';
import type { Formula, Tolerance } from './schema';
import { inShownUnit, withReadUnit, type Beside } from './shown-units';
import { tryFormula } from './try-formula';
import type { DocumentValues, ShownValue } from './values';
import { MILLIMETRE } from '../units';

/** In internal base units; or why there are none. */
export type Limits =
  | {
      readonly upper: number;
      readonly lower: number;
      readonly shown: string;
      /** They are those of the general tolerance of the document: the value has none of its own. */
      readonly isGeneral?: true;
    }
  | { readonly problem: string };

/**
 * The greatest and the least that a value may be; undefined for one without a tolerance, or with an error of its own. Typed lengths have the general
 * tolerance where the document has one.
 */
export function limitsOf(values: DocumentValues, id: string): Limits | undefined {
  const tolerance = findRecord(values.document, id, 'parameter')?.tolerance;
  const shown = values.show(id);
  const taken = findRecord(values.document, id, 'take')?.value;
  if (!shown || shown.diagnostics.length > 0 || shown.type?.kind !== 'quantity') return undefined;
  if (taken?.kind === 'quantity' && taken.tolerance) {
    return named(values, id, { upper: taken.value + taken.tolerance.upper, lower: taken.value + taken.tolerance.lower });
  }
  if (!tolerance) return generalLimits(values, id, shown);
  const found = compute(values, tolerance, shown.value, shown.type.dimension);
  if ('problem' in found) return found;
  if (found.upper < found.lower) return { problem: 'The upper limit is below the lower one.' };
  return named(values, id, found);
}

/** Of a length that is typed: what is computed, or read off the geometry, comes out of others. */
function generalLimits(values: DocumentValues, id: string, { type, value }: ShownValue): Limits | undefined {
  const { general } = values.document;
  if (general === undefined || type?.kind !== 'quantity' || type.dimension.key !== 'length=1') return undefined;
  if (!findRecord(values.document, id, 'parameter') || values.isMeasured(id) || valuesRead(values, id).length > 0) return undefined;
  const by = generalDeviation(value / MILLIMETRE, general);
  return by === undefined ? undefined : { ...named(values, id, { upper: value + by * MILLIMETRE, lower: value - by * MILLIMETRE }), isGeneral: true };
}

/** What a value is computed from. Its own limits judge it; it does not come from them. */
export function valuesRead({ sheet }: DocumentValues, id: string): string[] {
  return sheet.listReads(id).filter((read) => !read.startsWith(`${id}/`));
}

type Dimension = Extract<NonNullable<Parameters<DocumentValues['words']>[0]['type']>, { readonly kind: 'quantity' }>['dimension'];

function compute(
  values: DocumentValues,
  tolerance: Tolerance,
  nominal: number,
  dimension: Dimension,
): { readonly upper: number; readonly lower: number } | { readonly problem: string } {
  if (tolerance.kind === 'fit') {
    if (dimension.key !== 'length=1') return { problem: 'A tolerance class is for lengths.' };
    const found = fitDeviations(tolerance.fit, nominal / MILLIMETRE);
    return 'problem' in found ? found : { upper: nominal + found.upper * MILLIMETRE, lower: nominal + found.lower * MILLIMETRE };
  }
  const read = ({ text, readIn }: Formula) =>
    tryFormula(values, text, { kind: 'quantity', dimension, isCount: false, label: 'the tolerance' }, undefined, readIn);
  const above = read(tolerance.kind === 'symmetric' ? tolerance.by : tolerance.upper);
  const below = tolerance.kind === 'symmetric' ? above : read(tolerance.lower);
  const [problem] = [...above.diagnostics, ...below.diagnostics];
  if (problem) return { problem: problem.message };
  switch (tolerance.kind) {
    case 'symmetric':
      return { upper: nominal + above.value, lower: nominal - below.value };
    case 'deviations':
      return { upper: nominal + above.value, lower: nominal + below.value };
    case 'limits':
      return { upper: above.value, lower: below.value };
  }
}

function named(values: DocumentValues, id: string, { upper, lower }: { readonly upper: number; readonly lower: number }) {
  const shown = values.show(id);
  const words = (value: number): string => (shown ? values.words({ value, type: shown.type, diagnostics: [] }, shown.unit).shown : '');
  return { upper, lower, shown: `${words(lower)} to ${words(upper)}` };
}

/** As it is written beside the value: `±0.1 mm`, `H7`. `write` gives the text of an amount. */
export function toleranceText(tolerance: Tolerance, write: (amount: string) => string = (amount) => amount): string {
  switch (tolerance.kind) {
    case 'symmetric':
      return writeTolerance({ kind: 'symmetric', by: write(tolerance.by.text) });
    case 'fit':
      return writeTolerance(tolerance);
    default:
      return writeTolerance({ kind: tolerance.kind, upper: write(tolerance.upper.text), lower: write(tolerance.lower.text) });
  }
}

/** The tolerance of a value of the document as it is written beside it, with units where these are not those of the value; empty without one. */
export function shownTolerance(values: DocumentValues, id: string): string {
  const tolerance = findRecord(values.document, id, 'parameter')?.tolerance;
  return tolerance ? toleranceText(tolerance, (amount) => withReadUnit(values, amount, { id })) : '';
}

export const TOLERANCE_HINT = 'A tolerance is written ±0.1, +0.2/-0.1, 44.9..45.1 or as a class such as H7.';

/** A tolerance from its text as it was typed beside a value; undefined when it is none. */
export function readTypedTolerance(values: DocumentValues, text: string, beside: Beside): Tolerance | undefined {
  const written = readTolerance(text);
  const read = (amount: string): Formula => ({ text: inShownUnit(values, amount, beside) });
  switch (written?.kind) {
    case 'symmetric':
      return { kind: 'symmetric', by: read(written.by) };
    case 'fit':
      return written;
    case 'deviations':
    case 'limits':
      return { kind: written.kind, upper: read(written.upper), lower: read(written.lower) };
    default:
      return undefined;
  }
}

/** The fit of a hole and a shaft, by ISO 286-1: with clearance, with interference, or either as it comes (transition). */
import { findRecord, type DocumentValues } from '../document';
import type { Stack } from './stack';

export interface Fit {
  readonly kind: 'clearance' | 'transition' | 'interference';
  /** What is between them at the least and at the most, in internal units; below nothing it is interference. */
  readonly least: number;
  readonly most: number;
  readonly hole: string;
  readonly shaft: string;
  /** `H7/g6`, where both have classes and one nominal. */
  readonly classes: string | undefined;
}

const CLOSE = 1e-9;

/** Of a value that is one length less another, each with its tolerance: how the two fit. Undefined for whatever else a stack is of. */
export function fitOf(values: DocumentValues, id: string, { contributors, worstCase }: Stack): Fit | undefined {
  const type = values.sheet.read(id)?.type;
  const isLength = type?.kind === 'quantity' && type.dimension.key === 'length=1';
  const [hole, shaft] = [1, -1].map((slope) => contributors.find(({ sensitivity }) => Math.abs(sensitivity - slope) < CLOSE));
  if (!isLength || contributors.length !== 2 || !hole || !shaft) return undefined;
  const { lower: least, upper: most } = worstCase;
  const [one, other] = [hole, shaft].map((contributor) => findRecord(values.document, contributor.id, 'parameter')?.tolerance);
  const isClassed = one?.kind === 'fit' && other?.kind === 'fit' && hole.nominal === shaft.nominal;
  return {
    kind: least >= 0 ? 'clearance' : most <= 0 ? 'interference' : 'transition',
    least,
    most,
    hole: hole.name,
    shaft: shaft.name,
    classes: isClassed ? `${one.fit}/${other.fit}` : undefined,
  };
}

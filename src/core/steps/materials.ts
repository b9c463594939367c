/**
 * Materials and their densities. Metals and plastics: round figures of common practice, no source. Woods:
 * mean densities at about 12 % moisture as hand books give them; common practice, entered from memory.
 */
import { parseUnit, readInUnit } from '../units';

interface Material {
  readonly name: string;
  /** In g/cm³. */
  readonly density: string;
}

const MATERIALS: readonly Material[] = [
  { name: 'Beech', density: '0.72' },
  { name: 'Ash', density: '0.69' },
  { name: 'Birch plywood', density: '0.68' },
  { name: 'Steel', density: '7.85' },
  { name: 'Stainless steel', density: '7.9' },
  { name: 'Aluminium', density: '2.7' },
  { name: 'Brass', density: '8.5' },
  { name: 'Polyamide', density: '1.14' },
];

export const DEFAULT_MATERIAL = 'Beech';

export function listMaterials(): readonly string[] {
  return MATERIALS.map(({ name }) => name);
}

const GRAM_PER_CUBIC_CENTIMETRE = parseUnit('g/cm^3');
/** Internal mass units in a kilogram, and internal length units in a millimetre, cubed. */
const KILOGRAM = 1e8;
const CUBIC_MILLIMETRE = 1e12;

/** Mass in kilograms of a volume in cubic millimetres; undefined for an unknown material. */
export function massOf(material: string, volume: number): number | undefined {
  const known = MATERIALS.find(({ name }) => name === material);
  if (!known || !GRAM_PER_CUBIC_CENTIMETRE) return undefined;
  return (readInUnit(known.density, GRAM_PER_CUBIC_CENTIMETRE) * CUBIC_MILLIMETRE * volume) / KILOGRAM;
}

/**
 * Materials and their densities. Each says where its density is from; those without a published source are
 * round figures of common practice, entered from memory. A body may have a density of its own instead: a formula,
 * so that it can read a named value, also one linked from another document.
 */
import { findRecord, type Body, type Document, type DocumentValues } from '../document';
import { CUBIC_MILLIMETRE, KILOGRAM, parseUnit, readInUnit } from '../units';

export interface Material {
  readonly name: string;
  /** In g/cm³. */
  readonly density: string;
  readonly source: string;
  /** How a body of it is shown where nobody chose a colour. */
  readonly colour: string;
}

const WOOD = 'common practice: mean at 12 % moisture, no source';
const ROUND = 'common practice, no source';
/** The standard gives weights by volume as ranges, in kN/m³; the figure here lies in its range. From memory. */
const STRUCTURES = 'within the range of EN 1991-1-1, table A.4 (from memory)';

const MATERIALS: readonly Material[] = [
  { name: 'Beech', density: '0.72', source: WOOD, colour: '#d3b48c' },
  { name: 'Ash', density: '0.69', source: WOOD, colour: '#ddc8a3' },
  { name: 'Oak', density: '0.71', source: WOOD, colour: '#b8925f' },
  { name: 'Spruce', density: '0.45', source: WOOD, colour: '#e6d3ad' },
  { name: 'Birch plywood', density: '0.68', source: WOOD, colour: '#dcc59a' },
  { name: 'Steel', density: '7.85', source: STRUCTURES, colour: '#8d949b' },
  { name: 'Stainless steel', density: '7.9', source: ROUND, colour: '#a3a9ad' },
  { name: 'Cast iron', density: '7.2', source: STRUCTURES, colour: '#6f7072' },
  { name: 'Aluminium', density: '2.7', source: STRUCTURES, colour: '#b9bec2' },
  { name: 'Brass', density: '8.5', source: STRUCTURES, colour: '#bf9f57' },
  { name: 'Bronze', density: '8.8', source: ROUND, colour: '#a9804f' },
  { name: 'Polyamide', density: '1.14', source: ROUND, colour: '#e4e0d6' },
  { name: 'Polyoxymethylene', density: '1.41', source: ROUND, colour: '#dad9d3' },
  { name: 'Acrylic', density: '1.19', source: ROUND, colour: '#cfd8d8' },
];

export function listMaterials(): readonly Material[] {
  return MATERIALS;
}

/** The colour that a body is shown in. */
export function colourOf({ colour, material }: Pick<Body, 'colour' | 'material'>): string {
  return colour ?? MATERIALS.find(({ name }) => name === material)?.colour ?? '#c9b79c';
}

/** The same of a body of a document; that of unbleached wood when it is not there. */
export function colourOfBody(document: Document, id: string): string {
  return colourOf(findRecord(document, id, 'body') ?? { material: '' });
}

const GRAM_PER_CUBIC_CENTIMETRE = parseUnit('g/cm^3');

/** What a body weighs, in kilograms; or why that is not known. */
export type Mass = { readonly kilograms: number } | { readonly problem: string };

/** The mass of a body of `volume` cubic millimetres: by its own density where it has a formula for one, by that of its material else. */
export function massOf(
  values: Pick<DocumentValues, 'densityOf' | 'densityProblem'>,
  { id, name, material }: Pick<Body, 'id' | 'name' | 'material'>,
  volume: number,
): Mass {
  const own = values.densityOf(id);
  const density = own ?? tableDensity(material);
  if (density === undefined)
    return {
      problem: material === '' ? `${name} has no material.` : `${material} has no known density; choose one, or give ${name} a density of its own.`,
    };
  if (Number.isNaN(density)) return { problem: `The density of ${name} has an error: ${values.densityProblem(id) ?? 'it has no value.'}` };
  if (density <= 0) return { problem: `The density of ${name} must be above zero.` };
  return { kilograms: (density * CUBIC_MILLIMETRE * volume) / KILOGRAM };
}

/** In internal units. */
function tableDensity(material: string): number | undefined {
  const known = MATERIALS.find(({ name }) => name === material);
  return known && GRAM_PER_CUBIC_CENTIMETRE ? readInUnit(known.density, GRAM_PER_CUBIC_CENTIMETRE) : undefined;
}

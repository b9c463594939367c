/** What is bought by its size: inch threads, plates, bars, tubes, gauges. Entered from memory of what each names, or of common practice. */
import type { Document } from '../../src/core/document';
import { input, result, sheet, table, type Line } from './sheet';

const mm = (amount: number): string => `${amount} mm`;
const inch = (amount: number): string => `${amount} in`;
const quoted = (text: string): string => `"${text}"`;

/**
 * Unified threads of ASME B1.1: name, diameter in inches, threads to the inch in UNC and UNF; then the drill for each in inches, for about three
 * quarters of the thread (common practice).
 */
const UNIFIED: readonly (readonly [string, number, number, number, number, number])[] = [
  ['#2', 0.086, 56, 64, 0.07, 0.07],
  ['#4', 0.112, 40, 48, 0.089, 0.0935],
  ['#6', 0.138, 32, 40, 0.1065, 0.113],
  ['#8', 0.164, 32, 36, 0.136, 0.136],
  ['#10', 0.19, 24, 32, 0.1495, 0.159],
  ['#12', 0.216, 24, 28, 0.177, 0.182],
  ['1/4', 0.25, 20, 28, 0.201, 0.213],
  ['5/16', 0.3125, 18, 24, 0.257, 0.272],
  ['3/8', 0.375, 16, 24, 0.3125, 0.332],
  ['7/16', 0.4375, 14, 20, 0.368, 0.3906],
  ['1/2', 0.5, 13, 20, 0.4219, 0.4531],
  ['9/16', 0.5625, 12, 18, 0.4844, 0.5156],
  ['5/8', 0.625, 11, 18, 0.5312, 0.5781],
  ['3/4', 0.75, 10, 16, 0.6562, 0.6875],
  ['7/8', 0.875, 9, 14, 0.7656, 0.8125],
  ['1', 1, 8, 12, 0.875, 0.9219],
  ['1 1/8', 1.125, 7, 12, 0.9844, 1.0469],
  ['1 1/4', 1.25, 7, 12, 1.1094, 1.1719],
  ['1 3/8', 1.375, 6, 12, 1.2187, 1.2969],
  ['1 1/2', 1.5, 6, 12, 1.3437, 1.4219],
];

export function inchThreads(): Document {
  const either = (column: string): string => `if(series == "UNC", lookup(unified, thread, "unc_${column}"), lookup(unified, thread, "unf_${column}"))`;
  return sheet('master', 'shelf-inch-threads', 'Inch threads', [
    table(
      'unified',
      { thread: 'text', diameter: 'length', unc_count: 'number', unf_count: 'number', unc_drill: 'length', unf_drill: 'length' },
      UNIFIED.map(([name, diameter, unc, unf, uncDrill, unfDrill]) => [quoted(name), inch(diameter), String(unc), String(unf), inch(uncDrill), inch(unfDrill)]),
    ),
    input('thread', '"1/4"', 'text', 'Nominal size, ASME B1.1.', { pinned: true, offered: true, choices: UNIFIED.map(([name]) => quoted(name)) }),
    input('series', '"UNC"', 'text', 'Coarse or fine.', { offered: true, choices: ['"UNC"', '"UNF"'] }),
    result('nominal', 'lookup(unified, thread, "diameter")', 'length', 'Major diameter, ASME B1.1.', { displayUnit: 'in' }),
    result('threads_to_inch', either('count'), 'number', 'ASME B1.1.'),
    result('pitch', '1 in / threads_to_inch', 'length', 'From one thread to the next.', { displayUnit: 'in' }),
    result('tapping_drill', either('drill'), 'length', 'For about three quarters of the thread: common practice.', { displayUnit: 'in' }),
    result('pitch_diameter', 'nominal - 3 / 8 * sqrt(3) * pitch', 'length', 'ASME B1.1.', { displayUnit: 'in' }),
    result('stress_area', 'pi / 4 * (nominal - 9 / 16 * sqrt(3) * pitch)^2', 'area', 'Tensile stress area, ASME B1.1.', { displayUnit: 'in^2' }),
  ]);
}

/** Thicknesses that sheets and plates of steel are kept in: common practice. */
const PLATES = [0.5, 0.8, 1, 1.25, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10, 12, 15, 20, 25, 30, 35, 40, 50, 60, 80, 100];
/** Diameters that round bars of steel are kept in: common practice. */
const BARS = [6, 8, 10, 12, 14, 15, 16, 18, 20, 22, 25, 28, 30, 32, 35, 40, 45, 50, 55, 60, 65, 70, 75, 80, 90, 100];
/** Outside diameters of tubes: ISO 4200 and EN 10220, series 1. */
const TUBES = [10.2, 13.5, 17.2, 21.3, 26.9, 33.7, 42.4, 48.3, 60.3, 76.1, 88.9, 114.3, 139.7, 168.3, 219.1];
/** Manufacturers' Standard Gage for steel sheet: the number, and pounds to the square foot. */
const GAUGES: readonly (readonly [number, number])[] = [
  [8, 6.875],
  [10, 5.625],
  [11, 5],
  [12, 4.375],
  [13, 3.75],
  [14, 3.125],
  [16, 2.5],
  [18, 2],
  [20, 1.5],
  [22, 1.25],
  [24, 1],
  [26, 0.75],
];

/** The smallest of the sizes that is no smaller than what is wanted, which its limit keeps to the largest of them. */
const nextUp = (sizes: readonly number[]): string =>
  sizes.reduceRight((rest, size) => (rest === '' ? mm(size) : `if(wanted <= ${size} mm, ${size} mm, ${rest})`), '');

export function stock(): Document {
  const listed = (name: string, sizes: readonly number[]): Line =>
    table(
      name,
      { place: 'number', size: 'length' },
      sizes.map((size, i) => [String(i), mm(size)]),
    );
  return sheet('master', 'shelf-stock', 'Stock', [
    listed('plates', PLATES),
    listed('bars', BARS),
    table(
      'gauges',
      { gauge: 'number', thickness: 'length' },
      GAUGES.map(([gauge, pounds]) => [String(gauge), inch(Number((pounds / 41.82).toFixed(4)))]),
    ),
    input('wanted', '11 mm', 'length', 'What is needed at least, up to 100 mm.', {
      pinned: true,
      offered: true,
      least: { text: '0 mm' },
      most: { text: '100 mm' },
    }),
    result('plate_size', nextUp(PLATES), 'length', 'Sheet or plate that is no thinner: common practice.'),
    result('bar_size', nextUp(BARS), 'length', 'Round bar that is no thinner: common practice.'),
    input('gauge', '16', 'number', 'Of a steel sheet.', { offered: true, choices: GAUGES.map(([gauge]) => String(gauge)) }),
    result('gauge_thickness', 'lookup(gauges, gauge, "thickness")', 'length', "Manufacturers' Standard Gage: 41.82 lb/ft^2 to the inch.", {
      displayUnit: 'mm',
    }),
    input('tube', '42.4 mm', 'length', 'Outside diameter, EN 10220 series 1.', { offered: true, choices: TUBES.map((size) => mm(size)) }),
    input('tube_wall', '2.6 mm', 'length', 'Thickness of the wall.', { offered: true, least: { text: '0.5 mm' }, most: { text: 'tube / 2' } }),
    result('tube_bore', 'tube - 2 * tube_wall', 'length', 'Inside diameter.'),
    result('tube_area', 'pi * (tube - tube_wall) * tube_wall', 'area', 'Of the section.'),
    result('tube_mass', 'tube_area * 1 m * 7850 kg/m^3', 'mass', 'Of one metre in steel, EN 10220.'),
  ]);
}

/**
 * Tables that designers look up every day. All entered from memory of the standards that each names; tests/reference/shelf.test.ts holds them
 * against the formulas and the second sources there are.
 */
import type { Document } from '../../src/core/document';
import { input, result, sheet, table, type Line } from './sheet';

const mm = (amount: number): string => `${amount} mm`;
const quoted = (text: string): string => `"${text}"`;

/** Coarse threads: nominal diameter, pitch (ISO 261), tapping drill (ISO 2306), clearance fine, medium and coarse (ISO 273), in millimetres. */
const THREADS: readonly (readonly [number, number, number, number, number, number])[] = [
  [1.6, 0.35, 1.25, 1.7, 1.8, 2],
  [2, 0.4, 1.6, 2.2, 2.4, 2.6],
  [2.5, 0.45, 2.05, 2.7, 2.9, 3.1],
  [3, 0.5, 2.5, 3.2, 3.4, 3.6],
  [4, 0.7, 3.3, 4.3, 4.5, 4.8],
  [5, 0.8, 4.2, 5.3, 5.5, 5.8],
  [6, 1, 5, 6.4, 6.6, 7],
  [8, 1.25, 6.8, 8.4, 9, 10],
  [10, 1.5, 8.5, 10.5, 11, 12],
  [12, 1.75, 10.2, 13, 13.5, 14.5],
  [14, 2, 12, 15, 15.5, 16.5],
  [16, 2, 14, 17, 17.5, 18.5],
  [18, 2.5, 15.5, 19, 20, 21],
  [20, 2.5, 17.5, 21, 22, 24],
  [22, 2.5, 19.5, 23, 24, 26],
  [24, 3, 21, 25, 26, 28],
  [27, 3, 24, 28, 30, 32],
  [30, 3.5, 26.5, 31, 33, 35],
  [33, 3.5, 29.5, 34, 36, 38],
  [36, 4, 32, 37, 39, 42],
  [39, 4, 35, 40, 42, 45],
  [42, 4.5, 37.5, 43, 45, 48],
  [45, 4.5, 40.5, 46, 48, 52],
  [48, 5, 43, 50, 52, 56],
  [52, 5, 47, 54, 56, 62],
  [56, 5.5, 50.5, 58, 62, 66],
  [60, 5.5, 54.5, 62, 66, 70],
  [64, 6, 58, 66, 70, 74],
];

/** Fine pitches: the finer selection of ISO 262 from M8 on, of ISO 261 below, in the order of {@link THREADS}. Millimetres. */
const FINE_PITCHES = [0.2, 0.25, 0.35, 0.35, 0.5, 0.5, 0.75, 1, 1.25, 1.5, 1.5, 1.5, 1.5, 1.5, 1.5, 2, 2, 2, 2, 3, 3, 3, 3, 3, 4, 4, 4, 4];

export function threadsAndHoles(): Document {
  const names = THREADS.map(([diameter]) => quoted(`M${diameter}`));
  return sheet('master', 'shelf-threads', 'Threads and holes', [
    table(
      'threads',
      { thread: 'text', diameter: 'length', pitch: 'length', drill: 'length', fine: 'length', medium: 'length', coarse: 'length' },
      THREADS.map(([diameter, pitch, drill, fine, medium, coarse]) => [
        quoted(`M${diameter}`),
        ...[diameter, pitch, drill, fine, medium, coarse].map((amount) => mm(amount)),
      ]),
    ),
    table(
      'fine_pitches',
      { thread: 'text', pitch: 'length' },
      THREADS.map(([diameter], i) => [quoted(`M${diameter}`), mm(FINE_PITCHES[i] ?? NaN)]),
    ),
    input('thread', '"M6"', 'text', 'Nominal size, ISO 261.', { pinned: true, offered: true, choices: names }),
    input('series', '"medium"', 'text', 'Of the clearance hole: fine, medium or coarse, ISO 273.', {
      offered: true,
      choices: ['"fine"', '"medium"', '"coarse"'],
    }),
    result('nominal', 'lookup(threads, thread, "diameter")', 'length', 'Nominal diameter.'),
    result('pitch', 'lookup(threads, thread, "pitch")', 'length', 'Coarse pitch, ISO 261.'),
    result(
      'clearance_hole',
      'if(series == "fine", lookup(threads, thread, "fine"), if(series == "coarse", lookup(threads, thread, "coarse"), lookup(threads, thread, "medium")))',
      'length',
      'For the screw to pass, ISO 273.',
    ),
    result('tapping_drill', 'lookup(threads, thread, "drill")', 'length', 'Before the thread is cut, ISO 2306.'),
    result('pitch_diameter', 'nominal - 3 / 8 * sqrt(3) * pitch', 'length', 'ISO 724.'),
    result('core_diameter', 'nominal - 17 / 24 * sqrt(3) * pitch', 'length', 'Of the screw, d3 of ISO 724.'),
    result('stress_area', 'pi / 16 * (pitch_diameter + core_diameter)^2', 'area', 'Tensile stress area of the coarse thread, ISO 898-1.'),
    result('fine_pitch', 'lookup(fine_pitches, thread, "pitch")', 'length', 'Pitch of the fine thread, ISO 262.'),
    result('fine_drill', 'nominal - fine_pitch', 'length', 'Before the fine thread is cut: common practice.'),
    result('fine_stress_area', 'pi / 4 * (nominal - 13 / 24 * sqrt(3) * fine_pitch)^2', 'area', 'Tensile stress area of the fine thread, ISO 898-1.'),
  ]);
}

/**
 * Nominal diameter; socket head (ISO 4762): head diameter, key; hexagon (ISO 4017): across flats, head height; nut (ISO 4032): height;
 * washer (ISO 7089): outer diameter, thickness; counterbore for the socket head (DIN 974-1, series 1). Millimetres.
 */
const SCREWS: readonly (readonly [number, number, number, number, number, number, number, number, number])[] = [
  [3, 5.5, 2.5, 5.5, 2, 2.4, 7, 0.5, 6.5],
  [4, 7, 3, 7, 2.8, 3.2, 9, 0.8, 8],
  [5, 8.5, 4, 8, 3.5, 4.7, 10, 1, 10],
  [6, 10, 5, 10, 4, 5.2, 12, 1.6, 11],
  [8, 13, 6, 13, 5.3, 6.8, 16, 1.6, 15],
  [10, 16, 8, 16, 6.4, 8.4, 20, 2, 18],
  [12, 18, 10, 18, 7.5, 10.8, 24, 2.5, 20],
  [16, 24, 14, 24, 10, 14.8, 30, 3, 26],
  [20, 30, 17, 30, 12.5, 18, 37, 3, 33],
  [24, 36, 19, 36, 15, 21.5, 44, 4, 40],
];

export function screwsAndNuts(): Document {
  return sheet('master', 'shelf-screws', 'Screws, nuts, washers', [
    table(
      'screws',
      {
        thread: 'text',
        head_dia: 'length',
        head_height: 'length',
        socket_key: 'length',
        across_flats: 'length',
        hex_height: 'length',
        nut_height: 'length',
        washer_dia: 'length',
        washer_height: 'length',
        counterbore: 'length',
      },
      SCREWS.map(([diameter, head, key, flats, hex, nut, washer, thickness, bore]) => [
        quoted(`M${diameter}`),
        // The head of a socket screw is as high as its thread is wide.
        ...[head, diameter, key, flats, hex, nut, washer, thickness, bore].map((amount) => mm(amount)),
      ]),
    ),
    input('screw', '"M6"', 'text', 'Nominal size.', { pinned: true, offered: true, choices: SCREWS.map(([diameter]) => quoted(`M${diameter}`)) }),
    ...Object.entries({
      head_dia: 'Socket head, ISO 4762.',
      head_height: 'Socket head, ISO 4762.',
      socket_key: 'Hexagon key across flats, ISO 4762.',
      across_flats: 'Hexagon head and nut, ISO 4017 and ISO 4032.',
      hex_height: 'Hexagon head, ISO 4017.',
      nut_height: 'Greatest height, ISO 4032.',
      washer_dia: 'Outside, ISO 7089.',
      washer_height: 'ISO 7089.',
      counterbore: 'Diameter for the socket head, DIN 974-1 series 1.',
    }).map(([name, note]): Line => result(name, `lookup(screws, screw, "${name}")`, 'length', note)),
  ]);
}

/** Density in kg/m³, modulus in GPa, Poisson's ratio, expansion in millionths per kelvin, yield or proof strength in MPa: typical values, common practice. */
const MATERIALS: readonly (readonly [string, number, number, number, number, number])[] = [
  ['Steel S235', 7850, 210, 0.3, 12, 235],
  ['Steel S355', 7850, 210, 0.3, 12, 355],
  ['Steel C45, tempered', 7850, 210, 0.3, 11.5, 430],
  ['Steel 42CrMo4, tempered', 7850, 210, 0.3, 11.5, 750],
  ['Stainless 1.4301', 7900, 200, 0.3, 16, 210],
  ['Cast iron EN-GJL-250', 7200, 110, 0.26, 11, 165],
  ['Aluminium 6061-T6', 2700, 69, 0.33, 23.6, 276],
  ['Aluminium 7075-T6', 2810, 72, 0.33, 23.6, 503],
  ['Brass CuZn39Pb3', 8470, 97, 0.34, 21, 250],
  ['Copper Cu-ETP', 8940, 120, 0.34, 17, 250],
  ['Titanium Ti-6Al-4V', 4430, 114, 0.34, 8.6, 880],
  ['POM', 1410, 2.8, 0.35, 110, 65],
  ['PA 6, moist', 1140, 1.2, 0.4, 90, 45],
  ['Beech, along the grain', 720, 14, 0.35, 5, 60],
  ['Spruce, along the grain', 450, 11, 0.35, 5, 40],
];

export function materials(): Document {
  return sheet('master', 'shelf-materials', 'Materials', [
    table(
      'materials',
      { material: 'text', density: 'density', modulus: 'pressure', poisson: 'number', expansion: 'number', yield: 'pressure' },
      MATERIALS.map(([name, density, modulus, poisson, expansion, strength]) => [
        quoted(name),
        `${density} kg/m^3`,
        `${modulus} GPa`,
        String(poisson),
        String(expansion),
        `${strength} MPa`,
      ]),
    ),
    input('material', '"Steel S235"', 'text', 'Typical values at 20 °C: ask the mill for certain ones.', {
      pinned: true,
      offered: true,
      choices: MATERIALS.map(([name]) => quoted(name)),
    }),
    result('density', 'lookup(materials, material, "density")', 'density', 'At 20 °C.', { displayUnit: 'kg/m^3' }),
    result('modulus', 'lookup(materials, material, "modulus")', 'pressure', "Young's modulus.", { displayUnit: 'GPa' }),
    result('poisson', 'lookup(materials, material, "poisson")', 'number', "Poisson's ratio."),
    result('shear_modulus', 'modulus / (2 * (1 + poisson))', 'pressure', 'Of a material that is alike in all directions.', { displayUnit: 'GPa' }),
    result('expansion', 'lookup(materials, material, "expansion")', 'number', 'Millionths of the length for each kelvin.'),
    result('yield_strength', 'lookup(materials, material, "yield")', 'pressure', 'Yield or 0.2 % proof strength; of plastics and wood, what breaks it.', {
      displayUnit: 'MPa',
    }),
  ]);
}

/** Shaft diameters up to, width, height, depth in the shaft and in the hub: ISO 773, which DIN 6885-1 has too. Millimetres. */
const KEYS: readonly (readonly [number, number, number, number, number])[] = [
  [8, 2, 2, 1.2, 1],
  [10, 3, 3, 1.8, 1.4],
  [12, 4, 4, 2.5, 1.8],
  [17, 5, 5, 3, 2.3],
  [22, 6, 6, 3.5, 2.8],
  [30, 8, 7, 4, 3.3],
  [38, 10, 8, 5, 3.3],
  [44, 12, 8, 5, 3.3],
  [50, 14, 9, 5.5, 3.8],
  [58, 16, 10, 6, 4.3],
  [65, 18, 11, 7, 4.4],
  [75, 20, 12, 7.5, 4.9],
  [85, 22, 14, 9, 5.4],
  [95, 25, 14, 9, 5.4],
  [110, 28, 16, 10, 6.4],
];

export function keys(): Document {
  const width = KEYS.reduceRight((rest, [upTo, b]) => (rest === '' ? mm(b) : `if(shaft_dia <= ${upTo} mm, ${b} mm, ${rest})`), '');
  return sheet('master', 'shelf-keys', 'Keys and keyways', [
    table(
      'keys',
      { width: 'length', height: 'length', shaft_depth: 'length', hub_depth: 'length' },
      KEYS.map(([, ...sizes]) => sizes.map((amount) => mm(amount))),
    ),
    input('shaft_dia', '25 mm', 'length', 'Over 6 and up to 110 mm.', { pinned: true, offered: true, least: { text: '6 mm' }, most: { text: '110 mm' } }),
    result('key_width', width, 'length', 'ISO 773.'),
    result('key_height', 'lookup(keys, key_width, "height")', 'length', 'ISO 773.'),
    result('shaft_groove', 'lookup(keys, key_width, "shaft_depth")', 'length', 'Depth in the shaft, t1 of ISO 773.'),
    result('hub_groove', 'lookup(keys, key_width, "hub_depth")', 'length', 'Depth in the hub, t2 of ISO 773.'),
  ]);
}

/** The first decade of the series R 40 of ISO 3; R 20, R 10 and R 5 take every second, fourth and eighth of them. */
const R40 = [
  1, 1.06, 1.12, 1.18, 1.25, 1.32, 1.4, 1.5, 1.6, 1.7, 1.8, 1.9, 2, 2.12, 2.24, 2.36, 2.5, 2.65, 2.8, 3, 3.15, 3.35, 3.55, 3.75, 4, 4.25, 4.5, 4.75, 5, 5.3,
  5.6, 6, 6.3, 6.7, 7.1, 7.5, 8, 8.5, 9, 9.5,
];

export function preferredNumbers(): Document {
  const listed = (name: string, every: number): Line =>
    table(
      name,
      { place: 'number', number: 'number' },
      R40.flatMap((number, i) => (i % every === 0 ? [[String(i / every), String(number)]] : [])),
    );
  return sheet('master', 'shelf-preferred', 'Preferred numbers', [
    listed('r5', 8),
    listed('r10', 4),
    listed('r20', 2),
    listed('r40', 1),
    input('wanted', '27', 'number', 'Any number above 0.', { pinned: true, offered: true, least: { text: '1e-6' } }),
    result('decade', '10^floor(log10(wanted))', 'number', 'The power of ten below it.'),
    ...[5, 10, 20, 40].map((series) =>
      result(
        `nearest_r${series}`,
        `decade * if(round(${series} * log10(wanted / decade)) == ${series}, 10, lookup(r${series}, round(${series} * log10(wanted / decade)), "number"))`,
        'number',
        `Nearest of R ${series}, ISO 3.`,
      ),
    ),
  ]);
}

/**
 * The documents of the shelf, against published figures (entered from memory of what is named beside each) and against other ways to the same
 * result.
 */
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import fc from 'fast-check';
import { DocumentValues, findBrokenGuards, findNamed, listRecords, readProjectFile, type Document } from '@/core/document';
import { shelfDocuments } from '../../scripts/shelf';
import { edited } from '../support/demo';

const MM = 10_000;
const folder = path.join(import.meta.dirname, '../../shelf');
const onDisk = readdirSync(folder).map((file): Document => {
  const read = readProjectFile(readFileSync(path.join(folder, file), 'utf8'));
  if (!read.ok) throw new Error(`${file}: ${JSON.stringify(read.failure)}`);
  const [document] = read.value.documents;
  if (!document) throw new Error(file);
  return document;
});
const shelf = (id: string): Document => {
  const document = onDisk.find((one) => one.id === `shelf-${id}`);
  if (!document) throw new Error(id);
  return document;
};

/** A document with some of its values at others; reads values in a unit. */
function at(id: string, set: Readonly<Record<string, string | number>> = {}) {
  const document = edited(
    shelf(id),
    ...Object.entries(set).map(([name, text]) => ({
      type: 'parameter.setFormula' as const,
      id: findNamed(shelf(id), name)?.id ?? name,
      formula: { text: String(text) },
    })),
  );
  const values = new DocumentValues(document);
  const read = (name: string, unit = '1'): number => {
    const probe = edited(document, {
      type: 'parameter.add',
      parameter: { type: 'parameter', id: 'probe', name: 'probe', formula: { text: `${name} / (1 ${unit})` }, kind: 'any' },
    });
    const shown = new DocumentValues(unit === '1' ? document : probe).sheet.read(unit === '1' ? (findNamed(document, name)?.id ?? '') : 'probe');
    if (!shown || shown.diagnostics.length > 0) throw new Error(`${name}: ${shown?.diagnostics[0]?.message ?? 'is not there'}`);
    return shown.value;
  };
  return { values, document, read, mm: (name: string) => values.sheet.readNumber(findNamed(document, name)?.id ?? '') / MM };
}

test('what is on disk is what is written, and each reads well: no error, no broken check, every result handed on', () => {
  expect(onDisk.map((document) => document).sort((a, b) => (a.id < b.id ? -1 : 1))).toEqual(shelfDocuments().sort((a, b) => (a.id < b.id ? -1 : 1)));
  for (const document of onDisk) {
    const values = new DocumentValues(document);
    const parameters = listRecords(document, 'parameters', 'parameter');
    expect(parameters.flatMap(({ id, name }) => values.show(id)?.diagnostics.map(({ message }) => `${document.name}, ${name}: ${message}`) ?? [])).toEqual([]);
    expect(findBrokenGuards(values).map(({ message }) => `${document.name}: ${message}`)).toEqual([]);
    expect(parameters.filter(({ note }) => (note ?? '') === '').map(({ name }) => `${document.name}: ${name}`)).toEqual([]);
    expect(parameters.filter(({ offered }) => offered === true).length).toBeGreaterThan(1);
    if (document.kind === 'calc') expect(listRecords(document, 'paragraphs', 'paragraph').some(({ text }) => text.includes('\nFrom: '))).toBe(true);
  }
});

describe('threads and holes', () => {
  // ISO 898-1, nominal stress area in mm².
  const AREAS: readonly (readonly [string, number])[] = [
    ['M3', 5.03],
    ['M4', 8.78],
    ['M5', 14.2],
    ['M6', 20.1],
    ['M8', 36.6],
    ['M10', 58],
    ['M12', 84.3],
    ['M14', 115],
    ['M16', 157],
    ['M18', 192],
    ['M20', 245],
    ['M22', 303],
    ['M24', 353],
    ['M27', 459],
    ['M30', 561],
    ['M33', 694],
    ['M36', 817],
    ['M39', 976],
  ];
  test.each(AREAS)('%s has the stress area of ISO 898-1', (thread, area) => {
    const digits = area < 10 ? 2 : area < 100 ? 1 : 0;
    expect(
      at('threads', { thread: `"${thread}"` })
        .read('stress_area', 'mm^2')
        .toFixed(digits),
    ).toBe(area.toFixed(digits));
  });

  // ISO 724, pitch diameter.
  test.each([
    ['M6', 5.35],
    ['M12', 10.863],
    ['M20', 18.376],
    ['M36', 33.402],
    ['M64', 60.103],
  ])('%s has the pitch diameter of ISO 724', (thread, diameter) => {
    expect(at('threads', { thread: `"${thread}"` }).mm('pitch_diameter')).toBeCloseTo(diameter, 3);
  });

  test('drills leave the pitch, holes grow from fine to coarse, and are those of the hole step', async () => {
    const { listThreads } = await import('@/core/steps/thread-sizes');
    const [threads] = listRecords(shelf('threads'), 'tables', 'table');
    let last = 0;
    for (const row of threads?.rows ?? []) {
      const [diameter = 0, pitch = 0, drill = 0, fine = 0, medium = 0, coarse = 0] = row.slice(1).map((cell) => parseFloat(cell));
      expect(Math.abs(drill - (diameter - pitch))).toBeLessThanOrEqual(0.06);
      expect([diameter, fine, medium, coarse].every((one, i, all) => i === 0 || one > (all[i - 1] ?? 0))).toBe(true);
      expect(pitch).toBeGreaterThanOrEqual(last);
      last = pitch;
      const step = listThreads().find(({ thread }) => `"${thread}"` === row[0]);
      if (step) expect([step.clearance, step.tapping, step.pitch]).toEqual([medium, drill, pitch]);
    }
  });
});

describe('fine threads', () => {
  // ISO 898-1, nominal stress area in mm².
  test.each([
    ['M8', 39.2],
    ['M10', 61.2],
    ['M12', 88.1],
    ['M14', 125],
    ['M16', 167],
    ['M20', 272],
    ['M24', 384],
    ['M30', 621],
    ['M36', 865],
  ])('%s has the stress area of ISO 898-1', (thread, area) => {
    const digits = area < 100 ? 1 : 0;
    const found = at('threads', { thread: `"${thread}"` }).read('fine_stress_area', 'mm^2');
    expect(found.toFixed(digits)).toBe(area.toFixed(digits));
  });

  test('are finer than the coarse ones', () => {
    const [coarse, fine] = listRecords(shelf('threads'), 'tables', 'table');
    expect(fine?.rows.map(([name]) => name)).toEqual(coarse?.rows.map(([name]) => name));
    fine?.rows.forEach(([, pitch = ''], i) => expect(parseFloat(pitch)).toBeLessThan(parseFloat(coarse?.rows[i]?.[2] ?? '')));
  });
});

describe('inch threads', () => {
  // ASME B1.1, tensile stress area in square inches.
  test.each([
    ['#8', 'UNC', 0.014],
    ['#10', 'UNC', 0.0175],
    ['#10', 'UNF', 0.02],
    ['1/4', 'UNC', 0.0318],
    ['1/4', 'UNF', 0.0364],
    ['3/8', 'UNC', 0.0775],
    ['1/2', 'UNC', 0.1419],
    ['1/2', 'UNF', 0.1599],
    ['5/8', 'UNC', 0.226],
    ['3/4', 'UNC', 0.334],
    ['1', 'UNC', 0.606],
    ['1 1/4', 'UNC', 0.969],
  ])('%s %s has the stress area of ASME B1.1', (thread, series, area) => {
    const found = at('inch-threads', { thread: `"${thread}"`, series: `"${series}"` }).read('stress_area', 'in^2');
    expect(Math.abs(found - area)).toBeLessThan(area < 0.2 ? 0.0001 : 0.001);
  });

  test('numbered sizes are 0.06 in and 0.013 in for each, fine is finer than coarse, drills leave 55 to 90 % of the thread', () => {
    const [unified] = listRecords(shelf('inch-threads'), 'tables', 'table');
    for (const [name = '', ...cells] of unified?.rows ?? []) {
      const [diameter = 0, unc = 0, unf = 0, uncDrill = 0, unfDrill = 0] = cells.map((cell) => parseFloat(cell));
      const numbered = /#(\d+)/.exec(name)?.[1];
      if (numbered !== undefined) expect(diameter).toBeCloseTo(0.06 + 0.013 * Number(numbered), 9);
      else expect(diameter).toBeCloseTo(fraction(name.replaceAll('"', '')), 9);
      expect(unf).toBeGreaterThan(unc);
      for (const [count, drill] of [
        [unc, uncDrill],
        [unf, unfDrill],
      ] as const) {
        const share = ((diameter - drill) * count) / 1.299;
        expect(share).toBeGreaterThan(0.55);
        expect(share).toBeLessThan(0.9);
      }
    }
  });

  const fraction = (text: string): number => text.split(' ').reduce((sum, one) => sum + Number(one.split('/')[0]) / Number(one.split('/')[1] ?? 1), 0);
});

describe('stock', () => {
  test('the next size up is never smaller, and nothing between it and what is wanted is kept', () => {
    const [plates, bars] = listRecords(shelf('stock'), 'tables', 'table').map(({ rows }) => rows.map(([, size = '']) => parseFloat(size)));
    fc.assert(
      fc.property(fc.double({ min: 0.1, max: 100, noNaN: true }), (wanted) => {
        const found = at('stock', { wanted: `${wanted.toFixed(4)} mm` });
        for (const [name, sizes = []] of [
          ['plate_size', plates],
          ['bar_size', bars],
        ] as const)
          expect(found.mm(name)).toBeCloseTo(Math.min(...sizes.filter((size) => size >= Number(wanted.toFixed(4)))), 9);
      }),
      { numRuns: 40 },
    );
  });

  // Manufacturers' Standard Gage, thickness in inches; mass of a metre of tube in kg, EN 10220.
  test.each([
    [10, 0.1345],
    [14, 0.0747],
    [16, 0.0598],
    [20, 0.0359],
    [24, 0.0239],
  ])('gauge %d is %d in thick', (gauge, thickness) => {
    expect(at('stock', { gauge }).mm('gauge_thickness') / 25.4).toBeCloseTo(thickness, 4);
  });
  test.each([
    ['42.4 mm', '2.6 mm', 2.55],
    ['60.3 mm', '2.9 mm', 4.11],
    ['114.3 mm', '3.6 mm', 9.83],
  ])('a tube of %s by %s weighs %d kg a metre', (tube, wall, mass) => {
    expect(at('stock', { tube, tube_wall: wall }).read('tube_mass', 'kg')).toBeCloseTo(mass, 2);
  });
});

test('screws: keys fit in their heads, washers are as wide as hexagons, counterbores wider than heads', () => {
  const [screws] = listRecords(shelf('screws'), 'tables', 'table');
  expect(screws?.rows).toHaveLength(10);
  for (const [name = '', ...cells] of screws?.rows ?? []) {
    const [head = 0, height = 0, key = 0, flats = 0, hex = 0, nut = 0, washer = 0, , bore = 0] = cells.map((cell) => parseFloat(cell));
    const diameter = Number(name.replace(/\D/g, ''));
    expect(height).toBe(diameter);
    expect(key / Math.cos(Math.PI / 6)).toBeLessThan(0.8 * head);
    expect(washer).toBeGreaterThanOrEqual(flats / Math.cos(Math.PI / 6));
    expect(bore).toBeGreaterThan(head);
    expect([hex / diameter, nut / diameter].every((share) => share > 0.6 && share <= 0.95)).toBe(true);
  }
});

test('keys leave 0.2 to 0.4 mm over them, and change where ISO 773 says', () => {
  const [keys] = listRecords(shelf('keys'), 'tables', 'table');
  for (const row of keys?.rows ?? []) {
    const [, height = 0, shaft = 0, hub = 0] = row.map((cell) => parseFloat(cell));
    expect(shaft + hub - height).toBeGreaterThan(0.19);
    expect(shaft + hub - height).toBeLessThan(0.41);
  }
  const sizeOf = (diameter: number) => {
    const { mm } = at('keys', { shaft_dia: `${diameter} mm` });
    return [mm('key_width'), mm('key_height')];
  };
  expect([8, 8.1, 22, 30, 30.1, 50, 110].map(sizeOf)).toEqual([
    [2, 2],
    [3, 3],
    [6, 6],
    [8, 7],
    [10, 8],
    [14, 9],
    [28, 16],
  ]);
});

test('preferred numbers differ from the tenth, twentieth, … root of ten by no more than ISO 3 says: -1.01 to 1.26 %', () => {
  const [, , , r40] = listRecords(shelf('preferred'), 'tables', 'table');
  const deviations = (r40?.rows ?? []).map(([place, number]) => Number(number) / 10 ** (Number(place) / 40) - 1);
  expect(deviations).toHaveLength(40);
  expect(Math.max(...deviations)).toBeLessThan(0.0127);
  expect(Math.min(...deviations)).toBeGreaterThan(-0.0102);
  const nearest = (wanted: number) => ['nearest_r5', 'nearest_r10', 'nearest_r40'].map((name) => Number(at('preferred', { wanted }).read(name).toPrecision(6)));
  expect([27, 0.0096, 980].map(nearest)).toEqual([
    [25, 25, 26.5],
    [0.01, 0.01, 0.0095],
    [1000, 1000, 1000],
  ]);
});

test('a material that is alike in all directions has the shear modulus that follows; steel has that of handbooks, 80 to 81 GPa', () => {
  expect(at('materials').read('shear_modulus', 'GPa')).toBeCloseTo(210 / 2.6, 9);
  expect(at('materials', { material: '"Aluminium 6061-T6"' }).read('shear_modulus', 'GPa')).toBeCloseTo(25.9, 1);
});

const amount = (min: number, max: number) => fc.integer({ min: Math.round(min * 1000), max: Math.round(max * 1000) }).map((x) => x / 1000);
/** Simpson's rule. */
function integrate(f: (x: number) => number, from: number, to: number, n = 400): number {
  const h = (to - from) / n;
  let sum = f(from) + f(to);
  for (let i = 1; i < n; i++) sum += f(from + i * h) * (i % 2 === 1 ? 4 : 2);
  return (sum * h) / 3;
}

describe('beams bend as virtual work says', () => {
  test('on two supports', () => {
    fc.assert(
      fc.property(amount(100, 2000), amount(0, 2000), amount(0, 2000), (span, load, spread) => {
        const { mm } = at('beam', { span: `${span} mm`, load: `${load} N`, spread_load: `${spread} N` });
        // Half of it: the moment of the loads by that of a unit load in the middle.
        const moment = (x: number): number => (load * x) / 2 + (spread * x) / 2 - (spread * x * x) / (2 * span);
        const work = 2 * integrate((x) => (moment(x) * x) / 2, 0, span / 2);
        expect(mm('deflection')).toBeCloseTo(work / (210_000 * 80_000), 9);
      }),
      { numRuns: 30 },
    );
  });

  test('held at one end', () => {
    fc.assert(
      fc.property(amount(50, 1000), amount(0, 2000), amount(0, 2000), (length, load, spread) => {
        const { mm } = at('cantilever', { length: `${length} mm`, load: `${load} N`, spread_load: `${spread} N` });
        const moment = (x: number): number => load * x + (spread * x * x) / (2 * length);
        expect(mm('deflection')).toBeCloseTo(integrate((x) => moment(x) * x, 0, length) / (210_000 * 80_000), 9);
      }),
      { numRuns: 30 },
    );
  });
});

test('a hollow shaft carries what its rings carry together', () => {
  const { read } = at('torsion', { bore: '15 mm' });
  const polar = integrate((r) => 2 * Math.PI * r ** 3, 7.5, 12.5);
  expect(read('polar_moment', 'mm^4')).toBeCloseTo(polar, 6);
  expect(read('stress', 'MPa')).toBeCloseTo((50_000 * 12.5) / polar, 9);
  expect(read('twist', 'deg')).toBeCloseTo(((50_000 * 500) / (80_000 * polar)) * (180 / Math.PI), 9);
  expect(at('torsion', { outer_dia: `${at('torsion').mm('least_dia')} mm` }).read('stress', 'MPa')).toBeCloseTo(40, 3);
});

test('a key of the least length just holds', () => {
  const least = at('key').mm('least_length');
  expect(at('key', { key_length: `${least} mm` }).read('pressure', 'MPa')).toBeCloseTo(100, 2);
});

describe('bolts', () => {
  // ISO 898-1, proof loads in kN.
  test.each([
    [6, 1, '8.8', 11.6],
    [8, 1.25, '8.8', 21.2],
    [10, 1.5, '8.8', 33.7],
    [12, 1.75, '8.8', 48.9],
    [8, 1.25, '10.9', 30.4],
    [10, 1.5, '10.9', 48.1],
    [12, 1.75, '12.9', 81.8],
    [16, 2, '4.6', 35.3],
  ])('M%d x %d, class %s, has the proof load of ISO 898-1', (nominal, pitch, property_class, load) => {
    const { read } = at('bolt', { nominal: `${nominal} mm`, pitch: `${pitch} mm`, property_class: `"${property_class}"` });
    // There rounded to three digits, as a rule downwards.
    expect(Math.abs(read('proof_load', 'kN') / load - 1)).toBeLessThan(0.007);
  });

  test('torque: without friction it is the work of the pitch, and each friction adds its arm', () => {
    const smooth = at('bolt', { thread_friction: 0, head_friction: 0 });
    expect(smooth.read('tightening_torque', 'N*m') * 2 * Math.PI).toBeCloseTo(smooth.read('preload', 'N') * 0.00125, 9);
    const head = at('bolt', { thread_friction: 0 });
    expect(head.read('tightening_torque', 'N*m') - smooth.read('tightening_torque', 'N*m')).toBeCloseTo(0.12 * 0.0055 * head.read('preload', 'N'), 9);
  });
});

test('the spring of a worked example: Shigley, Mechanical Engineering Design, chapter on springs, music wire of 0.037 in', () => {
  const { read } = at('spring', {
    wire: '0.037 in',
    coil_dia: '0.4 in',
    active_coils: 10.5,
    end_coils: 2,
    shear_modulus: '11.85e6 psi',
    force: '6.46 lbf',
    allowed: '2000 MPa',
  });
  expect(read('rate', 'lbf/in')).toBeCloseTo(4.13, 2);
  expect(read('index')).toBeCloseTo(10.8, 1);
  expect(read('curvature_factor')).toBeCloseTo(1.124, 2);
  expect(read('travel', 'in')).toBeCloseTo(1.56, 2);
  // The stress there is the yield strength that the load was found for: 0.45 of 324 kpsi.
  expect(Math.abs(read('stress', 'ksi') / 146 - 1)).toBeLessThan(0.01);
});

test('a belt is as long as the line around its two pulleys', () => {
  const around = (small: number, large: number, centres: number): number => {
    const points = Array.from({ length: 20_000 }, (_, i) => {
      const angle = (2 * Math.PI * i) / 20_000;
      // The farther of both in each direction: where the line touches.
      const [a, b] = [(small / 2) * 1, large / 2 + centres * Math.cos(angle)];
      return a > b ? [a * Math.cos(angle), a * Math.sin(angle)] : [centres + (large / 2) * Math.cos(angle), (large / 2) * Math.sin(angle)];
    });
    return points.reduce((sum, [x = 0, y = 0], i) => {
      const [u = 0, v = 0] = points[(i + 1) % points.length] ?? [];
      return sum + Math.hypot(u - x, v - y);
    }, 0);
  };
  fc.assert(
    fc.property(amount(20, 150), amount(150, 300), amount(300, 1000), (small, large, centres) => {
      const { mm } = at('belt', { small_dia: `${small} mm`, large_dia: `${large} mm`, centres: `${centres} mm` });
      expect(Math.abs(mm('belt_length') / around(small, large, centres) - 1)).toBeLessThan(1e-6);
    }),
    { numRuns: 20 },
  );
});

describe('gears', () => {
  test('of a worked example: Shigley, Mechanical Engineering Design, 16 and 40 teeth, 2 teeth to the inch: 14 in apart', () => {
    const { read } = at('gears', { module: '0.5 in', pinion_teeth: 16, gear_teeth: 40 });
    expect(read('centres', 'in')).toBeCloseTo(14, 9);
    expect(read('pinion_base', 'in') / 2).toBeCloseTo(3.76, 2);
    expect(read('gear_base', 'in') / 2).toBeCloseTo(9.4, 2);
  });

  test('the path of contact lies on the line of action between both tip circles', () => {
    fc.assert(
      fc.property(fc.integer({ min: 18, max: 60 }), fc.integer({ min: 18, max: 120 }), amount(18, 25), (pinion, gear, angle) => {
        const { mm, read } = at('gears', { pinion_teeth: pinion, gear_teeth: gear, pressure_angle: `${angle} deg` });
        const alpha = (angle * Math.PI) / 180;
        // Along the line of action from the pitch point, where each tip circle cuts it.
        const reach = (teeth: number): number => {
          const [r, tip] = [teeth, teeth + 2];
          return -r * Math.sin(alpha) + Math.sqrt(tip ** 2 - (r * Math.cos(alpha)) ** 2);
        };
        expect(mm('path_of_contact')).toBeCloseTo(reach(pinion) + reach(gear), 6);
        expect(read('contact_ratio')).toBeCloseTo((reach(pinion) + reach(gear)) / (2 * Math.PI * Math.cos(alpha)), 8);
      }),
      { numRuns: 30 },
    );
  });

  test('two racks, which no pair exceeds, have 1.98 teeth in contact (any handbook of gears)', () => {
    expect(at('gears', { pinion_teeth: 1_000_000, gear_teeth: 1_000_000 }).read('contact_ratio')).toBeCloseTo(1.981, 3);
  });
});

test('a press fit of one material has the pressure of the shorter formula: Shigley, press and shrink fits', () => {
  fc.assert(
    fc.property(amount(0, 25), amount(30, 60), amount(65, 150), amount(0.01, 0.1), (bore, joint, outer, interference) => {
      const { read } = at('press-fit', {
        bore: `${bore} mm`,
        joint_dia: `${joint} mm`,
        hub_outer: `${outer} mm`,
        interference: `${interference} mm`,
      });
      const [i, r, o] = [bore / 2, joint / 2, outer / 2];
      const short = ((210_000 * interference) / (2 * joint * r * r)) * (((o * o - r * r) * (r * r - i * i)) / (o * o - i * i));
      expect(Math.abs(read('pressure', 'MPa') / short - 1)).toBeLessThan(1e-6);
    }),
    { numRuns: 30 },
  );
});

test('struts: Euler and Johnson meet at half the yield strength, and the strut of the steeper end factor bears less', () => {
  const { read } = at('buckling');
  const limit = read('limit');
  const length = limit * Math.sqrt(3000 / 200);
  const there = at('buckling', { length: `${length} mm` });
  expect(there.read('euler_load', 'kN')).toBeCloseTo(there.read('johnson_load', 'kN'), 5);
  expect(there.read('euler_load', 'N')).toBeCloseTo((235 * 200) / 2, 1);
  const loads = [0.5, 0.7, 1, 2].map((end_factor) => at('buckling', { end_factor }).read('critical_load', 'N'));
  expect(loads.every((load, i) => i === 0 || load < (loads[i - 1] ?? 0))).toBe(true);
});

test('a metre of steel grows by 1.2 mm for 100 K, and presses with 252 MPa if it is held (hand arithmetic)', () => {
  const { read } = at('expansion', { warming: '100 K' });
  expect(read('growth', 'mm')).toBeCloseTo(1.2, 9);
  expect(read('held_stress', 'MPa')).toBeCloseTo(252, 6);
});

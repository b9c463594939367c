/**
 * Named cases of the sketch solver with answers from elementary geometry: triangle laws, Thales, tangents and
 * secants, regular polygons, belts; cases that are nearly singular, redundant, contradictory or free. Every closed
 * form is derived here or is a theorem of school geometry; none is copied from a source.
 */
import { solveSketch, type SketchModel, type SketchSolution } from '@/core/sketch';
import { rectangle, SketchBuilder } from '../support/sketches';

const sketch = (): SketchBuilder => new SketchBuilder();
const RAD = Math.PI / 180;

function solved(model: SketchModel): SketchSolution {
  const solution = solveSketch(model);
  expect(solution).toMatchObject({ status: 'solved', conflicting: [], invalid: [] });
  for (const { id, value, isReference } of model.dimensions) {
    if (!isReference) expect(Math.abs((solution.measured.get(id) ?? NaN) - value)).toBeLessThan(1e-8 * Math.max(1, Math.abs(value)));
  }
  return solution;
}

const at = (solution: SketchSolution, id: string): readonly [number, number] => solution.points.get(id) ?? [NaN, NaN];
const gap = (solution: SketchSolution, a: string, b: string): number =>
  Math.hypot(at(solution, a)[0] - at(solution, b)[0], at(solution, a)[1] - at(solution, b)[1]);
const reading = (solution: SketchSolution): number => [...solution.measured].find(([id]) => id.startsWith('('))?.[1] ?? NaN;

/** A triangle a, b, c with its sides ab, bc, ca; a on the origin, b on the x axis. */
const triangle = (): SketchBuilder =>
  sketch()
    .point('a', 1, 1)
    .point('b', 42, -1)
    .point('c', 20, 25)
    .line('ab', 'a', 'b')
    .line('bc', 'b', 'c')
    .line('ca', 'a', 'c')
    .relate('coincident', 'a', 'origin')
    .relate('coincident', 'b', 'x-axis');

/** What is read, in the sketch that is to be solved, and what it must be. */
type Case = readonly [name: string, build: SketchBuilder, read: (solution: SketchSolution) => number, expected: number];

const polygon = (n: number): Case => {
  const builder = sketch().point('o', 0, 0).relate('coincident', 'o', 'origin').circle('round', 'o', 27).measure('radius', 30, 'round');
  for (let i = 0; i < n; i++) {
    const angle = (2 * Math.PI * i) / n + 0.02 * Math.sin(i);
    builder.point(`p${i}`, 28 * Math.cos(angle), 28 * Math.sin(angle)).relate('coincident', `p${i}`, 'round');
  }
  for (let i = 0; i < n; i++) builder.line(`s${i}`, `p${i}`, `p${(i + 1) % n}`);
  for (let i = 1; i < n; i++) builder.relate('equal', 's0', `s${i}`);
  builder.relate('coincident', 'p0', 'x-axis');
  return [`regular polygon of ${n} in a circle: its side is 2 r sin(pi/n)`, builder, (s) => gap(s, 'p0', 'p1'), 60 * Math.sin(Math.PI / n)];
};

const belt = (isCrossed: boolean, r: number, R: number, c: number): Case => {
  const side = isCrossed ? -1 : 1;
  const builder = sketch()
    .point('o', 0, 0)
    .relate('coincident', 'o', 'origin')
    .point('q', c * 0.9, 3)
    .relate('coincident', 'q', 'x-axis')
    .measure('length', c, 'o', 'q')
    .circle('small', 'o', r * 0.9)
    .measure('radius', r, 'small')
    .circle('large', 'q', R * 1.1)
    .measure('radius', R, 'large')
    .point('u', -0.1 * r, 0.95 * r)
    .point('v', c * 0.9 - 0.1 * R, side * R)
    .relate('coincident', 'u', 'small')
    .relate('coincident', 'v', 'large')
    .line('strand', 'u', 'v')
    .relate('tangent', 'strand', 'small')
    .relate('tangent', 'strand', 'large');
  const lean = Math.asin((isCrossed ? R + r : R - r) / c);
  const straight = Math.sqrt(c * c - (isCrossed ? R + r : R - r) ** 2);
  const length = isCrossed ? 2 * straight + (R + r) * (Math.PI + 2 * lean) : 2 * straight + R * (Math.PI + 2 * lean) + r * (Math.PI - 2 * lean);
  const measure = (s: SketchSolution): number => {
    // From the points where the strand leaves: both strands, and the two wraps between them.
    const wrap = (centre: string, point: string): number => Math.abs(Math.atan2(at(s, point)[1] - at(s, centre)[1], at(s, point)[0] - at(s, centre)[0]));
    return 2 * gap(s, 'u', 'v') + 2 * r * (Math.PI - wrap('o', 'u')) + 2 * R * wrap('q', 'v');
  };
  return [
    `a ${isCrossed ? 'crossed' : 'open'} belt round pulleys of ${r} and ${R}, ${c} apart, against the closed form of its length`,
    builder,
    measure,
    length,
  ];
};

const CASES: readonly Case[] = [
  [
    'three sides: the law of cosines gives the height',
    triangle().measure('length', 50, 'ab').measure('length', 40, 'bc').measure('length', 30, 'ca'),
    (s) => at(s, 'c')[1],
    24,
  ],
  [
    'two sides and the angle between: the law of cosines gives the third',
    triangle()
      .measure('length', 50, 'ab')
      .measure('length', 30, 'ca')
      .measure('angle', 60 * RAD, 'ab', 'ca'),
    (s) => gap(s, 'b', 'c'),
    Math.sqrt(1900),
  ],
  [
    'a side and two angles: the law of sines gives another side',
    triangle()
      .measure('length', 50, 'ab')
      .measure('angle', 40 * RAD, 'ab', 'ca')
      .measure('angle', 105 * RAD, 'ab', 'bc'),
    (s) => gap(s, 'b', 'c'),
    (50 * Math.sin(40 * RAD)) / Math.sin(65 * RAD),
  ],
  [
    'a right triangle of 3 and 4',
    triangle().relate('perpendicular', 'bc', 'ca').measure('length', 3, 'bc').measure('length', 4, 'ca'),
    (s) => gap(s, 'a', 'b'),
    5,
  ],
  [
    'an isosceles triangle by equal sides',
    triangle().measure('length', 40, 'ab').relate('equal', 'bc', 'ca').measure('vertical', 15, 'a', 'c'),
    (s) => gap(s, 'a', 'c'),
    25,
  ],
  [
    'an equilateral triangle: height is side times half the root of 3',
    triangle().measure('length', 40, 'ab').relate('equal', 'ab', 'bc').relate('equal', 'bc', 'ca'),
    (s) => at(s, 'c')[1],
    20 * Math.sqrt(3),
  ],
  [
    'the circle in a triangle of 3, 4, 5 has radius 1',
    triangle()
      .measure('length', 5, 'ab')
      .measure('length', 4, 'bc')
      .measure('length', 3, 'ca')
      .point('i', 20, 8)
      .circle('in', 'i', 7)
      .relate('tangent', 'ab', 'in')
      .relate('tangent', 'bc', 'in')
      .relate('tangent', 'ca', 'in'),
    (s) => s.radii.get('in') ?? NaN,
    1,
  ],
  [
    'the circle through the corners of a triangle of 3, 4, 5 has radius 2.5',
    triangle()
      .measure('length', 5, 'ab')
      .measure('length', 4, 'bc')
      .measure('length', 3, 'ca')
      .point('i', 2.4, 0.1)
      .circle('out', 'i', 2.4)
      .relate('coincident', 'a', 'out')
      .relate('coincident', 'b', 'out')
      .relate('coincident', 'c', 'out'),
    (s) => s.radii.get('out') ?? NaN,
    2.5,
  ],
  [
    'Thales: an angle over a diameter is right',
    triangle()
      .measure('length', 50, 'ab')
      .point('m', 24, 1)
      .relate('midpoint', 'm', 'ab')
      .circle('half', 'm', 24)
      .relate('coincident', 'a', 'half')
      .relate('coincident', 'c', 'half')
      .measure('length', 20, 'ca')
      .read('angle', 'bc', 'ca'),
    (s) => Math.sin(reading(s)),
    1,
  ],
  [
    'the median to the right angle is half the long side',
    triangle().relate('perpendicular', 'bc', 'ca').measure('length', 50, 'ab').measure('length', 14, 'ca').point('m', 24, 1).relate('midpoint', 'm', 'ab'),
    (s) => gap(s, 'm', 'c'),
    25,
  ],
  [
    'the line between two midpoints is half the third side',
    triangle()
      .measure('length', 46, 'ab')
      .measure('length', 37, 'bc')
      .measure('length', 29, 'ca')
      .point('m', 10, 12)
      .relate('midpoint', 'm', 'ca')
      .point('n', 30, 12)
      .relate('midpoint', 'n', 'bc'),
    (s) => gap(s, 'm', 'n'),
    23,
  ],
  [
    'the height of a right triangle: product of the short sides over the long one',
    triangle()
      .relate('perpendicular', 'bc', 'ca')
      .measure('length', 12, 'bc')
      .measure('length', 5, 'ca')
      .point('f', 2, 0.2)
      .relate('coincident', 'f', 'ab')
      .line('h', 'c', 'f')
      .relate('perpendicular', 'h', 'ab'),
    (s) => gap(s, 'c', 'f'),
    60 / 13,
  ],
  [
    'a rhombus: half diagonals and side make a right triangle',
    sketch()
      .point('a', 0, 0)
      .relate('coincident', 'a', 'origin')
      .point('b', 20, 13)
      .point('c', 41, 1)
      .point('d', 22, -14)
      .line('ab', 'a', 'b')
      .line('bc', 'b', 'c')
      .line('cd', 'c', 'd')
      .line('da', 'd', 'a')
      .relate('equal', 'ab', 'bc')
      .relate('equal', 'bc', 'cd')
      .relate('equal', 'cd', 'da')
      .relate('coincident', 'c', 'x-axis')
      .measure('length', 48, 'a', 'c')
      .measure('length', 25, 'ab'),
    (s) => gap(s, 'b', 'd'),
    14,
  ],
  [
    'a parallelogram: its diagonals halve each other',
    sketch()
      .point('a', 0, 0)
      .relate('coincident', 'a', 'origin')
      .point('b', 40, 1)
      .relate('coincident', 'b', 'x-axis')
      .point('c', 52, 20)
      .point('d', 11, 22)
      .line('ab', 'a', 'b')
      .line('bc', 'b', 'c')
      .line('cd', 'c', 'd')
      .line('da', 'd', 'a')
      .relate('parallel', 'ab', 'cd')
      .relate('parallel', 'bc', 'da')
      .measure('length', 40, 'ab')
      .measure('length', 25, 'bc')
      .measure('angle', 70 * RAD, 'ab', 'bc')
      .line('ac', 'a', 'c')
      .point('m', 26, 10)
      .relate('midpoint', 'm', 'ac'),
    (s) => gap(s, 'm', 'b') - gap(s, 'm', 'd'),
    0,
  ],
  [
    'midpoints of any quadrilateral make a parallelogram',
    sketch()
      .point('a', 0, 0)
      .relate('fixed', 'a')
      .point('b', 50, 3)
      .relate('fixed', 'b')
      .point('c', 61, 37)
      .relate('fixed', 'c')
      .point('d', -7, 28)
      .relate('fixed', 'd')
      .line('ab', 'a', 'b')
      .line('bc', 'b', 'c')
      .line('cd', 'c', 'd')
      .line('da', 'd', 'a')
      .point('p', 20, 0)
      .relate('midpoint', 'p', 'ab')
      .point('q', 50, 20)
      .relate('midpoint', 'q', 'bc')
      .point('r', 30, 30)
      .relate('midpoint', 'r', 'cd')
      .point('t', 0, 10)
      .relate('midpoint', 't', 'da'),
    (s) => gap(s, 'p', 'q') - gap(s, 'r', 't'),
    0,
  ],
  [
    'a tangent from a point: root of distance² less radius²',
    sketch()
      .point('o', 0, 0)
      .relate('coincident', 'o', 'origin')
      .circle('k', 'o', 6)
      .measure('radius', 7, 'k')
      .point('p', 24, 1)
      .relate('coincident', 'p', 'x-axis')
      .measure('length', 25, 'o', 'p')
      .point('t', 2, 6)
      .relate('coincident', 't', 'k')
      .line('pt', 'p', 't')
      .relate('tangent', 'pt', 'k'),
    (s) => gap(s, 'p', 't'),
    24,
  ],
  [
    'two circles that touch from outside are their radii apart',
    sketch()
      .point('o', 0, 0)
      .relate('coincident', 'o', 'origin')
      .circle('k', 'o', 6)
      .measure('radius', 7, 'k')
      .point('p', 24, 1)
      .relate('coincident', 'p', 'x-axis')
      .circle('l', 'p', 14)
      .measure('radius', 15, 'l')
      .relate('tangent', 'k', 'l'),
    (s) => gap(s, 'o', 'p'),
    22,
  ],
  [
    'two circles that touch from inside are the difference of their radii apart',
    sketch()
      .point('o', 0, 0)
      .relate('coincident', 'o', 'origin')
      .circle('k', 'o', 16)
      .measure('radius', 17, 'k')
      .point('p', 9, 1)
      .relate('coincident', 'p', 'x-axis')
      .circle('l', 'p', 6)
      .measure('radius', 5, 'l')
      .relate('tangent', 'k', 'l'),
    (s) => gap(s, 'o', 'p'),
    12,
  ],
  [
    'a chord: 2 r sin of half its angle',
    sketch()
      .point('o', 0, 0)
      .relate('coincident', 'o', 'origin')
      .circle('k', 'o', 19)
      .measure('radius', 20, 'k')
      .point('a', 20, 1)
      .relate('coincident', 'a', 'x-axis')
      .relate('coincident', 'a', 'k')
      .point('b', 6, 17)
      .relate('coincident', 'b', 'k')
      .line('oa', 'o', 'a')
      .line('ob', 'o', 'b')
      .measure('angle', 72 * RAD, 'oa', 'ob'),
    (s) => gap(s, 'a', 'b'),
    40 * Math.sin(36 * RAD),
  ],
  [
    'a circle between two lines at right angles: its centre is its radius from both',
    sketch().point('p', 12, 10).circle('k', 'p', 8).relate('tangent', 'k', 'x-axis').relate('tangent', 'k', 'y-axis').measure('radius', 9, 'k'),
    (s) => Math.hypot(...at(s, 'p')),
    9 * Math.SQRT2,
  ],
  [
    'an arc by its length: radius times angle',
    sketch()
      .point('o', 0, 0)
      .relate('coincident', 'o', 'origin')
      .point('a', 20, 1)
      .relate('coincident', 'a', 'x-axis')
      .point('b', 3, 19)
      .arc('k', 'o', 'a', 'b')
      .measure('radius', 20, 'k')
      .measure('arc-length', 30, 'k'),
    (s) => Math.atan2(at(s, 'b')[1], at(s, 'b')[0]),
    1.5,
  ],
  [
    'a point mirrored in a slanted line',
    sketch()
      .point('o', 0, 0)
      .relate('coincident', 'o', 'origin')
      .point('e', 30, 17)
      .relate('fixed', 'e')
      .line('axis', 'o', 'e')
      .point('p', 20, 0)
      .relate('coincident', 'p', 'x-axis')
      .measure('length', 20, 'o', 'p')
      .point('q', 9, 17)
      .relate('symmetric', 'p', 'q', 'axis'),
    (s) => Math.atan2(at(s, 'q')[1], at(s, 'q')[0]) - 2 * Math.atan2(17, 30),
    0,
  ],
  [
    'a kite: the axis halves the angle',
    triangle()
      .measure('length', 40, 'ab')
      .measure('length', 40, 'ca')
      .measure('angle', 50 * RAD, 'ab', 'ca')
      .point('m', 20, 9)
      .relate('midpoint', 'm', 'bc'),
    (s) => Math.atan2(at(s, 'm')[1], at(s, 'm')[0]),
    25 * RAD,
  ],
  [
    'a slot: overall length is the distance of its centres and two radii',
    sketch()
      .point('a', 0, 0)
      .relate('coincident', 'a', 'origin')
      .point('b', 41, 1)
      .relate('coincident', 'b', 'x-axis')
      .measure('length', 42, 'a', 'b')
      .point('p', 1, 9)
      .point('q', 40, 9)
      .point('r', 40, -9)
      .point('t', 1, -9)
      .line('top', 'p', 'q')
      .line('low', 't', 'r')
      .arc('left', 'a', 'p', 't')
      .arc('right', 'b', 'r', 'q')
      .relate('tangent', 'top', 'left')
      .relate('tangent', 'top', 'right')
      .relate('tangent', 'low', 'left')
      .relate('tangent', 'low', 'right')
      .relate('equal', 'left', 'right')
      .measure('radius', 8, 'left'),
    (s) => (s.radii.get('right') ?? NaN) + gap(s, 'p', 'q') - 50,
    0,
  ],
  ...[3, 4, 5, 6, 7, 8, 12, 17].map(polygon),
  belt(false, 10, 25, 80),
  belt(false, 20, 20, 60),
  belt(true, 10, 25, 80),
];

test.each(CASES)('%s', (_, { model }, read, expected) => {
  expect(read(solved(model))).toBeCloseTo(expected, 8);
});

describe('nearly singular', () => {
  const flat = (rise: number): SketchBuilder =>
    triangle()
      .measure('length', 2 * Math.sqrt(2500 - rise * rise), 'ab')
      .measure('length', 50, 'bc')
      .measure('length', 50, 'ca');
  test.each([
    ['a triangle with a height of a tenth', flat(0.1), (s: SketchSolution) => at(s, 'c')[1], 0.1],
    ['a triangle with a height of a hundredth', flat(0.01), (s: SketchSolution) => at(s, 'c')[1], 0.01],
    ['a rectangle of ten metres by a hundredth of a millimetre', rectangle(10_000, 0.01), (s: SketchSolution) => at(s, 'c')[1], 0.01],
    [
      'an angle of a tenth of a degree',
      triangle()
        .measure('length', 50, 'ab')
        .measure('length', 40, 'ca')
        .measure('angle', 0.1 * RAD, 'ab', 'ca'),
      (s: SketchSolution) => at(s, 'c')[1],
      40 * Math.sin(0.1 * RAD),
    ],
    [
      'an angle a tenth of a degree short of straight',
      triangle()
        .measure('length', 50, 'ab')
        .measure('length', 40, 'ca')
        .measure('angle', 179.9 * RAD, 'ab', 'ca'),
      (s: SketchSolution) => at(s, 'c')[1],
      40 * Math.sin(179.9 * RAD),
    ],
    [
      'a line all but tangent to a circle',
      sketch()
        .point('o', 0, 0)
        .relate('coincident', 'o', 'origin')
        .circle('k', 'o', 20)
        .measure('radius', 20, 'k')
        .point('p', 1, 19)
        .relate('coincident', 'p', 'k')
        .measure('horizontal', 0.02, 'o', 'p'),
      (s: SketchSolution) => at(s, 'p')[1],
      Math.sqrt(400 - 0.0004),
    ],
    [
      'a micrometre beside a metre',
      sketch()
        .point('o', 0, 0)
        .relate('coincident', 'o', 'origin')
        .point('p', 900, 1)
        .relate('coincident', 'p', 'x-axis')
        .measure('length', 1000, 'o', 'p')
        .point('q', 906, 3)
        .relate('coincident', 'q', 'x-axis')
        .measure('length', 0.001, 'p', 'q'),
      (s: SketchSolution) => at(s, 'q')[0],
      1000.001,
    ],
    [
      'an arc of half a degree on a radius of five metres',
      sketch()
        .point('o', 0, 0)
        .relate('coincident', 'o', 'origin')
        .point('a', 4990, 2)
        .relate('coincident', 'a', 'x-axis')
        .point('b', 4990, 60)
        .arc('k', 'o', 'a', 'b')
        .measure('radius', 5000, 'k')
        .measure('arc-length', 5000 * 0.5 * RAD, 'k'),
      (s: SketchSolution) => Math.atan2(at(s, 'b')[1], at(s, 'b')[0]),
      0.5 * RAD,
    ],
  ] as const)('%s', (_, { model }, read, expected) => {
    expect(read(solved(model))).toBeCloseTo(expected, 7);
  });
});

describe('a large change stays on its branch', () => {
  test.each([
    [
      'the tip of a triangle stays above its base',
      triangle().measure('length', 300, 'ab').measure('length', 280, 'bc').measure('length', 90, 'ca'),
      (s: SketchSolution) => at(s, 'c')[1],
    ],
    ['a rectangle drawn 50 by 30 shrinks to 1 by 0.5', rectangle(1, 0.5), (s: SketchSolution) => at(s, 'c')[0] * at(s, 'c')[1]],
    ['and grows to 4000 by 3000', rectangle(4000, 3000), (s: SketchSolution) => at(s, 'c')[0] * at(s, 'c')[1]],
    [
      'an angle opens from 45 to 150 degrees on the same side',
      triangle()
        .measure('length', 40, 'ab')
        .measure('length', 30, 'ca')
        .measure('angle', 150 * RAD, 'ab', 'ca'),
      (s: SketchSolution) => at(s, 'c')[1],
    ],
    [
      'a point stays on its side of a line',
      triangle().measure('length', 40, 'ab').measure('length', 200, 'c', 'ab').measure('horizontal', 10, 'a', 'c'),
      (s: SketchSolution) => at(s, 'c')[1],
    ],
    [
      'a circle stays on its side of a tangent',
      sketch().point('o', 5, 12).circle('k', 'o', 10).relate('tangent', 'k', 'x-axis').relate('coincident', 'o', 'y-axis').measure('radius', 500, 'k'),
      (s: SketchSolution) => at(s, 'o')[1],
    ],
  ] as const)('%s', (_, { model }, read) => {
    expect(read(solved(model))).toBeGreaterThan(0);
  });
});

describe('redundant, and said to be', () => {
  test.each([
    ['parallel beside two horizontals', rectangle(80, 40).relate('parallel', 'ab', 'cd'), 1],
    ['a right angle that horizontal and vertical give', rectangle(80, 40).relate('perpendicular', 'ab', 'bc'), 1],
    ['equal sides of a rectangle', rectangle(80, 40).relate('equal', 'ab', 'cd'), 1],
    ['a height given twice, agreeing', rectangle(80, 40).measure('length', 40, 'da'), 1],
    ['a diagonal that follows, agreeing', rectangle(30, 40).measure('length', 50, 'a', 'c'), 1],
    [
      'the third angle of a triangle',
      triangle()
        .measure('length', 50, 'ab')
        .measure('angle', 50 * RAD, 'ab', 'ca')
        .measure('angle', 120 * RAD, 'ab', 'bc')
        .measure('angle', 70 * RAD, 'bc', 'ca'),
      1,
    ],
  ] as const)('%s', (_, { model }, count) => {
    const solution = solveSketch(model);
    expect(solution.status).toBe('solved');
    expect(solution.redundant).toHaveLength(count);
  });
});

describe('contradictory, and named by a smallest set', () => {
  test.each([
    ['two widths', rectangle(80, 40).measure('horizontal', 81, 'cd')],
    ['two heights', rectangle(80, 40).measure('length', 41, 'da')],
    ['a diagonal that does not follow', rectangle(30, 40).measure('length', 51, 'a', 'c')],
    ['a triangle that cannot close', triangle().measure('length', 100, 'ab').measure('length', 40, 'bc').measure('length', 30, 'ca')],
    [
      'angles of a triangle beyond half a turn',
      triangle()
        .measure('length', 50, 'ab')
        .measure('angle', 80 * RAD, 'ab', 'ca')
        .measure('angle', 100 * RAD, 'ab', 'bc')
        .measure('angle', 80 * RAD, 'bc', 'ca'),
    ],
    [
      'a radius given twice',
      sketch().point('o', 0, 0).relate('coincident', 'o', 'origin').circle('k', 'o', 5).measure('radius', 5, 'k').measure('diameter', 12, 'k'),
    ],
  ] as const)('%s', (_, { model }) => {
    const solution = solveSketch(model);
    expect(solution.status).toBe('conflicting');
    // Without any one of them the rest can hold together.
    for (const left of solution.conflicting) {
      const keep = <T extends { readonly id: string }>(list: readonly T[]): T[] => list.filter(({ id }) => id !== left && solution.conflicting.includes(id));
      expect(solveSketch({ ...model, constraints: keep(model.constraints), dimensions: keep(model.dimensions) }).status).toBe('solved');
    }
  });
});

describe('free, and counted', () => {
  test.each([
    ['a lone point', sketch().point('a', 3, 4), 2],
    ['a lone line', sketch().point('a', 0, 0).point('b', 9, 2).line('ab', 'a', 'b'), 4],
    ['a line of fixed length', sketch().point('a', 0, 0).point('b', 9, 2).line('ab', 'a', 'b').measure('length', 10, 'ab'), 3],
    ['a circle', sketch().point('a', 0, 0).circle('k', 'a', 5), 3],
    ['an arc', sketch().point('o', 0, 0).point('a', 5, 0).point('b', 0, 5).arc('k', 'o', 'a', 'b'), 5],
    [
      'a triangle of three lengths that may move and turn',
      sketch()
        .point('a', 0, 0)
        .point('b', 30, 0)
        .point('c', 9, 20)
        .measure('length', 30, 'a', 'b')
        .measure('length', 25, 'b', 'c')
        .measure('length', 20, 'a', 'c'),
      3,
    ],
    [
      'a rectangle without its height',
      sketch()
        .point('a', 0, 0)
        .relate('coincident', 'a', 'origin')
        .point('b', 30, 1)
        .point('c', 31, 20)
        .point('d', 1, 19)
        .line('ab', 'a', 'b')
        .line('bc', 'b', 'c')
        .line('cd', 'c', 'd')
        .line('da', 'd', 'a')
        .relate('horizontal', 'ab')
        .relate('horizontal', 'cd')
        .relate('vertical', 'bc')
        .relate('vertical', 'da')
        .measure('length', 30, 'ab'),
      1,
    ],
    [
      'a four-bar chain on its frame',
      sketch()
        .point('a', 0, 0)
        .relate('fixed', 'a')
        .point('d', 60, 0)
        .relate('fixed', 'd')
        .point('b', 5, 20)
        .point('c', 50, 35)
        .measure('length', 20, 'a', 'b')
        .measure('length', 50, 'b', 'c')
        .measure('length', 35, 'c', 'd'),
      1,
    ],
  ] as const)('%s', (_, { model }, freedom) => {
    expect(solveSketch(model)).toMatchObject({ status: 'solved', degreesOfFreedom: freedom });
  });
});

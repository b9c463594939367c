import { free, held, line, mate, plane, randomAssembly, randomStance, spot, STILL, X, Z } from '../../../tests/support/random-assembly';
import { makeRandom } from '../../../tests/support/random';
import type { MateKind } from '../document';
import type { Point3 } from '../geometry';
import { combine, multiply, rotate, toOutside, turnAbout, type Stance } from '../instances';
import { equationsOf, evaluate, solvePlacements, type Mate, type MatedBody, type MateGeometry } from '.';

const ball = (point: Point3, radius: number): MateGeometry => ({ kind: 'point', point, radius });
const at = (stances: ReadonlyMap<string, Stance>, body: string, point: Point3): Point3 => toOutside(stances.get(body) ?? STILL, point);

describe('equations', () => {
  test('derivatives are those of central differences, for every kind of mate', () => {
    const random = makeRandom(7);
    const direction = (): Point3 => rotate(randomStance(random, 0, 3).turn, X);
    const point = (): Point3 => [random() * 90, random() * 90, random() * 90];
    const size = 100;
    const kinds: readonly [MateKind, MateGeometry, MateGeometry][] = [
      ['coplanar', plane(point(), direction()), plane(point(), direction())],
      ['coplanar', plane(point(), direction()), line(point(), direction())],
      ['coaxial', line(point(), direction()), line(point(), direction())],
      ['coincident', spot(point()), spot(point())],
      ['coincident', line(point(), direction()), spot(point())],
      ['coincident', plane(point(), direction()), spot(point())],
      ['parallel', plane(point(), direction()), line(point(), direction())],
      ['perpendicular', line(point(), direction()), line(point(), direction())],
      ['angle', plane(point(), X), plane(point(), direction())],
      ['tangent', plane(point(), direction()), line(point(), direction(), 12)],
      ['tangent', line(point(), direction(), 5), line(point(), direction(), 12)],
      ['tangent', ball(point(), 5), ball(point(), 12)],
      ['centred', plane(point(), direction()), plane(point(), direction())],
      ['slot', line(point(), Z), line(point(), direction())],
      ['gears', line(point(), direction()), line(point(), direction())],
      ['screw', line(point(), direction()), line(point(), direction())],
      ['together', spot(point()), spot(point())],
    ];
    let checked = 0;
    for (const [kind, a, b] of kinds) {
      const isSlot = kind === 'slot';
      const one = mate(kind, ['a', a], ['b', b], {
        value: 0.4,
        about: Z,
        within: randomStance(random, 40, 2),
        starts: [randomStance(random, 0, 2).turn, randomStance(random, 0, 2).turn],
        third: { body: isSlot ? 'a' : 'c', geometry: isSlot ? line(point(), Z) : plane(point(), direction()) },
      });
      const stances = [randomStance(random, 60, 3), randomStance(random, 60, 3), randomStance(random, 60, 3)];
      const { equations, limits } = equationsOf(one, { first: 0, second: 1, third: isSlot ? 0 : 2 }) ?? { equations: [], limits: [] };
      expect(equations.length).toBeGreaterThan(0);
      for (const equation of [...equations, ...limits.map((limit) => ({ ...limit, d: 0 }))]) {
        const byBody = new Map<number, number[]>();
        for (const [body, gradient] of evaluate(equation, stances, size).gradients) {
          const known = byBody.get(body);
          byBody.set(
            body,
            gradient.map((derivative, k) => derivative + (known?.[k] ?? 0)),
          );
        }
        for (const [body, gradient] of byBody) {
          gradient.forEach((derivative, k) => {
            const nudge = (by: number): number => {
              const { origin, turn } = stances[body] ?? STILL;
              const axis = [Number(k === 3), Number(k === 4), Number(k === 5)] as const;
              const other: Stance =
                k < 3
                  ? { turn, origin: [origin[0] + (k === 0 ? by : 0), origin[1] + (k === 1 ? by : 0), origin[2] + (k === 2 ? by : 0)] }
                  : { origin, turn: multiply(turnAbout(axis, by), turn) };
              return evaluate(
                equation,
                stances.map((stance, i) => (i === body ? other : stance)),
                size,
              ).value;
            };
            const step = k < 3 ? 1e-3 : 1e-5;
            expect(Math.abs((nudge(step) - nudge(-step)) / (2 * step) - derivative)).toBeLessThan(1e-8);
            checked++;
          });
        }
      }
    }
    expect(checked).toBeGreaterThan(500);
  });

  test('geometry that does not go with a kind makes no equations', () => {
    expect(equationsOf(mate('coaxial', ['a', plane([0, 0, 0], Z)], ['b', line([0, 0, 0], Z)]), { first: 0, second: 1, third: 0 })).toBeUndefined();
    expect(solvePlacements([held('a'), free('b')], [mate('coaxial', ['a', plane([0, 0, 0], Z)], ['b', line([0, 0, 0], Z)])]).degreesOfFreedom).toBe(6);
  });
});

describe('closed forms', () => {
  test('a stack of plates with offsets, negative ones too', () => {
    const thick = 10;
    const offsets = [0, 2.5, -4, 12];
    const plates = offsets.map((_, i) => free(`p${i}`, randomStance(makeRandom(i + 1), 50, 0.3)));
    const mates = offsets.flatMap((offset, i) => {
      const below = i === 0 ? 'base' : `p${i - 1}`;
      return [
        mate('coplanar', [below, plane([0, 0, thick], Z)], [`p${i}`, plane([0, 0, 0], [0, 0, -1])], { sense: -1, value: offset }),
        mate('coplanar', [below, plane([0, 0, 0], [-1, 0, 0])], [`p${i}`, plane([0, 0, 0], [-1, 0, 0])]),
        mate('coplanar', [below, plane([0, 0, 0], [0, -1, 0])], [`p${i}`, plane([0, 0, 0], [0, -1, 0])]),
      ];
    });
    const { stances, status, degreesOfFreedom, redundant } = solvePlacements([held('base'), ...plates], mates);
    expect({ status, degreesOfFreedom, redundant }).toEqual({ status: 'placed', degreesOfFreedom: 0, redundant: [] });
    let height = 0;
    offsets.forEach((offset, i) => {
      height += thick + offset;
      at(stances, `p${i}`, [0, 0, 0]).forEach((value, axis) => expect(value).toBeCloseTo([0, 0, height][axis] ?? NaN, 9));
    });
  });

  test('slider and crank over a full turn: the pin and the slider where the triangle puts them', () => {
    const [r, l] = [30, 100];
    let crank = free('crank');
    let rod = free('rod', { origin: [r, 0, 0], turn: [1, 0, 0, 0] });
    let slider = free('slider', { origin: [r + l, 0, 0], turn: [1, 0, 0, 0] });
    for (let step = 0; step <= 72; step++) {
      const angle = (step * 5 * Math.PI) / 180;
      const mates = [
        mate('coaxial', ['base', line([0, 0, 0], Z)], ['crank', line([0, 0, 0], Z)]),
        mate('coplanar', ['base', plane([0, 0, 0], Z)], ['crank', plane([0, 0, 0], Z)]),
        mate('angle', ['base', plane([0, 0, 0], X)], ['crank', plane([0, 0, 0], X)], { value: angle, about: Z }),
        mate('coaxial', ['crank', line([r, 0, 0], Z)], ['rod', line([0, 0, 0], Z)]),
        mate('coplanar', ['crank', plane([0, 0, 0], Z)], ['rod', plane([0, 0, 0], Z)]),
        mate('coaxial', ['rod', line([l, 0, 0], Z)], ['slider', line([0, 0, 0], Z)]),
        mate('coaxial', ['base', line([0, 0, 0], X)], ['slider', line([0, 0, 0], X)]),
      ];
      const { stances, status, degreesOfFreedom } = solvePlacements([held('base'), crank, rod, slider], mates);
      expect({ step, status, degreesOfFreedom }).toEqual({ step, status: 'placed', degreesOfFreedom: 0 });
      const x = r * Math.cos(angle) + Math.sqrt(l * l - (r * Math.sin(angle)) ** 2);
      expect(at(stances, 'slider', [0, 0, 0])[0]).toBeCloseTo(x, 8);
      expect(at(stances, 'crank', [r, 0, 0])[1]).toBeCloseTo(r * Math.sin(angle), 8);
      [crank, rod, slider] = [crank, rod, slider].map((body) => ({ ...body, at: stances.get(body.id) ?? STILL })) as [MatedBody, MatedBody, MatedBody];
    }
  });

  test('four bars over a full turn stay on the branch that they began on', () => {
    // Grashof: 20 + 80 < 60 + 70, the crank goes round.
    const [a, b, c, d] = [20, 70, 60, 80];
    for (const branch of [1, -1] as const) {
      const solveAt = (angle: number) => {
        const pin = [a * Math.cos(angle), a * Math.sin(angle)] as const;
        const span = Math.hypot(d - pin[0], pin[1]);
        const along = (b * b - c * c + span * span) / (2 * span);
        const height = Math.sqrt(b * b - along * along) * branch;
        const [ux, uy] = [(d - pin[0]) / span, -pin[1] / span];
        return [pin[0] + along * ux - height * uy, pin[1] + along * uy + height * ux] as const;
      };
      const begin = solveAt(0);
      const turnOf = (dx: number, dy: number) => turnAbout(Z, Math.atan2(dy, dx));
      let bodies = [
        free('crank'),
        free('rod', { origin: [a, 0, 0], turn: turnOf(begin[0] - a, begin[1]) }),
        free('rocker', { origin: [d, 0, 0], turn: turnOf(begin[0] - d, begin[1]) }),
      ];
      for (let step = 0; step <= 90; step++) {
        const angle = (step * 4 * Math.PI) / 180;
        const mates = [
          mate('coaxial', ['base', line([0, 0, 0], Z)], ['crank', line([0, 0, 0], Z)]),
          mate('coaxial', ['base', line([d, 0, 0], Z)], ['rocker', line([0, 0, 0], Z)]),
          mate('coaxial', ['crank', line([a, 0, 0], Z)], ['rod', line([0, 0, 0], Z)]),
          mate('coaxial', ['rod', line([b, 0, 0], Z)], ['rocker', line([c, 0, 0], Z)]),
          ...['crank', 'rod', 'rocker'].map((id) => mate('coplanar', ['base', plane([0, 0, 0], Z)], [id, plane([0, 0, 0], Z)])),
          mate('angle', ['base', plane([0, 0, 0], X)], ['crank', plane([0, 0, 0], X)], { value: angle, about: Z }),
        ];
        const { stances, status } = solvePlacements([held('base'), ...bodies], mates);
        expect({ branch, step, status }).toEqual({ branch, step, status: 'placed' });
        const [x, y] = solveAt(angle);
        expect(at(stances, 'rocker', [c, 0, 0])[0]).toBeCloseTo(x, 7);
        expect(at(stances, 'rocker', [c, 0, 0])[1]).toBeCloseTo(y, 7);
        bodies = bodies.map((body) => ({ ...body, at: stances.get(body.id) ?? STILL }));
      }
    }
  });

  test('a cylinder lies on a plane at its radius', () => {
    const { stances, degreesOfFreedom } = solvePlacements(
      [held('base'), free('roll', randomStance(makeRandom(3), 60, 1))],
      [mate('tangent', ['base', plane([0, 0, 5], Z)], ['roll', line([0, 0, 0], X, 12)])],
    );
    expect(at(stances, 'roll', [40, 0, 0])[2]).toBeCloseTo(17, 9);
    expect(degreesOfFreedom).toBe(4);
  });

  test('what is together stays as it was put together', () => {
    const within = randomStance(makeRandom(9), 30, 2);
    const base = randomStance(makeRandom(10), 30, 2);
    const { stances } = solvePlacements(
      [held('base', base), free('b', combine(base, { ...within, origin: [1, 2, 3] }))],
      [mate('together', ['base', spot([0, 0, 0])], ['b', spot([0, 0, 0])], { within })],
    );
    const wanted = combine(base, within);
    for (const point of [
      [0, 0, 0],
      [10, 0, 0],
      [0, 10, 0],
    ] as const) {
      toOutside(wanted, point).forEach((value, i) => expect(at(stances, 'b', point)[i]).toBeCloseTo(value, 8));
    }
  });
});

describe('statuses', () => {
  const top = (id: string, value: number): Mate => ({ ...mate('coplanar', ['base', plane([0, 0, 0], Z)], ['a', plane([0, 0, 0], Z)], { value }), id });

  test('what is free is counted; a pin in a hole slides and turns', () => {
    const { freedom, degreesOfFreedom } = solvePlacements(
      [held('base'), free('pin')],
      [mate('coaxial', ['base', line([5, 5, 0], Z)], ['pin', line([0, 0, 0], Z)])],
    );
    expect(degreesOfFreedom).toBe(2);
    expect(freedom.get('pin')).toBeGreaterThan(0);
  });

  test('a mate that adds nothing is redundant; two that cannot both hold are in conflict, and no others', () => {
    expect(solvePlacements([held('base'), free('a')], [top('m', 10), top('again', 10)])).toMatchObject({ status: 'placed', redundant: ['again'] });
    const elsewhere = { ...mate('coplanar', ['base', plane([0, 0, 0], X)], ['a', plane([0, 0, 0], X)]), id: 'elsewhere' };
    const found = solvePlacements([held('base'), free('a')], [elsewhere, top('low', 10), top('high', 11)]);
    expect(found.status).toBe('conflicting');
    expect([...found.conflicting].sort()).toEqual(['high', 'low']);
  });

  test('senses: opposed faces are turned to one another, from whatever side they start', () => {
    for (const sense of [1, -1] as const) {
      for (const start of [
        STILL,
        { origin: [0, 0, 0], turn: turnAbout(X, Math.PI) } as Stance,
        { origin: [3, 2, 1], turn: turnAbout([0, 1, 0], 2.9) } as Stance,
      ]) {
        const { stances, status } = solvePlacements(
          [held('base'), free('a', start)],
          [mate('coplanar', ['base', plane([0, 0, 10], Z)], ['a', plane([1, 1, 4], Z)], { sense, value: 2 })],
        );
        expect(status).toBe('placed');
        expect(rotate(stances.get('a')?.turn ?? [1, 0, 0, 0], Z)[2]).toBeCloseTo(sense, 9);
        expect(at(stances, 'a', [1, 1, 4])[2]).toBeCloseTo(12, 9);
      }
    }
  });

  test('an angle is the way it was asked for, though other mates hold the part already', () => {
    for (const degrees of [20, 100, 160.9, 200, 300]) {
      const { stances, status, degreesOfFreedom } = solvePlacements(
        [held('base'), free('pawl', { origin: [4, 5, 6], turn: [1, 0, 0, 0] })],
        [
          mate('coplanar', ['base', plane([0, 0, 0], X)], ['pawl', plane([0, 0, 0], X)], { value: 3 }),
          mate('coaxial', ['base', line([0, 50, 60], X)], ['pawl', line([0, 0, 0], X)]),
          mate('angle', ['base', plane([0, 0, 0], Z)], ['pawl', plane([0, 0, 0], Z)], { value: (degrees * Math.PI) / 180, about: X }),
        ],
      );
      expect({ degrees, status, degreesOfFreedom }).toEqual({ degrees, status: 'placed', degreesOfFreedom: 0 });
      const turned = rotate(stances.get('pawl')?.turn ?? [1, 0, 0, 0], [0, 1, 0]);
      expect(turned[1]).toBeCloseTo(Math.cos((degrees * Math.PI) / 180), 9);
      expect(turned[2]).toBeCloseTo(Math.sin((degrees * Math.PI) / 180), 9);
    }
  });

  test('without anything held the first stays; groups are apart', () => {
    const a = free('a', randomStance(makeRandom(1), 40, 1));
    const { stances } = solvePlacements([a, free('b'), free('c')], [mate('coincident', ['a', spot([1, 2, 3])], ['b', spot([0, 0, 0])])]);
    expect(stances.get('a')).toEqual(a.at);
    expect(stances.get('c')).toEqual(STILL);
    at(stances, 'b', [0, 0, 0]).forEach((value, i) => expect(value).toBeCloseTo(toOutside(a.at, [1, 2, 3])[i] ?? NaN, 9));
  });
});

describe('random assemblies', () => {
  test('disturbed by 5 % of their size and 0.1 rad, they are placed where they were', () => {
    let worst = 0;
    let iterations = 0;
    for (let seed = 1; seed <= 40; seed++) {
      const { truth, mates, started } = randomAssembly(seed, 3 + (seed % 12), seed % 3);
      const found = solvePlacements(started, mates);
      expect({ seed, status: found.status, left: found.degreesOfFreedom }).toEqual({ seed, status: 'placed', left: 0 });
      iterations = Math.max(iterations, found.iterations);
      truth.forEach((stance, i) => {
        for (const point of [
          [0, 0, 0],
          [50, 0, 0],
          [0, 50, 0],
        ] as const) {
          const [x, y] = [toOutside(stance, point), at(found.stances, `b${i}`, point)];
          worst = Math.max(worst, ...x.map((value, k) => Math.abs(value - (y[k] ?? NaN))));
        }
      });
    }
    expect(worst).toBeLessThan(1e-6);
    expect(iterations).toBeLessThanOrEqual(20);
  });

  test('moving everything rigidly, and the order of mates, change nothing', () => {
    const { mates, started } = randomAssembly(5, 6, 1);
    const by = randomStance(makeRandom(77), 200, 3);
    const plainly = solvePlacements(started, mates).stances;
    const carried = solvePlacements(
      started.map((body) => ({ ...body, at: combine(by, body.at) })),
      mates,
    ).stances;
    const shuffled = solvePlacements(started, [...mates].reverse()).stances;
    for (const { id } of started) {
      const wanted = toOutside(by, at(plainly, id, [10, 20, 30]));
      wanted.forEach((value, i) => expect(at(carried, id, [10, 20, 30])[i]).toBeCloseTo(value, 6));
      at(plainly, id, [10, 20, 30]).forEach((value, i) => expect(at(shuffled, id, [10, 20, 30])[i]).toBeCloseTo(value, 6));
    }
  });
});

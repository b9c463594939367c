/** Mates that couple turns and travel, hold between limits, in slots and in the middle: against the closed forms of any text on mechanisms. */
import { free, held, line, mate, plane, spot, STILL, X, Z } from '../../../tests/support/random-assembly';
import type { Point3 } from '../geometry';
import { multiply, rotate, toOutside, turnAbout, type Stance } from '../instances';
import { solvePlacements, type Mate, type MatedBody, type MateGeometry, type Placements } from '.';

const Y: Point3 = [0, 1, 0];
const degrees = (angle: number): number => (angle * Math.PI) / 180;
const at = (solved: Pick<Placements, 'stances'>, body: string, point: Point3 = [0, 0, 0]): Point3 => toOutside(solved.stances.get(body) ?? STILL, point);
const turnOf = (solved: Pick<Placements, 'stances'>, body: string): number => {
  const [x, y] = rotate(solved.stances.get(body)?.turn ?? STILL.turn, X);
  return Math.atan2(y, x);
};
const sameAngle = (a: number, b: number): number => Math.abs(Math.sin((a - b) / 2));

/** A body that turns about z through a place, level with the base. */
const pivoted = (body: string, [x, y]: readonly [number, number]): Mate[] => [
  mate('coaxial', ['base', line([x, y, 0], Z)], [body, line([0, 0, 0], Z)]),
  mate('coplanar', ['base', plane([0, 0, 0], Z)], [body, plane([0, 0, 0], Z)]),
];
const turnedTo = (body: string, value: number): Mate => mate('angle', ['base', plane([0, 0, 0], X)], [body, plane([0, 0, 0], X)], { value, about: Z });
const geared = (one: string, two: string, value: number, more: Partial<Mate> = {}): Mate =>
  mate('gears', [one, line([0, 0, 0], Z)], [two, line([0, 0, 0], Z)], {
    value,
    sense: -1,
    third: { body: 'base', geometry: plane([0, 0, 0], Z) },
    starts: [STILL.turn, STILL.turn],
    ...more,
  });

describe('gears', () => {
  const ratio = 17 / 31;
  const pair = (angle: number, more: Partial<Mate> = {}) =>
    solvePlacements(
      [held('base'), free('one'), free('two', { origin: [48, 0, 0], turn: STILL.turn })],
      [...pivoted('one', [0, 0]), ...pivoted('two', [48, 0]), turnedTo('one', angle), geared('one', 'two', ratio, more)],
    );

  test('a pair over ten turns, from where it stands or all at once', () => {
    for (let step = -2; step <= 120; step++) {
      const angle = degrees(step * 30);
      const solved = pair(angle);
      expect({ step, status: solved.status, free: solved.degreesOfFreedom, redundant: solved.redundant }).toEqual({
        step,
        status: 'placed',
        free: 0,
        redundant: [],
      });
      expect(sameAngle(turnOf(solved, 'two'), -ratio * angle)).toBeLessThan(1e-9);
      expect([...solved.turned.values()][0]).toBeCloseTo(angle, 9);
    }
  });

  test('that turn the same way, about axes that point opposite ways', () => {
    expect(sameAngle(turnOf(pair(degrees(700), { sense: 1 }), 'two'), ratio * degrees(700))).toBeLessThan(1e-9);
    const down: MateGeometry = line([0, 0, 0], [0, 0, -1]);
    expect(sameAngle(turnOf(pair(degrees(700), { second: { body: 'two', geometry: down } }), 'two'), -ratio * degrees(700))).toBeLessThan(1e-9);
  });

  test('a train of three counts on, with what is fixed to the last', () => {
    const bodies = ['one', 'two', 'three', 'pointer'].map((id, i) => free(id, { origin: [40 * Math.min(i, 2), 0, 0], turn: STILL.turn }));
    const solved = solvePlacements(
      [held('base'), ...bodies],
      [
        mate('together', ['three', spot([0, 0, 0])], ['pointer', spot([0, 0, 0])], { within: { origin: [5, 0, 0], turn: STILL.turn } }),
        geared('two', 'three', 3),
        geared('one', 'two', 0.5),
        ...['one', 'two', 'three'].flatMap((id, i) => pivoted(id, [40 * i, 0])),
        turnedTo('one', degrees(1000)),
      ],
    );
    expect(solved.status).toBe('placed');
    expect(sameAngle(turnOf(solved, 'three'), degrees(1500))).toBeLessThan(1e-9);
    expect(at(solved, 'pointer')[0]).toBeCloseTo(80 + 5 * Math.cos(degrees(1500)), 8);
  });

  test('one that is dragged takes the other along, over more than a turn, and counts', () => {
    let bodies: MatedBody[] = [held('base'), free('one'), free('two', { origin: [48, 0, 0], turn: STILL.turn })];
    const mates = [...pivoted('one', [0, 0]), ...pivoted('two', [48, 0]), geared('one', 'two', ratio)];
    let turned = 0;
    for (let step = 1; step <= 60; step++) {
      const angle = degrees(step * 15);
      const solved = solvePlacements(
        bodies,
        mates.map((one) => ({ ...one, turned })),
        { body: 'one', point: [20, 0, 0], to: [20 * Math.cos(angle), 20 * Math.sin(angle), 0] },
      );
      turned = [...solved.turned.values()][0] ?? NaN;
      bodies = bodies.map((body) => ({ ...body, at: solved.stances.get(body.id) ?? body.at }));
      expect(turned).toBeCloseTo(angle, 4);
      expect(sameAngle(turnOf(solved, 'two'), -ratio * turned)).toBeLessThan(1e-8);
    }
  });

  test('planets in an arm: by the formula of Willis', () => {
    // Sun and planet turn in the arm; the arm turns in the base. R. Willis, Principles of Mechanism, 1841: (w_p - w_a) = -z_s / z_p (w_s - w_a).
    const [sun, planet, arm] = [24, 16, degrees(50)];
    const inArm = { body: 'arm', geometry: plane([0, 0, 0], Z) };
    for (const sunAngle of [0, degrees(30), degrees(-80)]) {
      const solved = solvePlacements(
        [held('base'), free('sun'), free('arm'), free('planet', { origin: [40, 0, 0], turn: STILL.turn })],
        [
          ...pivoted('sun', [0, 0]),
          ...pivoted('arm', [0, 0]),
          mate('coaxial', ['arm', line([40, 0, 0], Z)], ['planet', line([0, 0, 0], Z)]),
          mate('coplanar', ['arm', plane([0, 0, 0], Z)], ['planet', plane([0, 0, 0], Z)]),
          turnedTo('sun', sunAngle),
          turnedTo('arm', arm),
          geared('sun', 'planet', sun / planet, { third: inArm }),
        ],
      );
      expect({ status: solved.status, free: solved.degreesOfFreedom }).toEqual({ status: 'placed', free: 0 });
      expect(sameAngle(turnOf(solved, 'planet'), arm - (sun / planet) * (sunAngle - arm))).toBeLessThan(1e-9);
    }
  });

  test('a third angle that the wheels do not have is told as a conflict', () => {
    const solved = solvePlacements(
      [held('base'), free('one'), free('two')],
      [...pivoted('one', [0, 0]), ...pivoted('two', [48, 0]), turnedTo('one', 1), turnedTo('two', 1), geared('one', 'two', 2)],
    );
    expect(solved.status).toBe('conflicting');
    expect(solved.conflicting.length).toBeGreaterThanOrEqual(3);
  });
});

describe('screws', () => {
  const screw = (angle: number, sense: 1 | -1 = 1) =>
    solvePlacements(
      [held('base'), free('nut', { origin: [0, 0, 12], turn: STILL.turn })],
      [
        mate('screw', ['base', line([0, 0, 0], Z)], ['nut', line([0, 0, 0], Z)], { value: 1.5, sense, within: { origin: [0, 0, 12], turn: STILL.turn } }),
        turnedTo('nut', angle),
      ],
    );

  test('a nut on M10 travels by its pitch of 1.5 mm with each turn (ISO 261)', () => {
    for (const turns of [0, 0.25, 1, -3, 7.6]) {
      const solved = screw(2 * Math.PI * turns);
      expect({ turns, status: solved.status, free: solved.degreesOfFreedom }).toEqual({ turns, status: 'placed', free: 0 });
      expect(at(solved, 'nut')[2]).toBeCloseTo(12 + 1.5 * turns, 9);
      expect(at(screw(2 * Math.PI * turns, -1), 'nut')[2]).toBeCloseTo(12 - 1.5 * turns, 9);
    }
  });

  test('dragged along, it turns', () => {
    let stance: Stance = STILL;
    let turned = 0;
    for (let step = 1; step <= 30; step++) {
      const solved = solvePlacements(
        [held('base'), free('nut', stance)],
        [mate('screw', ['base', line([0, 0, 0], Z)], ['nut', line([0, 0, 0], Z)], { value: 2, within: STILL, turned })],
        { body: 'nut', point: [0, 0, 0], to: [0, 0, step * 0.1] },
      );
      stance = solved.stances.get('nut') ?? STILL;
      turned = [...solved.turned.values()][0] ?? NaN;
      expect(stance.origin[2]).toBeCloseTo(step * 0.1, 4);
    }
    expect(turned / (2 * Math.PI)).toBeCloseTo(1.5, 4);
  });
});

describe('limits', () => {
  const slide = (to: number) =>
    solvePlacements(
      [held('base'), free('drawer')],
      [
        mate('coaxial', ['base', line([0, 0, 0], X)], ['drawer', line([0, 0, 0], X)]),
        mate('parallel', ['base', plane([0, 0, 0], Z)], ['drawer', plane([0, 0, 0], Z)]),
        mate('coplanar', ['base', plane([0, 0, 0], X)], ['drawer', plane([0, 0, 0], X)], { limits: { least: -5, most: 80 } }),
      ],
      { body: 'drawer', point: [0, 0, 0], to: [to, 30, 0] },
    );

  test('a drawer is dragged between its stops, and stays free between them', () => {
    for (const [to, x] of [
      [40, 40],
      [300, 80],
      [-60, -5],
    ] as const) {
      expect(Math.abs(at(slide(to), 'drawer')[0] - x)).toBeLessThan(0.05);
    }
  });

  test('where a start is past a limit, it is brought to it; what another mate asks beyond it is a conflict', () => {
    const stop = mate('coplanar', ['base', plane([0, 0, 0], X)], ['drawer', plane([0, 0, 0], X)], { limits: { least: 0, most: 80 } });
    const far = free('drawer', { origin: [200, 3, 1], turn: STILL.turn });
    const solved = solvePlacements([held('base'), far], [stop]);
    expect(at(solved, 'drawer')).toEqual([expect.closeTo(80, 8), 3, 1]);
    expect(solved).toMatchObject({ status: 'placed', degreesOfFreedom: 4 });
    const other = mate('coplanar', ['base', plane([0, 0, 0], X)], ['drawer', plane([0, 0, 0], X)], { value: 100 });
    expect(solvePlacements([held('base'), far], [stop, other]).status).toBe('conflicting');
  });

  test('a lid opens as far as its angle lets it', () => {
    const lid = (to: Point3) =>
      solvePlacements(
        [held('base'), free('lid')],
        [
          ...pivoted('lid', [0, 0]),
          mate('angle', ['base', plane([0, 0, 0], X)], ['lid', plane([0, 0, 0], X)], { about: Z, limits: { least: 0, most: degrees(110) } }),
        ],
        { body: 'lid', point: [10, 0, 0], to },
      );
    expect(Math.abs(turnOf(lid([5, 5, 0]), 'lid') - degrees(45))).toBeLessThan(0.01);
    expect(turnOf(lid([-10, 0.1, 0]), 'lid')).toBeLessThan(degrees(110) + 1e-6);
  });

  test('a pin in a slot goes from end to end', () => {
    const pin = (to: Point3) =>
      solvePlacements(
        [held('plate'), free('pin', { origin: [15, 0, 0], turn: STILL.turn })],
        [
          mate('slot', ['plate', line([10, 0, 0], Z, 3)], ['pin', line([0, 0, 0], Z, 3)], { third: { body: 'plate', geometry: line([40, 0, 0], Z, 3) } }),
          mate('coplanar', ['plate', plane([0, 0, 0], Z)], ['pin', plane([0, 0, 0], Z)]),
        ],
        { body: 'pin', point: [0, 0, 0], to },
      );
    for (const [to, x] of [
      [22, 22],
      [100, 40],
      [-20, 10],
    ] as const) {
      const [px, py] = at(pin([to, 9, 0]), 'pin');
      expect(Math.abs(px - x)).toBeLessThan(0.05);
      expect(py).toBeCloseTo(0, 8);
    }
  });
});

describe('in the middle, and touching', () => {
  test('a board between two frames that are apart by a value stays in the middle of them', () => {
    for (const apart of [100, 240]) {
      const solved = solvePlacements(
        [held('left'), free('right', { origin: [90, 0, 0], turn: STILL.turn }), free('board')],
        [
          mate('coplanar', ['left', plane([0, 0, 0], X)], ['right', plane([0, 0, 0], X)], { value: apart }),
          mate('centred', ['left', plane([6, 0, 0], X)], ['board', plane([2, 0, 0], X)], {
            sense: -1,
            third: { body: 'right', geometry: plane([-4, 0, 0], [-1, 0, 0]) },
          }),
        ],
      );
      expect(solved.status).toBe('placed');
      expect(at(solved, 'board', [2, 0, 0])[0]).toBeCloseTo((6 + apart - 4) / 2, 9);
    }
  });

  test('rollers touch from outside and from inside, balls too', () => {
    for (const [sense, distance] of [
      [1, 25],
      [-1, 15],
    ] as const) {
      const solved = solvePlacements(
        [held('drum'), free('roller', { origin: [30, 7, 0], turn: turnAbout(Y, 0.2) })],
        [mate('tangent', ['drum', line([0, 0, 0], Z, 20)], ['roller', line([0, 0, 0], Z, 5)], { sense })],
      );
      const [x, y] = at(solved, 'roller');
      expect(Math.hypot(x, y)).toBeCloseTo(distance, 8);
      const balls = solvePlacements(
        [held('drum'), free('ball', { origin: [3, 40, 8], turn: STILL.turn })],
        [mate('tangent', ['drum', { kind: 'point', point: [0, 0, 0], radius: 20 }], ['ball', { kind: 'point', point: [0, 0, 0], radius: 5 }], { sense })],
      );
      expect(Math.hypot(...at(balls, 'ball'))).toBeCloseTo(distance, 8);
      expect(balls.degreesOfFreedom).toBe(5);
    }
  });
});

describe('values that change by much at once', () => {
  // Grashof: 20 + 80 < 60 + 70, the crank goes round.
  const [a, b, c, d] = [20, 70, 60, 80];
  const jointAt = (angle: number, branch: 1 | -1): readonly [number, number] => {
    const pin = [a * Math.cos(angle), a * Math.sin(angle)] as const;
    const [dx, dy] = [d - pin[0], -pin[1]];
    const span = Math.hypot(dx, dy);
    const along = (b * b - c * c + span * span) / (2 * span);
    const off = branch * Math.sqrt(b * b - along * along);
    return [pin[0] + (along * dx - off * dy) / span, pin[1] + (along * dy + off * dx) / span];
  };
  const fourBar = (angle: number, bodies: readonly MatedBody[]) =>
    solvePlacements(
      [held('base'), ...bodies],
      [
        ...pivoted('crank', [0, 0]),
        turnedTo('crank', angle),
        mate('coaxial', ['crank', line([a, 0, 0], Z)], ['rod', line([0, 0, 0], Z)]),
        mate('coaxial', ['rod', line([b, 0, 0], Z)], ['rocker', line([c, 0, 0], Z)]),
        mate('coaxial', ['base', line([d, 0, 0], Z)], ['rocker', line([0, 0, 0], Z)]),
        mate('coplanar', ['base', plane([0, 0, 0], Z)], ['rod', plane([0, 0, 0], Z)]),
        mate('coplanar', ['base', plane([0, 0, 0], Z)], ['rocker', plane([0, 0, 0], Z)]),
      ],
    );

  test('four bars stay on their branch, however far the crank is turned', () => {
    for (const branch of [1, -1] as const) {
      const [jx, jy] = jointAt(0, branch);
      const start = [
        free('crank'),
        free('rod', { origin: [a, 0, 0], turn: turnAbout(Z, Math.atan2(jy, jx - a)) }),
        free('rocker', { origin: [d, 0, 0], turn: turnAbout(Z, Math.atan2(jy, jx - d)) }),
      ];
      for (const angle of [40, 90, 135, 179, -60, -120, -175, 250, 330]) {
        const solved = fourBar(degrees(angle), start);
        const [x, y] = jointAt(degrees(angle), branch);
        expect({ angle, branch, status: solved.status }).toEqual({ angle, branch, status: 'placed' });
        const [px, py] = at(solved, 'rocker', [c, 0, 0]);
        expect(Math.hypot(px - x, py - y)).toBeLessThan(1e-6);
      }
    }
  });

  test('what is fixed to something that turns far goes with it', () => {
    for (const angle of [100, 170, 180, -150]) {
      const within: Stance = { origin: [30, 4, 5], turn: multiply(turnAbout(X, 0.3), turnAbout(Z, 1)) };
      const solved = solvePlacements(
        [held('base'), free('beam'), free('wheel', within), free('pawl', { origin: [30, 4, 5], turn: STILL.turn })],
        [
          mate('together', ['wheel', spot([0, 0, 0])], ['pawl', spot([0, 0, 0])], { within: { origin: [1, 2, 3], turn: turnAbout(Y, 1) } }),
          mate('together', ['beam', spot([0, 0, 0])], ['wheel', spot([0, 0, 0])], { within }),
          ...pivoted('beam', [0, 0]),
          turnedTo('beam', degrees(angle)),
        ],
      );
      expect({ angle, status: solved.status, free: solved.degreesOfFreedom }).toEqual({ angle, status: 'placed', free: 0 });
      const expected = rotate(turnAbout(Z, degrees(angle)), [30, 4, 5]);
      at(solved, 'wheel').forEach((value, i) => expect(value).toBeCloseTo(expected[i] ?? NaN, 8));
    }
  });
});

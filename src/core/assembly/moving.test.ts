/** Dragging, and sub-assemblies that move inside. */
import { component, sourceOf, withComponents, withParameters } from '../../../tests/support/assemblies';
import { edited } from '../../../tests/support/demo';
import { face, floor, LEVER, leverShapes, mated } from '../../../tests/support/levers';
import { free, held, sliderCrank, STILL } from '../../../tests/support/random-assembly';
import type { Document } from '../document';
import type { Point3 } from '../geometry';
import { listPlaced, openValues, toOutside, type Stance } from '../instances';
import { placeComponents, solvePlacements, type Pull } from '.';

const at = (stances: ReadonlyMap<string, Stance>, body: string, point: Point3): Point3 => toOutside(stances.get(body) ?? STILL, point);

describe('dragging', () => {
  const [r, l] = [30, 100];
  const mates = sliderCrank(r, l);
  const start = (): Map<string, Stance> =>
    new Map([
      ['crank', STILL],
      ['rod', { origin: [r, 0, 0], turn: [1, 0, 0, 0] }],
      ['slider', { origin: [r + l, 0, 0], turn: [1, 0, 0, 0] }],
    ]);
  const dragged = (from: ReadonlyMap<string, Stance>, pull: Pull) =>
    solvePlacements([held('base'), ...[...from].map(([id, stance]) => free(id, stance))], mates, pull);

  test('the pin of a crank goes round with the pointer, and takes the slider with it', () => {
    let stances: ReadonlyMap<string, Stance> = start();
    for (let step = 1; step <= 60; step++) {
      const angle = (step * 6 * Math.PI) / 180;
      // The pointer runs outside of the circle: the pin is where the pointer is seen from the middle.
      const solved = dragged(stances, { body: 'crank', point: [r, 0, 0], to: [44 * Math.cos(angle), 44 * Math.sin(angle), 7] });
      expect(solved.status).toBe('placed');
      stances = new Map([...solved.stances].filter(([id]) => id !== 'base'));
      const [x, y, z] = at(stances, 'crank', [r, 0, 0]);
      expect(Math.hypot(x, y)).toBeCloseTo(r, 8);
      expect(z).toBeCloseTo(0, 8);
      expect(Math.cos(Math.atan2(y, x) - angle)).toBeGreaterThan(0.9999);
      expect(at(stances, 'slider', [0, 0, 0])[0]).toBeCloseTo(x + Math.sqrt(l * l - y * y), 7);
    }
  });

  test('the slider is dragged as far as the crank lets it, and stays where it is when nothing moves', () => {
    const far = dragged(start(), { body: 'slider', point: [0, 0, 0], to: [400, 30, 0] });
    expect(far.status).toBe('placed');
    expect(at(far.stances, 'slider', [0, 0, 0])[0]).toBeCloseTo(r + l, 3);
    const back = dragged(start(), { body: 'crank', point: [r, 0, 0], to: [r, 0, 0] });
    for (const [id, stance] of start())
      at(back.stances, id, [5, 6, 7]).forEach((value, i) => expect(value).toBeCloseTo(toOutside(stance, [5, 6, 7])[i] ?? NaN, 8));
  });

  test('what no mate holds is shifted and not turned; what is held does not move', () => {
    const { stances } = solvePlacements([held('base'), free('a')], [], { body: 'a', point: [10, 0, 0], to: [1, 2, 3] });
    expect(stances.get('a')).toEqual({ origin: [-9, 2, 3], turn: [1, 0, 0, 0] });
    expect(solvePlacements([held('base')], [], { body: 'base', point: [0, 0, 0], to: [9, 9, 9] }).stances.get('base')).toEqual(STILL);
  });
});

/** Two levers: the first anchored, the second turns about its tip. */
function arm(): Document {
  let unit = withComponents(withParameters('assembly', 'arm', {}), component('low', 'lever', { isAnchored: true }), component('high', 'lever'));
  unit = mated(unit, 'flat', 'coplanar', [floor(['low']), floor(['high'])]);
  return mated(unit, 'pin', 'coaxial', [face(['low'], 'tip'), face(['high'], 'hub')]);
}

describe('flexible sub-assemblies', () => {
  /** Two arms in the host, the hub of the upper lever of each held at an angle by the host. */
  function robot(isFlexible: boolean): Document {
    const flexible = isFlexible ? { isFlexible } : {};
    let host = withComponents(
      withParameters('assembly', 'robot', {}),
      component('left', 'arm', { isAnchored: true, ...flexible }),
      component('right', 'arm', { isAnchored: true, at: { origin: [200, 0, 0], turn: [1, 0, 0, 0] }, ...flexible }),
    );
    host = mated(
      host,
      'raise',
      'angle',
      [
        { path: [], plane: 'side' },
        { path: ['left', 'high'], plane: 'side' },
      ],
      '90 deg',
    );
    return mated(
      host,
      'lower',
      'angle',
      [
        { path: [], plane: 'side' },
        { path: ['right', 'high'], plane: 'side' },
      ],
      '-90 deg',
    );
  }
  const tips = (host: Document) => {
    const values = openValues(host, sourceOf([LEVER, arm()]));
    const placement = placeComponents(values, leverShapes);
    return {
      placement,
      parts: new Map(
        listPlaced(values, placement.standing).map((part) => [part.name, toOutside(part.at, [30, 0, 0]).map((v) => Math.round(v * 1e6) / 1e6 + 0)]),
      ),
    };
  };

  test('stand differently in each place, their own mates in force', () => {
    const { placement, parts } = tips(robot(true));
    expect(placement.status).toBe('placed');
    expect(parts.get('left.low')).toEqual([30, 0, 0]);
    expect(parts.get('left.high')).toEqual([30, 30, 0]);
    expect(parts.get('right.high')).toEqual([230, -30, 0]);
    expect(placement.degreesOfFreedom).toBe(0);
  });

  test('rigid ones cannot be bent, and the mates that try say so', () => {
    const { placement } = tips(robot(false));
    expect(placement.status).not.toBe('placed');
    expect([...placement.mates.values()].map(({ status }) => status)).toContain('conflicting');
  });

  test('a lever inside is dragged; where it was left is kept by its path', () => {
    let host = withComponents(withParameters('assembly', 'robot', {}), component('left', 'arm', { isAnchored: true, isFlexible: true }));
    let values = openValues(host, sourceOf([LEVER, arm()]));
    const pulled = placeComponents(values, leverShapes, { pull: { body: 'left high', point: [30, 0, 0], to: [30, 30, 0] } });
    expect(at(pulled.stances, 'left high', [30, 0, 0])[1]).toBeCloseTo(30, 6);
    const stance = pulled.stances.get('left high') ?? STILL;
    host = edited(host, {
      type: 'component.place',
      places: { left: { origin: [0, 0, 0], turn: [1, 0, 0, 0] } },
      inside: { left: { high: { origin: [...stance.origin], turn: [...stance.turn] } } },
    });
    values = openValues(host, sourceOf([LEVER, arm()]));
    expect(at(placeComponents(values, leverShapes).stances, 'left high', [30, 0, 0])[1]).toBeCloseTo(30, 6);
  });
});

/** Dragging, sub-assemblies that move inside, and copies. */
import { component, driven, sourceOf, withComponents, withParameters } from '../../../tests/support/assemblies';
import { edited } from '../../../tests/support/demo';
import { free, held, sliderCrank, STILL, Z } from '../../../tests/support/random-assembly';
import type { Document, MateRecord, MateReference, Parameter } from '../document';
import type { Frame, Point3 } from '../geometry';
import { listPlaced, openValues, toOutside, turnAbout, type Stance } from '../instances';
import { listParts, patternProblem, placeComponents, solvePlacements, type GeometryShape, type Pull } from '.';

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

/** A lever whose ends are the axes of its faces `hub` and `tip`, along z, 30 mm apart. */
const LEVER = { ...withParameters('part', 'lever', {}), name: 'lever' };
const shapes = ({ name }: { readonly name: string }): GeometryShape | undefined => {
  const x = name === 'tip' ? 30 : 0;
  return { kind: 'round', area: 1, radius: 3, axis: { origin: [x, 0, 0], direction: [0, 0, 1] } };
};
const face = (path: string[], name: string): MateReference => ({ path, body: 'b', name });
const floor = (path: string[]): MateReference => ({ path, plane: 'top' });

function mated(document: Document, name: string, kind: MateRecord['kind'], on: readonly [MateReference, MateReference], value?: string): Document {
  const slot = kind === 'angle' ? 'angle' : kind === 'coplanar' ? 'offset' : undefined;
  const values: Parameter[] = slot
    ? [
        {
          type: 'parameter',
          id: `${name}-v`,
          owner: name,
          name: `${name}_value`,
          formula: { text: value ?? '0 mm' },
          kind: slot === 'angle' ? 'angle' : 'length',
        },
      ]
    : [];
  const record: MateRecord = {
    type: 'mate',
    id: name,
    name,
    kind,
    first: on[0],
    second: on[1],
    sense: 1,
    values: slot ? { [slot]: `${name}-v` } : {},
    ...(kind === 'angle' ? { about: [0, 0, 1] } : {}),
  };
  return edited(document, { type: 'mate.put', mate: record, values });
}

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
    const placement = placeComponents(values, shapes);
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
    const pulled = placeComponents(values, shapes, { pull: { body: 'left high', point: [30, 0, 0], to: [30, 30, 0] } });
    expect(at(pulled.stances, 'left high', [30, 0, 0])[1]).toBeCloseTo(30, 6);
    const stance = pulled.stances.get('left high') ?? STILL;
    host = edited(host, {
      type: 'component.place',
      places: { left: { origin: [0, 0, 0], turn: [1, 0, 0, 0] } },
      inside: { left: { high: { origin: [...stance.origin], turn: [...stance.turn] } } },
    });
    values = openValues(host, sourceOf([LEVER, arm()]));
    expect(at(placeComponents(values, shapes).stances, 'left high', [30, 0, 0])[1]).toBeCloseTo(30, 6);
  });
});

describe('copies', () => {
  function repeated(
    form: 'linear' | 'circular',
    span: string,
    along: { axis: 'x' | 'y' | 'z' } | { path: string[]; body: string; name: string },
    more = {},
  ): Document {
    const host = withComponents(
      withParameters('assembly', 'rack', { n: '4' }),
      component('post', 'lever', { isAnchored: true }),
      component('rail', 'lever', { at: { origin: [50, 0, 0], turn: [1, 0, 0, 0] } }),
    );
    const value = (slot: string, text: string, kind: string): Parameter => ({
      type: 'parameter',
      id: `rail-${slot}`,
      owner: 'rail',
      name: `rail_${slot}`,
      formula: { text },
      kind,
    });
    return edited(host, {
      type: 'component.repeat',
      id: 'rail',
      pattern: { form, along, values: { count: 'rail-count', span: 'rail-span' }, ...more },
      values: [value('count', 'n', 'count'), value('span', span, form === 'linear' ? 'length' : 'angle')],
    });
  }
  const places = (host: Document): Record<string, number[]> => {
    const values = openValues(host, sourceOf([LEVER]));
    return Object.fromEntries(
      listPlaced(values, placeComponents(values, shapes).standing).map(({ name, at: stance }) => [
        name,
        stance.origin.map((v) => Math.round(v * 1e6) / 1e6 + 0),
      ]),
    );
  };

  test('stand in a row along an axis of the assembly, the other way, and without those that are skipped', () => {
    expect(places(repeated('linear', '25 mm', { axis: 'y' }))).toEqual({
      post: [0, 0, 0],
      'rail[1]': [50, 0, 0],
      'rail[2]': [50, 25, 0],
      'rail[3]': [50, 50, 0],
      'rail[4]': [50, 75, 0],
    });
    expect(places(repeated('linear', '25 mm', { axis: 'y' }, { isReversed: true, skip: [3] }))).toEqual({
      post: [0, 0, 0],
      'rail[1]': [50, 0, 0],
      'rail[2]': [50, -25, 0],
      'rail[4]': [50, -75, 0],
    });
  });

  test('stand round the axis of a face of another component', () => {
    // The tip of the post is 30 mm along x: the rail is 20 mm from it.
    const round = places(repeated('circular', '90 deg', { path: ['post'], body: 'b', name: 'tip' }));
    expect(round).toEqual({ post: [0, 0, 0], 'rail[1]': [50, 0, 0], 'rail[2]': [30, 20, 0], 'rail[3]': [10, 0, 0], 'rail[4]': [30, -20, 0] });
  });

  test('count in the parts list and in the mass, and follow a value that sets all of them', () => {
    const host = driven(repeated('linear', '25 mm', { axis: 'y' }), 'rail.size', '5 mm');
    const part = withParameters('part', 'lever', { size: '3 mm' });
    const source = sourceOf([part], () => ({ measured: {}, mass: { value: 2e8 }, volume: { value: 1 } }));
    const values = openValues(host, source);
    expect(listParts(values, source).map(({ quantity, set }) => [quantity, set])).toEqual([
      [1, ''],
      [4, 'size 5 mm'],
    ]);
    expect(values.components?.showWhole('mass')).toBe('10 kg');
  });

  test('no copies while their count has an error; none stands where the line is gone', () => {
    const host = edited(repeated('linear', '25 mm', { axis: 'y' }), { type: 'parameter.setFormula', id: 'rail-count', formula: { text: 'nothing' } });
    expect(Object.keys(places(host))).toEqual(['post', 'rail[1]']);
  });

  test('values that formulas read are not lost with the copies', () => {
    let host = repeated('linear', '25 mm', { axis: 'y' });
    host = edited(host, { type: 'parameter.add', parameter: { type: 'parameter', id: 'all', name: 'all', formula: { text: 'rail_count * 2' }, kind: 'any' } });
    expect(() => edited(host, { type: 'component.repeat', id: 'rail', pattern: null, values: [] })).toThrow(/rail_count/);
  });
});

describe('copies that follow a pattern', () => {
  const plate = withParameters('part', 'plate', {});
  const pegs = (skip: number[] = []): Document =>
    edited(
      withComponents(
        withParameters('assembly', 'unit', {}),
        component('plate', 'plate', { isAnchored: true, at: { origin: [5, 0, 0], turn: [...turnAbout(Z, Math.PI / 2)] } }),
        component('peg', 'lever', { at: { origin: [5, 10, 3], turn: [1, 0, 0, 0] } }),
      ),
      {
        type: 'component.repeat',
        id: 'peg',
        pattern: { form: 'followed', along: { path: ['plate'], step: 'holes' }, values: {}, ...(skip.length > 0 ? { skip } : {}) },
        values: [],
      },
    );
  /** Three places in a row along x of the plate, 10 mm apart, each turned by a right angle further about its z. */
  const turned = (place: number): { readonly place: number; readonly frame: Frame } => {
    const [c, s] = [Math.round(Math.cos((place * Math.PI) / 2)), Math.round(Math.sin((place * Math.PI) / 2))];
    return { place, frame: { origin: [10 * place, 0, 0], x: [c, s, 0], y: [-s, c, 0], normal: [0, 0, 1] } };
  };
  const stand = (host: Document, places: readonly number[] | undefined) => {
    const built = places && { measured: {}, places: { holes: places.map(turned) } };
    const values = openValues(
      host,
      sourceOf([LEVER, plate], (key) => (key.startsWith('plate') ? built : undefined)),
    );
    const { standing } = placeComponents(values, shapes);
    return listPlaced(values, standing).flatMap(({ name, at: { origin, turn } }) =>
      name.startsWith('peg')
        ? [[name, ...origin.map((one) => Math.round(one * 1e9) / 1e9 + 0), Math.round((2 * Math.atan2(turn[3], turn[0]) * 180) / Math.PI)]]
        : [],
    );
  };

  test('stand in its places, where its part stands, as many as it has', () => {
    // Seen from the plate, which is turned, the peg stands at (10, 0, 3): then at (10, 10, 3), and at (10, 0, 3) again, turned about.
    expect(stand(pegs(), [1, 2])).toEqual([
      ['peg[1]', 5, 10, 3, 0],
      ['peg[2]', -5, 10, 3, 90],
      ['peg[3]', 5, 10, 3, 180],
    ]);
    expect(stand(pegs([2]), [1, 2, 3]).map(([name]) => name)).toEqual(['peg[1]', 'peg[3]', 'peg[4]']);
  });

  test('wait while the part is not built; a pattern that is gone is said', () => {
    expect(stand(pegs(), undefined).map(([name]) => name)).toEqual(['peg[1]']);
    const values = openValues(pegs(), sourceOf([LEVER, plate]));
    const peg = values.document.records['peg'];
    if (peg?.type !== 'component') throw new Error('no peg');
    expect(patternProblem(values, peg, new Map([['peg', STILL]]))).toBe('The pattern that the copies follow is not there, or is being built.');
  });
});

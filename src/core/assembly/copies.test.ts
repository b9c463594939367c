/** Copies of components: where they stand, and mates that hold them. */
import { component, driven, sourceOf, withComponents, withParameters } from '../../../tests/support/assemblies';
import { edited } from '../../../tests/support/demo';
import { face, floor, LEVER, leverShapes, mated } from '../../../tests/support/levers';
import { makeRandom } from '../../../tests/support/random';
import { free, held, randomStance, spot, STILL, Z } from '../../../tests/support/random-assembly';
import type { Document, Parameter } from '../document';
import type { Frame, Point3 } from '../geometry';
import { combine, listPlaced, openValues, relativeTo, toOutside, turnAbout } from '../instances';
import { listParts, listWanted, patternProblem, placeComponents, solvePlacements, type Mate } from '.';

/** A value of the rails that are repeated. */
const value = (slot: string, text: string, kind: string): Parameter => ({
  type: 'parameter',
  id: `rail-${slot}`,
  owner: 'rail',
  name: `rail_${slot}`,
  formula: { text },
  kind,
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
      listPlaced(values, placeComponents(values, leverShapes).standing).map(({ name, at: stance }) => [
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
    const { standing } = placeComponents(values, leverShapes);
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

describe('mates that hold a copy', () => {
  const rack = (
    formulas: Readonly<Record<string, string>>,
    form: 'linear' | 'circular',
    along: { axis: 'x' | 'y' | 'z' } | { path: string[]; body: string; name: string },
  ) => {
    let host = withComponents(
      withParameters('assembly', 'rack', formulas),
      component('post', 'lever', { isAnchored: true }),
      component('arm', 'lever', { at: { origin: [30, 0, 0], turn: [1, 0, 0, 0] } }),
      component('rail', 'lever', { at: { origin: [50, 10, 5], turn: [...turnAbout(Z, 0.3)] } }),
    );
    host = edited(host, {
      type: 'component.repeat',
      id: 'rail',
      pattern: { form, along, values: { count: 'rail-count', span: 'rail-span' } },
      values: [value('count', 'n', 'count'), value('span', 'span', form === 'linear' ? 'length' : 'angle')],
    });
    return host;
  };
  const solve = (host: Document) => {
    const values = openValues(host, sourceOf([LEVER]));
    const placement = placeComponents(values, leverShapes);
    const at = new Map(listPlaced(values, placement.standing).map(({ name, at: stance }) => [name, stance]));
    return {
      placement,
      at,
      tip: (name: string) => toOutside(at.get(name) ?? STILL, [30, 0, 0]).map((v) => Math.round(v * 1e6) / 1e6 + 0),
      mate: (id: string) => placement.mates.get(id),
    };
  };
  const LINES = { axis: 'y' } as const;

  test('in a row: the third is brought to where it is held, and the others stand from it', () => {
    let host = mated(rack({ n: '4', span: '25 mm' }, 'linear', LINES), 'flat', 'coplanar', [floor(['post']), floor(['rail#3'])]);
    host = mated(host, 'pin', 'coaxial', [face(['post'], 'tip'), face(['rail#3'], 'hub')]);
    const { at, placement, mate } = solve(host);
    expect(mate('pin')).toMatchObject({ status: 'holds' });
    expect(placement.status).toBe('placed');
    const where = (name: string) => at.get(name)?.origin.map((v) => Math.round(v * 1e6) / 1e6 + 0);
    expect(['rail[1]', 'rail[2]', 'rail[3]', 'rail[4]'].map(where)).toEqual([
      [30, -50, 0],
      [30, -25, 0],
      [30, 0, 0],
      [30, 25, 0],
    ]);
    // About the axis it still turns, and all of them with it; nothing else is free but the arm, which no mate holds.
    expect(placement.degreesOfFreedom).toBe(1 + 6);
    const moved = solve(edited(host, { type: 'parameter.setFormula', id: 'rack-span', formula: { text: '40 mm' } }));
    expect(moved.at.get('rail[1]')?.origin[1]).toBeCloseTo(-80, 9);
  });

  test('round an axis: the tip of the second is held, and the first stands a quarter before it', () => {
    let host = mated(rack({ n: '4', span: '90 deg' }, 'circular', { axis: 'z' }), 'flat', 'coplanar', [floor(['post']), floor(['rail#2'])]);
    host = mated(host, 'hub', 'coaxial', [face(['post'], 'hub'), face(['rail#2'], 'hub')]);
    host = mated(
      host,
      'way',
      'angle',
      [
        { path: ['post'], axis: 'x' },
        { path: ['rail#2'], axis: 'x' },
      ],
      '120 deg',
    );
    const { tip, placement } = solve(host);
    expect(placement.degreesOfFreedom).toBe(6);
    const [c, s] = [30 * Math.cos(Math.PI / 6), 30 * Math.sin(Math.PI / 6)].map((v) => Math.round(v * 1e6) / 1e6);
    expect(tip('rail[2]')).toEqual([-(s ?? 0), c, 0]);
    expect(tip('rail[1]')).toEqual([c, s, 0]);
  });

  test('along a face of something that moves: what holds a copy turns that', () => {
    // The arm turns about the tip of the post; the rails are set out about its hub. Both the first rail and the second are held where only one angle of the arm has them.
    let host = rack({ n: '2', span: '60 deg' }, 'circular', { path: ['arm'], body: 'b', name: 'tip' });
    host = mated(host, 'arm_flat', 'coplanar', [floor(['post']), floor(['arm'])]);
    host = mated(host, 'arm_pin', 'coaxial', [face(['post'], 'tip'), face(['arm'], 'hub')]);
    host = mated(host, 'flat', 'coplanar', [floor(['post']), floor(['rail'])]);
    host = mated(host, 'first', 'coaxial', [{ path: [], axis: 'z' }, face(['rail'], 'hub')]);
    host = mated(
      host,
      'second',
      'coplanar',
      [
        { path: [], plane: 'side' },
        { path: ['rail#2'], axis: 'z' },
      ],
      '45 mm',
    );
    const { at, placement, mate } = solve(host);
    expect([...placement.mates.values()].map(({ status }) => status)).toEqual(['holds', 'holds', 'holds', 'holds', 'holds']);
    expect(mate('second')).toMatchObject({ status: 'holds' });
    const [first, second] = [at.get('rail[1]') ?? STILL, at.get('rail[2]') ?? STILL];
    const middle = toOutside(at.get('arm') ?? STILL, [30, 0, 0]);
    expect(Math.hypot(...first.origin)).toBeLessThan(1e-8);
    expect(second.origin[0]).toBeCloseTo(45, 8);
    // As far from what they are set out about, 60 degrees apart.
    const [p, q] = [first, second].map(({ origin }) => [origin[0] - middle[0], origin[1] - middle[1]] as const);
    const [[px = 0, py = 0] = [], [qx = 0, qy = 0] = []] = [p, q];
    expect(Math.hypot(px, py)).toBeCloseTo(Math.hypot(qx, qy), 8);
    expect((px * qx + py * qy) / Math.hypot(px, py) / Math.hypot(qx, qy)).toBeCloseTo(0.5, 8);
  });

  test('a copy that is not there is said; what cannot go together is told by the mates alone', () => {
    let host = mated(rack({ n: '2', span: '25 mm' }, 'linear', LINES), 'late', 'coaxial', [face(['post'], 'tip'), face(['rail#5'], 'hub')]);
    expect(solve(host).mate('late')).toMatchObject({ status: 'waiting', message: 'There is no rail[5]: rail has 2 copies in all.' });
    host = mated(host, 'one', 'coaxial', [face(['post'], 'tip'), face(['rail'], 'hub')]);
    host = mated(host, 'two', 'coaxial', [face(['post'], 'tip'), face(['rail#2'], 'hub')]);
    const { placement } = solve(host);
    expect(placement.mates.get('one')).toMatchObject({ status: 'conflicting', message: 'This mate conflicts with two.' });
    expect(placement.mates.get('two')).toMatchObject({ status: 'conflicting' });
  });

  test('the faces that it holds on to are asked for, though nothing else is held on the component', () => {
    const host = mated(rack({ n: '4', span: '25 mm' }, 'linear', LINES), 'pin', 'coaxial', [face(['post'], 'tip'), face(['rail#3'], 'hub')]);
    expect(listWanted(openValues(host, sourceOf([LEVER]))).map(({ name }) => name)).toEqual(['tip', 'hub']);
  });

  test('two of one component are no two; a component with held copies goes with its mates', () => {
    const host = rack({ n: '4', span: '25 mm' }, 'linear', LINES);
    expect(() => mated(host, 'itself', 'coaxial', [face(['rail'], 'tip'), face(['rail#2'], 'hub')])).toThrow(/two different components/);
    const held2 = mated(host, 'pin', 'coaxial', [face(['post'], 'tip'), face(['rail#2'], 'hub')]);
    expect(Object.keys(edited(held2, { type: 'component.remove', id: 'rail' }).records)).not.toContain('pin');
  });

  test('what a copy is held by must not drive how they are set out', () => {
    const host = mated(rack({ n: '3', span: 'gap', gap: '25 mm' }, 'linear', LINES), 'pin', 'coaxial', [face(['post'], 'tip'), face(['rail#2'], 'hub')]);
    const looped = edited(host, {
      type: 'parameter.add',
      parameter: {
        type: 'parameter',
        id: 'far',
        name: 'far',
        formula: { text: '' },
        kind: 'any',
        measure: { of: 'components', what: 'clearance', on: [{ path: ['post'] }, { path: ['rail'] }] },
      },
    });
    const values = openValues(edited(looped, { type: 'parameter.setFormula', id: 'rack-gap', formula: { text: 'far' } }), sourceOf([LEVER]));
    expect(values.show('rack-gap')?.diagnostics[0]?.message).toMatch(/far/);
  });

  test('law: the copy that is solved stands as the movement of its pattern has it, wherever that is fixed', () => {
    const random = makeRandom(20);
    const any = (size: number): Point3 => [random() * size, random() * size, random() * size];
    for (let n = 0; n < 60; n++) {
      const [frame, first, movement] = [randomStance(random, 80, 3), randomStance(random, 80, 3), randomStance(random, 80, 3)];
      const origin = spot([0, 0, 0]);
      const copy: Mate = {
        id: 'copy',
        kind: 'copy',
        first: { body: 'first', geometry: origin },
        second: { body: 'second', geometry: origin },
        third: { body: 'frame', geometry: origin },
        sense: 1,
        value: 0,
        within: movement,
      };
      const near = combine(frame, combine(movement, relativeTo(frame, first)));
      const { stances } = solvePlacements(
        [
          { ...held('frame'), at: frame },
          { ...held('first'), at: first },
          free('second', { origin: [near.origin[0] + 5, near.origin[1] - 4, near.origin[2] + 3], turn: near.turn }),
        ],
        [copy],
      );
      for (const point of [any(50), any(50)]) {
        const [a, b] = [toOutside(stances.get('second') ?? STILL, point), toOutside(near, point)];
        expect(Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2])).toBeLessThan(1e-7);
      }
    }
  });
});

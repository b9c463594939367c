/** In which ways bodies can still move, against what mates leave by hand; and as a law. */
import { makeRandom } from '../../../tests/support/random';
import { free, held, line, mate, plane, randomAssembly, sliderCrank, X, Z } from '../../../tests/support/random-assembly';
import type { Point3 } from '../geometry';
import { turnAbout } from '../instances';
import { freeMotions, solvePlacements, type Mate, type MatedBody } from '.';

const rounded = (way: Point3): string => way.map((v) => Math.round(v * 1e6) / 1e6 + 0).join(' ');
const told = (bodies: readonly MatedBody[], mates: readonly Mate[]) =>
  Object.fromEntries([...freeMotions(bodies, mates)].map(([id, all]) => [id, all.map(({ shift, turn }) => `${rounded(shift)} / ${rounded(turn)}`)]));

test('a shaft in a bore slides and turns; on a plane it shifts two ways and turns; held it does neither', () => {
  const axis = [mate('coaxial', ['base', line([0, 0, 0], X)], ['shaft', line([0, 0, 0], X)])];
  expect(told([held('base'), free('shaft')], axis)).toEqual({ shaft: ['0 0 0 / 1 0 0', '1 0 0 / 0 0 0'] });
  const flat = [mate('coplanar', ['base', plane([0, 0, 0], Z)], ['plate', plane([0, 0, 0], Z)])];
  expect(told([held('base'), free('plate')], flat)).toEqual({ plate: ['0 0 0 / 0 0 1', '1 0 0 / 0 0 0', '0 1 0 / 0 0 0'] });
  expect(
    told(
      [held('base'), free('plate')],
      [...flat, mate('together', ['base', plane([0, 0, 0], Z)], ['plate', plane([0, 0, 0], Z)], { within: { origin: [0, 0, 0], turn: [1, 0, 0, 0] } })],
    ),
  ).toEqual({});
});

test('a turn about an axis beside the origin of a body takes that along', () => {
  const pin = [
    mate('coaxial', ['base', line([30, 0, 0], Z)], ['arm', line([30, 0, 0], Z)]),
    mate('coplanar', ['base', plane([0, 0, 0], Z)], ['arm', plane([0, 0, 0], Z)]),
  ];
  // The origin of the arm stands 30 mm before the axis: it goes down as the arm turns.
  expect(told([held('base'), free('arm')], pin)).toEqual({ arm: ['0 -30 0 / 0 0 1'] });
});

test('of a slider and crank all move together; the slider along its line alone', () => {
  const [r, l] = [30, 100];
  const at = Math.PI / 3;
  const pin: Point3 = [r * Math.cos(at), r * Math.sin(at), 0];
  const x = pin[0] + Math.sqrt(l * l - pin[1] ** 2);
  const started = [
    held('base'),
    free('crank', { origin: [0, 0, 0], turn: turnAbout(Z, at) }),
    free('rod', { origin: pin, turn: turnAbout(Z, -Math.asin(pin[1] / l)) }),
    free('slider', { origin: [x, 0, 0], turn: [1, 0, 0, 0] }),
  ];
  const motions = told(started, sliderCrank(r, l));
  expect(motions['crank']).toEqual(['0 0 0 / 0 0 1']);
  expect(motions['slider']).toEqual(['1 0 0 / 0 0 0']);
});

test('law: what each body can do is what its freedom counts, in random assemblies', () => {
  for (let seed = 1; seed <= 25; seed++) {
    const { started, mates } = randomAssembly(seed, 8, seed % 3);
    const random = makeRandom(seed);
    const fewer = mates.filter(() => random() < 0.8);
    const solved = solvePlacements(started, fewer);
    if (solved.status !== 'placed') continue;
    const bodies = started.map((body) => ({ ...body, at: solved.stances.get(body.id) ?? body.at }));
    const motions = freeMotions(bodies, fewer);
    for (const [body, ways] of solved.freedom) expect(`${seed} ${body} ${(motions.get(body)?.length ?? 0) > 0}`).toBe(`${seed} ${body} ${ways > 0}`);
    for (const [body, own] of motions) expect(own.length).toBeLessThanOrEqual(solved.freedom.get(body) ?? 6);
  }
});

/** Slopes of readings by the values of mates: against closed forms, and against the solver moved by a hair. */
import { makeRandom } from '../../../tests/support/random';
import { free, held, line, mate, plane, sliderCrank, STILL, X, Z } from '../../../tests/support/random-assembly';
import { distanceOfLines, type Point3 } from '../geometry';
import { rotate, toOutside, turnAbout, type Stance } from '../instances';
import { readingSlopesByMates, solvePlacements, type Mate, type MatedBody, type PairReading } from '.';

const placed = (bodies: readonly MatedBody[], mates: readonly Mate[]): MatedBody[] => {
  const { stances } = solvePlacements(bodies, mates);
  return bodies.map((body) => ({ ...body, at: stances.get(body.id) ?? body.at }));
};

const [r, l] = [30, 100];
const crankMates = (angle: number): Mate[] => [
  ...sliderCrank(r, l),
  mate('angle', ['base', plane([0, 0, 0], X)], ['crank', plane([0, 0, 0], X)], { value: angle, about: Z }),
];
const LINKAGE = [
  held('base'),
  free('crank'),
  free('rod', { origin: [r, 0, 0], turn: STILL.turn }),
  free('slider', { origin: [r + l, 0, 0], turn: STILL.turn }),
];
const axes = (first: string, second: string): PairReading => ({
  what: 'axis-distance',
  first: { body: first, geometry: line([0, 0, 0], Z) },
  second: { body: second, geometry: line([0, 0, 0], Z) },
});

test('how fast a slider moves with its crank over a full turn, as the derivative of the closed form', () => {
  for (let step = 0; step < 24; step++) {
    const angle = ((step + 0.4) * Math.PI) / 12;
    const mates = crankMates(angle);
    const slopes = readingSlopesByMates(placed(LINKAGE, mates), mates, axes('base', 'slider'));
    const root = Math.sqrt(l * l - (r * Math.sin(angle)) ** 2);
    expect(slopes?.get(mates.at(-1)?.id ?? '')).toBeCloseTo(-r * Math.sin(angle) - (r * r * Math.sin(angle) * Math.cos(angle)) / root, 6);
  }
});

test('what is free and moves the reading has no slope; what is free beside it does not count', () => {
  const mates = crankMates(1);
  const loose = mates.slice(0, -1);
  expect(readingSlopesByMates(placed(LINKAGE, mates), loose, axes('base', 'slider'))).toBeUndefined();
  const beside = [...placed(LINKAGE, mates), free('beside')];
  expect(readingSlopesByMates(beside, mates, axes('base', 'slider'))?.size).toBe(mates.length);
});

test('mates that hold twice give way: their values move nothing', () => {
  const twice = [...crankMates(1), mate('angle', ['base', plane([0, 0, 0], X)], ['crank', plane([0, 0, 0], X)], { value: 1, about: Z })];
  const slopes = readingSlopesByMates(placed(LINKAGE, twice), twice, axes('base', 'slider'));
  expect([Math.abs(slopes?.get(twice.at(-1)?.id ?? '') ?? NaN), Math.abs(slopes?.get(twice.at(-2)?.id ?? '') ?? 0) > 1]).toEqual([0, true]);
});

test('of 60 random four-bar linkages: a distance and an angle by that of the crank, as the solver moves it', () => {
  const random = makeRandom(7);
  const between = (from: number, to: number): number => from + random() * (to - from);
  for (let run = 0; run < 60; run++) {
    // Grashof: the crank goes round.
    const [a, b, c, d] = [between(10, 25), between(60, 70), between(60, 70), between(70, 80)];
    const mates = (angle: number): Mate[] => [
      mate('coaxial', ['base', line([0, 0, 0], Z)], ['crank', line([0, 0, 0], Z)]),
      mate('coplanar', ['base', plane([0, 0, 0], Z)], ['crank', plane([0, 0, 0], Z)]),
      mate('angle', ['base', plane([0, 0, 0], X)], ['crank', plane([0, 0, 0], X)], { value: angle, about: Z }),
      mate('coaxial', ['crank', line([a, 0, 0], Z)], ['coupler', line([0, 0, 0], Z)]),
      mate('coplanar', ['crank', plane([0, 0, 0], Z)], ['coupler', plane([0, 0, 0], Z)]),
      mate('coaxial', ['base', line([d, 0, 0], Z)], ['rocker', line([0, 0, 0], Z)]),
      mate('coaxial', ['coupler', line([b, 0, 0], Z)], ['rocker', line([c, 0, 0], Z)]),
      mate('coplanar', ['base', plane([0, 0, 0], Z)], ['rocker', plane([0, 0, 0], Z)]),
    ];
    const angle = between(0, 2 * Math.PI);
    const tilted = (origin: Point3, turn: number): Stance => ({ origin, turn: turnAbout(Z, turn) });
    const pin: Point3 = [a * Math.cos(angle), a * Math.sin(angle), 0];
    const began = [held('base'), free('crank', tilted([0, 0, 0], angle)), free('coupler', tilted(pin, 0.8)), free('rocker', tilted([d, 0, 0], 2))];
    const now = mates(angle);
    const solved = solvePlacements(began, now);
    expect(solved.status).toBe('placed');
    const bodies = placed(began, now);
    const corner = (stances: ReadonlyMap<string, Stance>): number => Math.hypot(...toOutside(stances.get('rocker') ?? STILL, [c, 0, 0]));
    const swing = (stances: ReadonlyMap<string, Stance>): number => Math.acos(Math.abs(rotate((stances.get('rocker') ?? STILL).turn, X)[0]));
    const readings: [PairReading, (stances: ReadonlyMap<string, Stance>) => number][] = [
      [{ what: 'axis-distance', first: { body: 'base', geometry: line([0, 0, 0], Z) }, second: { body: 'rocker', geometry: line([c, 0, 0], Z) } }, corner],
      [{ what: 'angle', first: { body: 'base', geometry: line([0, 0, 0], X) }, second: { body: 'rocker', geometry: line([0, 0, 0], X) } }, swing],
    ];
    for (const [reading, read] of readings) {
      const hair = 1e-5;
      const [up = NaN, down = NaN] = [hair, -hair].map((by) => {
        const moved = now.map((one) => (one.kind === 'angle' ? { ...one, value: angle + by } : one));
        return read(solvePlacements(bodies, moved).stances);
      });
      const exact = readingSlopesByMates(bodies, now, reading)?.get(now[2]?.id ?? '') ?? NaN;
      expect([run, reading.what, Math.abs(exact - (up - down) / (2 * hair)) < 1e-4 * Math.max(1, Math.abs(exact))]).toEqual([run, reading.what, true]);
    }
  }
});

test('a distance of axes is read as it stands', () => {
  const mates = crankMates(0.7);
  const bodies = placed(LINKAGE, mates);
  const at = (id: string) => bodies.find((body) => body.id === id)?.at ?? STILL;
  const axis = (id: string) => ({ origin: toOutside(at(id), [0, 0, 0]), direction: rotate(at(id).turn, Z) });
  expect(distanceOfLines(axis('base'), axis('slider'))).toBeCloseTo(r * Math.cos(0.7) + Math.sqrt(l * l - (r * Math.sin(0.7)) ** 2), 6);
});

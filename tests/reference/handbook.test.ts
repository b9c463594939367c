/**
 * Worked relations of the trade. Thread geometry: ISO 68-1 (H = (√3/2) P; d2 = d - 0.75 H; d1 = d - 1.25 H), the
 * values of M8 x 1.25 and M10 x 1.5 as tabulated in ISO 724. Steel at 7.85 g/cm³: common practice, no
 * source. Belt length: closed form by geometry. Values entered from memory.
 */
import { evaluate, valueIn } from '../support/values';

test.each([
  ['M8', '8 mm', '1.25 mm', 7.188, 6.647],
  ['M10', '10 mm', '1.5 mm', 9.026, 8.376],
  ['M6', '6 mm', '1 mm', 5.35, 4.917],
])('pitch and minor diameter of %s', (_, d, p, pitch, minor) => {
  const thread = { d, p, H: 'sqrt(3)/2 * p' };
  expect(Number(valueIn('mm', 'd - 0.75*H', thread))).toBeCloseTo(pitch, 3);
  expect(Number(valueIn('mm', 'd - 1.25*H', thread))).toBeCloseTo(minor, 3);
});

test('mass of a steel flat from mixed units', () => {
  expect(valueIn('g', '100 mm * 5 cm * 0.02 m * 7.85 g/cm^3')).toBe('785');
});

test('torque as force times radius, and the force back from it', () => {
  const values = { torque: '12 N * 45 mm / 2', lever: '0.18 m' };
  expect(valueIn('N*m', 'torque', values)).toBe('0.27');
  expect(valueIn('N', 'torque / lever', values)).toBe('1.5');
});

test('length of an open belt around two pulleys', () => {
  const pulleys = { D: '200 mm', d: '100 mm', C: '500 mm', beta: 'asin((D - d)/(2*C))' };
  const length = Number(valueIn('mm', '2*C*cos(beta) + pi*(D + d)/2 + beta*(D - d) + 0 mm', pulleys));
  expect(length).toBeCloseTo(1476.2431, 4);
});

test('bolt circle chord', () => {
  expect(Number(valueIn('mm', '100 mm * sin(180 deg / 5)'))).toBeCloseTo(58.7785, 4);
});

test('absolute temperatures and differences are different things', () => {
  expect(valueIn('°F', '100 °C')).toBe('212');
  expect(evaluate('20 °C + 5 °C').diagnostics[0]?.code).toBe('temperature-arithmetic');
});

import jstat from 'jstat';
import { all, create } from 'mathjs';
import { ANY_SLOT } from '../src/core/formula';
import { sampleSheet, Sheet } from '../src/core/network';
import { drawBetween, evenNumbers } from '../src/core/studies';
import { MILLIMETRES } from '../src/core/units';
import { compare, type Row } from './support';

/** Contributors and draws of a stack. */
const CONTRIBUTORS = 10;
const DRAWS = 20_000;

const VALUES = 1_000;
const SAMPLES = 10_000;

/** Each value reads two earlier ones; no two neighbours are of one shape. */
function text(i: number): string {
  const [a, b, k] = [`n_${(i - 1) >> 1}`, `n_${Math.floor((i - 1) / 3)}`, factor(i)];
  return [`${k}*${a} + 0.2*${b}`, `${a}*0.5 + ${b}*${k}`, `(${a} + ${b})/${2 + k}`, `${a} - ${b}*${k}`, `sqrt(${a}*${a} + ${b}*${b})*0.5`][i % 5] ?? a;
}

function factor(i: number): number {
  return ((i * 37) % 89) / 100 + 0.1;
}

/** The same by hand: what someone would write who needs just these numbers, without units, names or a word about what is wrong. */
function byHand(samples: Float64Array): Float64Array[] {
  const factors = Float64Array.from({ length: VALUES }, (_, i) => factor(i));
  const v = new Float64Array(VALUES);
  const out = Array.from({ length: VALUES }, () => new Float64Array(samples.length));
  for (let s = 0; s < samples.length; s++) {
    v[0] = samples[s] as number;
    for (let i = 1; i < VALUES; i++) {
      const a = v[(i - 1) >> 1] as number;
      const b = v[Math.floor((i - 1) / 3)] as number;
      const k = factors[i] as number;
      switch (i % 5) {
        case 0:
          v[i] = k * a + 0.2 * b;
          break;
        case 1:
          v[i] = a * 0.5 + b * k;
          break;
        case 2:
          v[i] = (a + b) / (2 + k);
          break;
        case 3:
          v[i] = a - b * k;
          break;
        default:
          v[i] = Math.sqrt(a * a + b * b) * 0.5;
      }
    }
    for (let i = 0; i < VALUES; i++) (out[i] as Float64Array)[s] = v[i] as number;
  }
  return out;
}

/** A network of 1,000 values over 10,000 samples, all of them wanted. */
export function benchLanes(): Row[] {
  const sheet = new Sheet(MILLIMETRES);
  const texts = Array.from({ length: VALUES }, (_, i) => (i === 0 ? '25 mm' : text(i)));
  texts.forEach((formula, i) => sheet.define(`n_${i}`, { kind: 'formula', name: `n_${i}`, text: formula, slot: ANY_SLOT }));
  sheet.settle();
  const wanted = texts.map((_, i) => `n_${i}`);
  const samples = Float64Array.from({ length: SAMPLES }, (_, i) => 10_000 + i * 37);
  const ours = { name: 'warpbeam', count: 1, run: () => sampleSheet(sheet, new Map([['n_0', samples]]), wanted, SAMPLES, 'compiled') };
  const read = { name: 'warpbeam, instructions read', count: 1, run: () => sampleSheet(sheet, new Map([['n_0', samples]]), wanted, SAMPLES, 'interpreted') };

  const math = create(all ?? {}, {});
  const compiled = texts.map((formula) => math.compile(formula));
  const few = samples.subarray(0, 4);
  const withUnits = (): unknown => {
    let last: unknown;
    for (const sample of few) {
      const scope: Record<string, unknown> = { n_0: math.unit(sample, 'um') };
      for (let i = 1; i < VALUES; i++) scope[`n_${i}`] = compiled[i]?.evaluate(scope);
      last = scope[`n_${VALUES - 1}`];
    }
    return last;
  };
  return [
    benchDraws(),
    compare('10,000 samples of 1,000 values, without code of their own', '0.33 x', read, {
      name: 'a plain loop by hand',
      count: 1,
      run: () => byHand(samples),
    }),
    compare('10,000 samples of 1,000 values', '0.33 x; goal 0.67 x', ours, { name: 'a plain loop by hand', count: 1, run: () => byHand(samples) }),
    compare(
      'the same, with units: for each sample',
      '500 x',
      { name: 'warpbeam', count: SAMPLES, run: ours.run },
      { name: 'mathjs compiled, Unit values', count: few.length, run: withUnits },
    ),
  ];
}

/** A sum of normally distributed contributors. */
function benchDraws(): Row {
  const sheet = new Sheet(MILLIMETRES);
  const names = Array.from({ length: CONTRIBUTORS }, (_, i) => `c_${i}`);
  for (const name of names) sheet.define(name, { kind: 'formula', name, text: '10 mm', slot: ANY_SLOT });
  sheet.define('sum', { kind: 'formula', name: 'sum', text: names.join(' + '), slot: ANY_SLOT });
  sheet.settle();
  const run = (): unknown => {
    const random = evenNumbers(1);
    const set = new Map<string, Float64Array>();
    for (const name of names) {
      const column = new Float64Array(DRAWS);
      for (let draw = 0; draw < DRAWS; draw++) column[draw] = drawBetween(99_000, 101_000, 'normal', random);
      set.set(name, column);
    }
    return sampleSheet(sheet, set, ['sum'], DRAWS);
  };
  const theirs = (): unknown => {
    const sums = new Float64Array(DRAWS);
    for (let draw = 0; draw < DRAWS; draw++) {
      let sum = 0;
      for (let i = 0; i < CONTRIBUTORS; i++) sum += jstat.normal.sample(100_000, 333.3);
      sums[draw] = sum;
    }
    return sums;
  };
  return compare('20,000 draws of 10 contributors', '3 x; goal 6 x', { name: 'warpbeam', count: 1, run }, { name: 'jstat', count: 1, run: theirs });
}

/** How a dimension lies between its limits when many are made, drawn at random from a seed. */
import cos from '@stdlib/math-base-special-cos';
import ln from '@stdlib/math-base-special-ln';

/** Evenly; normally, the limits three standard deviations from the middle; or as a triangle that is highest in the middle. */
export const DISTRIBUTIONS = ['even', 'normal', 'triangular'] as const;
export type Distribution = (typeof DISTRIBUTIONS)[number];

/** The same seed gives the same numbers. Mulberry32: 32 bits of state, evenly spread numbers from 0 to below 1; in the public domain. */
export function evenNumbers(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
}

/** One amount. A normal one may lie outside its limits, as 0.27 % do. */
export function drawBetween(lower: number, upper: number, distribution: Distribution, random: () => number): number {
  const width = upper - lower;
  switch (distribution) {
    case 'even':
      return lower + width * random();
    case 'triangular':
      return lower + (width * (random() + random())) / 2;
    case 'normal': {
      // G. E. P. Box and M. E. Muller, A note on the generation of random normal deviates, Ann. Math. Statist. 29 (1958).
      const radius = Math.sqrt(-2 * ln(1 - random()));
      return lower + width / 2 + (width / 6) * radius * cos(2 * Math.PI * random());
    }
  }
}

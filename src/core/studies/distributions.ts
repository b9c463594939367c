/** How a dimension lies between its limits when many are made, drawn at random from a seed. */
import exp from '@stdlib/math-base-special-exp';
import ln from '@stdlib/math-base-special-ln';
import type { Distribution } from '../document';

/** The same seed gives the same numbers. Mulberry32: 32 bits of state, evenly spread numbers from 0 to below 1; in the public domain. */
export function evenNumbers(seed: number): () => number {
  // In an array of its own: a variable of more than 31 bits would be made anew at every draw.
  const state = Uint32Array.of(seed);
  return () => {
    const next = (state[0] as number) + 0x6d2b79f5;
    state[0] = next;
    let mixed = Math.imul(next ^ (next >>> 15), next | 1);
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
    case 'normal':
      return lower + width / 2 + (width / 6) * drawNormal(random);
  }
}

const LAYERS = 128;
/** Where the tail begins, in standard deviations, and the area of each layer, for so many layers. */
const TAIL = 3.442619855899;
const AREA = 9.91256303526217e-3;

/** Half the widths of the layers under the bell, the lowest and widest first; of the lowest, as wide as its area without a tail. */
const WIDTHS = layerWidths();
/** Of each layer, the share within which it lies under the bell for all its height. */
const INSIDE = WIDTHS.subarray(0, LAYERS).map((width, layer) => (WIDTHS[layer + 1] as number) / width);

function layerWidths(): Float64Array {
  const widths = new Float64Array(LAYERS + 1);
  widths[0] = AREA / bell(TAIL);
  widths[1] = TAIL;
  for (let layer = 2; layer < LAYERS; layer++) {
    const before = widths[layer - 1] as number;
    widths[layer] = Math.sqrt(-2 * ln(AREA / before + bell(before)));
  }
  return widths;
}

function bell(x: number): number {
  return exp(-0.5 * x * x);
}

/**
 * In standard deviations from the mean. G. Marsaglia and W. W. Tsang, The ziggurat method for generating random variables, Journal of Statistical Software
 * 5 (2000), with the places in layers told apart from the layers as J. A. Doornik does, An improved ziggurat method (2005). 99 of 100 draws are one even
 * number, one comparison and one product.
 */
function drawNormal(random: () => number): number {
  for (;;) {
    // The first seven bits say the layer, the rest the place in it.
    const drawn = random() * LAYERS;
    const layer = drawn | 0;
    const place = 2 * (drawn - layer) - 1;
    const width = WIDTHS[layer] as number;
    if (Math.abs(place) < (INSIDE[layer] as number)) return place * width;
    if (layer === 0) return place < 0 ? -drawTail(random) : drawTail(random);
    const x = place * width;
    const [high, low] = [bell(width), bell(WIDTHS[layer + 1] as number)];
    if (high + random() * (low - high) < bell(x)) return x;
  }
}

/** Beyond the beginning of the tail. G. Marsaglia, Generating a variable from the tail of the normal distribution, Technometrics 6 (1964). */
function drawTail(random: () => number): number {
  for (;;) {
    const beyond = -ln(1 - random()) / TAIL;
    if (-2 * ln(1 - random()) > beyond * beyond) return TAIL + beyond;
  }
}

/** Range runs: one value at many amounts, or two, what others come to there, and where anything is wrong. */
import type { Document, DocumentValues } from '../document';
import { heldAmong, problemsOfValues } from './problems';
import type { Sampler } from './sampler';

/** What is read at one amount; what only geometry tells comes from outside. */
export interface Outcome {
  /** By what was asked for, in internal units; not a number where it has none. */
  readonly outputs: Readonly<Record<string, number>>;
  /** Errors, broken guards, steps that fail; none where all is well. */
  readonly problems: readonly string[];
}

interface Judged extends Outcome {
  /** Names of what rests on an outside calculation that answered for other inputs: none is asked in a run. */
  readonly held: readonly string[];
}

export interface RangeSample extends Judged {
  readonly at: number;
}

export interface MapSample extends Judged {
  /** Of the first and of the second value. */
  readonly at: readonly [number, number];
}

/** Regenerates a state and gives what it measures, and what fails; undefined to stop. */
export type BuildState = (document: Document, values: DocumentValues) => Promise<Outcome | undefined>;

/** So many amounts from one to another, both among them. */
export function evenly(from: number, to: number, count: number): number[] {
  if (count < 2) return [from];
  return Array.from({ length: count }, (_, i) => (i === count - 1 ? to : from + ((to - from) * i) / (count - 1)));
}

/**
 * Runs the value through the amounts. `build` regenerates a state and gives what it measures, and what fails; without it only values are read.
 * Told of each sample as it is done; ends early where `build` gives undefined.
 */
export async function runRange(
  sampler: Sampler,
  amounts: readonly number[],
  outputs: readonly string[],
  build?: BuildState,
  onSample: (sample: RangeSample) => void = () => undefined,
): Promise<RangeSample[]> {
  const samples: RangeSample[] = [];
  for (const at of amounts) {
    const judged = await judgeAt(sampler, [at], outputs, build);
    if (!judged) break;
    const sample = { at, ...judged };
    samples.push(sample);
    onSample(sample);
  }
  return samples;
}

/** The same for two values, over all pairs of their amounts. */
export async function runMap(
  sampler: Sampler,
  [first, second]: readonly [readonly number[], readonly number[]],
  outputs: readonly string[],
  build?: BuildState,
  onSample: (sample: MapSample) => void = () => undefined,
): Promise<MapSample[]> {
  const samples: MapSample[] = [];
  for (const at of pairsOf(first, second)) {
    const judged = await judgeAt(sampler, at, outputs, build);
    if (!judged) return samples;
    const sample = { at, ...judged };
    samples.push(sample);
    onSample(sample);
  }
  return samples;
}

/** All pairs of amounts: to and fro, so that from one to the next only one of them is another. */
export function pairsOf(first: readonly number[], second: readonly number[]): (readonly [number, number])[] {
  const back = [...first].reverse();
  return second.flatMap((other, turn) => (turn % 2 === 0 ? first : back).map((one) => [one, other] as const));
}

/** What the document comes to with the values of the sampler at amounts; undefined to stop. */
export async function judgeAt(sampler: Sampler, amounts: readonly number[], outputs: readonly string[], build?: BuildState): Promise<Judged | undefined> {
  sampler.at(amounts);
  const built = build ? await build(sampler.document, sampler.values) : { outputs: {}, problems: [] };
  if (!built) return undefined;
  const { values } = sampler;
  const read = Object.fromEntries(outputs.map((id) => [id, values.sheet.readNumber(id)]));
  return { held: heldAmong(values, outputs), outputs: { ...read, ...built.outputs }, problems: [...problemsOfValues(values), ...built.problems] };
}

export interface SafeRange {
  readonly from: number;
  readonly to: number;
}

/** Stretches of neighbouring samples in which nothing is wrong. */
export function safeRanges(samples: readonly RangeSample[]): SafeRange[] {
  const ranges: { from: number; to: number }[] = [];
  let isOpen = false;
  for (const { at, problems } of [...samples].sort((a, b) => a.at - b.at)) {
    const last = ranges.at(-1);
    if (problems.length > 0) isOpen = false;
    else if (isOpen && last) last.to = at;
    else {
      ranges.push({ from: at, to: at });
      isOpen = true;
    }
  }
  return ranges;
}

/** How often the stretch between a sample that is well and one that is not is halved. */
const HALVINGS = 14;

/**
 * The safe range around an amount, closed in on from the samples: its ends are moved towards the neighbours at which something is wrong, by halves. What
 * fails between two samples that are well is not seen. Undefined where something is wrong at the amount itself, or as soon as `isWell` gives undefined.
 */
export async function closeSafeRange(
  samples: readonly RangeSample[],
  around: number,
  isWell: (at: number) => Promise<boolean | undefined>,
): Promise<SafeRange | undefined> {
  const sorted = [...samples].sort((a, b) => a.at - b.at);
  const here = await isWell(around);
  if (here !== true) return undefined;
  const end = async (beyond: readonly RangeSample[]): Promise<number | undefined> => {
    const failing = beyond.findIndex(({ problems }) => problems.length > 0);
    if (failing < 0) return beyond.at(-1)?.at ?? around;
    let [well, wrong] = [beyond[failing - 1]?.at ?? around, (beyond[failing] as RangeSample).at];
    for (let halving = 0; halving < HALVINGS; halving++) {
      const middle = (well + wrong) / 2;
      const answer = await isWell(middle);
      if (answer === undefined) return undefined;
      if (answer) well = middle;
      else wrong = middle;
    }
    return well;
  };
  const from = await end(sorted.filter(({ at }) => at < around).reverse());
  const to = from === undefined ? undefined : await end(sorted.filter(({ at }) => at > around));
  return from === undefined || to === undefined ? undefined : { from, to };
}

/** A range run: one value at many amounts, what others come to there, and where anything is wrong. */
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

export interface RangeSample extends Outcome {
  readonly at: number;
  /** Names of what rests on an outside calculation that answered for other inputs: none is asked in a run. */
  readonly held: readonly string[];
}

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
  build?: (document: Document, values: DocumentValues) => Promise<Outcome | undefined>,
  onSample: (sample: RangeSample) => void = () => undefined,
): Promise<RangeSample[]> {
  const samples: RangeSample[] = [];
  for (const at of amounts) {
    const document = sampler.at(at);
    const built = build ? await build(document, sampler.values) : { outputs: {}, problems: [] };
    if (!built) break;
    const { values } = sampler;
    const read = Object.fromEntries(outputs.map((id) => [id, values.sheet.readNumber(id)]));
    const held = heldAmong(values, outputs);
    const sample = { at, held, outputs: { ...read, ...built.outputs }, problems: [...problemsOfValues(values), ...built.problems] };
    samples.push(sample);
    onSample(sample);
  }
  return samples;
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

/** Interleaved rounds of several candidates in one process, by CPU time; medians, and ratios to a baseline. */

export interface Candidate {
  readonly name: string;
  /** Does the work `count` times. */
  readonly run: (count: number) => unknown;
  /** How often in a round, so that a round takes some milliseconds. */
  readonly count: number;
}

export interface Row {
  readonly what: string;
  readonly ours: string;
  readonly baseline: string;
  readonly ratio: number;
  readonly reach: string;
}

const ROUNDS = 9;

/** Median CPU microseconds of one piece of work, for each candidate. The first round is thrown away. */
export function measure(candidates: readonly Candidate[]): Map<string, number> {
  const samples = new Map<string, number[]>(candidates.map(({ name }) => [name, []]));
  for (let round = 0; round <= ROUNDS; round++) {
    for (const { name, run, count } of candidates) {
      const before = process.cpuUsage();
      run(count);
      const { user, system } = process.cpuUsage(before);
      if (round > 0) samples.get(name)?.push((user + system) / count);
    }
  }
  return new Map([...samples].map(([name, values]) => [name, median(values)]));
}

export function compare(what: string, reach: string, ours: Candidate, baseline: Candidate): Row {
  const times = measure([ours, baseline]);
  const [mine, theirs] = [times.get(ours.name) ?? NaN, times.get(baseline.name) ?? NaN];
  return { what, ours: `${ours.name} ${microseconds(mine)}`, baseline: `${baseline.name} ${microseconds(theirs)}`, ratio: theirs / mine, reach };
}

export function microseconds(value: number): string {
  if (value >= 1000) return `${(value / 1000).toPrecision(3)} ms`;
  return value >= 1 ? `${value.toPrecision(3)} µs` : `${(value * 1000).toPrecision(3)} ns`;
}

export function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[sorted.length >> 1] ?? NaN;
}

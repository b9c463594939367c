/**
 * One program over many samples at once.
 *
 * Samples go through in blocks of {@link LANES}; within a block a value is a *column*, a number for each sample, and one instruction is done
 * for the whole column before the next one. What is the same in all samples stays one number. Only what lies between the values that are set
 * and those that are wanted is computed. The numbers are those that `evaluate` would give for each sample alone, to the bit.
 */
import { ranksBetween } from './cone';
import type { State } from './evaluate';
import { compileLanes, type CompiledLanes } from './lane-compiler';
import { LANES, runSteps, type Steps } from './lane-machine';
import { planLanes, refreshPlan, type Ending, type LanePlan, type Limit } from './lane-plan';
import type { Program } from './program';
import { judge, type Bound } from './rules';
import { WASM, type WasmEngine } from './wasm-engine';

/** By the loop that reads instructions, or by code that is made of them: the numbers are the same. */
export type LaneTier = 'interpreted' | 'compiled';

/** Fewer samples are done before their code is made. */
const WORTH_COMPILING = 4 * LANES;

/**
 * What the wanted values, by index, come to in each sample: a column for each, not a number where it is refused. `set` has a column of as many
 * numbers for each value that is set, whatever it is computed from else; all others are as in the state.
 */
export function evaluateLanes(
  program: Program,
  state: State,
  set: ReadonlyMap<number, Float64Array>,
  wanted: readonly number[],
  count: number,
  tier: LaneTier = count >= WORTH_COMPILING ? 'compiled' : 'interpreted',
): Float64Array[] {
  const { numbers } = state;
  const prepared = prepare(program, numbers, [...set.keys()], wanted);
  const { plan } = prepared;
  const { lanes, run } = tier === 'compiled' && WASM ? compiled(WASM, prepared) : interpreted(plan);
  const inputs = [...set].flatMap(([index, samples]) => {
    const column = plan.columnOf(program.entries[index]?.place ?? -1);
    return column === undefined ? [] : [{ column, samples }];
  });
  const results = wanted.map((index) => {
    const place = program.entries[index]?.place ?? -1;
    const column = plan.columnOf(place);
    const out = new Float64Array(count);
    return { column, out: column === undefined ? out.fill(numbers[place] ?? NaN) : out };
  });
  for (let from = 0; from < count; from += LANES) {
    const n = Math.min(LANES, count - from);
    for (const { column, samples } of inputs) lanes.set(samples.subarray(from, from + n), column);
    run(n);
    for (const { column, out } of results) if (column !== undefined) out.set(lanes.subarray(column, column + n), from);
  }
  return results.map(({ out }) => out);
}

interface Prepared {
  readonly key: string;
  readonly plan: LanePlan;
  code?: CompiledLanes;
}

/** What was run last of a program: the same question is asked again and again, of other numbers. */
const known = new WeakMap<Program, Prepared>();

function prepare(program: Program, numbers: Float64Array, set: readonly number[], wanted: readonly number[]): Prepared {
  const key = `${set.join()} ${wanted.join()}`;
  const before = known.get(program);
  if (before?.key === key) {
    refreshPlan(before.plan, numbers);
    return before;
  }
  const prepared = { key, plan: planLanes(program, numbers, set, ranksBetween(program, set, wanted)) };
  known.set(program, prepared);
  return prepared;
}

function compiled(engine: WasmEngine, prepared: Prepared): CompiledLanes {
  const { plan } = prepared;
  if (!prepared.code?.isCurrent()) prepared.code = compileLanes(engine, plan, (lanes, ending, n) => holdAt(plan, lanes, ending, n));
  return prepared.code;
}

function interpreted(plan: LanePlan): Pick<CompiledLanes, 'lanes' | 'run'> {
  const lanes = new Float64Array(plan.columns * LANES);
  return { lanes, run: (n) => runPlan(plan, lanes, n) };
}

function holdAt({ endings, steps }: LanePlan, lanes: Float64Array, at: number, n: number): void {
  const ending = endings[at];
  if (ending?.rules) holdToRules(ending, ending.rules, steps, lanes, n);
}

function runPlan({ steps, endings }: LanePlan, lanes: Float64Array, n: number): void {
  let from = 0;
  for (const ending of endings) {
    runSteps(steps, from, ending.at, lanes, n);
    from = ending.at;
    if (ending.rules) holdToRules(ending, ending.rules, steps, lanes, n);
    else dropEndless(lanes, ending.column, n);
  }
}

/** A number that is not finite is none. */
function dropEndless(lanes: Float64Array, column: number, n: number): void {
  for (let i = column; i < column + n; i++) {
    const value = lanes[i] as number;
    if (value - value !== 0) lanes[i] = NaN;
  }
}

function holdToRules({ column }: Ending, rules: NonNullable<Ending['rules']>, steps: Steps, lanes: Float64Array, n: number): void {
  for (let i = 0; i < n; i++) {
    const value = lanes[column + i] as number;
    const isNumber = value - value === 0;
    const verdict = isNumber ? judge(rules.definition, value, boundIn(rules.least, steps, lanes, i), boundIn(rules.most, steps, lanes, i)) : NaN;
    lanes[column + i] = typeof verdict === 'number' ? verdict : NaN;
  }
}

function boundIn(limit: Limit | undefined, { scalars }: Steps, lanes: Float64Array, lane: number): Bound | undefined {
  if (!limit) return undefined;
  const value = limit.from < 0 ? scalars[-1 - limit.from] : lanes[limit.from + lane];
  return { value: value ?? NaN, text: limit.text };
}

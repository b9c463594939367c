/**
 * The instructions of a lane plan as WebAssembly: for each value one loop over its column, two lanes at a time, its scratch in registers.
 *
 * Every instruction gives the bits that the machine of single values gives: the arithmetic of WebAssembly is that of IEEE 754, as that of
 * JavaScript, and whatever is more than arithmetic calls the same function. A refusal is not a number: conditions of refusal are masks of all
 * ones, which are not numbers, laid over the result.
 */
import { INTERPOLATE, interpolate, LOOKUP, lookUp, operationAt, type OperationName } from '../formula';
import { COPY, LANES, STEP, type Operand } from './lane-machine';
import { CODE, WRITTEN, type Instruction, type OperationPen, type Written } from './lane-operations';
import type { LanePlan } from './lane-plan';
import type { WasmEngine } from './wasm-engine';
import { ByteWriter, F64, I32, V128, writeModule, type ImportedFunction, type OwnFunction } from './wasm-bytes';

/** Runs the plan over the first `n` lanes, with the numbers of the plan as they are. */
export type RunLanes = (n: number) => void;

export interface CompiledLanes {
  readonly lanes: Float64Array;
  readonly run: RunLanes;
  /** Whether it is still of its plan, whose numbers are others by now: an exponent is part of the code. */
  readonly isCurrent: () => boolean;
}

/** Values in one function: engines make fast code of functions one by one, and of small ones sooner. */
const VALUES_IN_ONE = 32;
const PAGE = 65_536;

/** `hold` has the value of an ending, by its place among them, keep to its rules in the first `n` lanes. */
export function compileLanes(engine: WasmEngine, plan: LanePlan, hold: (lanes: Float64Array, ending: number, n: number) => void): CompiledLanes {
  const writer = new LaneWriter(plan);
  const functions: OwnFunction[] = [];
  for (let first = 0; first < plan.endings.length; first += VALUES_IN_ONE) {
    functions.push(writer.write(first, Math.min(first + VALUES_IN_ONE, plan.endings.length)));
  }
  const { tables, scalars } = plan.steps;
  // The numbers lie behind the columns.
  const memory = new engine.Memory({ initial: Math.max(1, Math.ceil((8 * (plan.columns * LANES + scalars.length)) / PAGE)) });
  const lanes = new Float64Array(memory.buffer, 0, plan.columns * LANES);
  const numbers = new Float64Array(memory.buffer, 8 * plan.columns * LANES, scalars.length);
  const env: Record<string, unknown> = {
    memory,
    hold: (ending: number, bytes: number) => hold(lanes, ending, bytes / 8),
    lookUp: (table: number, column: number, key: number) => (tables[table] ? lookUp(tables[table], column, key) : NaN),
    interpolate: (table: number, column: number, key: number) => (tables[table] ? interpolate(tables[table], column, key) : NaN),
  };
  for (const { name, operation } of writer.called) env[name] = operationAt(operation)?.apply ?? ((): number => NaN);
  const { exports } = new engine.Instance(new engine.Module(writeModule(writer.imports, functions)), { env });
  const runs = functions.map(({ name }) => exports[name] as (bytes: number) => void);
  return {
    lanes,
    run: (n) => {
      numbers.set(scalars);
      // Lanes go in pairs: the last one of an odd number has a neighbour that nobody reads.
      const bytes = 8 * (n + (n % 2));
      for (const run of runs) run(bytes);
    },
    isCurrent: () => [...writer.exponents].every(([at, exponent]) => Object.is(scalars[at], exponent)),
  };
}

// Local variables: the bytes of all lanes, the bytes of those that are done, two zeroes, and some for scratch; from there on those of the plan.
const [BYTES, AT, ZERO, SCRATCH, SQUARE, PRODUCT, FIRST_OF_PLAN] = [0, 1, 2, 3, 4, 5, 6];

const FINDERS: readonly ImportedFunction[] = [
  { name: 'hold', takes: [I32, I32], gives: [] },
  { name: 'lookUp', takes: [I32, I32, F64], gives: [F64] },
  { name: 'interpolate', takes: [I32, I32, F64], gives: [F64] },
];
const [HOLD, LOOK_UP, INTERPOLATE_IN] = [0, 1, 2];

class LaneWriter implements OperationPen {
  readonly called: { readonly name: string; readonly operation: number }[] = [];
  readonly imports: ImportedFunction[] = [...FINDERS];
  /** Those that are multiplied out, by their places among the numbers. */
  readonly exponents = new Map<number, number>();
  private readonly importOf = new Map<number, number>();
  private readonly localOf = new Map<Operand, number>();
  private code = new ByteWriter();

  constructor(private readonly plan: LanePlan) {
    // What is called must be known before the first function is written: imports have the first numbers.
    const { code } = plan.steps;
    for (let at = 0; at < code.length; at += STEP) {
      const operation = code[at] as number;
      if (operation === COPY || operation === LOOKUP || operation === INTERPOLATE || this.importOf.has(operation)) continue;
      if (this.writtenAs(operation, code[at + 3] as number)) continue;
      const name = `apply${operation}`;
      this.importOf.set(operation, this.imports.length);
      this.imports.push({ name, takes: Array.from({ length: operationAt(operation)?.arity ?? 1 }, () => F64), gives: [F64] });
      this.called.push({ name, operation });
    }
    for (const column of plan.scratch) this.localOf.set(column, FIRST_OF_PLAN + this.localOf.size);
  }

  /** The values of the endings from one to before another, as one function of the bytes of all lanes. */
  write(first: number, end: number): OwnFunction {
    this.code = new ByteWriter();
    const { endings } = this.plan;
    for (let i = first; i < end; i++) {
      const from = i === 0 ? 0 : (endings[i - 1]?.at ?? 0);
      this.writeValue(from, endings[i]?.at ?? from, i);
    }
    return {
      name: `run${first}`,
      takes: [I32],
      gives: [],
      locals: [
        { count: 1, type: I32 },
        { count: FIRST_OF_PLAN - ZERO + this.localOf.size, type: V128 },
      ],
      code: this.code,
    };
  }

  private writeValue(from: number, to: number, ending: number): void {
    const { code } = this.plan.steps;
    this.integer(0);
    this.local('localSet', AT);
    this.put('loop');
    for (let at = from; at < to; at += STEP) {
      const target = code[at + 1] as number;
      const local = this.localOf.get(target);
      if (local === undefined) this.local('localGet', AT);
      this.compute(code[at] as number, code[at + 2] as number, code[at + 3] as number, code[at + 4] as number);
      if (local !== undefined) this.local('localSet', local);
      else {
        // A number that is not finite is none.
        if (at + STEP >= to) this.refuseEndless();
        this.put('store');
        this.code.unsigned(target * 8);
      }
    }
    this.local('localGet', AT);
    this.integer(16);
    this.put('addInteger');
    this.local('localTee', AT);
    this.local('localGet', BYTES);
    this.put('less');
    this.put('branchIf');
    this.code.unsigned(0);
    this.put('end');
    if (!this.plan.endings[ending]?.rules) return;
    this.integer(ending);
    this.local('localGet', BYTES);
    this.put('call');
    this.code.unsigned(HOLD);
  }

  private compute(operation: number, a: Operand, b: Operand, c: Operand): void {
    if (operation === COPY) this.push(a);
    else if (operation === LOOKUP || operation === INTERPOLATE) this.find(operation === LOOKUP ? LOOK_UP : INTERPOLATE_IN, a, b, c);
    else {
      const written = this.writtenAs(operation, b);
      if (written) written(this, a, b, c);
      else this.apply(operation, [a, b, c]);
    }
  }

  private find(called: number, key: Operand, table: number, column: number): void {
    for (const lane of [0, 1]) {
      this.integer(table);
      this.integer(column);
      this.pushLane(key, lane);
      this.takeAnswer(called, lane);
    }
  }

  private apply(operation: number, operands: readonly Operand[]): void {
    for (const lane of [0, 1]) {
      for (const operand of operands.slice(0, operationAt(operation)?.arity ?? 1)) this.pushLane(operand, lane);
      this.takeAnswer(this.importOf.get(operation) ?? 0, lane);
    }
  }

  private takeAnswer(called: number, lane: number): void {
    this.put('call');
    this.code.unsigned(called);
    this.put(lane === 0 ? 'splat' : 'putLane');
    if (lane !== 0) this.code.byte(lane);
  }

  /** How it is written, where it is made of instructions, not of a call. */
  private writtenAs(operation: number, b: Operand): Written | undefined {
    const name = operationAt(operation)?.name as OperationName | undefined;
    if (name !== 'power') return name && WRITTEN[name];
    const exponent = b < 0 ? (this.plan.steps.scalars[-1 - b] ?? NaN) : NaN;
    // One that is the same in all samples, and small enough to be multiplied out.
    if (b < 0) this.exponents.set(-1 - b, exponent);
    return Number.isInteger(exponent) && Math.abs(exponent) <= 64 ? (_, base) => this.power(base, exponent) : undefined;
  }

  /** By repeated squaring, as the machine of single values does it. */
  private power(base: Operand, exponent: number): void {
    this.push(base);
    this.local('localSet', SQUARE);
    this.pair(1);
    this.local('localSet', PRODUCT);
    for (let n = Math.abs(exponent); n > 0; n = Math.floor(n / 2)) {
      if (n % 2 === 1) this.multiplyInto(PRODUCT);
      if (n > 1) this.multiplyInto(SQUARE);
    }
    if (exponent < 0) {
      this.pair(1);
      this.local('localGet', PRODUCT);
      this.put('divide');
    } else this.local('localGet', PRODUCT);
    this.refuseEndless();
    this.orEndless(base);
  }

  private multiplyInto(local: number): void {
    this.local('localGet', local);
    this.local('localGet', SQUARE);
    this.put('multiply');
    this.local('localSet', local);
  }

  /** Refuses what is on the stack where it is not finite. */
  refuseEndless(): void {
    this.local('localTee', SCRATCH);
    this.orEndlessKept();
  }

  /** Refuses what is on the stack where an operand is not finite. */
  orEndless(operand: Operand): void {
    this.push(operand);
    this.push(operand);
    this.put('subtract');
    this.local('localGet', ZERO);
    this.put('unequal');
    this.put('or');
  }

  /** The same of what was kept last. */
  orEndlessKept(): void {
    this.local('localGet', SCRATCH);
    this.local('localGet', SCRATCH);
    this.put('subtract');
    this.local('localGet', ZERO);
    this.put('unequal');
    this.put('or');
  }

  /** Keeps what is on the stack, and leaves it there. */
  keep(): void {
    this.local('localTee', SCRATCH);
  }

  push(operand: Operand): void {
    const local = this.localOf.get(operand);
    if (operand < 0) this.number(operand, 'loadSplat');
    else if (local !== undefined) this.local('localGet', local);
    else {
      this.local('localGet', AT);
      this.put('load');
      this.code.unsigned(operand * 8);
    }
  }

  private pushLane(operand: Operand, lane: number): void {
    const local = this.localOf.get(operand);
    if (operand < 0) this.number(operand, 'loadNumber');
    else if (local !== undefined) {
      this.local('localGet', local);
      this.put('takeLane');
      this.code.byte(lane);
    } else {
      this.local('localGet', AT);
      this.put('loadNumber');
      this.code.unsigned(operand * 8 + lane * 8);
    }
  }

  /** One that is the same in all samples. */
  private number(operand: Operand, load: 'loadSplat' | 'loadNumber'): void {
    this.integer(0);
    this.put(load);
    this.code.unsigned(8 * (this.plan.columns * LANES + (-1 - operand)));
  }

  zero(): void {
    this.local('localGet', ZERO);
  }

  /** The same number twice. */
  pair(value: number): void {
    this.put('constPair');
    this.code.double(value);
    this.code.double(value);
  }

  put(instruction: Instruction): void {
    this.code.bytes(CODE[instruction]);
  }

  private local(instruction: 'localGet' | 'localSet' | 'localTee', local: number): void {
    this.put(instruction);
    this.code.unsigned(local);
  }

  private integer(value: number): void {
    this.put('constInteger');
    this.code.signed(value);
  }
}

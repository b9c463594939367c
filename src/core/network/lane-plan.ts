/** What has to be done for each block of samples: the code of the values that vary, with columns in the place of places. */
import { INTERPOLATE, isWide, LOOKUP, TEMPORARIES, WIDTH } from '../formula';
import type { FormulaDefinition } from './definition';
import type { Entry } from './entry';
import { COPY, LANES, type Operand, type Steps } from './lane-machine';
import type { Program } from './program';
import { hasRules } from './rules';

export interface Limit {
  readonly from: Operand;
  readonly text: string;
}

/** The code of a value ends before step `at`: no number that is not finite is kept, and limits and choices are held to. */
export interface Ending {
  readonly at: number;
  readonly column: number;
  readonly rules: { readonly definition: FormulaDefinition; readonly least: Limit | undefined; readonly most: Limit | undefined } | undefined;
}

export interface LanePlan {
  readonly steps: Steps;
  readonly endings: readonly Ending[];
  /** For each of the numbers that are the same in all samples, the place that it was read from; below 0 for what the program itself says. */
  readonly sources: Int32Array;
  /** Columns of scratch: written before they are read, in each value. */
  readonly scratch: readonly number[];
  /** How many columns there are. */
  readonly columns: number;
  /** The offset of the column of what lies at a place; undefined for what is the same in all samples. */
  readonly columnOf: (place: number) => number | undefined;
}

/** `set`: indexes of the values that are given a column each; `ranks`: those to be computed, ascending. */
export function planLanes(program: Program, numbers: Float64Array, set: readonly number[], ranks: readonly number[]): LanePlan {
  const planner = new Planner(program, numbers);
  for (const index of set) {
    const place = program.entries[index]?.place;
    if (place !== undefined) planner.columnAt(place);
  }
  for (const rank of ranks) {
    const entry = program.entries[program.order[rank] as number];
    if (entry) planner.add(entry);
  }
  return planner.finish();
}

/** Brings the numbers that are the same in all samples up to date: of another state of the same program all else of a plan is the same. */
export function refreshPlan({ steps, sources }: LanePlan, numbers: Float64Array): void {
  sources.forEach((place, at) => {
    if (place >= 0) steps.scalars[at] = numbers[place] ?? NaN;
  });
}

class Planner {
  private readonly code: number[] = [];
  private readonly scalars: number[] = [];
  private readonly sources: number[] = [];
  private readonly scalarOf = new Map<number, number>();
  private readonly endings: Ending[] = [];
  private readonly columns = new Map<number, number>();

  constructor(
    private readonly program: Program,
    private readonly numbers: Float64Array,
  ) {}

  columnAt(place: number): number {
    const known = this.columns.get(place);
    if (known !== undefined) return known;
    const column = this.columns.size * LANES;
    this.columns.set(place, column);
    return column;
  }

  /** What is not computed by a formula is the same in all samples, unless it is one of those that are set. */
  add(entry: Entry): void {
    const { definition, how, place } = entry;
    if (definition.kind !== 'formula' || how === 'refused') return;
    const isJudged = hasRules(definition);
    if (how === 'given' && !isJudged) return;
    if (how === 'given') this.code.push(COPY, this.columnAt(place), this.scalar(this.program.given[place] ?? NaN), 0, 0, 0);
    else this.addCode(entry);
    const rules = isJudged ? { definition, least: this.limit(entry, definition.least), most: this.limit(entry, definition.most) } : undefined;
    this.endings.push({ at: this.code.length, column: this.columnAt(place), rules });
  }

  finish(): LanePlan {
    return {
      steps: { code: Int32Array.from(this.code), scalars: Float64Array.from(this.scalars), tables: this.program.tables },
      endings: this.endings,
      sources: Int32Array.from(this.sources),
      scratch: [...this.columns].flatMap(([place, column]) => (place < TEMPORARIES ? [column] : [])),
      columns: this.columns.size,
      columnOf: (place) => this.columns.get(place),
    };
  }

  private addCode({ codeFrom, codeTo }: Entry): void {
    const { code } = this.program;
    for (let at = codeFrom; at < codeTo; at += WIDTH) {
      const operation = code[at] as number;
      const [target, a, b] = [code[at + 1] as number, code[at + 2] as number, code[at + 3] as number];
      const c = isWide(operation) ? (code[at + WIDTH] as number) : 0;
      if (isWide(operation)) at += WIDTH;
      // Of a lookup the second and the third are no places: the table, and its column.
      const operands = operation === LOOKUP || operation === INTERPOLATE ? [this.operand(a), b, c] : [a, b, c].map((place) => this.operand(place));
      this.code.push(operation, this.columnAt(target), ...operands, 0);
    }
  }

  /** Scratch is written before it is read, in each formula. */
  private operand(place: number): Operand {
    if (place < TEMPORARIES) return this.columnAt(place);
    const column = this.columns.get(place);
    if (column !== undefined) return column;
    const known = this.scalarOf.get(place);
    if (known !== undefined) return known;
    const scalar = this.scalar(this.numbers[place] ?? NaN, place);
    this.scalarOf.set(place, scalar);
    return scalar;
  }

  private scalar(value: number, source = -1): Operand {
    this.sources.push(source);
    return -this.scalars.push(value);
  }

  private limit({ reads }: Entry, id: string | undefined): Limit | undefined {
    const index = id === undefined ? undefined : reads.find((read) => this.program.entries[read]?.id === id);
    const bound = index === undefined ? undefined : this.program.entries[index];
    if (!bound || bound.definition.kind === 'table') return undefined;
    return { from: this.operand(bound.place), text: bound.definition.text ?? '' };
  }
}

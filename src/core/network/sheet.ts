/**
 * Named values with formulas, kept up to date: a living program, its state, and the words for what is wrong in it.
 *
 * Invariant, property-tested: after any sequence of edits the readings equal those of a new sheet with the same definitions.
 */
import { compileClosure, type FormulaDiagnostic, type Scope } from '../formula';
import type { UnitSystem } from '../units';
import type { Definition, Outside, Reading } from './definition';
import { judgeDraft, type Draft } from './draft';
import { ranksBetween } from './cone';
import type { Entry } from './entry';
import { evaluate, startState, type State } from './evaluate';
import { typedFormula, type Program } from './program';
import { ProgramBuilder } from './program-builder';
import { RankQueue } from './rank-queue';
import { slopesOf, type Slope } from './slopes';
import { Troubles } from './troubles';

export interface Settled {
  /** How many values were computed. */
  readonly computed: number;
}

/** Good until the sheet is changed. */
export interface Standing {
  readonly program: Program;
  readonly state: State;
  readonly indexOf: (id: string) => number | undefined;
}

export class Sheet {
  private readonly builder: ProgramBuilder;
  private readonly troubles = new Troubles();
  private readonly queue = new RankQueue();
  private program: Program;
  private readonly state: State;
  /** Values whose numbers were changed by hand since they were settled. */
  private readonly touched = new Set<number>();

  /** `outside` supplies what formulas read of other documents by paths of names. */
  constructor(
    private units: UnitSystem,
    private readonly outside?: Outside,
  ) {
    this.builder = new ProgramBuilder(units, outside);
    this.program = this.builder.build().program;
    this.state = startState(this.program);
  }

  /** Adds a value or redefines the one of that id. Names must be unique; the caller sees to it. */
  define(id: string, definition: Definition): void {
    this.builder.define(id, definition);
  }

  remove(id: string): void {
    this.builder.remove(id);
  }

  setUnits(units: UnitSystem): void {
    this.units = units;
    this.builder.setUnits(units);
  }

  /** Gives a literal or input another number, without a parse: for scrubbing and sweeps. */
  setNumber(id: string, value: number): void {
    const index = this.builder.indexOf(id);
    const entry = index === undefined ? undefined : this.program.entries[index];
    if (index === undefined || !entry || !(entry.finding.isLiteral || entry.definition.kind === 'input')) return;
    if (this.state.numbers[entry.place] === value) return;
    this.state.numbers[entry.place] = value;
    for (const reader of this.builder.readersOf(index)) this.touched.add(reader);
  }

  /** Brings all values up to date. */
  settle(): Settled {
    const compiled = this.builder.isStale ? this.rebuild() : [];
    if (compiled.length === 0 && this.touched.size === 0) return { computed: 0 };
    for (const index of compiled) this.touched.add(index);
    const { computed, refused } = evaluate(this.program, this.state, this.touched, this.queue);
    this.touched.clear();
    for (const index of refused) this.troubles.forget(index);
    this.troubles.moveOn();
    return { computed };
  }

  private rebuild(): readonly number[] {
    const { program, compiled } = this.builder.build();
    const { numbers } = this.state;
    // Constants that came in lie behind all that was there.
    if (program.places > numbers.length) {
      const larger = program.given.slice(0, program.places);
      larger.set(numbers);
      this.state.numbers = larger;
    }
    this.program = program;
    for (const index of this.touched) if (!program.entries[index]) this.touched.delete(index);
    for (const index of compiled) {
      this.troubles.forget(index);
      // What a limit is called when it is broken is told by those that it bounds.
      for (const reader of this.builder.readersOf(index)) this.troubles.forget(reader);
    }
    return compiled;
  }

  read(id: string): Reading | undefined {
    const index = this.builder.indexOf(id);
    const entry = index === undefined ? undefined : this.program.entries[index];
    if (index === undefined || !entry) return undefined;
    const value = this.state.numbers[entry.place] ?? NaN;
    const isRefused = value !== value && entry.definition.kind === 'formula';
    return { value, ...entry.finding, ...(isRefused ? { diagnostics: this.tell(index, entry) } : {}) };
  }

  /** The number alone; NaN for one that is refused or not there. */
  readNumber(id: string): number {
    const place = this.entryOf(id)?.place;
    return place === undefined ? NaN : (this.state.numbers[place] ?? NaN);
  }

  /** A function that computes one formula over what is there now, without a settle: for sweeps and sampling. */
  runner(id: string): () => number {
    const index = this.builder.indexOf(id);
    const formula = index === undefined ? undefined : typedFormula(this.program, index);
    if (!formula) return () => NaN;
    const run = compileClosure(formula.typed);
    const { state } = this;
    return () => run(state.numbers);
  }

  /** What is run beside it: the program and its state as they are now, and which of its values are which. */
  get standing(): Standing {
    const { builder, program, state } = this;
    return { program, state, indexOf: (id) => builder.indexOf(id) };
  }

  /**
   * How fast a value moves when each of these does, all others of them held; by ids. `elsewhere` tells it of values that no formula computes: how fast each
   * of them moves by others.
   */
  slopes(by: readonly string[], of: string, elsewhere: ReadonlyMap<string, ReadonlyMap<string, number>> = new Map()): Slope[] {
    const indexOf = (id: string): number => this.builder.indexOf(id) ?? -1;
    const known = new Map(
      [...elsewhere].map(([id, slopes]) => [indexOf(id), new Map([...slopes].map(([by, slope]) => [indexOf(by), slope] as const))] as const),
    );
    return slopesOf(this.program, this.state, by.map(indexOf), indexOf(of), known);
  }

  /** Ids of what is computed elsewhere on the way from these to a value: by the geometry, in a component, in an outside calculation. */
  listOutsideBetween(from: readonly string[], of: string): string[] {
    const { entries, order } = this.program;
    const indexes = from.flatMap((id) => this.builder.indexOf(id) ?? []);
    return ranksBetween(this.program, indexes, [this.builder.indexOf(of) ?? -1]).flatMap((rank) => {
      const entry = entries[order[rank] as number];
      return entry?.definition.kind === 'input' ? entry.id : [];
    });
  }

  /** What a formula would be that is being typed: nothing is changed by it. */
  judge(draft: Draft): Reading {
    const { builder, outside, program, state, units } = this;
    return judgeDraft(draft, {
      isName: builder.isName,
      scope: builder.scope(draft.units ?? units),
      peek: (path) => outside?.peek(path)?.definition,
      read: (place) => state.numbers[place] ?? NaN,
      causeOf: (name) => {
        const index = builder.locateNamed(name);
        return index === undefined ? undefined : this.troubles.causeOf(program, state.numbers, index);
      },
    });
  }

  findByName(name: string): string | undefined {
    return this.builder.findByName(name);
  }

  /** What the value of that id is called. */
  nameOf(id: string): string | undefined {
    return this.builder.nameOf(id);
  }

  /** The id of what a name or a path of names means; a value of another document enters the sheet with that. */
  locate(name: string): string | undefined {
    return this.builder.locate(name);
  }

  listIds(): Iterable<string> {
    return this.builder.listIds();
  }

  /** Ids that the value reads directly, and that read it; not what only might mean it, as a unit of the same name. */
  listReads(id: string): string[] {
    const entry = this.entryOf(id);
    return (entry?.reads ?? []).flatMap((read) => (entry?.unitNames.includes(read) === true ? [] : (this.program.entries[read]?.id ?? [])));
  }

  listReaders(id: string): string[] {
    const index = this.builder.indexOf(id);
    if (index === undefined) return [];
    return this.builder.readersOf(index).flatMap((reader) => {
      const entry = this.program.entries[reader];
      return !entry || entry.unitNames.includes(index) ? [] : entry.id;
    });
  }

  /** Ids of all values that rest on a held input, these themselves among them. */
  listHeld(): ReadonlySet<string> {
    return this.builder.listHeld();
  }

  /** The scope that a formula of this sheet is judged in: for live checks as one types. */
  scope(units: UnitSystem = this.units): Scope {
    return this.builder.scope(units);
  }

  private tell(index: number, entry: Entry): readonly FormulaDiagnostic[] {
    return this.troubles.tell(this.program, this.state.numbers, index, entry);
  }

  private entryOf(id: string): Entry | undefined {
    const index = this.builder.indexOf(id);
    return index === undefined ? undefined : this.program.entries[index];
  }
}

/**
 * Programs from definitions, one after another: what a program shares with the one before is not made again.
 *
 * Three passes, over what was touched only: *bind* looks up what names mean; *order* ranks the values where what is read changed, and tells
 * cycles; *compile* goes over the ranks upwards and takes in the readers of whatever came out with another type. Whatever is found here holds
 * for all numbers. A built program is never written to again: entries are replaced, code is added behind what is there.
 */
import { compileFormula, emitCode, fullName, quantityType, readFormula, type CompileResult, type FormulaDiagnostic, type Scope } from '../formula';
import { findUnit, type UnitSystem } from '../units';
import { CodeStore } from './code-store';
import { namesOfCycle, tellCycles } from './cycles';
import type { Definition, FormulaDefinition, Outside } from './definition';
import { causeOf, makeEntry, NO_READS, sameCause, type Cause, type Entry } from './entry';
import { findingOfInput, NOTHING, shareFinding } from './finding';
import { HeldCone } from './held';
import { meaningOf } from './meaning';
import { NameTable } from './name-table';
import { orderGraph } from './order';
import { STRIDE, writeRow, type Program } from './program';
import { RankQueue } from './rank-queue';
import { readNames } from './read-names';
import { Readers } from './readers';
import { describeCycle } from './rules';

/** Lists that were grown one by one have room for many more; after this many changes they are trimmed. */
const TRIM_AFTER = 1_000;

export interface Built {
  readonly program: Program;
  /** Indexes of the values that were compiled: their numbers are to be computed again. */
  readonly compiled: readonly number[];
}

export class ProgramBuilder {
  private entries: (Entry | undefined)[] = [];
  private readonly freeIndexes: number[] = [];
  private readonly byId = new Map<string, number>();
  private readonly names = new NameTable();
  private readonly store = new CodeStore();
  private readonly held = new HeldCone();
  private readonly readers = new Readers();
  private readonly queue = new RankQueue();
  /** Values to be bound again before the order can be judged, and to be compiled again. */
  private readonly unbound = new Set<number>();
  private readonly uncompiled = new Set<number>();
  private order: Int32Array = new Int32Array(0);
  private rankOf: Int32Array = new Int32Array(0);
  private mustReorder = false;
  private latest: Program | undefined;

  constructor(
    private units: UnitSystem,
    private readonly outside?: Outside,
  ) {}

  define(id: string, definition: Definition): void {
    const known = this.byId.get(id);
    if (known === undefined) this.add(id, definition);
    else this.redefine(known, definition);
  }

  remove(id: string): void {
    const index = this.byId.get(id);
    const entry = index === undefined ? undefined : this.entries[index];
    if (index === undefined || !entry) return;
    this.forgetName(index, entry);
    this.names.dropReader(index);
    this.readers.move(index, entry.reads, NO_READS);
    this.store.release(entry.codeFrom, entry.codeTo);
    this.store.releasePlace(entry.place);
    this.byId.delete(id);
    this.held.note(index, undefined);
    this.held.forget();
    this.replace(index, undefined);
    this.freeIndexes.push(index);
    this.unbound.delete(index);
    this.uncompiled.delete(index);
    this.mustReorder = true;
  }

  setUnits(units: UnitSystem): void {
    this.units = units;
    this.entries.forEach((entry, index) => {
      if (entry?.definition.kind === 'formula' && !entry.definition.units) this.touch(index);
    });
  }

  get isStale(): boolean {
    return this.latest === undefined || this.mustReorder || this.unbound.size > 0 || this.uncompiled.size > 0;
  }

  indexOf(id: string): number | undefined {
    return this.byId.get(id);
  }

  listIds(): Iterable<string> {
    return this.byId.keys();
  }

  findByName(name: string): string | undefined {
    const index = this.names.find(name);
    return index === undefined ? undefined : this.entries[index]?.id;
  }

  nameOf(id: string): string | undefined {
    const index = this.byId.get(id);
    return index === undefined ? undefined : this.entries[index]?.definition.name;
  }

  /** The index of what a name means. */
  locateNamed(name: string): number | undefined {
    return this.names.find(name);
  }

  /** The id of what a name or a path of names means; a value of another document enters with that. */
  locate(name: string): string | undefined {
    const index = this.enter(name);
    return index === undefined ? undefined : this.entries[index]?.id;
  }

  private enter(name: string): number | undefined {
    const known = this.names.find(name);
    const supplied = known === undefined && name.includes('.') ? this.outside?.supply(name) : undefined;
    if (!supplied) return known;
    this.define(supplied.id, supplied.definition);
    return this.byId.get(supplied.id);
  }

  /** Indexes of the values that read the one of that index, also of those that only might mean it. */
  readersOf(index: number): readonly number[] {
    return this.readers.of(index);
  }

  listHeld(): ReadonlySet<string> {
    return this.held.list(this.entries, this.readers.all);
  }

  isName = (name: string): boolean => this.names.has(name);

  scope(units: UnitSystem): Scope {
    return {
      units,
      resolve: (name, member) => {
        const index = this.names.find(fullName({ name, member }));
        const entry = index === undefined ? undefined : this.entries[index];
        return entry && meaningOf(entry);
      },
      listNames: () => new Set([...this.names.names(), ...(this.outside?.listPaths() ?? [])]),
    };
  }

  /** The program of all that is defined now. */
  build(): Built {
    const isWide = this.unbound.size > TRIM_AFTER;
    const hadReads = this.readers.version;
    if (this.unbound.size > 0) this.held.forget();
    for (const index of this.unbound) this.bind(index);
    this.unbound.clear();
    const isReordered = this.mustReorder;
    if (isReordered) this.reorder();
    if (this.store.isWasteful) this.entries = this.store.compact(this.entries);
    const compiled = this.compileTouched();
    if (isWide) this.store.trim();
    const { latest } = this;
    const rows =
      latest && !isReordered && hadReads === this.readers.version && !this.store.hasMoved
        ? { rows: this.rewriteRows(latest.rows, compiled), readers: latest.readers }
        : this.writeRows();
    const { store, units, order, rankOf } = this;
    store.hasMoved = false;
    this.latest = { units, entries: this.entries, order, rankOf, ...rows, ...store.seal() };
    return { program: this.latest, compiled };
  }

  // ---- what is defined

  private add(id: string, definition: Definition): void {
    const index = this.freeIndexes.pop() ?? this.entries.length;
    this.replace(index, makeEntry(id, definition, this.store.reservePlace()));
    this.readers.open(index);
    this.held.note(index, definition);
    this.byId.set(id, index);
    this.claimName(index, definition.name);
    this.touch(index);
    this.mustReorder = true;
  }

  private redefine(index: number, definition: Definition): void {
    const entry = this.entries[index];
    if (!entry) return;
    const isRenamed = entry.definition.name !== definition.name;
    if (isRenamed) this.forgetName(index, entry);
    this.replace(index, { ...entry, definition });
    this.held.note(index, definition);
    if (isRenamed) this.claimName(index, definition.name);
    this.touch(index);
  }

  private replace(index: number, entry: Entry | undefined): void {
    // What the last program has is left as it is.
    if (this.entries === this.latest?.entries) this.entries = this.entries.slice();
    this.entries[index] = entry;
  }

  private touch(index: number): void {
    this.unbound.add(index);
    this.uncompiled.add(index);
  }

  private claimName(index: number, name: string): void {
    for (const reader of this.names.waiting()) this.touch(reader);
    this.names.claim(name, index);
    this.touchAmbiguous(name);
  }

  private forgetName(index: number, { definition: { name } }: Entry): void {
    this.names.forget(name, index);
    for (const reader of this.readers.of(index)) this.touch(reader);
    for (const reader of this.names.waiting()) this.touch(reader);
    this.touchAmbiguous(name);
  }

  /** A name can make a unit of some formula ambiguous: `4/h` once a value is called h. */
  private touchAmbiguous(name: string): void {
    if (!findUnit(name)) return;
    this.entries.forEach((entry, other) => {
      if (entry?.definition.kind === 'formula' && entry.definition.text.includes(name)) this.touch(other);
    });
  }

  // ---- what names mean

  private bind(index: number): void {
    const entry = this.entries[index];
    if (!entry) return;
    if (this.names.hasWaiting()) this.names.dropReader(index);
    // Whether its cycle is still closed is for the order to say.
    if (entry.cycle) this.mustReorder = true;
    const { reads, unitNames } = this.findReads(index, entry.definition);
    const isSame = reads.length === entry.reads.length && reads.every((read, i) => read === entry.reads[i]);
    if (!isSame) this.readers.move(index, entry.reads, reads);
    for (const read of reads) if (!this.isRankedBefore(read, index)) this.mustReorder = true;
    if (!isSame || unitNames.length > 0 || entry.unitNames.length > 0) this.replace(index, { ...entry, reads: isSame ? entry.reads : reads, unitNames });
  }

  private isRankedBefore(read: number, index: number): boolean {
    const [before, own] = [this.rankOf[read], this.rankOf[index]];
    return before !== undefined && own !== undefined && before < own;
  }

  private findReads(index: number, definition: Definition): { readonly reads: readonly number[]; readonly unitNames: readonly number[] } {
    if (definition.kind === 'table') return { reads: NO_READS, unitNames: NO_READS };
    const reads: number[] = [];
    const note = (other: number | undefined): void => {
      if (other !== undefined && !reads.includes(other)) reads.push(other);
    };
    let unitNames = NO_READS;
    if (definition.kind === 'formula') {
      const found = readNames(index, definition, readFormula(definition.text, this.isName), this.names, (name) => this.enter(name));
      for (const other of [...found.reads, ...found.unitNames]) note(other);
      if (found.unitNames.length > 0) ({ unitNames } = found);
      for (const bound of [definition.least, definition.most]) if (bound !== undefined) note(this.byId.get(bound));
    } else for (const id of definition.reads ?? []) note(this.byId.get(id));
    // A copy has no room to spare, which a list grown by one has.
    return { reads: reads.length === 0 ? NO_READS : reads.slice(), unitNames };
  }

  private reorder(): void {
    this.mustReorder = false;
    const { entries } = this;
    const { order, cycles } = orderGraph(entries.length, (index) => entries[index]?.reads ?? NO_READS);
    this.order = order;
    this.rankOf = new Int32Array(order.length);
    for (let rank = 0; rank < order.length; rank++) this.rankOf[order[rank] as number] = rank;
    const told = tellCycles(cycles, entries);
    for (let index = 0; index < entries.length; index++) {
      const entry = entries[index];
      if (!entry || (!entry.cycle && !told.has(index))) continue;
      this.replace(index, { ...entry, cycle: told.get(index) });
      this.uncompiled.add(index);
    }
  }

  // ---- what formulas are

  private compileTouched(): number[] {
    const { queue, rankOf, order } = this;
    const compiled: number[] = [];
    queue.fit(order.length);
    for (const index of this.uncompiled) if (this.entries[index]) queue.add(rankOf[index] as number);
    this.uncompiled.clear();
    for (let rank = queue.take(); rank >= 0; rank = queue.take()) {
      const index = order[rank] as number;
      const before = this.entries[index];
      if (!before) continue;
      compiled.push(index);
      const after = this.compileEntry(before);
      this.replace(index, after);
      if (!meansAnother(before, after)) continue;
      for (const reader of this.readers.of(index)) if ((rankOf[reader] as number) > rank) queue.add(rankOf[reader] as number);
    }
    return compiled;
  }

  private compileEntry(before: Entry): Entry {
    const { store, entries } = this;
    const { definition, cycle, place } = before;
    store.release(before.codeFrom, before.codeTo);
    const entry: Entry = { ...before, codeFrom: 0, codeTo: 0, how: 'refused', finding: NOTHING, cause: undefined };
    store.give(place, NaN);
    if (definition.kind === 'formula') {
      return cycle ? this.refuse(entry, definition, [describeCycle(namesOfCycle(cycle, entries), definition.text)]) : this.compileFormula(entry, definition);
    }
    if (definition.kind === 'table') {
      store.give(place, 0);
      return { ...entry, how: 'given' };
    }
    if (cycle) return { ...entry, finding: { ...NOTHING, type: definition.type, diagnostics: [describeCycle(namesOfCycle(cycle, entries), '')] } };
    store.give(place, definition.value);
    const cause: Cause | undefined = definition.isPassedOn && definition.problem !== undefined ? { passedOn: definition.problem } : undefined;
    return { ...entry, how: 'given', finding: findingOfInput(definition), cause };
  }

  private compileFormula(entry: Entry, definition: FormulaDefinition): Entry {
    const { store } = this;
    const result = this.check(definition);
    if (!result.ok) return this.refuse(entry, definition, result.diagnostics);
    const { typed, type, adopted, typedUnit, isLiteral } = result.compiled;
    const finding = shareFinding({ type, diagnostics: NOTHING.diagnostics, adopted, typedUnit, isLiteral });
    if (typed.kind === 'constant') {
      store.give(entry.place, typed.value);
      return { ...entry, how: 'given', finding };
    }
    const codeFrom = store.codeLength;
    if (emitCode(typed, entry.place, store)) return { ...entry, how: 'run', finding, codeFrom, codeTo: store.codeLength };
    store.release(codeFrom, store.codeLength);
    return this.refuse(entry, definition, [{ code: 'too-long', message: 'This formula is nested too deeply.', from: 0, to: definition.text.length }]);
  }

  private check(definition: FormulaDefinition): CompileResult {
    const { text, slot, units, typedFor, name } = definition;
    const parsed = readFormula(text, this.isName);
    return parsed.ok ? compileFormula(text, parsed.node, { ...this.scope(units ?? this.units), ownName: typedFor ?? name }, slot) : parsed;
  }

  /** A formula that has no number, whatever the others are. Where the slot tells its type, readers can go on. */
  private refuse(entry: Entry, { slot, text }: FormulaDefinition, diagnostics: readonly FormulaDiagnostic[]): Entry {
    const type = slot.kind === 'quantity' ? quantityType(slot.dimension) : undefined;
    return { ...entry, finding: { ...NOTHING, type, diagnostics }, cause: this.causeAt(text, diagnostics) };
  }

  /** What a formula waits for that does not compile because of what it reads. */
  private causeAt(text: string, diagnostics: readonly FormulaDiagnostic[]): Cause | undefined {
    const waiting = diagnostics.find(({ code }) => code === 'waiting');
    const parsed = waiting && readFormula(text, this.isName);
    const name = parsed?.ok ? parsed.names.find(({ from }) => from === waiting?.from) : undefined;
    const index = name && this.names.find(fullName(name));
    const entry = index === undefined ? undefined : this.entries[index];
    return entry && causeOf(entry);
  }

  // ---- what is handed out

  private rewriteRows(rows: Int32Array, compiled: readonly number[]): Int32Array {
    if (compiled.length === 0) return rows;
    const copy = rows.slice();
    for (const index of compiled) {
      const entry = this.entries[index];
      if (entry) writeRow(copy, this.rankOf[index] as number, entry);
    }
    return copy;
  }

  private writeRows(): Pick<Program, 'rows' | 'readers'> {
    const { order, rankOf, entries } = this;
    const rows = new Int32Array((order.length + 1) * STRIDE);
    const readers: number[] = [];
    for (let rank = 0; rank < order.length; rank++) {
      const index = order[rank] as number;
      rows[rank * STRIDE + 3] = readers.length;
      const entry = entries[index];
      if (!entry) continue;
      writeRow(rows, rank, entry);
      for (const reader of this.readers.of(index)) if ((rankOf[reader] as number) > rank) readers.push(rankOf[reader] as number);
    }
    rows[order.length * STRIDE + 3] = readers.length;
    return { rows, readers: Int32Array.from(readers) };
  }
}

/** Whether formulas that read the value have to be compiled again. */
function meansAnother(before: Entry, after: Entry): boolean {
  if (after.definition.kind === 'table' || before.finding.type !== after.finding.type) return true;
  return after.finding.type === undefined && !sameCause(causeOf(before), causeOf(after));
}

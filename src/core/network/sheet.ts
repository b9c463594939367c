/**
 * Named values with formulas, kept up to date incrementally.
 *
 * Vocabulary: a *node* is one value, by its dense index; its *place* is where its number lies in the value
 * array; its *rank* is its position in the order of evaluation. `settle` walks the ranks upwards from what
 * was touched: a touched node is compiled if its formula, or the type of something it reads, changed; then
 * run; and only if its number, type or trouble came out different are its readers touched (early cut-off).
 * So one settle computes a value at most once, and never more than the cone of what changed.
 *
 * Invariant, property-tested: after any sequence of edits the readings equal those of a new sheet with the
 * same definitions.
 */
import {
  compileClosure,
  compileFormula,
  diagnoseFault,
  emitCode,
  readFormula,
  runCode,
  type CodeSink,
  type FormulaDiagnostic,
  type FormulaNode,
  type Scope,
  quantityType,
} from '../formula';
import { invariant } from '../kit';
import { findUnit, type UnitSystem } from '../units';
import type { Definition, FormulaDefinition, Outside, Reading } from './definition';
import { NameTable } from './name-table';
import { namesOfCycle, tellCycles } from './cycles';
import { orderGraph } from './order';
import { RankQueue } from './rank-queue';
import { CodeStore } from './code-store';
import { FlatCone } from './flat-cone';
import { HeldCone } from './held';
import { findingOfInput, NOTHING, sameFinding, shareFinding, type Finding } from './finding';
import { readNames } from './read-names';
import { makeScope } from './sheet-scope';
import { addReader, makeNode, NO_READS, readersOf, readsOf, type Node } from './node';
import { describeWaiting } from './waiting';
import { describeCycle, hasRules, judge, type Bound } from './rules';

/** Held here: some bundlers go through a getter each time an import is called. */
const run = runCode;

/** Lists that were grown one by one have room for many more; after this many changes they are trimmed. */
const TRIM_AFTER = 1_000;

/** A settle that has computed this many values is a wide one. */
const WIDE = 256;

export interface Settled {
  /** How many values were computed. */
  readonly computed: number;
}

export class Sheet {
  private readonly nodes: (Node | undefined)[] = [];
  private readonly freeNodes: number[] = [];
  private readonly byId = new Map<string, number>();
  private readonly names = new NameTable();
  private readonly store = new CodeStore();
  private readonly queue = new RankQueue();
  private readonly flat = new FlatCone();
  private readonly held = new HeldCone();
  private readonly touched = new Set<number>();
  private order: Int32Array = new Int32Array(0);
  private mustReorder = false;
  private trimAfterSettle = false;

  /** `outside` supplies what formulas read of other documents by paths of names. */
  constructor(
    private units: UnitSystem,
    private readonly outside?: Outside,
  ) {}

  /** Adds a value or redefines the one of that id. Names must be unique; the caller sees to it. */
  define(id: string, definition: Definition): void {
    const known = this.byId.get(id);
    if (known === undefined) this.add(id, definition);
    else this.redefine(known, definition);
  }

  remove(id: string): void {
    const index = this.byId.get(id);
    const node = index === undefined ? undefined : this.nodes[index];
    if (index === undefined || !node) return;
    this.unbind(index, node);
    this.forgetName(index, node);
    this.store.release(node.codeFrom, node.codeTo);
    this.byId.delete(id);
    this.held.note(index, undefined);
    this.held.forget();
    this.nodes[index] = undefined;
    this.freeNodes.push(index);
    this.touched.delete(index);
    this.mustReorder = true;
  }

  /** Gives a literal or input another number, without a parse: for scrubbing and sweeps. */
  setNumber(id: string, value: number): void {
    const index = this.byId.get(id);
    const node = index === undefined ? undefined : this.nodes[index];
    if (index === undefined || !node || !(node.finding.isLiteral || node.definition.kind === 'input')) return;
    if (this.store.values[node.place] === value) return;
    this.store.values[node.place] = value;
    for (const reader of node.readBy) this.touched.add(reader);
  }

  setUnits(units: UnitSystem): void {
    this.units = units;
    this.nodes.forEach((node, index) => {
      if (node?.definition.kind === 'formula' && !node.definition.units) this.touch(index, node);
    });
  }

  /** The number that stands for a text in values. */
  textNumber(text: string): number {
    return this.store.textNumber(text);
  }

  /** The text of a text value. */
  textOf = (value: number): string => this.store.textOf(value);

  read(id: string): Reading | undefined {
    const node = this.nodeOf(id);
    return node && { value: this.store.values[node.place] ?? NaN, ...node.finding };
  }

  /** The number alone; NaN for one that is refused or not there. */
  readNumber(id: string): number {
    const node = this.nodeOf(id);
    return node ? (this.store.values[node.place] ?? NaN) : NaN;
  }

  /** A function that computes one formula over what is there now, without a settle: for sweeps and sampling. */
  runner(id: string): () => number {
    const node = this.nodeOf(id);
    const { definition } = node ?? {};
    const parsed = definition?.kind === 'formula' ? this.parse(definition.text) : undefined;
    const result = definition?.kind === 'formula' && parsed?.ok === true ? this.compileNode(definition, parsed.node) : undefined;
    if (result?.ok !== true) return () => NaN;
    const run = compileClosure(result.compiled.typed);
    const { store } = this;
    return () => run(store.values);
  }

  findByName(name: string): string | undefined {
    const index = this.names.find(name);
    return index === undefined ? undefined : this.nodes[index]?.id;
  }

  /** What the value of that id is called. */
  nameOf(id: string): string | undefined {
    return this.nodeOf(id)?.definition.name;
  }

  /** The id of what a name or a path of names means; a value of another document enters the sheet with that. */
  locate(name: string): string | undefined {
    const index = this.indexOf(name);
    return index === undefined ? undefined : this.nodes[index]?.id;
  }

  listIds(): Iterable<string> {
    return this.byId.keys();
  }

  /** Ids that the value reads directly, and that read it. */
  listReads(id: string): string[] {
    return readsOf(this.nodeOf(id), this.nodes);
  }

  listReaders(id: string): string[] {
    return readersOf(this.byId.get(id), this.nodes);
  }

  /** Ids of all values that rest on a held input, these themselves among them. */
  listHeld(): ReadonlySet<string> {
    return this.held.list(this.nodes);
  }

  /** The scope that a formula of this sheet is judged in: for live checks as one types. */
  scope(units: UnitSystem = this.units): Scope {
    return makeScope({ nodes: this.nodes, names: this.names, store: this.store, outside: this.outside }, units);
  }

  /** Brings all values up to date. */
  settle(): Settled {
    this.reorderIfNeeded();
    const { queue, nodes, flat } = this;
    for (const index of this.touched) queue.add(nodes[index]?.rank ?? 0);
    this.touched.clear();
    flat.computed = 0;
    let computed = 0;
    for (let rank = this.takeRank(computed); rank >= 0; rank = this.takeRank(computed)) {
      const index = this.order[rank] as number;
      const node = nodes[index];
      if (!node) continue;
      computed++;
      if (node.isPlain && !node.needsCompile) {
        const verdict = this.runPlain(node);
        if (verdict === 'changed') this.queueReaders(node);
        if (verdict !== 'refused') continue;
      }
      const typeBefore = node.finding.type;
      const changed = this.update(index, node);
      flat.note(node);
      if (changed) this.queueReaders(node, node.finding.type !== typeBefore || node.definition.kind === 'table');
    }
    if (this.trimAfterSettle) this.store.trim();
    this.trimAfterSettle = false;
    return { computed: computed + flat.computed };
  }

  /** The next rank to look at; a wide change runs what is plain on the way. */
  private takeRank(computed: number): number {
    const { queue, flat, store } = this;
    if (!flat.isFresh) {
      if (computed < WIDE) return queue.take();
      flat.build(this.order, this.nodes);
    }
    return flat.run(queue, store);
  }

  private queueReaders(node: Node, mustCompile = false): void {
    for (const reader of node.readBy) {
      const other = this.nodes[reader];
      if (!other || other.rank <= node.rank) continue;
      if (mustCompile || other.finding.diagnostics.length > 0) {
        other.needsCompile = true;
        this.flat.note(other);
      }
      this.queue.add(other.rank);
    }
  }

  /** Runs a formula that is well and has no rules; `refused` leaves its number to the full update. */
  private runPlain(node: Node): 'same' | 'changed' | 'refused' {
    const { store } = this;
    const { values } = store;
    const before = values[node.place] as number;
    run(store.code, node.codeFrom, node.codeTo, values, store.tables);
    const value = values[node.place] as number;
    if (value - value !== 0) {
      values[node.place] = before;
      return 'refused';
    }
    return value === before ? 'same' : 'changed';
  }

  // ---- structure

  private add(id: string, definition: Definition): void {
    const index = this.freeNodes.pop() ?? this.nodes.length;
    const node = makeNode(id, definition, this.store.reservePlace());
    this.nodes[index] = node;
    this.held.note(index, definition);
    this.byId.set(id, index);
    this.claimName(index, definition.name);
    this.touch(index, node);
    this.mustReorder = true;
  }

  private redefine(index: number, definition: Definition): void {
    const node = this.nodes[index];
    if (!node) return;
    const renamed = node.definition.name !== definition.name;
    if (renamed) this.forgetName(index, node);
    node.definition = definition;
    this.held.note(index, definition);
    if (renamed) this.claimName(index, definition.name);
    this.touch(index, node);
  }

  private touch(index: number, node: Node): void {
    node.needsCompile = true;
    this.flat.drop();
    this.touched.add(index);
    this.unbound.add(index);
  }

  /** Touched nodes whose names must be looked up again before the order can be judged. */
  private readonly unbound = new Set<number>();

  private claimName(index: number, name: string): void {
    this.touchWaiting();
    this.names.claim(name, index);
    this.touchAmbiguous(name);
  }

  private forgetName(index: number, node: Node): void {
    const { name } = node.definition;
    this.names.forget(name, index);
    for (const reader of node.readBy) this.touchIndex(reader);
    this.touchWaiting();
    this.touchAmbiguous(name);
  }

  private touchWaiting(): void {
    for (const reader of this.names.waiting()) this.touchIndex(reader);
  }

  /** A name can make a unit of some formula ambiguous: `4/h` once a value is called h. */
  private touchAmbiguous(name: string): void {
    if (!findUnit(name)) return;
    this.nodes.forEach((node, other) => {
      if (node?.definition.kind === 'formula' && node.definition.text.includes(name)) this.touchIndex(other);
    });
  }

  private touchIndex(index: number): void {
    const node = this.nodes[index];
    if (node) this.touch(index, node);
  }

  private unbind(index: number, node: Node): void {
    for (const read of node.reads) {
      const other = this.nodes[read];
      if (other) other.readBy = other.readBy.filter((reader) => reader !== index);
    }
    node.reads = NO_READS;
    node.unitNames = NO_READS;
    this.names.dropReader(index);
  }

  private bind(index: number, node: Node): void {
    if (node.reads.length > 0 || this.names.hasWaiting()) this.unbind(index, node);
    // Whether its cycle is still closed is for the order to say.
    if (node.cycle) this.mustReorder = true;
    if (node.definition.kind === 'table') return;
    const reads: number[] = [];
    const note = (other: number | undefined): void => {
      if (other !== undefined && !reads.includes(other)) reads.push(other);
    };
    const { definition } = node;
    if (definition.kind === 'formula') {
      const found = readNames(index, definition, this.parse(definition.text), this.names, (name) => this.indexOf(name));
      for (const other of [...found.reads, ...found.unitNames]) note(other);
      if (found.unitNames.length > 0) node.unitNames = found.unitNames;
      for (const bound of [definition.least, definition.most]) if (bound !== undefined) note(this.byId.get(bound));
    } else for (const id of definition.reads ?? []) note(this.byId.get(id));
    // A copy has no room to spare, which a list grown by one has.
    node.reads = reads.slice();
    for (const read of reads) {
      const other = this.nodes[read];
      if (other) addReader(other, index);
      if (other && other.rank >= node.rank) this.mustReorder = true;
    }
  }

  private reorderIfNeeded(): void {
    for (const index of this.unbound) {
      const node = this.nodes[index];
      if (node) this.bind(index, node);
    }
    if (this.unbound.size > 0) this.held.forget();
    this.trimAfterSettle ||= this.unbound.size > TRIM_AFTER;
    this.unbound.clear();
    if (!this.mustReorder) return;
    this.mustReorder = false;
    this.flat.drop();
    const { order, cycles } = orderGraph(this.nodes.length, (index) => this.nodes[index]?.reads ?? NO_READS);
    this.order = order;
    this.queue.reset(order.length);
    for (let rank = 0; rank < order.length; rank++) {
      const index = order[rank] as number;
      const node = this.nodes[index];
      if (!node) continue;
      node.rank = rank;
      if (node.cycle) {
        node.cycle = undefined;
        this.touched.add(index);
        node.needsCompile = true;
      }
    }
    for (const index of tellCycles(cycles, this.nodes)) this.touched.add(index);
  }

  // ---- values

  /** Compiles if needed and runs one node; whether anything about it came out different. */
  private update(index: number, node: Node): boolean {
    const { values } = this.store;
    const valueBefore = values[node.place] as number;
    const { finding: findingBefore, waitsFor: waitedFor } = node;
    const { definition } = node;
    node.waitsFor = undefined;
    if (definition.kind === 'formula') this.updateFormula(node, definition);
    else this.updateInput(node, definition);
    const value = this.store.values[node.place] as number;
    const same = value === valueBefore || (value !== value && valueBefore !== valueBefore);
    const changed = !same || node.waitsFor !== waitedFor || !sameFinding(findingBefore, node.finding) || definition.kind === 'table';
    if (!changed) node.finding = findingBefore;
    node.isPlain = definition.kind === 'formula' && node.codeTo > node.codeFrom && node.finding.diagnostics.length === 0 && !hasRules(definition);
    return changed;
  }

  private updateInput(node: Node, definition: Exclude<Definition, FormulaDefinition>): void {
    node.needsCompile = false;
    if (definition.kind === 'table') {
      this.store.values[node.place] = 0;
      return;
    }
    if (node.cycle) {
      this.mark(node, { ...NOTHING, type: definition.type, diagnostics: [describeCycle(namesOfCycle(node.cycle, this.nodes), '')] });
      return;
    }
    this.store.values[node.place] = definition.value;
    node.finding = findingOfInput(definition);
    if (definition.isPassedOn) node.waitsFor = definition.problem;
  }

  private updateFormula(node: Node, definition: FormulaDefinition): void {
    if (node.cycle) {
      this.refuse(node, definition, [describeCycle(namesOfCycle(node.cycle, this.nodes), definition.text)]);
      return;
    }
    // A node in trouble is compiled again: its finding holds the diagnostics of the last run.
    if (node.needsCompile || node.finding.diagnostics.length > 0) {
      node.needsCompile = false;
      if (!this.compile(node, definition)) return;
    }
    const { store } = this;
    if (node.codeTo > node.codeFrom) run(store.code, node.codeFrom, node.codeTo, store.values, store.tables);
    const value = store.values[node.place] as number;
    if (value - value !== 0) {
      this.explain(node, definition);
      return;
    }
    if (hasRules(definition)) this.checkRules(node, definition, value);
  }

  private compile(node: Node, definition: FormulaDefinition): boolean {
    const { store } = this;
    store.release(node.codeFrom, node.codeTo);
    node.codeFrom = node.codeTo = 0;
    this.compactIfNeeded();
    const parsed = this.parse(definition.text);
    const result = parsed.ok ? this.compileNode(definition, parsed.node) : parsed;
    if (!result.ok) {
      this.refuse(node, definition, result.diagnostics);
      return false;
    }
    const { typed, type, adopted, typedUnit, isLiteral } = result.compiled;
    node.finding = shareFinding({ type, diagnostics: NOTHING.diagnostics, adopted, typedUnit, isLiteral });
    if (typed.kind === 'constant') {
      store.values[node.place] = typed.value;
      return true;
    }
    node.codeFrom = store.codeLength;
    const fits = emitCode(typed, node.place, store satisfies CodeSink);
    node.codeTo = store.codeLength;
    if (!fits) {
      this.refuse(node, definition, [{ code: 'too-long', message: 'This formula is nested too deeply.', from: 0, to: definition.text.length }]);
    }
    return fits;
  }

  /** Puts the code of all values together again once half of the store is code that nobody runs. */
  private compactIfNeeded(): void {
    if (this.store.compactIfWasteful(this.nodes)) this.flat.drop();
  }

  private compileNode(definition: FormulaDefinition, node: FormulaNode) {
    const ownName = definition.typedFor ?? definition.name;
    return compileFormula(definition.text, node, { ...this.scope(definition.units ?? this.units), ownName }, definition.slot);
  }

  /** Sets the trouble of a formula that does not compile. Where the slot tells its type, readers can go on. */
  private refuse(node: Node, definition: FormulaDefinition, diagnostics: readonly FormulaDiagnostic[]): void {
    const { slot } = definition;
    const type = slot.kind === 'quantity' ? quantityType(slot.dimension) : undefined;
    this.mark(node, { ...NOTHING, type, diagnostics });
  }

  /** Sets the trouble of a formula that compiles but has no value now. */
  private refuseValue(node: Node, diagnostic: FormulaDiagnostic): void {
    this.mark(node, { ...node.finding, diagnostics: [diagnostic] });
  }

  private mark(node: Node, finding: Finding): void {
    this.store.values[node.place] = NaN;
    node.waitsFor = finding.diagnostics.find((diagnostic) => diagnostic.code === 'waiting')?.message;
    node.finding = finding;
  }

  /** Why the code gave no number: something that it reads has none, or an operation refused. */
  private explain(node: Node, definition: FormulaDefinition): void {
    const { text } = definition;
    const parsed = this.parse(text);
    const result = parsed.ok ? this.compileNode(definition, parsed.node) : parsed;
    invariant(parsed.ok && result.ok, () => `${definition.name} ran but does not compile`);
    const fault = diagnoseFault(text, result.compiled.typed, (place) => this.store.values[place] ?? NaN);
    if ('diagnostic' in fault) {
      this.refuseValue(node, fault.diagnostic);
      return;
    }
    this.refuseValue(node, describeWaiting(node, fault.waitsOn, { nodes: this.nodes, names: parsed.names, text }));
  }

  private checkRules(node: Node, definition: FormulaDefinition, value: number): void {
    const verdict = judge(definition, value, this.boundOf(definition.least), this.boundOf(definition.most));
    if (typeof verdict === 'number') this.store.values[node.place] = verdict;
    else this.refuseValue(node, verdict);
  }

  private boundOf(id: string | undefined): Bound | undefined {
    const node = id === undefined ? undefined : this.nodeOf(id);
    if (!node || node.definition.kind === 'table') return undefined;
    return { value: this.store.values[node.place] ?? NaN, text: node.definition.text ?? '' };
  }

  private indexOf(name: string): number | undefined {
    const known = this.names.find(name);
    const supplied = known === undefined && name.includes('.') ? this.outside?.supply(name) : undefined;
    if (!supplied) return known;
    this.define(supplied.id, supplied.definition);
    return this.byId.get(supplied.id);
  }

  private parse(text: string) {
    return readFormula(text, (name) => this.names.has(name));
  }

  private nodeOf(id: string): Node | undefined {
    const index = this.byId.get(id);
    return index === undefined ? undefined : this.nodes[index];
  }
}

/**
 * The values of one document, kept up to date: a sheet fed from the document's records. Parameters and
 * dimensions are formulas, taken values are inputs, tables are tables; limits, guards and conditions of
 * steps are formulas of their own under ids that no record has (`<id>/least`).
 */
import { TEMPERATURE_POINT, TEXT, YES_NO, evaluateConstant, textOfNumber, type Scope, type Slot } from '../formula';
import { Sheet, type Definition, type InputDefinition, type Outside, type Reading, type Settled } from '../network';
import { dropRadian, findUnit, formatRounded, joinUnit, kindDimension, parseUnit, systemUnit, PLAIN, type Unit, type UnitSystem } from '../units';
import { findAny, findRecord, isNamed, isStep, isTable } from './access';
import type { DocumentDiff } from './draft';
import { GOAL_NODES, goalNodes } from './goal-nodes';
import { historyNodes, measureSource } from './history-nodes';
import { inputNode, OutsideValues, slotOfInput } from './outside';
import type { OutsideCalculation } from './outside-schema';
import type { Drive } from './assembly-schema';
import type { Document, DocumentRecord, Formula, Parameter, SketchDimension, Take, TakenValue } from './schema';
import { sameData } from '../kit';
import { formulaNow, usedSize } from './sizes';
import { formulaOf, inputOf, measuredInput, readTable, slotOf, slotOfTaken, type MeasuredValue } from './value-nodes';
import { writeQuantity } from './taken-text';

interface Words {
  /** Rounded for display, with its unit: `480 mm`. Empty when it is refused. */
  readonly shown: string;
  /** The shortest text that reads back as the same value. */
  readonly exact: string;
}

/** A value with its words, as rows and replies show it. */
export interface ShownValue extends Reading, Words {
  readonly unit: Unit | undefined;
  /** It is set from outside: its own formula does not count. */
  readonly isOverridden?: true;
}

interface Spoken extends Pick<Reading, 'value' | 'type' | 'diagnostics'> {
  readonly unit: Unit | undefined;
  readonly decimals: number;
  readonly units: UnitSystem;
  readonly words: Words;
}

const DEFAULT_DECIMALS = 3;

/** What stands in a document or is used by it, as its values see it. */
export interface ComponentValues extends Outside {
  /** What the sheet holds for a value that the assembly sets. */
  readonly defineDrive: (drive: Drive) => Definition;
  /** What a drive of the assembly must yield; undefined where what it sets is not at hand. */
  readonly slotOfDrive: (drive: string) => Slot | undefined;
  /** What a value of a component must be, in words for the assembly. */
  readonly slotOfValue: (record: DocumentRecord, label: string) => Slot;
  /** The values inside a component, as they are there. */
  readonly valuesOf: (component: string) => DocumentValues | undefined;
  /** Why a component cannot be evaluated. */
  readonly problemOf: (component: string) => string | undefined;
  /** What was measured on a part that the document starts from; whether anything came out different. */
  readonly takeMeasured: (component: string, values: Readonly<Record<string, MeasuredValue>>) => boolean;
  /** That, by the ids that it has there. */
  readonly measuredOf: (component: string) => Readonly<Record<string, MeasuredValue>> | undefined;
  /** Mass or volume of the whole assembly, as it would be shown; empty until it is known. */
  readonly showWhole: (what: 'mass' | 'volume') => string;
  /** What is under a path of names, as it would be shown; empty where there is nothing. */
  readonly showPath: (path: string) => string;
  /** Brings the components up to what the sheet says now; definitions by id that came out different, undefined for one that is gone. */
  readonly update: () => ReadonlyMap<string, Definition | undefined>;
}

/** No chain of driven and read values is longer. */
const MOST_ROUNDS = 10_000;

const NOT_YET: MeasuredValue = { problem: 'Not measured yet: the geometry is being built.' };

export class DocumentValues {
  readonly sheet: Sheet;
  private readonly measured = new Map<string, MeasuredValue>();
  /** Dimensions by the parameter that holds their value. */
  private readonly dimensions = new Map<string, SketchDimension>();
  private history = new Map<string, InputDefinition>();
  /** Formulas that count in the place of those of the document, by parameters and taken values. */
  private overridden: ReadonlyMap<string, Formula> = new Map();
  /** The cells of the size in use. */
  private sizedBy: Readonly<Record<string, Formula>> = {};
  private readonly spoken = new Map<string, Spoken>();

  /** Its outside calculations. */
  readonly outside = new OutsideValues(this);
  /** Its components, and the calc sheets that it uses; undefined where nothing is known of other documents. */
  readonly components: ComponentValues | undefined;

  constructor(
    private current: Document,
    private readonly together?: (values: DocumentValues) => ComponentValues,
  ) {
    this.components = together?.(this);
    this.sizedBy = usedSize(current)?.cells ?? {};
    this.sheet = new Sheet(current.units, this.components);
    for (const record of Object.values(current.records)) if (record.type === 'dimension') this.dimensions.set(record.parameter, record);
    for (const record of Object.values(current.records)) this.load(record);
    this.loadHistory();
    this.settle();
  }

  get document(): Document {
    return this.current;
  }

  /** The values of another state of the document, among the same others. */
  openState(document: Document): DocumentValues {
    return new DocumentValues(document, this.together);
  }

  /** Moves on to the document that an edit made. */
  apply(document: Document, diff: DocumentDiff): Settled {
    this.current = document;
    if (diff.fields.includes('units')) this.sheet.setUnits(document.units);
    for (const { before, after } of diff.records) if (before && !after) this.unload(before);
    this.loadSizes(diff);
    for (const { after } of diff.records) if (after?.type === 'dimension') this.dimensions.set(after.parameter, after);
    for (const { before, after } of diff.records) if (after) this.load(after, before);
    if (diff.lists.length > 0 || diff.records.some(({ before, after }) => touchesHistory(before) || touchesHistory(after))) this.loadHistory();
    return this.settle();
  }

  /**
   * Brings everything up to date: an assembly sets values of its components, which it reads others of, and so on, until nothing comes out
   * different. A value that leads back to itself on that way is refused by the sheet, so that this ends.
   */
  settle(): Settled {
    let { computed } = this.sheet.settle();
    for (let round = 0; round < MOST_ROUNDS; round++) {
      const answered = this.outside.update();
      const changed = this.components?.update();
      if (answered.size === 0 && (changed?.size ?? 0) === 0) break;
      for (const [id, definition] of [...answered, ...(changed ?? [])]) {
        if (definition) this.sheet.define(id, definition);
        else this.sheet.remove(id);
      }
      computed += this.sheet.settle().computed;
    }
    return { computed };
  }

  /**
   * Sets values from outside, in the place of all that were set so before: each is judged by the kind, the limits and the choices that the value has, and
   * wins over the size in use. The document stays as it is; a linked value is cut off from its source; one that is measured cannot be set.
   */
  setOverrides(overrides: ReadonlyMap<string, Formula>): Settled {
    const before = this.overridden;
    this.overridden = overrides;
    for (const id of new Set([...before.keys(), ...overrides.keys()])) {
      const record = findRecord(this.current, id, 'parameter') ?? findRecord(this.current, id, 'take');
      if (record && !sameData(before.get(id), overrides.get(id))) this.load(record);
    }
    return this.settle();
  }

  /** Whether a value is set from outside. */
  isOverridden(id: string): boolean {
    return this.overridden.has(id) && !this.isMeasured(id);
  }

  /** Takes what the geometry measures now, of parts that it starts from under `<component>><value>`; whether anything came out different. */
  setMeasured(values: Readonly<Record<string, MeasuredValue>>): boolean {
    let changed = false;
    const inside = new Map<string, Record<string, MeasuredValue>>();
    for (const [id, value] of Object.entries(values)) {
      const [component = '', rest] = splitOnce(id, '>');
      if (rest !== undefined) inside.set(component, { ...inside.get(component), [rest]: value });
    }
    for (const [component, measured] of inside) if (this.components?.takeMeasured(component, measured) === true) changed = true;
    for (const [id, value] of Object.entries(values)) {
      const parameter = findRecord(this.current, id, 'parameter');
      if (!parameter || !this.isOfGeometry(id) || sameData(this.measured.get(id), value)) continue;
      changed = true;
      this.measured.set(id, value);
      this.loadParameter(parameter, undefined);
    }
    if (changed) this.settle();
    return changed;
  }

  /** Lets go of what was measured on a geometry that is another now. */
  forgetMeasured(): void {
    const known = [...this.measured.keys()];
    this.measured.clear();
    for (const id of known) {
      const parameter = findRecord(this.current, id, 'parameter');
      if (parameter && this.isOfGeometry(id)) this.loadParameter(parameter, undefined);
    }
  }

  /** Whether a value is read off the geometry: a measured value or a reference dimension. */
  isOfGeometry(id: string): boolean {
    return this.isMeasured(id) && findRecord(this.current, id, 'parameter')?.measure?.of !== 'outside';
  }

  /** Whether a value has no formula of its own: it is read off the geometry, or comes from an outside calculation. */
  isMeasured(id: string): boolean {
    const parameter = findRecord(this.current, id, 'parameter');
    return parameter !== undefined && measureSource(parameter, this.dimensions.get(id)) !== undefined;
  }

  /** The value of a parameter, a dimension or a taken value; undefined for another id. */
  show(id: string): ShownValue | undefined {
    const record = findAny(this.current, id);
    const reading = this.sheet.read(id);
    if (!record || !reading || !isNamed(record) || isTable(record)) return undefined;
    const unit = this.unitOf(record.type === 'parameter' ? record : undefined, reading, record.type === 'take' ? record.value : undefined);
    const decimals = (record.type === 'parameter' ? record.decimals : undefined) ?? DEFAULT_DECIMALS;
    const words = this.knownWords(id, reading, unit, decimals);
    return { ...reading, unit, ...words, ...(this.isOverridden(id) ? { isOverridden: true } : {}) };
  }

  /** A node of the sheet that is no record with a name, such as a drive, rounded for display; empty with an error. */
  showNode(id: string): string {
    const reading = this.sheet.read(id);
    return reading ? this.words(reading, this.unitOf(undefined, reading)).shown : '';
  }

  /** The words of a value, made anew only where it is another: lists ask for all of theirs after each edit. */
  private knownWords(id: string, reading: Reading, unit: Unit | undefined, decimals: number): Words {
    const { value, type, diagnostics } = reading;
    const { units } = this.current;
    const known = this.spoken.get(id);
    const isKnown =
      known?.value === value &&
      known.type === type &&
      known.diagnostics === diagnostics &&
      known.unit === unit &&
      known.decimals === decimals &&
      known.units === units;
    if (isKnown) return known.words;
    const words = this.words(reading, unit, decimals);
    this.spoken.set(id, { value, type, diagnostics, unit, decimals, units, words });
    return words;
  }

  /** Words for a value that no record owns, such as the live result of a formula being typed. */
  words(reading: Pick<Reading, 'value' | 'type' | 'diagnostics'>, unit: Unit | undefined, decimals = DEFAULT_DECIMALS): Words {
    if (reading.diagnostics.length > 0 || !reading.type) return { shown: '', exact: '' };
    if (reading.type === YES_NO) {
      const word = reading.value === 1 ? 'yes' : 'no';
      return { shown: word, exact: word };
    }
    if (reading.type === TEXT) {
      const text = textOfNumber(reading.value);
      return { shown: text, exact: `"${text}"` };
    }
    const shownIn = unit ?? systemUnit(this.current.units, PLAIN);
    const rounded = dropRadian(this.current.units, shownIn);
    return {
      shown: joinUnit(formatRounded(reading.value, rounded, decimals), rounded.symbol),
      exact: writeQuantity(reading.value, shownIn, (name) => this.sheet.findByName(name) !== undefined),
    };
  }

  /** The unit that a value is best shown in. */
  unitOf(parameter: Parameter | undefined, reading: Pick<Reading, 'type' | 'typedUnit'>, taken?: TakenValue): Unit | undefined {
    const { type, typedUnit } = reading;
    const chosen = parameter?.displayUnit ?? (taken && 'unit' in taken ? taken.unit : undefined);
    const unit = chosen === undefined ? undefined : parseUnit(chosen);
    if (type === TEMPERATURE_POINT) return unit?.offset ? unit : (typedUnit ?? findUnit('°C'));
    if (type?.kind !== 'quantity') return undefined;
    if (unit?.dimension === type.dimension) return unit;
    return typedUnit ?? systemUnit(this.current.units, type.dimension);
  }

  /** What a reading of this document is when it is handed on; undefined for one that is refused, or no single value. */
  complete({ value, type, diagnostics }: Pick<Reading, 'value' | 'type' | 'diagnostics'>, unit: Unit | undefined): TakenValue | undefined {
    if (!type || diagnostics.length > 0 || Number.isNaN(value)) return undefined;
    switch (type.kind) {
      case 'quantity':
        return { kind: 'quantity', dimension: type.dimension.key, value, unit: unit?.symbol ?? '' };
      case 'temperature':
        return { kind: 'temperature', value, unit: unit?.symbol ?? '°C' };
      case 'yes-no':
        return { kind: 'yes-no', value: value === 1 ? 1 : 0 };
      case 'text':
        return { kind: 'text', value: textOfNumber(value) };
    }
  }

  /** What the value is when another document takes it. */
  handOver(id: string): TakenValue {
    const record = findAny(this.current, id);
    if (record?.type === 'table') return { kind: 'table', columns: record.columns, rows: record.rows, units: record.readIn ?? this.current.units };
    if (record?.type === 'take' && record.value.kind === 'table') return record.value;
    const shown = this.show(id);
    if (!record || !shown) return { kind: 'refused', problem: 'This value is no longer in its document.' };
    const name = isNamed(record) ? record.name : '';
    const [problem] = shown.diagnostics;
    const value = this.complete(shown, shown.unit);
    if (!value) return { kind: 'refused', problem: `${name} has an error in ${this.current.name}: ${problem?.message ?? ''}` };
    const isCount =
      record.type === 'parameter' ? record.kind === 'count' : record.type === 'take' && record.value.kind === 'quantity' && record.value.isCount === true;
    if (value.kind !== 'quantity') return value;
    return { ...value, ...(isCount ? { isCount } : {}), ...(this.isHeld(id) ? { isHeld: true } : {}) };
  }

  /** Whether a value, or the result of a step, rests on the result of an outside calculation that is older than its inputs. */
  isHeld(id: string): boolean {
    return this.sheet.listHeld().has(id);
  }

  /** A scope for judging a formula as it is typed. */
  scope(readIn?: UnitSystem): Scope {
    return this.sheet.scope(readIn ?? this.current.units);
  }

  /** Whether the condition of a step or a component says that it is left out. */
  isSuppressed(id: string): boolean {
    return this.sheet.readNumber(`${id}/suppressed`) === 1;
  }

  /** The density of a body by its own formula, in internal units; undefined where it has none, not a number where that has an error. */
  densityOf(body: string): number | undefined {
    return findRecord(this.current, body, 'body')?.density ? this.sheet.readNumber(`${body}/density`) : undefined;
  }

  /** What is wrong with the density formula of a body. */
  densityProblem(body: string): string | undefined {
    return this.sheet.read(`${body}/density`)?.diagnostics[0]?.message;
  }

  /** What is wrong with the condition of a step, where it has one without a value. */
  conditionProblem(stepId: string): string | undefined {
    const reading = this.sheet.read(`${stepId}/suppressed`);
    return reading && Number.isNaN(reading.value) ? (reading.diagnostics[0]?.message ?? 'it has no value.') : undefined;
  }

  private load(record: DocumentRecord, before: DocumentRecord | null = null): void {
    switch (record.type) {
      case 'parameter':
        this.loadParameter(record, before?.type === 'parameter' ? before : undefined);
        break;
      case 'take':
        this.loadTaken(record);
        break;
      case 'table':
        this.sheet.define(record.id, { kind: 'table', name: record.name, table: readTable(record, this.scope(record.readIn)) });
        break;
      case 'outside':
        this.loadOutside(record, before?.type === 'outside' ? before : undefined);
        break;
      case 'body':
        this.loadOptional(`${record.id}/density`, record.density, {
          kind: 'quantity',
          dimension: kindDimension('density'),
          isCount: false,
          label: `the density of ${record.name}`,
        });
        break;
      case 'guard':
        this.sheet.define(record.id, formulaOf(`guard ${record.id}`, record.condition, { kind: 'yes-no', label: 'a guard' }));
        break;
      case 'goal':
        for (const [node, formula] of goalNodes(record)) this.loadOptional(node, formula, { kind: 'any' });
        break;
      case 'drive':
        this.sheet.define(record.id, this.components?.defineDrive(record) ?? inputOf(`drive ${record.id}`, NOT_AT_HAND));
        break;
      case 'dimension': {
        const parameter = findRecord(this.current, record.parameter, 'parameter');
        if (parameter) this.loadParameter(parameter, undefined);
        break;
      }
      default:
        if (record.type === 'component') this.loadOptional(`${record.id}/size`, record.size, { kind: 'text', label: `the size of ${record.name}` });
        if (isStep(record) || record.type === 'component' || record.type === 'mate')
          this.loadOptional(`${record.id}/suppressed`, record.suppressed, { kind: 'yes-no', label: 'this condition' });
        break;
    }
  }

  private loadOutside(record: OutsideCalculation, before: OutsideCalculation | undefined): void {
    this.outside.put(record);
    const keys = new Set(record.inputs.map(({ key }) => key));
    for (const { key } of before?.inputs ?? []) if (!keys.has(key)) this.sheet.remove(inputNode(record.id, key));
    for (const input of record.inputs) {
      const node = inputNode(record.id, input.key);
      this.sheet.define(node, formulaOf(`${input.key} of ${record.name}`, input.formula, slotOfInput(record, input)));
    }
  }

  /** Values that the size in use says something else of than before; what it says of others is loaded with them. */
  private loadSizes(diff: DocumentDiff): void {
    if (!diff.records.some(({ before, after }) => [before, after].some((record) => record?.type === 'size' || record?.type === 'size-table'))) return;
    const cells = usedSize(this.current)?.cells ?? {};
    for (const id of new Set([...Object.keys(cells), ...Object.keys(this.sizedBy)])) {
      const parameter = findRecord(this.current, id, 'parameter');
      if (parameter && cells[id] !== this.sizedBy[id]) this.loadParameter(parameter, undefined);
    }
    this.sizedBy = cells;
  }

  private loadTaken({ id, name, value }: Take): void {
    const formula = this.overridden.get(id);
    if (formula && value.kind !== 'table') this.sheet.define(id, formulaOf(name, formula, slotOfTaken(value, name)));
    else this.sheet.define(id, this.takenInput(name, value));
  }

  private takenInput(name: string, value: TakenValue): Definition {
    if (value.kind === 'table') return { kind: 'table', name, table: readTable({ name, ...value }, this.scope(value.units)) };
    return inputOf(name, value);
  }

  private loadHistory(): void {
    const next = historyNodes(this.current);
    const gone = [...this.history.keys()].filter((id) => !next.has(id));
    const fresh = [...next].filter(([id, definition]) => !sameData(this.history.get(id), definition));
    for (const id of gone) this.sheet.remove(id);
    for (const [id, definition] of fresh) this.sheet.define(id, definition);
    this.history = next;
    if (gone.length + fresh.length === 0) return;
    // What is measured was bound before the nodes that it reads were there.
    for (const record of Object.values(this.current.records)) {
      if (record.type === 'parameter' && this.isMeasured(record.id)) this.loadParameter(record, undefined);
    }
  }

  private loadParameter(record: Parameter, before: Parameter | undefined): void {
    const source = measureSource(record, this.dimensions.get(record.id));
    if (record.measure?.of === 'outside') {
      this.sheet.define(record.id, this.outside.define(record));
      return;
    }
    if (source) {
      this.sheet.define(record.id, measuredInput(record.name, source, this.measured.get(record.id) ?? NOT_YET));
      return;
    }
    const slot = slotOf(record);
    if (record.least ?? before?.least) this.loadOptional(`${record.id}/least`, record.least, slot);
    if (record.most ?? before?.most) this.loadOptional(`${record.id}/most`, record.most, slot);
    const choices = record.choices?.flatMap((text) => {
      const result = evaluateConstant(text, this.scope(record.formula.readIn), slot);
      return result.ok ? [{ value: result.value, text }] : [];
    });
    this.sheet.define(record.id, {
      ...formulaOf(record.name, this.overridden.get(record.id) ?? formulaNow(this.current, record), slot),
      ...(record.least ? { least: `${record.id}/least` } : {}),
      ...(record.most ? { most: `${record.id}/most` } : {}),
      ...(choices && choices.length > 0 ? { choices } : {}),
    });
  }

  private loadOptional(id: string, formula: Formula | undefined, slot: Slot): void {
    if (formula) this.sheet.define(id, formulaOf(id, formula, slot));
    else this.sheet.remove(id);
  }

  private unload(record: DocumentRecord): void {
    if (record.type === 'dimension') this.dimensions.delete(record.parameter);
    if (record.type === 'outside') for (const { key } of record.inputs) this.sheet.remove(inputNode(record.id, key));
    this.outside.drop(record.id);
    this.measured.delete(record.id);
    this.spoken.delete(record.id);
    this.sheet.remove(record.id);
    for (const part of ['least', 'most', 'suppressed', 'density', 'size', ...GOAL_NODES]) this.sheet.remove(`${record.id}/${part}`);
  }
}

function splitOnce(text: string, mark: string): [string, string?] {
  const at = text.indexOf(mark);
  return at < 0 ? [text] : [text.slice(0, at), text.slice(at + mark.length)];
}

const NOT_AT_HAND = { kind: 'refused', problem: 'Its component is being loaded.' } as const;

function touchesHistory(record: DocumentRecord | null): boolean {
  if (record === null) return false;
  return isStep(record) || record.type === 'dimension' || record.type === 'mate' || (record.type === 'parameter' && record.measure !== undefined);
}

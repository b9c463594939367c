/**
 * The components of one assembly among its values.
 *
 * A value that is set (a *drive*) is a formula of the assembly's sheet under the path of names that it sets, `rail.length`; a value that is
 * read is an input under its path, which enters the sheet when a formula first reads it. Its `reads` are the drives that reach it inside
 * the instance, value by value, so that a cycle is one only where a value truly depends on itself.
 *
 * {@link Instances.update} goes over the components once: each is given what the sheet says for its drives, and what is read of it is told
 * back. Components with the same snapshot and the same values share one evaluation; one that nobody has any more is kept as a spare and
 * moved on to the next values of that snapshot, so that only the cone of what changed is computed.
 */
import {
  answersWithin,
  DocumentValues,
  findRecord,
  findSize,
  hasComponents,
  hasShape,
  inputOf,
  isNamed,
  isTable,
  KIND_WORDS,
  listRecords,
  measuresGeometry,
  type Component,
  type ComponentValues,
  type Document,
  type DocumentRecord,
  type Drive,
  type MeasuredValue,
  type TakenValue,
} from '../document';
import { quantityType, textOfNumber, type Slot } from '../formula';
import { sameData } from '../kit';
import type { Definition, InputDefinition } from '../network';
import { complete } from './complete';
import { countCopies } from './copies';
import { defineDrive } from './define-drive';
import { diffDocuments } from './diff-documents';
import { driveDocument, instanceKey, isHandedDown, type InstanceKey, type SetAbove } from './drive-document';
import type { Instance } from './instance';
import { driven, pinnedPart, reach, refused, shapeNodes, sizeProblem } from './nodes';
import { PartShapes } from './part-shapes';
import { nodesSet, setBelow } from './set-below';
import { inTakingOrder, keyOfAbove, type Setter } from './setters';
import type { BuiltInstance, InstanceSource } from './source';
import { builtInDimension, isBuiltIn, listReadable, slotOfGoal, type BuiltInName } from './value-path';

/** Sub-assemblies within sub-assemblies. */
const MOST_LEVELS = 32;

interface Contents {
  readonly document: Document;
  readonly components: readonly Component[];
  readonly drives: readonly Drive[];
  readonly byName: ReadonlyMap<string, Component>;
}

export class Instances implements ComponentValues {
  private readonly instances = new Map<string, Instance>();
  private readonly shared = new Map<InstanceKey, DocumentValues>();
  /** Evaluations that no component has now, by snapshot. */
  private readonly spare = new Map<string, DocumentValues>();
  /** What formulas read of components, by path of names. */
  private readonly read = new Map<string, { readonly id: string; readonly definition: InputDefinition }>();
  private readonly drives = new Map<string, Definition>();
  private drivenPaths: ReadonlySet<string> | undefined;
  private listed: Contents | undefined;
  private readonly described = new Map<
    string,
    { readonly drive: Drive; readonly owner: Component; readonly snapshot: Document; readonly definition: Definition }
  >();
  private readonly parts: PartShapes;
  private readonly opened = new Map<string, { readonly inputs: readonly unknown[]; readonly instance: Instance }>();
  /** Drives with a value that came out well, by id: what the picture shows while one is wrong. */
  private readonly lastGood = new Map<string, TakenValue>();

  constructor(
    private readonly host: DocumentValues,
    readonly source: InstanceSource,
    /** The documents that the assembly stands in, outermost first. */
    private readonly within: readonly string[],
  ) {
    this.parts = new PartShapes(host);
  }

  /** The component's evaluation; undefined for one that is not there. */
  find(component: string): Instance | undefined {
    return this.instances.get(component);
  }

  supply(path: string): { readonly id: string; readonly definition: InputDefinition } | undefined {
    const known = this.read.get(path);
    if (known) return known;
    const found = this.readPath(path);
    if (found) this.read.set(path, found);
    return found;
  }

  peek(path: string): { readonly id: string; readonly definition: InputDefinition } | undefined {
    return this.read.get(path) ?? this.readPath(path);
  }

  *listPaths(): Iterable<string> {
    for (const component of this.contents().components) {
      const snapshot = this.source.snapshot(component.source, component.revision);
      if (snapshot) for (const name of listReadable(snapshot, this.source)) yield `${component.name}.${name}`;
    }
  }

  slotOfDrive(drive: string): Slot | undefined {
    const definition = this.drives.get(drive);
    return definition?.kind === 'formula' ? definition.slot : undefined;
  }

  slotOfValue(record: DocumentRecord, label: string): Slot {
    return slotOfGoal({ record }, label);
  }

  valuesOf(component: string): DocumentValues | undefined {
    return this.instances.get(component)?.values;
  }

  /** What was built of a component, with the values that it has here. */
  builtOf(component: string): BuiltInstance | undefined {
    const instance = this.instances.get(component);
    return instance?.values && this.source.built(instance.key, complete(instance.values.document, this.source));
  }

  problemOf(component: string): string | undefined {
    return this.instances.get(component)?.problem;
  }

  takeMeasured(component: string, values: Readonly<Record<string, MeasuredValue>>): boolean {
    return this.parts.take(component, values);
  }

  measuredOf(component: string): Readonly<Record<string, MeasuredValue>> | undefined {
    return this.parts.measuredOf(component);
  }

  showWhole(what: BuiltInName): string {
    const whole = builtInOf(this.host, '', what, this.source);
    if (!('value' in whole)) return '';
    const type = quantityType(builtInDimension(what));
    return this.host.words({ type, value: whole.value, diagnostics: [] }, this.host.unitOf(undefined, { type, typedUnit: undefined })).shown;
  }

  showPath(path: string): string {
    const found = this.readPath(path)?.definition ?? [...this.drives.values()].find(({ name }) => name === path);
    if (found?.kind !== 'input') return '';
    const { type, value, unit, problem } = found;
    return problem === undefined ? this.host.words({ type, value, diagnostics: [] }, unit).shown : '';
  }

  defineDrive(drive: Drive): Definition {
    const definition = this.describeDrive(drive);
    this.drives.set(drive.id, definition);
    this.drivenPaths = undefined;
    return definition;
  }

  update(): ReadonlyMap<string, Definition | undefined> {
    const changed = new Map<string, Definition | undefined>();
    this.updateInstances();
    for (const drive of this.contents().drives) {
      const before = changed.size;
      for (const [id, definition] of this.describeBounds(drive)) this.note(changed, id, definition);
      // It is judged by its limits when it is looked at.
      if (changed.size > before) this.drives.delete(drive.id);
      this.note(changed, drive.id, this.describeDrive(drive));
    }
    if (this.host.document.kind === 'part') this.parts.update(this.instances, changed);
    // One that has another name now is still read by that.
    const stillRead = new Map<string, InputDefinition>();
    for (const [path, { id, definition }] of this.read) {
      const now = this.readPath(path);
      if (now) stillRead.set(now.id, now.definition);
      if (now?.id !== id) {
        this.read.delete(path);
        changed.set(id, undefined);
      } else if (!sameData(definition, now.definition)) {
        this.read.set(path, now);
        changed.set(id, now.definition);
      }
    }
    for (const [id, definition] of changed) if (definition === undefined && stillRead.has(id)) changed.set(id, stillRead.get(id));
    return changed;
  }

  private note(changed: Map<string, Definition | undefined>, id: string, definition: Definition): void {
    if (sameData(this.drives.get(id), definition)) return;
    this.drives.set(id, definition);
    this.drivenPaths = undefined;
    changed.set(id, definition);
  }

  /** What is in the document, listed once for each state of it. */
  private contents(): Contents {
    const { document } = this.host;
    if (this.listed?.document !== document) {
      const components = listRecords(document, 'components', 'component');
      const drives = components.flatMap(({ id }) => listRecords(document, `${id}/drives`, 'drive'));
      this.listed = { document, components, drives, byName: new Map(components.map((component) => [component.name, component])) };
      const there = new Set(drives.map(({ id }) => id));
      for (const id of this.drives.keys()) if (!there.has(id.split('>', 1)[0] ?? id)) this.drives.delete(id);
      this.drivenPaths = undefined;
    }
    return this.listed;
  }

  /** Whether a path is one that the assembly sets. */
  private isDriven(path: string): boolean {
    this.drivenPaths ??= new Set([...this.drives.values()].map(({ name }) => name));
    return this.drivenPaths.has(path);
  }

  // ---- what is set

  private describeDrive(drive: Drive): Definition {
    const owner = findRecord(this.host.document, drive.component, 'component');
    const snapshot = owner && this.source.snapshot(owner.source, owner.revision);
    const known = this.described.get(drive.id);
    if (known && known.drive === drive && known.owner === owner && known.snapshot === snapshot) return known.definition;
    const definition = defineDrive(drive, { owner, snapshot, host: this.host, source: this.source });
    // What is refused may be there the next time.
    if (owner && snapshot && definition.kind === 'formula') this.described.set(drive.id, { drive, owner, snapshot, definition });
    return definition;
  }

  /** The limits that the value has in its document, as values of the assembly. */
  private *describeBounds({ id, component, path: [value = '', ...rest] }: Drive): Generator<[string, Definition]> {
    const instance = this.instances.get(component);
    const record = rest.length === 0 && instance?.values ? findRecord(instance.values.document, value, 'parameter') : undefined;
    if (!record || !instance) return;
    for (const bound of ['least', 'most'] as const) {
      if (record[bound]) yield [`${id}>${bound}`, { ...this.readNode(instance, `${value}/${bound}`, `limit ${id} ${bound}`), text: record[bound].text }];
    }
  }

  // ---- instances

  private updateInstances(): void {
    const { components } = this.contents();
    const there = new Set(components.map(({ id }) => id));
    for (const id of this.instances.keys()) {
      if (there.has(id)) continue;
      this.instances.delete(id);
      this.opened.delete(id);
      this.parts.forget(id);
    }
    // What sets values for others comes first.
    const above: Setter[] = [];
    const placeless = components.filter(({ at }) => at === undefined);
    for (const component of inTakingOrder(placeless, this.source)) {
      this.instances.set(component.id, this.open(component, above, keyOfAbove(above)));
      if (this.handsOn(component)) above.push({ component, set: this.setAbove(component) });
    }
    const aboveKey = keyOfAbove(above);
    for (const component of components) if (component.at !== undefined) this.instances.set(component.id, this.open(component, above, aboveKey));
    const used = new Set([...this.instances.values()].map(({ key }) => key));
    for (const [key, values] of this.shared) {
      if (used.has(key)) {
        // What was built meanwhile, here or further down.
        this.tellBuilt(key, values);
        if (hasComponents(values.document)) values.settle();
        continue;
      }
      this.shared.delete(key);
      this.spare.set(pinnedPart(key), values);
    }
    const pinned = new Set([...used].map(pinnedPart));
    for (const key of this.spare.keys()) if (!pinned.has(key)) this.spare.delete(key);
  }

  /** A calculation is for those that read it, a part for that which starts from it: each use of them has inputs of its own. */
  private handsOn(component: Component): boolean {
    const snapshot = this.source.snapshot(component.source, component.revision);
    if (!snapshot || snapshot.kind === 'calc') return false;
    return this.host.document.kind === 'assembly' || !hasShape(snapshot) || isHandedDown(component);
  }

  /** The instance of a component: as it was, where nothing that decides it is another. */
  private open(component: Component, above: readonly Setter[], aboveKey: string): Instance {
    const drives = listRecords(this.host.document, `${component.id}/drives`, 'drive');
    const readings = drives.map(({ id }) => this.host.sheet.read(id));
    const inputs = [
      component,
      this.source.snapshot(component.source, component.revision),
      aboveKey,
      ...drives,
      this.answersOf(component)
        .map(({ id }) => id)
        .join(' '),
      this.readSize(component),
      ...readings.flatMap((reading) => [reading?.value, reading?.type, reading?.diagnostics]),
    ];
    const known = this.opened.get(component.id);
    if (known?.inputs.length === inputs.length && known.inputs.every((input, i) => Object.is(input, inputs[i]))) return known.instance;
    const instance = this.openAnew(component, drives, above);
    this.opened.set(component.id, { inputs, instance });
    return instance;
  }

  private openAnew(component: Component, drives: readonly Drive[], above: readonly Setter[]): Instance {
    const { source, revision, sourceName } = component;
    const chain = [...this.within, this.host.document.id];
    const snapshot = this.source.snapshot(source, revision);
    const fail = (problem: string): Instance => ({ key: '', values: undefined, problem, setBy: new Map() });
    if (chain.includes(source)) return fail(`${component.name} would contain itself: ${sourceName} is among those that it stands in.`);
    if (!snapshot) return fail(`${sourceName} is being loaded.`);
    const { kind } = this.host.document;
    const isBase = kind === 'part' && snapshot.kind === 'part';
    if (kind !== 'assembly' && hasShape(snapshot) && !isBase && !isHandedDown(component))
      return fail(`${sourceName} has a shape: only an assembly can hold it. A ${KIND_WORDS[kind]} uses calc sheets.`);
    if (chain.length > MOST_LEVELS) return fail(`Assemblies can be nested at most ${MOST_LEVELS} levels deep.`);
    const size = this.readSize(component);
    const row = size === undefined ? undefined : findSize(snapshot, size);
    if (component.size && !row) return fail(sizeProblem(component, snapshot, size));
    const { values, setBy } = setBelow(snapshot, above, this.instances);
    for (const id of Object.keys(row?.cells ?? {})) setBy.set(id, [`${component.id}/size`]);
    for (const drive of drives) {
      const value = this.valueOfDrive(drive);
      const path = drive.path.join(' ');
      if (value) values.set(path, value);
      setBy.set(path, [drive.id]);
    }
    const overrides = {
      values,
      above: hasComponents(snapshot) ? above.map(({ set }) => set).filter((set) => set.values.size > 0) : [],
      ...(component.mirrored !== undefined && hasShape(snapshot) ? { mirrored: component.mirrored } : {}),
      ...(row ? { size: row.id } : {}),
      answers: this.answersOf(component),
    };
    const key = instanceKey(component, overrides);
    const evaluated = this.shared.get(key) ?? this.evaluate(key, driveDocument(snapshot, overrides), chain);
    return { key, values: evaluated, problem: undefined, setBy: nodesSet(evaluated, setBy, { passed: overrides.above, above }, this.instances) };
  }

  private answersOf({ id }: Component) {
    return answersWithin(this.host.document, id);
  }

  private evaluate(key: InstanceKey, document: Document, within: readonly string[]): DocumentValues {
    const spare = this.spare.get(pinnedPart(key));
    if (spare) {
      this.spare.delete(pinnedPart(key));
      spare.forgetMeasured();
      spare.apply(document, diffDocuments(spare.document, document));
    }
    const values = spare ?? openInstance(document, this.source, within);
    this.shared.set(key, values);
    this.tellBuilt(key, values);
    return values;
  }

  /** What only geometry tells: never that of other values. */
  private tellBuilt(key: InstanceKey, values: DocumentValues): void {
    const built = measuresGeometry(values.document) ? this.source.built(key, complete(values.document, this.source)) : undefined;
    if (built) values.setMeasured(built.measured);
    if (this.host.document.kind !== 'part') return;
    for (const [id, instance] of this.instances) {
      const measured = instance.key === key ? this.parts.measuredOf(id) : undefined;
      if (measured) values.setMeasured(measured);
    }
  }

  private setAbove(component: Component): SetAbove {
    const { source, revision, hash } = component;
    const instance = this.instances.get(component.id);
    const values = new Map<string, TakenValue>();
    if (instance?.values && instance.setBy.size > 0) {
      const { document } = instance.values;
      for (const id of driven(instance.values, instance.setBy.keys())) {
        const record = document.records[id];
        if (record && isNamed(record)) values.set(id, instance.values.handOver(id));
      }
    }
    return { source, revision, hash, values };
  }

  /** The name of the size that a component is to have; undefined where it says none, or that has an error. */
  private readSize({ id, size }: Component): string | undefined {
    const number = size ? this.host.sheet.readNumber(`${id}/size`) : NaN;
    return Number.isNaN(number) ? undefined : textOfNumber(number);
  }

  private valueOfDrive(drive: Drive): TakenValue | undefined {
    const reading = this.host.sheet.read(drive.id);
    const value = reading && this.host.complete(reading, this.host.unitOf(undefined, reading));
    if (value) this.lastGood.set(drive.id, value);
    return value ?? this.lastGood.get(drive.id);
  }

  // ---- what is read

  private readPath(path: string): { readonly id: string; readonly definition: InputDefinition } | undefined {
    const dot = path.indexOf('.');
    const [name, rest] = [path.slice(0, dot), path.slice(dot + 1)];
    const component = this.contents().byName.get(name);
    if (!component) return undefined;
    // A value that is set from here is its drive.
    if (this.isDriven(path)) return undefined;
    const instance = this.instances.get(component.id);
    if (!instance) return { id: `${component.id}>${rest}`, definition: refused(path, `${component.sourceName} is being loaded.`) };
    if (!instance.values) return { id: `${component.id}>${rest}`, definition: refused(path, instance.problem ?? '') };
    const isThere = instance.values.sheet.findByName(rest) !== undefined;
    const node = instance.values.sheet.locate(rest);
    if (node !== undefined) {
      if (!isThere) instance.values.settle();
      const record = instance.values.document.records[node];
      if (record && isNamed(record) && isTable(record)) return undefined;
      return { id: `${component.id}>${node}`, definition: this.readNode(instance, node, path) };
    }
    return isBuiltIn(rest) ? { id: `${component.id}>${rest}`, definition: this.readBuiltIn(instance, component.id, rest, path) } : undefined;
  }

  private readNode(instance: Instance, node: string, path: string): InputDefinition {
    const { values } = instance;
    const reading = values?.sheet.read(node);
    if (!values || !reading) return refused(path, 'It is no longer there.');
    const reads = reach(instance, [node]);
    const waitsOn = reads.find((drive) => Number.isNaN(this.host.sheet.readNumber(drive)));
    if (waitsOn !== undefined) {
      const problem = `Waiting on ${this.drives.get(waitsOn)?.name ?? 'a value that is set from here'}.`;
      return { ...refused(path, problem), type: reading.type, isPassedOn: true, reads };
    }
    const record = values.document.records[node];
    const unit = values.unitOf(record?.type === 'parameter' ? record : undefined, reading, record?.type === 'take' ? record.value : undefined);
    const value = values.complete(reading, unit);
    if (value && value.kind !== 'table') return { ...inputOf(path, value), reads, ...(values.isHeld(node) ? { isHeld: true } : {}) };
    const [problem] = reading.diagnostics;
    const message =
      problem?.code === 'waiting' ? problem.message : `${path} has an error in ${values.document.name}: ${problem?.message ?? 'it has no value.'}`;
    return { ...refused(path, message), type: reading.type, reads };
  }

  private builtIn(instance: Instance, component: string, name: BuiltInName): MeasuredValue {
    const { values, key } = instance;
    if (!values) return { problem: 'It is being loaded.' };
    return this.host.document.kind === 'part' ? this.parts.readWhole(component, values.document.name, name) : builtInOf(values, key, name, this.source);
  }

  private readBuiltIn(instance: Instance, component: string, name: BuiltInName, path: string): InputDefinition {
    const { values } = instance;
    const nodes = values ? shapeNodes(values.document) : [];
    const reads = reach(instance, nodes);
    const held = nodes.some((node) => values?.isHeld(node)) ? { isHeld: true } : {};
    const found = this.builtIn(instance, component, name);
    return 'value' in found
      ? { kind: 'input', name: path, type: quantityType(builtInDimension(name)), value: found.value, reads, ...held }
      : {
          kind: 'input',
          name: path,
          type: quantityType(builtInDimension(name)),
          value: NaN,
          problem: found.problem,
          reads,
          ...(this.host.document.kind === 'part' ? { isPassedOn: true } : {}),
        };
  }
}

/** Mass or volume of an instance, all its bodies or components together. */
export function builtInOf(
  values: DocumentValues,
  key: InstanceKey,
  name: BuiltInName,
  source: InstanceSource,
): { readonly value: number } | { readonly problem: string } {
  if (values.document.kind !== 'assembly')
    return source.built(key, complete(values.document, source))?.[name] ?? { problem: `${values.document.name} is being built.` };
  let sum = 0;
  for (const component of listRecords(values.document, 'components', 'component')) {
    if (component.at === undefined || values.isSuppressed(component.id)) continue;
    const instance = values.components instanceof Instances ? values.components.find(component.id) : undefined;
    if (!instance?.values) return { problem: instance?.problem ?? `${component.name} is being loaded.` };
    const part = builtInOf(instance.values, instance.key, name, source);
    if (!('value' in part)) return part;
    const copies = component.pattern ? countCopies(values, component.pattern).length : 0;
    sum += part.value * (1 + copies);
  }
  return { value: sum };
}

function openInstance(document: Document, source: InstanceSource, within: readonly string[]): DocumentValues {
  return new DocumentValues(document, (values) => new Instances(values, source, within));
}

/** The values of a document with those of its components; what was measured on an assembly is asked for under no key. */
export function openValues(document: Document, source: InstanceSource): DocumentValues {
  const values = openInstance(document, source, []);
  const built = document.kind === 'assembly' && measuresGeometry(document) ? source.built(WHOLE, document) : undefined;
  if (built) values.setMeasured(built.measured);
  return values;
}

/** Stands for the key of an assembly that is no component of another. */
export const WHOLE: InstanceKey = '';

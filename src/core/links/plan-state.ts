/** One document while a catch-up is planned: what it takes, what becomes of its values, what it would publish. */
import {
  applyEdit,
  findAny,
  findBrokenGuards,
  findRecord,
  hasComponents,
  isNamed,
  listNamed,
  listQuestions,
  listRecords,
  measuresGeometry,
  showTaken,
  type Answer,
  type BrokenGuard,
  type Document,
  type Component,
  type DocumentValues,
  type EditOf,
  type Link,
  type MeasuredValue,
  type NamedRecord,
  type Question,
  type ShownValue,
  type TakenValue,
} from '../document';
import { listPins, meaningText, type InstanceSource } from '../instances';
import { sameData } from '../kit';
import { publishValues, valuesAsPublished } from './offered';
import { listSources } from './sources';

/** A document as the plan sees it: its present state, and what its latest revision published. */
export interface PlannedDocument {
  readonly document: Document;
  /** Number of the latest revision; 0 when there is none. */
  readonly revision: number;
  readonly hash: string;
  readonly published: Readonly<Record<string, TakenValue>>;
  /** It has just got new published values, which links that follow take. */
  readonly isFresh?: boolean;
}

export interface PlanOptions {
  /** What the geometry of a document that has taken new values measures; undefined while nobody has built it. */
  readonly measure?: (document: Document, snapshot: InstanceSource['snapshot']) => Readonly<Record<string, MeasuredValue>> | undefined;
  /** The content hash that a document will have as a revision, for the links that take from it. */
  readonly hash?: (document: Document) => string;
  /** What an outside calculation answers to a question that the document has with its new values; undefined while nobody has asked. */
  readonly answerTo?: (question: Question, document: Document) => Pick<Answer, 'outputs' | 'version' | 'at'> | undefined;
  /** Links that follow do not act by themselves: only the targets change. */
  readonly isStrict?: boolean;
  /** Snapshots that components stand for, and what was built of them; `planned` gives documents as the plan has them by then. */
  readonly instances?: (planned: (id: string) => PlannedState | undefined) => InstanceSource;
}

/** A document in the course of a plan. */
export interface PlannedState {
  readonly document: Document;
  /** The revision that the plan leaves it at. */
  readonly revision: number;
  readonly isChanged: boolean;
}

/** An edit that brings new values in, another revision of a component, or the answer to a question that these lead to. */
export type CatchUpEdit = EditOf<'link.catchUp' | 'component.catchUp' | 'outside.answer'>;

export interface ValueChange {
  readonly id: string;
  readonly name: string;
  readonly before: string;
  readonly after: string;
  /** The value is taken through a link, rather than computed here. */
  readonly isTaken: boolean;
}

export interface DocumentPlan {
  readonly id: string;
  readonly name: string;
  /** It comes along because a link of it follows, without having been asked for. */
  readonly comesAlong: boolean;
  /** Edits that bring the new values in, one for each link and component. */
  readonly edits: readonly CatchUpEdit[];
  readonly after: Document;
  readonly changes: readonly ValueChange[];
  /** Values that would have an error which they have not now. */
  readonly failures: readonly { readonly id: string; readonly name: string; readonly message: string }[];
  /** Guards that hold now and would not then. */
  readonly guards: readonly BrokenGuard[];
  /** What it measures or asks is as of its latest revision: nobody has built the geometry, or asked, with the new values yet. */
  readonly isProvisional: boolean;
  readonly publishedAfter: Readonly<Record<string, TakenValue>>;
}

export class PlanState {
  private values: DocumentValues | undefined;
  /** How things stood before the first new value came in. */
  private before: Before | undefined;
  private published: Readonly<Record<string, TakenValue>>;
  private document: Document;
  private isProvisional = false;
  private hashAfter: string | undefined;
  private readonly edits = new Map<string, CatchUpEdit>();
  private source: InstanceSource | undefined;
  /** The snapshots that its components stood for when it was looked at last. */
  private stoodOn: readonly Document[] | undefined;

  constructor(
    private readonly planned: PlannedDocument,
    private readonly isTarget: boolean,
    private readonly options: PlanOptions,
  ) {
    this.document = planned.document;
    this.published = planned.published;
  }

  private get id(): string {
    return this.planned.document.id;
  }

  /** Takes the present values of its sources; whether any differed from what it had. */
  take(stateOf: (id: string) => PlanState | undefined): boolean {
    this.source ??= this.options.instances?.((id) => stateOf(id)?.state());
    let changed = this.takeComponents(stateOf);
    for (const link of listRecords(this.document, 'links', 'link')) {
      const source = stateOf(link.source);
      if (!source || !this.takesAlong(link, source)) continue;
      const fresh: Record<string, TakenValue> = {};
      for (const take of listRecords(this.document, `${link.id}/takes`, 'take')) {
        const value = source.publishedValue(take.parameter);
        if (!sameTaken(value, take.value)) fresh[take.id] = value;
      }
      if (Object.keys(fresh).length === 0) continue;
      changed = true;
      const before = this.edits.get(link.id);
      const edit: CatchUpEdit = {
        type: 'link.catchUp',
        id: link.id,
        revision: source.nextRevision(),
        hash: source.planned.hash,
        values: { ...(before?.type === 'link.catchUp' ? before.values : {}), ...fresh },
      };
      this.edits.set(link.id, edit);
      this.applyTaken(edit);
    }
    if (changed && this.values) {
      this.measure(this.values);
      this.answer(this.values);
      this.published = publishValues(this.values);
    }
    return changed;
  }

  private state(): PlannedState {
    return { document: this.document, revision: this.nextRevision(), isChanged: this.edits.size > 0 };
  }

  /** Moves its components on to the revisions that their sources will have; whether anything that it reads of them may be other then. */
  private takeComponents(stateOf: (id: string) => PlanState | undefined): boolean {
    if (!hasComponents(this.document)) return false;
    this.stoodOn ??= this.listStoodOn();
    for (const component of listRecords(this.document, 'components', 'component')) {
      const source = stateOf(component.source);
      if (!source || !this.takesAlong(component, source) || !this.isOther(component, source)) continue;
      const edit: CatchUpEdit = {
        type: 'component.catchUp',
        id: component.id,
        revision: source.nextRevision(),
        hash: source.planned.hash,
        sourceName: source.document.name,
        ...this.renamedIn(component, source.nextRevision()),
      };
      this.edits.set(component.id, edit);
      this.applyTaken(edit);
    }
    const now = this.listStoodOn();
    if (sameAll(now, this.stoodOn)) return false;
    this.open();
    this.stoodOn = now;
    this.values = valuesAsPublished(this.document, this.planned.published, this.source);
    return true;
  }

  private listStoodOn(): Document[] {
    const { source } = this;
    return source ? listPins(this.document, source).flatMap((pin) => source.snapshot(pin.source, pin.revision) ?? []) : [];
  }

  /** Whether the revision that the source will have means something else than what the component stands for. */
  private isOther({ source: id, revision, hash }: Component, source: PlanState): boolean {
    const next = source.nextRevision();
    if (next <= revision || (source.edits.size === 0 && hash === source.planned.hash)) return false;
    const [before, after] = [this.source?.snapshot(id, revision), this.source?.snapshot(id, next)];
    return !before || !after || meaningText(before) !== meaningText(after);
  }

  /** New names of values that are read of a component. */
  private renamedIn({ source, revision }: Component, next: number): { readonly names?: Record<string, string> } {
    const [before, after] = [this.source?.snapshot(source, revision), this.source?.snapshot(source, next)];
    const names: Record<string, string> = {};
    for (const record of before && after ? listNamed(before) : []) {
      const now = after && findAny(after, record.id);
      if (now && isNamed(now) && now.name !== record.name) names[record.name] = now.name;
    }
    return Object.keys(names).length > 0 ? { names } : {};
  }

  private takesAlong({ policy }: Pick<Link, 'policy'>, source: PlanState): boolean {
    // A held link stays where it is.
    if (policy === 'hold') return false;
    return this.isTarget || (!this.options.isStrict && policy === 'follow' && (source.edits.size > 0 || source.planned.isFresh === true));
  }

  private measure(values: DocumentValues): void {
    if (!measuresGeometry(this.document)) return;
    const measured = this.options.measure?.(this.document, (source, revision) => this.source?.snapshot(source, revision));
    this.isProvisional = measured === undefined;
    if (measured) values.setMeasured(measured);
  }

  /** Takes the answers that are known to what the new values ask outside calculations; one may feed the next. */
  private answer(values: DocumentValues): void {
    for (let round = 0; round < MOST_ANSWER_ROUNDS; round++) {
      let isNew = false;
      for (const { question, state } of listQuestions(values)) {
        if (state === 'answered') continue;
        const answer = this.options.answerTo?.(question, this.document);
        this.isProvisional ||= !this.options.answerTo;
        if (!answer) continue;
        isNew = true;
        const { outside, within, key, inputs } = question;
        const id = this.freeId(`caught-${key.slice(0, 12)}`);
        const edit: CatchUpEdit = {
          type: 'outside.answer',
          answer: { type: 'answer', id, outside, within: [...within], question: key, inputs: { ...inputs }, ...answer },
        };
        this.edits.set(id, edit);
        this.applyTaken(edit);
      }
      if (!isNew) return;
    }
  }

  /** The same whenever the plan is made again. */
  private freeId(stem: string): string {
    for (let n = 1; ; n++) if (!findAny(this.document, `${stem}-${n}`)) return `${stem}-${n}`;
  }

  finish(stateOf: (id: string) => PlanState | undefined): DocumentPlan | undefined {
    if (this.edits.size === 0 || !this.values || !this.before) return undefined;
    this.recordHashes(stateOf);
    const { shown: before, broken: brokenNow } = this.before;
    const failures: { id: string; name: string; message: string }[] = [];
    for (const record of Object.values(this.document.records)) {
      if (!isNamed(record)) continue;
      const [problem] = this.values.show(record.id)?.diagnostics ?? [];
      if (problem && before.get(record.id)?.diagnostics.length === 0) failures.push({ id: record.id, name: record.name, message: problem.message });
    }
    return {
      id: this.id,
      name: this.planned.document.name,
      comesAlong: !this.isTarget,
      edits: [...this.edits.values()],
      after: this.document,
      changes: this.listChanges(before, this.values),
      failures,
      guards: findBrokenGuards(this.values).filter(({ id }) => !brokenNow.has(id)),
      isProvisional: this.isProvisional,
      publishedAfter: this.published,
    };
  }

  private listChanges(before: Before['shown'], after: DocumentValues): ValueChange[] {
    const components = [...this.edits.values()].flatMap((edit) => (edit.type === 'component.catchUp' ? this.changeOfComponent(edit) : []));
    const changes = [
      ...components,
      ...Object.values(this.document.records).flatMap((record) => (isNamed(record) ? (this.changeOf(record, before, after) ?? []) : [])),
    ];
    // What comes in first, then what follows from it.
    return changes.sort((a, b) => Number(b.isTaken) - Number(a.isTaken));
  }

  private changeOfComponent({ id, revision }: EditOf<'component.catchUp'>): ValueChange[] {
    const before = findRecord(this.planned.document, id, 'component');
    return before ? [{ id, name: before.name, before: `revision ${before.revision}`, after: `revision ${revision}`, isTaken: true }] : [];
  }

  private changeOf(record: NamedRecord, before: Before['shown'], after: DocumentValues): ValueChange | undefined {
    const { id, name } = record;
    const old = record.type === 'take' ? findRecord(this.planned.document, id, 'take') : undefined;
    const isTaken = record.type === 'take' && !sameData(record.value, old?.value);
    if (isTaken && (isWordy(record.value) || (old && isWordy(old.value)))) {
      return { id, name, before: old ? showTaken(old.value) : '', after: showTaken(record.value), isTaken };
    }
    const [was, is] = [before.get(id), after.show(id)];
    if (!was || !is) return undefined;
    const [heldBefore, heldAfter] = [this.before?.held.has(id) === true, after.isHeld(id)];
    if (!isTaken && Object.is(was.value, is.value) && heldBefore === heldAfter) return undefined;
    const words = (shown: string, isHeld: boolean): string => (isHeld ? `${shown} (held)` : shown);
    return { id, name, before: words(was.shown, heldBefore), after: words(is.shown, heldAfter), isTaken };
  }

  private publishedValue(parameter: string): TakenValue {
    return (
      (Object.hasOwn(this.published, parameter) ? this.published[parameter] : undefined) ?? {
        kind: 'refused',
        problem: `The value is no longer in ${this.planned.document.name}.`,
      }
    );
  }

  /** The revision that the plan leaves it at. */
  private nextRevision(): number {
    return this.planned.revision + (this.edits.size > 0 ? 1 : 0);
  }

  private open(): DocumentValues {
    this.values ??= valuesAsPublished(this.document, this.planned.published, this.source);
    this.before ??= lookAt(this.values);
    return this.values;
  }

  private applyTaken(edit: CatchUpEdit): void {
    const values = this.open();
    const applied = applyEdit(this.document, edit);
    if (!applied.ok) throw new Error(`Bug: a planned catch-up was refused: ${applied.failure.message}`);
    this.document = applied.value.document;
    values.apply(this.document, applied.value.diff);
  }

  /** Links and components are to hold the content that their source will have: sources are finished first, but for rings of documents. */
  private recordHashes(stateOf: (id: string) => PlanState | undefined): void {
    const sources = new Map(listSources(this.document).map(({ id, source }) => [id, source]));
    for (const edit of this.edits.values()) {
      if (edit.type === 'outside.answer') continue;
      const source = stateOf(sources.get(edit.id) ?? '');
      const settled = source && { ...edit, revision: source.nextRevision(), hash: source.hashAfter ?? source.planned.hash };
      if (!settled || sameData(settled, edit)) continue;
      this.edits.set(edit.id, settled);
      this.applyTaken(settled);
    }
    this.hashAfter = this.options.hash?.(this.document);
  }
}

function sameAll(one: readonly Document[], other: readonly Document[]): boolean {
  return one.length === other.length && one.every((document, i) => document === other[i]);
}

interface Before {
  readonly shown: ReadonlyMap<string, ShownValue>;
  /** Ids of guards that do not hold. */
  readonly broken: ReadonlySet<string>;
  /** Ids of values that rest on held results. */
  readonly held: ReadonlySet<string>;
}

/** One outside calculation may feed another; no sensible chain is longer. */
const MOST_ANSWER_ROUNDS = 20;

function lookAt(values: DocumentValues): Before {
  const shown = new Map<string, ShownValue>();
  for (const { id } of listNamed(values.document)) {
    const value = values.show(id);
    if (value) shown.set(id, value);
  }
  return { shown, broken: new Set(findBrokenGuards(values).map(({ id }) => id)), held: new Set(values.sheet.listHeld()) };
}

/** What the value alone does not say. */
function isWordy(value: TakenValue): boolean {
  return value.kind === 'table' || (value.kind === 'quantity' && value.tolerance !== undefined);
}

/** Whether two readings are one value: in which unit it is shown does not matter. */
function sameTaken(a: TakenValue, b: TakenValue): boolean {
  return sameData({ ...a, unit: '' }, { ...b, unit: '' });
}

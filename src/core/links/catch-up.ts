/**
 * What bringing documents up to date would do, before it is done.
 *
 * A document is *behind* when the latest revision of a source, or what a source would have after catching
 * up itself, has another value for something that it takes. The plan walks the documents with sources
 * first, gives each its new taken values, evaluates it, and passes what it publishes on. Documents that link
 * each other are allowed: the walk is repeated until nothing changes, and only a value that truly depends on
 * itself keeps it from ending.
 */
import type { DocumentValues } from '../document';
import { applyEdit, findRecord, listRecords, type Document, type EditOf, type TakenValue } from '../document';
import { sameData } from '../kit';
import { orderGraph } from '../network';
import { publishValues, valuesAsPublished } from './offered';
import { findValueCycle } from './value-cycle';

/** A document as the plan sees it: its present state, and what its latest revision published. */
export interface PlannedDocument {
  readonly document: Document;
  /** Number of the latest revision; 0 when there is none. */
  readonly revision: number;
  readonly hash: string;
  readonly published: Readonly<Record<string, TakenValue>>;
  /** Whether there are edits since the latest revision. */
  readonly hasUnsavedEdits: boolean;
}

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
  /** Edits that bring the new values in, one for each link. */
  readonly edits: readonly EditOf<'link.catchUp'>[];
  readonly after: Document;
  readonly changes: readonly ValueChange[];
  /** Values that would have an error which they have not now. */
  readonly failures: readonly { readonly id: string; readonly name: string; readonly message: string }[];
  readonly publishedAfter: Readonly<Record<string, TakenValue>>;
}

export interface CatchUpPlan {
  /** Documents that would change, sources first. */
  readonly documents: readonly DocumentPlan[];
  /** The values, with their documents, along one that depends on itself; empty when there is none. */
  readonly cycle: readonly string[];
}

/**
 * Plans to bring `targets` up to date with the rest as it is. Revision numbers of changed sources are the
 * next ones, as one change set will give them.
 */
export function planCatchUp(documents: readonly PlannedDocument[], targets: ReadonlySet<string>): CatchUpPlan {
  const index = new Map(documents.map((planned, i) => [planned.document.id, i]));
  const { order } = orderGraph(documents.length, (i) => sourcesOf(documents[i]?.document, index));
  const states = documents.map((planned) => new PlanState(planned));
  const stateOf = (id: string): PlanState | undefined => states[index.get(id) ?? -1];
  for (let round = 0; round <= documents.length; round++) {
    let changed = false;
    for (const i of order) {
      const state = states[i];
      if (state && targets.has(state.id)) changed = state.take(stateOf) || changed;
    }
    if (!changed) return { documents: [...order].flatMap((i) => states[i]?.finish() ?? []), cycle: [] };
  }
  return { documents: [], cycle: findValueCycle(documents.map(({ document }) => document)) };
}

/** How many taken values of each document are behind; documents that are not behind are left out. */
export function findBehind(documents: readonly PlannedDocument[]): Map<string, number> {
  const plan = planCatchUp(documents, new Set(documents.map(({ document }) => document.id)));
  return new Map(plan.documents.map((entry) => [entry.id, entry.changes.filter((change) => change.isTaken).length]));
}

class PlanState {
  private values: DocumentValues | undefined;
  private published: Readonly<Record<string, TakenValue>>;
  private document: Document;
  private readonly edits = new Map<string, EditOf<'link.catchUp'>>();

  constructor(private readonly planned: PlannedDocument) {
    this.document = planned.document;
    this.published = planned.published;
  }

  get id(): string {
    return this.planned.document.id;
  }

  get name(): string {
    return this.planned.document.name;
  }

  /** Takes the present values of its sources; whether any differed from what it had. */
  take(stateOf: (id: string) => PlanState | undefined): boolean {
    let changed = false;
    for (const link of listRecords(this.document, 'links', 'link')) {
      // A held link stays where it is.
      const source = link.policy === 'hold' ? undefined : stateOf(link.source);
      if (!source) continue;
      const fresh: Record<string, TakenValue> = {};
      for (const take of listRecords(this.document, `${link.id}/takes`, 'take')) {
        const value = source.publishedValue(take.parameter);
        if (!sameTaken(value, take.value)) fresh[take.id] = value;
      }
      if (Object.keys(fresh).length === 0) continue;
      changed = true;
      const edit: EditOf<'link.catchUp'> = {
        type: 'link.catchUp',
        id: link.id,
        revision: source.nextRevision(),
        hash: source.planned.hash,
        values: { ...this.edits.get(link.id)?.values, ...fresh },
      };
      this.edits.set(link.id, edit);
      this.applyTaken(edit);
    }
    if (changed && this.values) this.published = publishValues(this.values);
    return changed;
  }

  finish(): DocumentPlan | undefined {
    if (this.edits.size === 0 || !this.values) return undefined;
    const before = valuesAsPublished(this.planned.document, this.planned.published);
    const changes: ValueChange[] = [];
    const failures: { id: string; name: string; message: string }[] = [];
    for (const record of Object.values(this.document.records)) {
      if (record.type !== 'parameter' && record.type !== 'take') continue;
      const [old, now] = [before.show(record.id), this.values.show(record.id)];
      if (!old || !now) continue;
      const [problem] = now.diagnostics;
      if (problem && old.diagnostics.length === 0) failures.push({ id: record.id, name: record.name, message: problem.message });
      const isTaken = record.type === 'take' && !sameData(record.value, findRecord(this.planned.document, record.id, 'take')?.value);
      if (isTaken || !Object.is(old.value, now.value)) {
        changes.push({ id: record.id, name: record.name, before: old.shown, after: now.shown, isTaken });
      }
    }
    // What comes in first, then what follows from it.
    changes.sort((a, b) => Number(b.isTaken) - Number(a.isTaken));
    return { id: this.id, name: this.name, edits: [...this.edits.values()], after: this.document, changes, failures, publishedAfter: this.published };
  }

  private publishedValue(parameter: string): TakenValue {
    return (
      (Object.hasOwn(this.published, parameter) ? this.published[parameter] : undefined) ?? {
        kind: 'refused',
        problem: `The value is no longer in ${this.name}.`,
      }
    );
  }

  /** The revision that the plan leaves it at. */
  private nextRevision(): number {
    return this.planned.revision + (this.edits.size > 0 ? 1 : 0);
  }

  private applyTaken(edit: EditOf<'link.catchUp'>): void {
    this.values ??= valuesAsPublished(this.document, this.planned.published);
    const applied = applyEdit(this.document, edit);
    if (!applied.ok) throw new Error(`Bug: a planned catch-up was refused: ${applied.failure.message}`);
    this.document = applied.value.document;
    this.values.apply(this.document, applied.value.diff);
  }
}

/** Whether two readings are one value: in which unit it is shown does not matter. */
function sameTaken(a: TakenValue, b: TakenValue): boolean {
  return sameData({ ...a, unit: '' }, { ...b, unit: '' });
}

const NO_SOURCES: readonly number[] = [];

function sourcesOf(document: Document | undefined, index: ReadonlyMap<string, number>): readonly number[] {
  if (!document) return NO_SOURCES;
  return listRecords(document, 'links', 'link').flatMap((link) => index.get(link.source) ?? []);
}

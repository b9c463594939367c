/**
 * What bringing documents up to date would do, before it is done.
 *
 * A document is *behind* when the latest revision of a source, or what a source would have after catching
 * up itself, has another value for something that it takes. The plan walks the documents with sources
 * first, gives each its new taken values, evaluates it, and passes what it publishes on. Documents that link
 * each other are allowed: the walk is repeated until nothing changes. Only a value that truly depends on itself, through
 * documents that link each other, makes a circle.
 */
import type { Document } from '../document';
import { listSources } from './sources';
import { orderGraph } from '../network';
import { PlanState, type DocumentPlan, type PlannedDocument, type PlanOptions } from './plan-state';
import { findValueCycle, type ValuePlace } from './value-graph';

export interface CatchUpPlan {
  /** Documents that would change, sources first. */
  readonly documents: readonly DocumentPlan[];
  /** The values, with their documents, along one that depends on itself; empty when there is none. */
  readonly cycle: readonly string[];
  /** The same values by document and id. */
  readonly ring: readonly ValuePlace[];
}

/**
 * Plans to bring `targets` up to date with the rest as it is; links of others that follow what changes come along.
 * Revision numbers of changed sources are the next ones, as one change set will give them.
 */
export function planCatchUp(documents: readonly PlannedDocument[], targets: ReadonlySet<string>, options: PlanOptions = {}): CatchUpPlan {
  const index = new Map(documents.map((planned, i) => [planned.document.id, i]));
  const { order, cycles } = orderGraph(documents.length, (i) => sourcesOf(documents[i]?.document, index));
  // Documents that link each other are no circle yet; a value that is handed round and comes out as it went in is one all the same.
  const ring = cycles.length > 0 ? findValueCycle(documents.map(({ document }) => document)) : [];
  if (ring.length > 0) return { documents: [], cycle: ring.map(({ words }) => words), ring };
  const states = documents.map((planned) => new PlanState(planned, targets.has(planned.document.id), options));
  const stateOf = (id: string): PlanState | undefined => states[index.get(id) ?? -1];
  for (let round = 0; round <= documents.length; round++) {
    let changed = false;
    for (const i of order) changed = (states[i]?.take(stateOf) ?? false) || changed;
    if (!changed) return { documents: [...order].flatMap((i) => states[i]?.finish(stateOf) ?? []), cycle: [], ring: [] };
  }
  throw new Error('Bug: a plan without a circle of values does not end');
}

/** A document that is left as it is, and why. */
export interface LeftBehind {
  readonly id: string;
  readonly name: string;
  readonly reason: string;
}

/**
 * A plan without the documents for which `reasonToLeave` gives a reason, and without those that take from them:
 * nothing is brought half up to date. `makePlan` makes a plan of documents and targets, as {@link planCatchUp} does.
 */
export async function planWithout(
  documents: readonly PlannedDocument[],
  targets: ReadonlySet<string>,
  reasonToLeave: (entry: DocumentPlan) => string | undefined,
  makePlan: (documents: readonly PlannedDocument[], targets: ReadonlySet<string>) => Promise<CatchUpPlan>,
): Promise<{ readonly plan: CatchUpPlan; readonly left: readonly LeftBehind[] }> {
  const left = new Map<string, LeftBehind>();
  for (;;) {
    const rest = documents.map((entry) => (left.has(entry.document.id) ? heldBack(entry) : entry));
    const remaining = new Set([...targets].filter((id) => !left.has(id)));
    const plan = await makePlan(rest, remaining);
    const before = left.size;
    for (const entry of plan.documents) {
      const source = listSources(entry.after).find((link) => link.policy !== 'hold' && left.has(link.source));
      const reason = reasonToLeave(entry) ?? (source && `It takes from ${left.get(source.source)?.name ?? ''}, which is skipped.`);
      if (reason !== undefined) left.set(entry.id, { id: entry.id, name: entry.name, reason });
    }
    if (left.size === before) return { plan, left: [...left.values()] };
  }
}

/** The same document with every link and component held, so that no plan changes it. */
function heldBack(entry: PlannedDocument): PlannedDocument {
  const links = listSources(entry.document).map((link) => [link.id, { ...link, policy: 'hold' as const }] as const);
  return { ...entry, document: { ...entry.document, records: { ...entry.document.records, ...Object.fromEntries(links) } } };
}

const NO_SOURCES: readonly number[] = [];

function sourcesOf(document: Document | undefined, index: ReadonlyMap<string, number>): readonly number[] {
  if (!document) return NO_SOURCES;
  return listSources(document).flatMap(({ source }) => index.get(source) ?? []);
}

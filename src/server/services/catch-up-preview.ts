/** What bringing documents up to date would do. */
import type { CatchUpPreviewReply } from '@/contract';
import { hasComponents } from '@/core/document';
import { pinText } from '@/core/instances';
import { linkedNode, listSources, planWithout, reachOf, type CatchUpPlan, type DocumentPlan, type LeftBehind } from '@/core/links';
import { calculate } from '../calculation/run';
import { listPictured } from './pictures';
import { loadPlanned, sizeOfPlan, type LoadedDocument } from './planned-documents';
import { documentsOf, leaveFollowers, planMeasured, standsOf, type MeasuredPlan, type PlanningOptions } from './planning';
import { readSnapshots } from './snapshots';

export interface PreviewRequest {
  /** Only this document and all that it takes from, directly or through others, with what follows these by itself. */
  readonly document?: string | undefined;
  /** All that takes from it instead, directly or through others. */
  readonly isBranch?: boolean;
  /** Builds the geometry where values are measured on it; what is measured is as of the latest revisions otherwise. */
  readonly isMeasured?: boolean;
}

/** What catching up would do. */
export async function previewCatchUp(project: string, request: PreviewRequest = {}): Promise<CatchUpPreviewReply> {
  const loaded = await loadPlanned(project);
  const targets = chooseTargets(loaded, request);
  const reasonToLeave = leaveFollowers(loaded, targets);
  const { plan, left } = await planFor(loaded, targets, { reasonToLeave, isMeasured: request.isMeasured === true });
  return describe(project, loaded, plan, left);
}

/** What all that takes from a document would be if this were its next revision. */
export async function previewInstead(project: string, instead: LoadedDocument['planned'], isMeasured: boolean): Promise<CatchUpPreviewReply> {
  const loaded = await loadPlanned(project);
  const { id } = instead.document;
  const nodes = documentsOf(loaded, instead).map(({ document }) => linkedNode(document));
  const targets = reachOf(nodes, id, 'takers');
  const reasonToLeave = (entry: DocumentPlan): string | undefined => (entry.id === id ? 'It is what is asked about.' : undefined);
  const { plan, left } = await planFor(loaded, targets, { reasonToLeave, instead, isMeasured });
  const reply = await describe(
    project,
    loaded,
    plan,
    left.filter((one) => one.id !== id),
  );
  return { ...reply, stands: { ...reply.stands, [pinText({ source: id, revision: instead.revision })]: instead.document } };
}

interface Planning extends Pick<PlanningOptions, 'reasonToLeave' | 'instead'> {
  readonly isMeasured: boolean;
}

async function planFor(loaded: readonly LoadedDocument[], targets: ReadonlySet<string>, { isMeasured, ...options }: Planning): Promise<MeasuredPlan> {
  if (isMeasured) return planMeasured(loaded, targets, options);
  const documents = documentsOf(loaded, options.instead);
  const stands = await standsOf(documents, options.instead);
  return planWithout(documents, targets, options.reasonToLeave, async (among, wanted) => {
    return (await calculate('plan', { documents: among, targets: wanted, together: { stands, built: new Map() } }, sizeOfPlan(loaded))).plan;
  });
}

async function describe(project: string, loaded: readonly LoadedDocument[], plan: CatchUpPlan, left: readonly LeftBehind[]): Promise<CatchUpPreviewReply> {
  const documents = loaded.map((entry) => entry.planned);
  const hosts = plan.documents.flatMap(({ id, after }) => {
    const before = documents.find(({ document }) => document.id === id)?.document;
    return hasComponents(after) && before ? [before, after] : [];
  });
  const pictured = await listPictured(project);
  return {
    cycle: plan.cycle,
    left,
    stands: await readSnapshots(hosts),
    documents: plan.documents.flatMap((entry) => {
      const source = loaded.find(({ head }) => head.id === entry.id);
      return source ? [describePlan(entry, source, pictured.has(entry.id))] : [];
    }),
  };
}

function chooseTargets(loaded: readonly LoadedDocument[], { document, isBranch }: PreviewRequest): ReadonlySet<string> {
  if (document === undefined) return new Set(loaded.map(({ head }) => head.id));
  // What it takes from comes first: it is behind through others too.
  return reachOf(
    loaded.map(({ planned }) => linkedNode(planned.document)),
    document,
    isBranch ? 'takers' : 'sources',
  );
}

function describePlan(entry: DocumentPlan, { head, planned }: LoadedDocument, hasThumbnail: boolean): CatchUpPreviewReply['documents'][number] {
  const { id, name, changes, failures, guards, isProvisional, comesAlong, after } = entry;
  return {
    id,
    name,
    kind: planned.document.kind,
    changes,
    failures,
    guards,
    isProvisional,
    comesAlong,
    sources: listSources(after).flatMap(({ policy, source }) => (policy === 'hold' ? [] : source)),
    unsavedEdits: head.seq - head.savedSeq,
    revision: head.revision,
    hasThumbnail,
    seq: head.seq,
    before: planned.document,
    after,
  };
}

/** What bringing documents up to date would do. */
import type { CatchUpPreviewReply } from '@/contract';
import { hasComponents } from '@/core/document';
import { linkedNode, listSources, planWithout, reachOf, type DocumentPlan } from '@/core/links';
import { calculate } from '../calculation/run';
import { loadPlanned, sizeOfPlan, type LoadedDocument } from './planned-documents';
import { leaveFollowers, planMeasured } from './planning';
import { readSnapshots, readStands } from './snapshots';

export interface PreviewRequest {
  /** Only this document, with what follows it by itself. */
  readonly document?: string | undefined;
  /** And all that takes from it, directly or through others. */
  readonly isBranch?: boolean;
  /** Builds the geometry where values are measured on it; what is measured is as of the latest revisions otherwise. */
  readonly isMeasured?: boolean;
}

/** What catching up would do. */
export async function previewCatchUp(project: string, request: PreviewRequest = {}): Promise<CatchUpPreviewReply> {
  const loaded = await loadPlanned(project);
  const targets = chooseTargets(loaded, request);
  const reasonToLeave = leaveFollowers(loaded, targets);
  const documents = loaded.map((entry) => entry.planned);
  const stands = await readStands(documents);
  const { plan, left } = request.isMeasured
    ? await planMeasured(loaded, targets, { reasonToLeave })
    : await planWithout(documents, targets, reasonToLeave, async (among, wanted) => {
        return (await calculate('plan', { documents: among, targets: wanted, together: { stands, built: new Map() } }, sizeOfPlan(loaded))).plan;
      });
  const hosts = plan.documents.flatMap(({ id, after }) => {
    const before = documents.find(({ document }) => document.id === id)?.document;
    return hasComponents(after) && before ? [before, after] : [];
  });
  return {
    cycle: plan.cycle,
    left,
    stands: await readSnapshots(hosts),
    documents: plan.documents.flatMap((entry) => {
      const source = loaded.find(({ head }) => head.id === entry.id);
      return source ? [describePlan(entry, source)] : [];
    }),
  };
}

function chooseTargets(loaded: readonly LoadedDocument[], { document, isBranch }: PreviewRequest): ReadonlySet<string> {
  if (document === undefined) return new Set(loaded.map(({ head }) => head.id));
  if (!isBranch) return new Set([document]);
  return reachOf(
    loaded.map(({ planned }) => linkedNode(planned.document)),
    document,
    'takers',
  );
}

function describePlan(entry: DocumentPlan, { head, planned }: LoadedDocument): CatchUpPreviewReply['documents'][number] {
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
    seq: head.seq,
    before: planned.document,
    after,
  };
}

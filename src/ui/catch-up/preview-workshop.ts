/** Geometry for previews: what is looked at goes first, then what each part comes to, then assemblies one by one. All of it ends with the preview. */
import PQueue from 'p-queue';
import type { CatchUpPreviewReply } from '@/contract';
import { dismissalOf, type Interference, type PlacedSolid } from '@/core/assembly';
import { listRecords, type Document } from '@/core/document';
import { complete, pinText, type CompleteDocument, type InstanceSource } from '@/core/instances';
import type { ComparedReply } from '@/workers/client';
import { buildWhole, type WholeAssembly } from '@/workers/whole-assembly';
import { clientBeside, keptClientBeside } from '../state/page-workers';

/** A preview is of many documents: they are served as one. */
const PREVIEW = 'preview';

type Wish = 'outcomes' | 'meshes' | 'differences';

/** An assembly with what stands in one another in it, but for what is meant so. */
export interface JudgedAssembly extends WholeAssembly {
  readonly open: readonly Interference<PlacedSolid>[];
}

/** Two states of one document. */
export interface TwoStates {
  readonly name: string;
  readonly before: Document;
  readonly after: Document;
}

/** An assembly as it stands now and as it would stand then. */
export interface ComparedAssembly {
  readonly before: JudgedAssembly;
  readonly after: JudgedAssembly;
}

export class PreviewWorkshop {
  private readonly looks = clientBeside('preview', PREVIEW);
  private readonly outcomes = clientBeside('preview outcomes', PREVIEW);
  private readonly whole = keptClientBeside('preview assemblies', PREVIEW);
  private readonly queue = new PQueue({ concurrency: 1 });
  private readonly assemblies = new Map<TwoStates, Promise<ComparedAssembly | undefined>>();

  /** Undefined when it cannot be built, or the preview has ended. */
  async compare(before: CompleteDocument, after: CompleteDocument, wants: Wish): Promise<ComparedReply | undefined> {
    const client = wants === 'outcomes' ? this.outcomes : this.looks;
    const reply = await client.compare(before, after, wants, `compare ${wants} ${after.id}`);
    return reply.ok ? reply.value : undefined;
  }

  /** Both states of an assembly, built once; undefined when one cannot be, or the preview has ended. */
  compareAssembly(entry: TwoStates, source: Pick<InstanceSource, 'snapshot'>): Promise<ComparedAssembly | undefined> {
    const known = this.assemblies.get(entry) ?? this.queue.add(() => this.buildBoth(entry, source));
    this.assemblies.set(entry, known);
    return known;
  }

  private async buildBoth({ before, after }: TwoStates, source: Pick<InstanceSource, 'snapshot'>) {
    const snapshot: InstanceSource['snapshot'] = (id, revision) => source.snapshot(id, revision);
    const [now, then] = [
      await buildWhole(this.whole, before, snapshot, { withMeshes: true, isJudged: true }),
      await buildWhole(this.whole, after, snapshot, { withMeshes: true, isJudged: true }),
    ];
    return 'failure' in now || 'failure' in then ? undefined : { before: judged(now), after: judged(then) };
  }

  close(): void {
    // What still waits is told at once that it has ended.
    for (const client of [this.looks, this.outcomes, this.whole]) client.close();
  }
}

/** A revision that is not there yet is the one that its document would get. */
export function standsOf({ documents, stands }: Pick<CatchUpPreviewReply, 'documents' | 'stands'>): Pick<InstanceSource, 'snapshot'> {
  return { snapshot: (source, revision) => stands[pinText({ source, revision })] ?? documents.find(({ id }) => id === source)?.after };
}

/** The documents of a preview with what they stand on, now and then: to be handed to a worker. */
export function completePreview(preview: CatchUpPreviewReply): CatchUpPreviewReply {
  const source = standsOf(preview);
  const documents = preview.documents.map((entry) => ({ ...entry, before: complete(entry.before, source), after: complete(entry.after, source) }));
  return { ...preview, documents };
}

function judged(whole: WholeAssembly): JudgedAssembly {
  const dismissals = listRecords(whole.values.document, 'dismissals', 'dismissal');
  return { ...whole, open: (whole.interference ?? []).filter((one) => !dismissalOf(dismissals, one)) };
}

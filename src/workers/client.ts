/** What can be asked of a worker that builds geometry, by whatever lane it is reached. */
import type { Curve, Frame } from '@/core/geometry';
import type { TreeNode } from '@/core/assembly';
import type { CompleteDocument } from '@/core/instances';
import { fail, succeed, type Result } from '@/core/kit';
import type { BodyMesh, BodyProperties, GeometryShape, Movement } from '@/core/kernel-port';
import type { KeyedPlace, Regenerated } from '@/core/steps';
import type { Lane } from './lane';
import type { RegenerationFailure } from './one-worker';
import type { AssemblyFormat, Between, ExportFormat, NamedGeometry, WorkerReply } from './protocol';

export interface RegenerationReply {
  readonly result: Regenerated;
  readonly meshes: Readonly<Record<string, BodyMesh>>;
  /** What was to be described, in that order; null for what is not there. */
  readonly shapes?: readonly (GeometryShape | null)[];
}

export type ComparedReply = Pick<Extract<WorkerReply, { readonly kind: 'compared' }>, 'before' | 'after' | 'meshes' | 'differences' | 'overlaps'>;

export interface ExportedFile {
  readonly bytes: Uint8Array;
  /** How many bodies it holds. */
  readonly bodies: number;
}

/**
 * What a request is for: to show the present state, to foresee what an edit would break, to pick from what a step is made on, for a part that
 * stands in an assembly with certain values, ...
 */
export type Purpose =
  | 'show'
  | 'ground'
  | 'foresee'
  | 'compare'
  | 'export'
  | 'overlap'
  | 'clearance'
  | 'box'
  | `part ${string}`
  | `describe ${string}`
  | `clearance ${string}`
  | `compare ${string}`
  | 'section';

export class RegenerationClient {
  constructor(private readonly lane: Lane) {}

  /** Regenerates a document. A newer call for the same purpose before this one has begun makes it `superseded`. */
  async regenerate(
    document: CompleteDocument,
    knownMeshes?: readonly string[],
    purpose: Purpose = 'show',
    describe?: readonly NamedGeometry[],
  ): Promise<Result<RegenerationReply, RegenerationFailure>> {
    const request = { kind: 'regenerate', document, ...(knownMeshes ? { knownMeshes } : {}), ...(describe ? { describe } : {}) } as const;
    const reply = await this.lane.ask(request, purpose);
    if (!reply.ok) return reply;
    return reply.value.kind === 'regenerated' ? succeed(reply.value) : fail({ kind: 'crashed', message: 'An unexpected reply came.' });
  }

  /** Regenerates two states of a part: with their meshes, or with what sets their solids apart, when that is wanted. */
  async compare(
    before: CompleteDocument,
    document: CompleteDocument,
    wants: 'outcomes' | 'meshes' | 'differences',
    purpose: Purpose = 'compare',
  ): Promise<Result<ComparedReply, RegenerationFailure>> {
    const reply = await this.lane.ask({ kind: 'compare', before, document, wants }, purpose);
    if (!reply.ok) return reply;
    return reply.value.kind === 'compared' ? succeed(reply.value) : fail({ kind: 'crashed', message: 'An unexpected reply came.' });
  }

  /** The bodies of a document as a file. To cancel, close the client. */
  async exportFile(
    document: CompleteDocument,
    format: ExportFormat,
    { bodies, onProgress }: { readonly bodies?: readonly string[]; readonly onProgress?: (done: number, of: number) => void } = {},
  ): Promise<Result<ExportedFile, RegenerationFailure>> {
    const reply = await this.lane.ask({ kind: 'export', document, format, ...(bodies ? { bodies } : {}) }, 'export', onProgress);
    if (!reply.ok) return reply;
    return reply.value.kind === 'exported' ? succeed(reply.value) : fail({ kind: 'crashed', message: 'An unexpected reply came.' });
  }

  /** An assembly as a file: `parts` by key, with the values that they have in it, standing in a tree. To cancel, close the client. */
  async exportAssembly(
    document: CompleteDocument,
    format: AssemblyFormat,
    root: TreeNode,
    parts: Readonly<Record<string, CompleteDocument>>,
  ): Promise<Result<ExportedFile, RegenerationFailure>> {
    const reply = await this.lane.ask({ kind: 'export-assembly', document, format, root, parts }, 'export');
    if (!reply.ok) return reply;
    return reply.value.kind === 'exported' ? succeed(reply.value) : fail({ kind: 'crashed', message: 'An unexpected reply came.' });
  }

  /**
   * Between bodies of two parts, or faces or edges of them, the second moved: what they have in common, or how far they are apart; undefined where
   * the kernel cannot tell.
   */
  async between(
    wants: 'overlap' | 'clearance',
    parts: readonly [CompleteDocument, CompleteDocument],
    places: readonly [KeyedPlace, KeyedPlace],
    movements: readonly Movement[],
    purpose: Purpose = wants,
  ): Promise<Result<Between | undefined, RegenerationFailure>> {
    const [document, other] = parts;
    const reply = await this.lane.ask({ kind: 'between', wants, document, other, places, movements }, purpose);
    if (!reply.ok) return reply;
    return reply.value.kind === 'between' ? succeed(reply.value.found ?? undefined) : fail({ kind: 'crashed', message: 'An unexpected reply came.' });
  }

  /** The box around a body of a part that is moved, in millimetres; undefined where it is not there. */
  async box(document: CompleteDocument, key: string, movements: readonly Movement[]): Promise<Result<BodyProperties['box'] | undefined, RegenerationFailure>> {
    const reply = await this.lane.ask({ kind: 'box', document, key, movements }, 'box');
    if (!reply.ok) return reply;
    return reply.value.kind === 'box' ? succeed(reply.value.box ?? undefined) : fail({ kind: 'crashed', message: 'An unexpected reply came.' });
  }

  /** Where a plane cuts bodies of a part, in x and y of its frame; undefined where the kernel cannot tell. */
  async section(document: CompleteDocument, keys: readonly string[], frame: Frame): Promise<Result<readonly Curve[] | undefined, RegenerationFailure>> {
    const reply = await this.lane.ask({ kind: 'section', document, keys, frame }, 'section');
    if (!reply.ok) return reply;
    return reply.value.kind === 'section' ? succeed(reply.value.curves ?? undefined) : fail({ kind: 'crashed', message: 'An unexpected reply came.' });
  }

  /** Ends what is under way and what waits; the next request gets a fresh worker. */
  cancel(): void {
    this.lane.cancel();
  }

  close(): void {
    this.lane.close();
  }
}

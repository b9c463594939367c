/**
 * The client of a regeneration worker: one request at a time, of those that wait for one purpose the newest, a time limit, and a
 * fresh worker when one hangs, crashes or has taken too much memory. Knows nothing of how a worker is started.
 */
import type { TreeNode } from '@/core/assembly';
import { listFiles } from '@/core/document';
import type { CompleteDocument } from '@/core/instances';
import { fail, succeed, type Result } from '@/core/kit';
import type { BodyMesh, BodyProperties, EdgeShape, FaceShape, Movement } from '@/core/kernel-port';
import type { KeyedPlace, Regenerated } from '@/core/steps';
import type { Between, AssemblyFormat, ExportFormat, FileNotice, NamedGeometry, WorkerReply, WorkerRequest } from './protocol';

/** A running worker, of whatever kind. */
export interface WorkerLink {
  post: (request: WorkerRequest | FileNotice) => void;
  terminate: () => void;
}

export type StartWorker = (onReply: (reply: WorkerReply) => void, onError: (message: string) => void) => WorkerLink;

export type RegenerationFailure =
  | { readonly kind: 'superseded' }
  | { readonly kind: 'timed-out'; readonly seconds: number }
  | { readonly kind: 'crashed'; readonly message: string }
  | { readonly kind: 'closed' };

export interface RegenerationReply {
  readonly result: Regenerated;
  readonly meshes: Readonly<Record<string, BodyMesh>>;
  /** What was to be described, in that order; null for what is not there. */
  readonly shapes?: readonly (FaceShape | EdgeShape | null)[];
}

export type ComparedReply = Pick<Extract<WorkerReply, { readonly kind: 'compared' }>, 'before' | 'after' | 'meshes' | 'differences' | 'overlaps'>;

export interface ExportedFile {
  readonly bytes: Uint8Array;
  /** How many bodies it holds. */
  readonly bodies: number;
}

export interface ClientOptions {
  readonly timeLimitMs?: number;
  /** Kernel memory beyond which the worker is replaced once it is idle. */
  readonly memoryLimit?: number;
  /** The content of a file that a document names by its hash; undefined where it cannot be had now. Where it rejects, the request has crashed. */
  readonly readFile?: (hash: string) => Promise<string | undefined>;
}

/**
 * What a request is for: to show the present state, to foresee what an edit would break, to pick from what a step is made on, for a part that
 * stands in an assembly with certain values, ...
 */
export type Purpose =
  'show' | 'ground' | 'foresee' | 'compare' | 'export' | 'overlap' | 'clearance' | 'box' | `part ${string}` | `describe ${string}` | `clearance ${string}`;

interface Job {
  readonly request: WorkerRequest;
  readonly settle: (result: Result<WorkerReply, RegenerationFailure>) => void;
  readonly onProgress: ((done: number, of: number) => void) | undefined;
}

/** Long enough for the first load of the kernel on a slow machine. */
const DEFAULT_TIME_LIMIT_MS = 60_000;
const DEFAULT_MEMORY_LIMIT = 1024 ** 3;
/** Characters of files that a worker is brought, before it is replaced. */
const MOST_BROUGHT = 60_000_000;

export class RegenerationClient {
  private link: WorkerLink | undefined;
  /** The files that the worker at hand has been brought: their sizes, by their hashes. */
  private readonly brought = new Map<string, number>();
  private running: (Job & { readonly timer: ReturnType<typeof setTimeout> }) | undefined;
  /** The newest of each purpose, in the order in which they came. */
  private readonly waiting = new Map<Purpose, Job>();
  private nextId = 1;
  private isClosed = false;

  constructor(
    private readonly start: StartWorker,
    private readonly options: ClientOptions = {},
  ) {}

  /** Regenerates a document. A newer call for the same purpose before this one has begun makes it `superseded`. */
  async regenerate(
    document: CompleteDocument,
    knownMeshes?: readonly string[],
    purpose: Purpose = 'show',
    describe?: readonly NamedGeometry[],
  ): Promise<Result<RegenerationReply, RegenerationFailure>> {
    const request = { kind: 'regenerate', id: this.nextId++, document, ...(knownMeshes ? { knownMeshes } : {}), ...(describe ? { describe } : {}) } as const;
    const reply = await this.ask(request, purpose);
    if (!reply.ok) return reply;
    return reply.value.kind === 'regenerated' ? succeed(reply.value) : fail({ kind: 'crashed', message: 'An unexpected reply came.' });
  }

  /** Regenerates two states of a part: with their meshes, or with what sets their solids apart, when that is wanted. */
  async compare(
    before: CompleteDocument,
    document: CompleteDocument,
    wants: 'outcomes' | 'meshes' | 'differences',
  ): Promise<Result<ComparedReply, RegenerationFailure>> {
    const reply = await this.ask({ kind: 'compare', id: this.nextId++, before, document, wants }, 'compare');
    if (!reply.ok) return reply;
    return reply.value.kind === 'compared' ? succeed(reply.value) : fail({ kind: 'crashed', message: 'An unexpected reply came.' });
  }

  /** The bodies of a document as a file. To cancel, close the client. */
  async exportFile(
    document: CompleteDocument,
    format: ExportFormat,
    { bodies, onProgress }: { readonly bodies?: readonly string[]; readonly onProgress?: (done: number, of: number) => void } = {},
  ): Promise<Result<ExportedFile, RegenerationFailure>> {
    const reply = await this.ask({ kind: 'export', id: this.nextId++, document, format, ...(bodies ? { bodies } : {}) }, 'export', onProgress);
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
    const reply = await this.ask({ kind: 'export-assembly', id: this.nextId++, document, format, root, parts }, 'export');
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
    const reply = await this.ask({ kind: 'between', id: this.nextId++, wants, document, other, places, movements }, purpose);
    if (!reply.ok) return reply;
    return reply.value.kind === 'between' ? succeed(reply.value.found ?? undefined) : fail({ kind: 'crashed', message: 'An unexpected reply came.' });
  }

  /** The box around a body of a part that is moved, in millimetres; undefined where it is not there. */
  async box(document: CompleteDocument, key: string, movements: readonly Movement[]): Promise<Result<BodyProperties['box'] | undefined, RegenerationFailure>> {
    const reply = await this.ask({ kind: 'box', id: this.nextId++, document, key, movements }, 'box');
    if (!reply.ok) return reply;
    return reply.value.kind === 'box' ? succeed(reply.value.box ?? undefined) : fail({ kind: 'crashed', message: 'An unexpected reply came.' });
  }

  /** Starts the worker before it is needed. */
  warm(): void {
    this.link ??= this.connect();
  }

  /** Ends what is under way and what waits; the next request gets a fresh worker. */
  cancel(): void {
    if (!this.running) return;
    this.stopWorker();
    this.dropWaiting({ kind: 'superseded' });
    this.finish(fail({ kind: 'superseded' }));
  }

  close(): void {
    this.isClosed = true;
    this.stopWorker();
    this.finish(fail({ kind: 'closed' }));
    this.dropWaiting({ kind: 'closed' });
  }

  private dropWaiting(failure: RegenerationFailure): void {
    const dropped = [...this.waiting.values()];
    this.waiting.clear();
    for (const job of dropped) job.settle(fail(failure));
  }

  private ask(request: WorkerRequest, purpose: Purpose, onProgress?: (done: number, of: number) => void): Promise<Result<WorkerReply, RegenerationFailure>> {
    return new Promise((settle) => {
      if (this.isClosed) {
        settle(fail({ kind: 'closed' }));
        return;
      }
      this.waiting.get(purpose)?.settle(fail({ kind: 'superseded' }));
      this.waiting.set(purpose, { request, settle, onProgress });
      this.runNext();
    });
  }

  private runNext(): void {
    const [next] = this.waiting;
    if (this.running || !next) return;
    const [purpose, job] = next;
    this.waiting.delete(purpose);
    if ([...this.brought.values()].reduce((sum, size) => sum + size, 0) > MOST_BROUGHT) this.stopWorker();
    this.link ??= this.connect();
    const limit = this.options.timeLimitMs ?? DEFAULT_TIME_LIMIT_MS;
    const timer = setTimeout(() => {
      this.stopWorker();
      this.finish(fail({ kind: 'timed-out', seconds: Math.round(limit / 1000) }));
    }, limit);
    const running = { ...job, timer };
    this.running = running;
    const missing = this.missingFiles(job.request);
    if (missing.length === 0) {
      this.link.post(job.request);
      return;
    }
    this.postWithFiles(running, this.link, missing).catch((problem: unknown) => {
      if (this.running === running) this.finish(fail({ kind: 'crashed', message: problem instanceof Error ? problem.message : String(problem) }));
    });
  }

  private missingFiles(request: WorkerRequest): string[] {
    const documents =
      request.kind === 'compare'
        ? [request.before, request.document]
        : request.kind === 'between'
          ? [request.document, request.other]
          : request.kind === 'export-assembly'
            ? Object.values(request.parts)
            : [request.document];
    const all = documents.flatMap((document) => [document, ...Object.values(document.stands ?? {})]);
    const hashes = all.flatMap((document) => listFiles(document).flatMap(({ hash }) => hash ?? []));
    return this.options.readFile ? [...new Set(hashes)].filter((hash) => !this.brought.has(hash)) : [];
  }

  /** A file that cannot be had keeps nothing from being built but the step that reads it. */
  private async postWithFiles(job: Job, link: WorkerLink, hashes: readonly string[]): Promise<void> {
    const contents = await Promise.all(hashes.map(async (hash) => [hash, await this.options.readFile?.(hash)] as const));
    if (this.running !== job || this.link !== link) return;
    for (const [hash, content] of contents) {
      if (content === undefined) continue;
      link.post({ kind: 'file', hash, content });
      this.brought.set(hash, content.length);
    }
    link.post(job.request);
  }

  private finish(result: Result<WorkerReply, RegenerationFailure>): void {
    const job = this.running;
    if (!job) return;
    clearTimeout(job.timer);
    this.running = undefined;
    job.settle(result);
    if (!this.isClosed) this.runNext();
  }

  private connect(): WorkerLink {
    const link = this.start(
      (reply) => {
        if (this.link === link) this.receive(reply);
      },
      (message) => {
        if (this.link !== link) return;
        this.stopWorker();
        this.finish(fail({ kind: 'crashed', message }));
      },
    );
    return link;
  }

  private receive(reply: WorkerReply): void {
    if (reply.kind === 'ready' || reply.id !== this.running?.request.id) {
      if (reply.kind === 'crashed' && reply.id < 0) {
        this.stopWorker();
        this.finish(fail({ kind: 'crashed', message: reply.message }));
      }
      return;
    }
    if (reply.kind === 'progress') {
      this.running.onProgress?.(reply.done, reply.of);
      return;
    }
    if (reply.kind === 'crashed') {
      this.stopWorker();
      this.finish(fail({ kind: 'crashed', message: reply.message }));
      return;
    }
    if (
      (reply.kind === 'regenerated' || reply.kind === 'compared' || reply.kind === 'between' || reply.kind === 'box') &&
      reply.memory > (this.options.memoryLimit ?? DEFAULT_MEMORY_LIMIT)
    )
      this.stopWorker();
    this.finish(succeed(reply));
  }

  private stopWorker(): void {
    this.brought.clear();
    this.link?.terminate();
    this.link = undefined;
  }
}

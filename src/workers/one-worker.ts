/**
 * One worker with the time, memory and files that it may have: it does one request at a time, and is replaced when it hangs, crashes or has taken
 * too much memory. Knows nothing of how a worker is started.
 */
import { listFiles } from '@/core/document';
import { fail, succeed, type Result } from '@/core/kit';
import type { FileNotice, WorkerReply, WorkerRequest, Wish } from './protocol';

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

export interface WorkerOptions {
  /** Kernel memory beyond which the worker is replaced once it is idle. */
  readonly memoryLimit?: number;
  /** The content of a file that a document names by its hash; undefined where it cannot be had now. Where it rejects, the request has crashed. */
  readonly readFile?: (hash: string) => Promise<string | undefined>;
}

/** How one request is done. */
export interface RequestOptions {
  readonly timeLimitMs?: number;
  readonly onProgress?: (done: number, of: number) => void;
}

interface Running {
  readonly request: WorkerRequest;
  readonly settle: (result: Result<WorkerReply, RegenerationFailure>) => void;
  readonly onProgress: RequestOptions['onProgress'];
  readonly timer: ReturnType<typeof setTimeout>;
}

/** Long enough for the first load of the kernel on a slow machine. */
const DEFAULT_TIME_LIMIT_MS = 60_000;
const DEFAULT_MEMORY_LIMIT = 1024 ** 3;
/** Characters of files that a worker is brought, before it is replaced. */
const MOST_BROUGHT = 60_000_000;

export class OneWorker {
  private link: WorkerLink | undefined;
  /** The files that the worker at hand has been brought: their sizes, by their hashes. */
  private readonly brought = new Map<string, number>();
  private running: Running | undefined;
  private nextId = 1;

  constructor(
    private readonly start: StartWorker,
    private readonly options: WorkerOptions = {},
  ) {}

  /** Does what is asked for. Only one at a time. */
  run(wish: Wish, { timeLimitMs = DEFAULT_TIME_LIMIT_MS, onProgress }: RequestOptions = {}): Promise<Result<WorkerReply, RegenerationFailure>> {
    if (this.running) throw new Error('Bug: the worker is at another request.');
    if ([...this.brought.values()].reduce((sum, size) => sum + size, 0) > MOST_BROUGHT) this.end();
    const link = (this.link ??= this.connect());
    return new Promise((settle) => {
      const timer = setTimeout(() => this.stop({ kind: 'timed-out', seconds: Math.round(timeLimitMs / 1000) }), timeLimitMs);
      const running: Running = { request: { ...wish, id: this.nextId++ }, settle, onProgress, timer };
      this.running = running;
      const missing = this.missingFiles(wish);
      if (missing.length === 0) {
        link.post(running.request);
        return;
      }
      this.postWithFiles(running, link, missing).catch((problem: unknown) => {
        if (this.running === running) this.finish(fail({ kind: 'crashed', message: problem instanceof Error ? problem.message : String(problem) }));
      });
    });
  }

  /** Starts the worker before it is needed. */
  warm(): void {
    this.link ??= this.connect();
  }

  /** Ends the worker, and what it is at with this failure; the next request gets a fresh one. */
  stop(failure: RegenerationFailure): void {
    this.end();
    this.finish(fail(failure));
  }

  private missingFiles(wish: Wish): string[] {
    const { readFile } = this.options;
    if (!readFile) return [];
    const all = documentsOf(wish).flatMap((document) => [document, ...Object.values(document.stands ?? {})]);
    const hashes = all.flatMap((document) => listFiles(document).flatMap(({ hash }) => hash ?? []));
    return [...new Set(hashes)].filter((hash) => !this.brought.has(hash));
  }

  /** A file that cannot be had keeps nothing from being built but the step that reads it. */
  private async postWithFiles(running: Running, link: WorkerLink, hashes: readonly string[]): Promise<void> {
    const contents = await Promise.all(hashes.map(async (hash) => [hash, await this.options.readFile?.(hash)] as const));
    if (this.running !== running || this.link !== link) return;
    for (const [hash, content] of contents) {
      if (content === undefined) continue;
      link.post({ kind: 'file', hash, content });
      this.brought.set(hash, content.length);
    }
    link.post(running.request);
  }

  private finish(result: Result<WorkerReply, RegenerationFailure>): void {
    const { running } = this;
    if (!running) return;
    clearTimeout(running.timer);
    this.running = undefined;
    running.settle(result);
  }

  private connect(): WorkerLink {
    const link = this.start(
      (reply) => {
        if (this.link === link) this.receive(reply);
      },
      (message) => {
        if (this.link === link) this.stop({ kind: 'crashed', message });
      },
    );
    return link;
  }

  private receive(reply: WorkerReply): void {
    if (reply.kind === 'ready' || reply.id !== this.running?.request.id) {
      if (reply.kind === 'crashed' && reply.id < 0) this.stop({ kind: 'crashed', message: reply.message });
      return;
    }
    if (reply.kind === 'progress') {
      this.running.onProgress?.(reply.done, reply.of);
      return;
    }
    if (reply.kind === 'crashed') {
      this.stop({ kind: 'crashed', message: reply.message });
      return;
    }
    if ('memory' in reply && reply.memory > (this.options.memoryLimit ?? DEFAULT_MEMORY_LIMIT)) this.end();
    this.finish(succeed(reply));
  }

  private end(): void {
    this.brought.clear();
    this.link?.terminate();
    this.link = undefined;
  }
}

function documentsOf(wish: Wish) {
  switch (wish.kind) {
    case 'compare':
      return [wish.before, wish.document];
    case 'between':
      return [wish.document, wish.other];
    case 'export-assembly':
      return Object.values(wish.parts);
    default:
      return [wish.document];
  }
}

/** Brings pending edits to the server, one batch after the other, and tries again while it cannot be reached. */
import type { LoggedEdit } from '@/contract';
import type { Api } from './api';
import type { EditLog } from './edit-log';

const RETRY_MS = 2_000;
const MOST_AT_ONCE = 100;

export interface EditSenderPort {
  /** They are at the server; edits of others may have come with the answer. */
  readonly onTaken: (keys: ReadonlySet<string>, hasForeign: boolean) => void;
  /** The server has edits that are not here: nothing was taken. */
  readonly onBehind: (edits: readonly LoggedEdit[]) => void;
  /** One will never be taken. */
  readonly onRefused: (key: string, reason: string) => void;
  readonly onReach: (isOffline: boolean) => void;
}

export class EditSender {
  private sending: Promise<void> | undefined;
  private retryTimer: ReturnType<typeof setTimeout> | undefined;
  private isClosed = false;

  constructor(
    private readonly document: string,
    private readonly log: EditLog,
    private readonly api: Pick<Api, 'postEdits'>,
    private readonly port: EditSenderPort,
  ) {}

  get isSending(): boolean {
    return this.sending !== undefined;
  }

  /** Sends what is pending; resolves when it is all at the server, or the server cannot be reached. */
  flush(): Promise<void> {
    this.sending ??= this.sendAll();
    return this.sending;
  }

  close(): void {
    this.isClosed = true;
    clearTimeout(this.retryTimer);
  }

  private async sendAll(): Promise<void> {
    clearTimeout(this.retryTimer);
    // The first round waits too, so that `sending` is set before it can be cleared. No longer than that: a page that is
    // left at once has sent what was typed.
    await Promise.resolve();
    let goesOn = true;
    while (goesOn && this.log.pending.length > 0 && !this.isClosed) goesOn = await this.sendBatch();
    this.sending = undefined;
  }

  /** Whether there is use in sending more. */
  private async sendBatch(): Promise<boolean> {
    const envelopes = this.log.pending.slice(0, MOST_AT_ONCE).map(({ envelope }) => envelope);
    const reply = await this.api.postEdits(this.document, { base: this.log.seq, envelopes });
    if (reply.ok) {
      const sent = new Set(envelopes.map(({ key }) => key));
      const hasForeign = this.log.acknowledge(sent, reply.value.edits, reply.value.seq);
      this.port.onReach(false);
      this.port.onTaken(sent, hasForeign);
      return true;
    }
    const { failure } = reply;
    if (failure.code === 'stale') {
      this.port.onBehind(failure.edits ?? []);
      return true;
    }
    if (failure.code === 'edit-refused' && failure.key !== undefined) {
      this.port.onRefused(failure.key, failure.message);
      return true;
    }
    if (failure.code === 'bad-request' || failure.code === 'too-large' || failure.code === 'not-found') {
      for (const { key } of envelopes) this.port.onRefused(key, failure.message);
      return true;
    }
    this.port.onReach(true);
    if (!this.isClosed) this.retryTimer = setTimeout(() => void this.flush(), RETRY_MS);
    return false;
  }
}

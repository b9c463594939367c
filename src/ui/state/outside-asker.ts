/** Has the server ask outside calculations once their inputs have settled; the answers come as edits of the document. */
import type { StoreApi } from 'zustand/vanilla';
import { listQuestions } from '@/core/document';
import type { Api } from './api';
import type { SessionState } from './session-state';

/** After the last change. */
const SETTLED_MS = 300;
/** One that gave no answer is asked again. */
const AGAIN_MS = 30_000;

export class OutsideAsker {
  private timer: ReturnType<typeof setTimeout> | undefined;
  private again: ReturnType<typeof setTimeout> | undefined;
  /** The state that was looked at last, and the questions that have been asked in vain. */
  private looked = '';
  private inVain = '';
  private isClosed = false;

  constructor(
    private readonly store: StoreApi<SessionState>,
    private readonly api: Pick<Api, 'askOutside'>,
    /** Whether what is shown is what the server has. */
    private readonly isMade: () => boolean,
  ) {
    store.subscribe(() => {
      this.look();
    });
  }

  /** Asks now, also what was asked in vain. */
  askAgain(): void {
    this.inVain = '';
    void this.ask();
  }

  look(): void {
    const { version, pending, isOffline } = this.store.getState();
    const looked = `${version} ${pending} ${isOffline}`;
    if (looked === this.looked || this.isClosed) return;
    this.looked = looked;
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.ask(), SETTLED_MS);
  }

  close(): void {
    this.isClosed = true;
    clearTimeout(this.timer);
    clearTimeout(this.again);
  }

  /** The questions without an answer, as one text. */
  private listOpen(): string {
    return listQuestions(this.store.getState().values)
      .flatMap(({ question, state }) => (state === 'answered' ? [] : [...question.within, question.outside, question.key].join(' ')))
      .join('\n');
  }

  private async ask(): Promise<void> {
    const { pending, isOffline, document, outside } = this.store.getState();
    if (this.isClosed || pending > 0 || isOffline || outside.isAsking || !this.isMade()) return;
    const open = this.listOpen();
    if (open === '' && outside.failures.length > 0) this.store.setState({ outside: { isAsking: false, failures: [] } });
    if (open === '' || open === this.inVain) return;
    clearTimeout(this.again);
    this.store.setState({ outside: { isAsking: true, failures: outside.failures } });
    const reply = await this.api.askOutside(document.id);
    if (this.isClosed) return;
    const failures = reply.ok
      ? reply.value.failures
      : open.split('\n').map((line) => {
          const place = line.split(' ');
          return { within: place.slice(0, -2), outside: place.at(-2) ?? '', kind: 'no-answer', problem: reply.failure.message };
        });
    this.inVain = failures.length > 0 ? open : '';
    this.store.setState({ outside: { isAsking: false, failures } });
    if (failures.some(({ kind }) => kind === 'no-answer')) this.again = setTimeout(() => this.askAgain(), AGAIN_MS);
    // Inputs may have moved on while the server asked.
    else if (this.listOpen() !== open) this.look();
  }
}

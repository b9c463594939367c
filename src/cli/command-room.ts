import type { RegenerationClient } from '../workers/client';

/** What a command works in: where it writes, and who builds for it. */
export interface CommandRoom {
  readonly print: (text: string) => void;
  /** What went wrong beside the answer. */
  readonly complain: (text: string) => void;
  /** A client to build with; closed by the command when it is done. */
  readonly openClient: () => Promise<RegenerationClient>;
}

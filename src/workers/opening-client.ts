/**
 * The client of a part that is open. How the part is when it is opened is asked of a store first, so that it is there without a kernel; its worker builds it
 * once somebody is at work on the page, for the steps in between to be at hand when the first edit comes. From then on it is a plain client.
 */
import type { CompleteDocument } from '@/core/instances';
import { fail, type Result } from '@/core/kit';
import type { Purpose, RegenerationReply } from './client';
import { KeptRegenerationClient, type BuiltStore } from './kept-client';
import type { Lane } from './lane';
import type { RegenerationFailure } from './one-worker';
import type { NamedGeometry } from './protocol';

export class OpeningClient extends KeptRegenerationClient {
  /** How often it was asked for what is shown. */
  private shown = 0;

  /** `onWork` calls back once, when somebody is at work. */
  constructor(
    lane: Lane,
    store: BuiltStore,
    private readonly onWork: (then: () => void) => void,
  ) {
    super(lane, store);
  }

  override async regenerate(
    document: CompleteDocument,
    knownMeshes?: readonly string[],
    purpose: Purpose = 'show',
    describe: readonly NamedGeometry[] = [],
  ): Promise<Result<RegenerationReply, RegenerationFailure>> {
    if (purpose !== 'show') return super.regenerate(document, knownMeshes, purpose, describe);
    const wish = ++this.shown;
    // What is being edited is another with each edit.
    if (wish > 1) return this.build(document, knownMeshes, purpose, describe);
    const { reply, isKept } = await this.regenerateOnce(document, knownMeshes, purpose, describe, () => this.shown === wish);
    // What was asked since is answered by itself, perhaps before this.
    if (this.shown !== wish) return fail({ kind: 'superseded' });
    if (isKept)
      this.onWork(() => {
        if (this.shown === wish) void this.build(document, undefined, purpose, describe);
      });
    return reply;
  }
}

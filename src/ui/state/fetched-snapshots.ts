/** What components stand for, read from the server as far as it is not at hand. */
import type { Document } from '@/core/document';
import { complete, InstanceLibrary, type CompleteDocument, type Pin } from '@/core/instances';
import type { Api } from './api';

export class FetchedSnapshots {
  readonly library: InstanceLibrary;
  private readonly fetching = new Set<string>();

  constructor(
    snapshots: Readonly<Record<string, Document>>,
    private readonly readRevision: Api['readRevision'],
  ) {
    this.library = new InstanceLibrary(snapshots);
  }

  /** Reads what a document stands on, down through what that stands on; whether anything was missing. */
  async fetch(document: Document): Promise<boolean> {
    const missing = this.library.missing(document).filter((pin) => !this.fetching.has(nameOf(pin)));
    if (missing.length === 0) return false;
    await Promise.all(
      missing.map(async (pin) => {
        this.fetching.add(nameOf(pin));
        const reply = await this.readRevision(pin.source, pin.revision);
        if (reply.ok) this.library.add(pin, reply.value.document);
        // What is not there is asked for again when the server answers again.
        if (reply.ok || reply.failure.code === 'no-answer') this.fetching.delete(nameOf(pin));
      }),
    );
    await this.fetch(document);
    return true;
  }

  /** The document with what it stands on, to be handed to a worker. */
  async complete(document: Document): Promise<CompleteDocument> {
    await this.fetch(document);
    return complete(document, this.library);
  }
}

function nameOf({ source, revision }: Pin): string {
  return `${source} ${revision}`;
}

/** Which shapes a page shows of a document. */
import { listIds, type Document } from '@/core/document';
import type { Regenerated } from '@/core/steps';

export interface BodyPicture {
  readonly body: string;
  /** Key of its mesh. */
  readonly key: string;
  readonly isStale: boolean;
}

/** The document without the steps after one; as it is where that step is not there any more. */
export function cutAfter(document: Document, step: string | undefined): Document {
  const steps = listIds(document, 'steps');
  const at = step === undefined ? -1 : steps.indexOf(step);
  return at < 0 ? document : { ...document, lists: { ...document.lists, steps: steps.slice(0, at + 1) } };
}

/** What to show of each body: what is built, or the last good picture of one that is not. */
export function choosePictures({ bodies }: Regenerated, before: readonly BodyPicture[]): BodyPicture[] {
  return bodies.flatMap(({ id, key, usedBy }): BodyPicture[] => {
    if (key !== undefined) return [{ body: id, key, isStale: false }];
    // A body that went into another is not one that failed.
    if (usedBy !== undefined) return [];
    const good = before.find((picture) => picture.body === id);
    return good ? [{ ...good, isStale: true }] : [];
  });
}

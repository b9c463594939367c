/** Taking the values of a link from another document: matched by name, the rest to be chosen or left. */
import type { OffersReply } from '@/contract';
import { listRecords, type Document, type EditOf, type Link, type Take } from '@/core/document';

export interface RepointDraft {
  readonly link: Link;
  readonly source: OffersReply;
  /** Id of the value in the new source by the id of the taken value; those that are not there stay where they are. */
  readonly chosen: ReadonlyMap<string, string>;
}

/** The values of a link, each with the one of that name in the new source. */
export function startRepoint(document: Document, link: Link, source: OffersReply): RepointDraft {
  const chosen = new Map<string, string>();
  for (const take of listRecords(document, `${link.id}/takes`, 'take')) {
    const match = source.values.find(({ name }) => name === take.sourceName) ?? source.values.find(({ name }) => name === take.name);
    if (match) chosen.set(take.id, match.id);
  }
  return { link, source, chosen };
}

export function chooseSource({ chosen, ...draft }: RepointDraft, take: string, value: string | undefined): RepointDraft {
  const next = new Map(chosen);
  if (value === undefined) next.delete(take);
  else next.set(take, value);
  return { ...draft, chosen: next };
}

/** The edit that makes it so; values keep their names and ids, and with them everything that reads them. */
export function repointEdit({ link, source, chosen }: RepointDraft, document: Document, newId: () => string): EditOf<'takes.move'> {
  const known = listRecords(document, 'links', 'link').find((other) => other.source === source.id);
  const to: Link = { ...(known ?? { ...link, id: newId() }), source: source.id, sourceName: source.name, revision: source.revision, hash: source.hash };
  const values = new Map(source.values.map((value) => [value.id, value]));
  const takes = listRecords(document, `${link.id}/takes`, 'take').flatMap((take): Take[] => {
    const value = values.get(chosen.get(take.id) ?? '');
    return value ? [{ ...take, link: to.id, parameter: value.id, sourceName: value.name, value: value.value }] : [];
  });
  return { type: 'takes.move', from: link.id, to, takes };
}

/**
 * The choices of somebody who links values of another document, before they are made: which values, under
 * which local names. A name that is taken here is never changed silently: it is a problem with an offer.
 */
import type { LinkableValue, OffersReply } from '@/contract';
import { findRecord, listRecords, takenNames, type Document, type EditOf, type Link, type Take } from '@/core/document';
import { checkName } from '@/core/formula';

export interface LinkDraft {
  readonly source: OffersReply;
  readonly policy: Link['policy'];
  /** The link that is changed; a new one without. */
  readonly link: string | undefined;
  /** Local name by the id of the value in the source. */
  readonly chosen: ReadonlyMap<string, string>;
}

export interface AliasProblem {
  readonly message: string;
  /** A name that is free. */
  readonly offer: string | undefined;
}

/** Starts from the link to that source that is there, or empty. */
export function startLinkDraft(document: Document, source: OffersReply): LinkDraft {
  const link = listRecords(document, 'links', 'link').find((candidate) => candidate.source === source.id);
  const takes = link ? listRecords(document, `${link.id}/takes`, 'take') : [];
  return { source, policy: link?.policy ?? 'ask', link: link?.id, chosen: new Map(takes.map((take) => [take.parameter, take.name])) };
}

export function toggleChosen(draft: LinkDraft, value: string): LinkDraft {
  const chosen = new Map(draft.chosen);
  if (!chosen.delete(value)) chosen.set(value, draft.source.values.find(({ id }) => id === value)?.name ?? value);
  return { ...draft, chosen };
}

export function setAlias(draft: LinkDraft, value: string, alias: string): LinkDraft {
  return { ...draft, chosen: new Map(draft.chosen).set(value, alias) };
}

/** What is wrong with the local names, by the id of the value. */
export function findAliasProblems(draft: LinkDraft, document: Document): ReadonlyMap<string, AliasProblem> {
  const problems = new Map<string, AliasProblem>();
  const own = takesOf(draft, document);
  const ownNames = new Set([...own.values()].map((take) => take.name));
  const isTakenHere = takenNames(document);
  const seen = new Set<string>();
  for (const [value, alias] of draft.chosen) {
    // Names of this very link are free: they are what is being chosen anew.
    const isTaken = (name: string): boolean => seen.has(name) || (isTakenHere(name) && !ownNames.has(name));
    const problem = checkName(alias, isTaken);
    if (problem) problems.set(value, { message: problem.message, offer: freeAlias(draft.source.name, alias, isTaken) });
    seen.add(alias);
  }
  return problems;
}

/** `stock` of *Side frame* as `frame_stock`: the last word of the source in front, and a number if need be. */
export function freeAlias(source: string, alias: string, isTaken: (name: string) => boolean): string | undefined {
  const word = source
    .toLowerCase()
    .match(/[\p{L}_][\p{L}\p{Nd}_]*/gu)
    ?.at(-1);
  const stem = word === undefined || alias.startsWith(`${word}_`) ? alias : `${word}_${alias}`;
  for (let n = 1; n < 100; n++) {
    const candidate = n === 1 ? stem : `${stem}_${n}`;
    if (!checkName(candidate, isTaken)) return candidate;
  }
  return undefined;
}

/** The edit that makes it so. Values taken already keep their id, and with it everything that reads them. */
export function linkEdit(draft: LinkDraft, document: Document, newId: () => string): EditOf<'link.put'> {
  const { source } = draft;
  const id = draft.link ?? newId();
  const known = takesOf(draft, document);
  const takes = source.values.flatMap(({ id: parameter, name: sourceName, value }): Take[] => {
    const name = draft.chosen.get(parameter);
    if (name === undefined) return [];
    const before = known.get(parameter);
    return [before ? { ...before, name, sourceName, value } : { type: 'take', id: newId(), link: id, parameter, name, sourceName, value }];
  });
  // What the source has no more stays as it is, with the word that it is gone.
  const gone = [...known.values()].filter(({ parameter }) => draft.chosen.has(parameter) && !source.values.some((value) => value.id === parameter));
  return {
    type: 'link.put',
    link: { type: 'link', id, source: source.id, sourceName: source.name, policy: draft.policy, revision: source.revision, hash: source.hash },
    takes: [...takes, ...gone],
  };
}

/** Values that must be offered at the source first. */
export function listNotOffered(draft: LinkDraft): string[] {
  return draft.source.values.filter(({ id, isOffered }) => draft.chosen.has(id) && !isOffered).map(({ id }) => id);
}

function takesOf(draft: LinkDraft, document: Document): Map<string, Take> {
  const link = draft.link === undefined ? undefined : findRecord(document, draft.link, 'link');
  return new Map(link ? listRecords(document, `${link.id}/takes`, 'take').map((take) => [take.parameter, take]) : []);
}

/** A value that can be linked, under the name that it would have here. */
export interface NearValue {
  readonly value: LinkableValue;
  readonly alias: string;
}

/** Values of other documents that are not taken yet; a name that is taken here comes with the alias that it would get, for all to see. */
export function listNear(document: Document, linkable: readonly LinkableValue[]): NearValue[] {
  const taken = new Set(
    listRecords(document, 'links', 'link').flatMap((link) =>
      listRecords(document, `${link.id}/takes`, 'take').map((take) => `${link.source}/${take.parameter}`),
    ),
  );
  const isTaken = takenNames(document);
  return linkable.flatMap((value): NearValue[] => {
    if (taken.has(`${value.document}/${value.parameter}`)) return [];
    const alias = checkName(value.name, isTaken) ? freeAlias(value.documentName, value.name, isTaken) : value.name;
    return alias === undefined ? [] : [{ value, alias }];
  });
}

/** The edit that takes one more value, with those that are taken from there already. */
export function linkOneEdit(document: Document, { value, alias }: NearValue, newId: () => string): EditOf<'link.put'> {
  const known = listRecords(document, 'links', 'link').find((link) => link.source === value.document);
  const link: Link = known ?? {
    type: 'link',
    id: newId(),
    source: value.document,
    sourceName: value.documentName,
    policy: 'ask',
    revision: value.revision,
    hash: value.hash,
  };
  const take: Take = { type: 'take', id: newId(), link: link.id, parameter: value.parameter, name: alias, sourceName: value.name, value: value.value };
  return { type: 'link.put', link, takes: [...(known ? listRecords(document, `${known.id}/takes`, 'take') : []), take] };
}

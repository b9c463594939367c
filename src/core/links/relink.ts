/** A document that is copied to where other documents stand: its links lead to those of the same names there, and what is not there stays as it is. */
import { applyEdit, listRecords, type Document, type Edit, type EditFailure, type Link, type Take, type TakenValue } from '../document';
import { succeed, type Result } from '../kit';

/** A document that can be taken from, at its latest revision. */
export interface RelinkSource {
  readonly id: string;
  readonly kind: Document['kind'];
  readonly revision: number;
  readonly hash: string;
  /** Values that it hands over, by names. */
  readonly values: ReadonlyMap<string, { readonly id: string; readonly value: TakenValue }>;
}

export interface Relinked {
  readonly document: Document;
  /** Names of values that are no longer taken from anywhere: they are values of the document itself now. */
  readonly kept: readonly string[];
}

/** The failure of a value that has an error and nothing to be kept as. */
export function relink(document: Document, findSource: (name: string) => RelinkSource | undefined, newId: () => string): Result<Relinked, EditFailure> {
  const kept: string[] = [];
  let current = document;
  const run = (edit: Edit): EditFailure | undefined => {
    const applied = applyEdit(current, edit);
    if (!applied.ok) return applied.failure;
    current = applied.value.document;
    return undefined;
  };
  for (const link of listRecords(document, 'links', 'link')) {
    const source = findSource(link.sourceName);
    const takes = listRecords(document, `${link.id}/takes`, 'take');
    const moved = source ? takes.flatMap((take) => moveTake(take, source)) : [];
    const to: Link | undefined = source && { ...link, id: newId(), source: source.id, revision: source.revision, hash: source.hash };
    const failure = to && moved.length > 0 ? run({ type: 'takes.move', from: link.id, to, takes: moved.map((take) => ({ ...take, link: to.id })) }) : undefined;
    if (failure) return { ok: false, failure };
    const left = takes.filter(({ id }) => !moved.some((take) => take.id === id));
    if (left.length === 0) continue;
    kept.push(...left.map(({ name }) => name));
    const refused = run({ type: 'link.remove', id: link.id, readers: { mode: 'keep', all: true } });
    if (refused) return { ok: false, failure: refused };
  }
  for (const component of listRecords(current, 'components', 'component')) {
    const found = findSource(component.sourceName);
    // What has a shape is no calculation, whatever it is called.
    const source = found?.kind === 'calc' ? found : undefined;
    const { pattern: _, ...rest } = component;
    // What is not there stands for the same content as before, for ever.
    const there = source ? { ...rest, source: source.id, revision: source.revision, hash: source.hash } : { ...rest, policy: 'hold' as const };
    const failure = run({ type: 'component.put', component: there });
    if (failure) return { ok: false, failure };
  }
  return succeed({ document: current, kept });
}

/** With the value of that name in the source, where there is one of its kind. */
function moveTake(take: Take, { values }: RelinkSource): Take[] {
  const found = values.get(take.sourceName);
  if (!found || !isAlike(take, found)) return [];
  return [{ ...take, parameter: found.id, value: found.value }];
}

/** Whether a value can stand for one that is taken: a length for a length, a text for a text. */
export function isAlike(taken: Pick<Take, 'value'>, { value }: { readonly value: TakenValue }): boolean {
  if (value.kind !== taken.value.kind) return taken.value.kind === 'refused';
  return value.kind !== 'quantity' || taken.value.kind !== 'quantity' || value.dimension === taken.value.dimension;
}

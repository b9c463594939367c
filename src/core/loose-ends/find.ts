/** Everything in a document that a careful designer would look at again, with what can be done about it. */
import { findBrokenGuards, findRecord, listDriving, listNamed, listRecords, mentionedNames, type DocumentValues } from '../document';
import { findNearCircles, findTies, LIKELY, readNumbers, type Known, type PastValues, type Tie } from './untied';

export type LooseEnd = { readonly key: string; readonly about: readonly string[]; readonly message: string } &
  /** `perhaps`: a round number that equals a value, which may be chance. */
  (
    | { readonly kind: 'untied'; readonly tie: Tie }
    | { readonly kind: 'perhaps'; readonly tie: Tie }
    | { readonly kind: 'unused' | 'look-alike' | 'at-limit' | 'near-circle' | 'silent-guard' | 'broken-guard' | 'behind' }
  );

export interface Surroundings {
  /** Earlier states, newest first. */
  readonly past?: readonly PastValues[];
  /** Values that other documents take. */
  readonly takenElsewhere?: ReadonlySet<string>;
  /** Taken values that are another at their source now. */
  readonly behind?: readonly { readonly id: string; readonly name: string; readonly before: string; readonly after: string }[];
}

/** All loose ends, dismissed ones too: see {@link openLooseEnds}. */
export function findLooseEnds(values: DocumentValues, { past = [], takenElsewhere = new Set(), behind = [] }: Surroundings = {}): LooseEnd[] {
  const numbers = readNumbers(values);
  return [
    ...untied(values, past, numbers),
    ...behindSources(behind),
    ...brokenGuards(values),
    ...nearCircles(values, numbers),
    ...lookAlikes(values),
    ...unused(values, takenElsewhere),
    ...atLimit(values),
    ...silentGuards(values),
  ];
}

/** Those that nobody has dismissed. */
export function openLooseEnds(values: DocumentValues, all: readonly LooseEnd[]): LooseEnd[] {
  const dismissed = new Set(listRecords(values.document, 'dismissals', 'dismissal').map(({ key }) => key));
  return all.filter(({ key }) => !dismissed.has(key));
}

function nameOf({ document }: DocumentValues, id: string): string {
  return (findRecord(document, id, 'parameter') ?? findRecord(document, id, 'take'))?.name ?? '';
}

function untied(values: DocumentValues, past: readonly PastValues[], numbers: readonly Known[]): LooseEnd[] {
  return findTies(values, past, numbers).map((tie) => {
    const shown = values.show(tie.id)?.shown ?? '';
    const message = tie.hasStayedBehind
      ? `${nameOf(values, tie.id)} = ${shown} was equal to ${tie.formula} and stayed behind when that changed.`
      : `${nameOf(values, tie.id)} = ${shown} is equal to ${tie.formula}, and not tied to it.`;
    return { kind: tie.confidence < LIKELY ? 'perhaps' : 'untied', key: `untied ${tie.id} ${tie.to.join(' ')}`, about: [tie.id, ...tie.to], message, tie };
  });
}

function behindSources(behind: NonNullable<Surroundings['behind']>): LooseEnd[] {
  return behind.map(({ id, name, before, after }) => ({
    kind: 'behind',
    // Dismissed for this value at the source; the next one is pointed out again.
    key: `behind ${id} ${after}`,
    about: [id],
    message: `${name} is ${before} here and ${after || 'an error'} at its source.`,
  }));
}

function brokenGuards(values: DocumentValues): LooseEnd[] {
  return findBrokenGuards(values).map(({ id, message }) => ({
    kind: 'broken-guard',
    key: `broken-guard ${id}`,
    about: [id],
    message: `A guard is broken: ${message}`,
  }));
}

/** Two values that are one number, where a tie the other way round would make a circle: which of them drives? */
function nearCircles(values: DocumentValues, numbers: readonly Known[]): LooseEnd[] {
  return findNearCircles(values, numbers).map(({ plain, follower }) => ({
    kind: 'near-circle',
    key: `near-circle ${plain} ${follower}`,
    about: [plain, follower],
    message: `${nameOf(values, plain)} equals ${nameOf(values, follower)}, which follows from it through others: tied to it, it would depend on itself.`,
  }));
}

function lookAlikes({ document }: DocumentValues): LooseEnd[] {
  const byWord = new Map<string, { readonly id: string; readonly name: string }[]>();
  for (const { id, name } of listNamed(document)) {
    const word = name.toLowerCase().replaceAll('_', '');
    byWord.set(word, [...(byWord.get(word) ?? []), { id, name }]);
  }
  return [...byWord.values()].flatMap((alike): LooseEnd[] => {
    if (alike.length < 2) return [];
    const names = alike.map(({ name }) => name).sort();
    const ids = alike.map(({ id }) => id);
    return [{ kind: 'look-alike', key: `look-alike ${ids.join(' ')}`, about: ids, message: `${names.join(' and ')} differ only in capitals or underscores.` }];
  });
}

/** Nothing here reads it, no body is made of it, nobody takes it, and it is not offered. */
function unused(values: DocumentValues, takenElsewhere: ReadonlySet<string>): LooseEnd[] {
  const unread = listDriving(values.document).filter((record) => {
    // What is measured is there to be looked at.
    const isWanted = takenElsewhere.has(record.id) || (record.type === 'parameter' && (record.offered === true || record.measure !== undefined));
    return !isWanted && values.sheet.listReaders(record.id).length === 0;
  });
  // What an assembly sets in its components reads too, though these are not at hand here.
  const mentioned = mentionedNames(values.document, new Set(unread.map(({ name }) => name)));
  return unread.flatMap((record): LooseEnd[] =>
    mentioned.has(record.name) ? [] : [{ kind: 'unused', key: `unused ${record.id}`, about: [record.id], message: `${record.name} is read by nothing.` }],
  );
}

function atLimit(values: DocumentValues): LooseEnd[] {
  return listNamed(values.document).flatMap((record): LooseEnd[] => {
    if (record.type !== 'parameter' || (!record.least && !record.most)) return [];
    const value = values.sheet.readNumber(record.id);
    const bound = (['least', 'most'] as const).find((side) => values.sheet.readNumber(`${record.id}/${side}`) === value);
    if (bound === undefined) return [];
    return [{ kind: 'at-limit', key: `at-limit ${record.id} ${bound}`, about: [record.id], message: `${record.name} is at the ${bound} that it may be.` }];
  });
}

function silentGuards({ document }: DocumentValues): LooseEnd[] {
  return listRecords(document, 'guards', 'guard').flatMap(({ id, condition, message }): LooseEnd[] =>
    message.trim() === ''
      ? [{ kind: 'silent-guard', key: `silent-guard ${id}`, about: [id], message: `The guard ${condition.text} says nothing when it is broken.` }]
      : [],
  );
}

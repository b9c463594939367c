/**
 * Plain numbers that ought to follow a named value and do not. Judged by what both are now, and by what they were:
 * a number that was equal to a driving value before that changed has most likely stayed behind.
 *
 * Confidence weighs how telling the number is (424 equals another value by chance far more seldom than 20 does),
 * how simple the relation is, and whether the names have a word in common. The weights are a judgement; those of halves
 * and doubles were raised after labelled parts, and the demo at other sizes, had shown what they miss. What they find of
 * numbers that nobody had looked at is measured in `tests/reference`.
 */
import { bodyOf, findRecord, listDriving, listNamed, listSteps, sketchesOf, type DocumentValues, type TakenValue } from '../document';
import { ByValue, isSame } from './by-value';

/** Values by id at some time: in internal units, quantities only. */
export type PastValues = ReadonlyMap<string, number>;

export interface Tie {
  /** The plain number. */
  readonly id: string;
  /** A formula that gives the number, or gave it before what it should follow was changed. */
  readonly formula: string;
  /** Values that the formula reads. */
  readonly to: readonly string[];
  /** Whether it equals that now, or only did. */
  readonly hasStayedBehind: boolean;
  /** From 0 to 1. */
  readonly confidence: number;
}

export interface Known {
  readonly id: string;
  /** Where it stands in the document. */
  readonly place: number;
  readonly name: string;
  readonly value: number;
  readonly dimension: string;
  /** How telling a plain number is; 0 for the rest. */
  readonly digits: number;
  readonly isLiteral: boolean;
  readonly isTaken: boolean;
  readonly isDriving: boolean;
}

/** From here on a tie is likely; below, it is as likely to be chance. */
export const LIKELY = 0.5;
/** Round numbers that equal a value are told down to here: nobody but the designer knows. */
const LEAST_CONFIDENCE = 0.3;
/** Where more sums than these give a number, they give it by chance. */
const MOST_SUMS = 6;
/** No sum is as sure as this: see what {@link findSums} gives and what may be added. */
const SURER_THAN_SUMS = 0.85;
const RATIOS: readonly (readonly [factor: number, write: (name: string) => string])[] = [
  [2, (name) => `2 * ${name}`],
  [0.5, (name) => `${name} / 2`],
  [3, (name) => `3 * ${name}`],
  [1 / 3, (name) => `${name} / 3`],
  [4, (name) => `4 * ${name}`],
  [0.25, (name) => `${name} / 4`],
];

/**
 * `past` holds earlier states, newest first. The best tie for each plain number, the surest first. Those below {@link LIKELY} are round
 * numbers that equal a value as it is.
 */
export function findTies(values: DocumentValues, past: readonly PastValues[] = [], all: readonly Known[] = readNumbers(values)): Tie[] {
  const targets = all.filter(({ isDriving, value }) => isDriving && value !== 0);
  const states = [sortNow(targets), ...past.map((state) => sortThen(targets, state))];
  const bodies = bodiesOf(values);
  const ties = all.flatMap((plain) => {
    if (!plain.isLiteral || plain.isTaken) return [];
    const best = findBest(values, plain, states);
    if (best && best.confidence >= LIKELY) return [best];
    const chance = findRoundTie(values, plain, states[0], past, bodies);
    return chance ? [chance] : [];
  });
  return ties.sort((a, b) => b.confidence - a.confidence);
}

/**
 * Plain numbers that equal a driving value which is computed from them in more than one step, of a telling number: the
 * tie that suggests itself would make a circle.
 */
export function findNearCircles(values: DocumentValues, all: readonly Known[] = readNumbers(values)): { readonly plain: string; readonly follower: string }[] {
  const computed = sortNow(all.filter(({ isDriving, isLiteral }) => isDriving && !isLiteral));
  return all.flatMap((plain) => {
    if (!plain.isLiteral || plain.digits < 2) return [];
    const equal = computed.targets.get(plain.dimension)?.equalTo(plain.value) ?? [];
    if (equal.length === 0) return [];
    const followers = findFollowers(values, plain.id);
    // What reads it directly is its own copy, on purpose.
    const direct = new Set(values.sheet.listReaders(plain.id));
    return equal.flatMap(({ id }) => (followers.has(id) && !direct.has(id) ? [{ plain: plain.id, follower: id }] : []));
  });
}

/** What could be followed, by dimension, as it is or as it was. */
interface TargetsOfState {
  readonly targets: ReadonlyMap<string, ByValue<Target>>;
  /** What a number was then; undefined for what is so now. */
  readonly then: PastValues | undefined;
}

interface Target extends Known {
  /** Whether it is another now than it was in its state. */
  readonly hasMoved: boolean;
}

function sortNow(targets: readonly Known[]): TargetsOfState {
  return { targets: sortByDimension(targets.map((target) => ({ ...target, hasMoved: false }))), then: undefined };
}

function sortThen(targets: readonly Known[], then: PastValues): TargetsOfState {
  const values = targets.flatMap((target): Target[] => {
    const value = then.get(target.id);
    return value === undefined ? [] : [{ ...target, value, hasMoved: !isSame(target.value, value) }];
  });
  // Where nothing has moved nothing can have stayed behind.
  return { targets: sortByDimension(values.some(({ hasMoved }) => hasMoved) ? values : []), then };
}

function sortByDimension(targets: readonly Target[]): Map<string, ByValue<Target>> {
  const groups = new Map<string, Target[]>();
  for (const target of targets) {
    const group = groups.get(target.dimension);
    if (group) group.push(target);
    else groups.set(target.dimension, [target]);
  }
  return new Map([...groups].map(([dimension, group]) => [dimension, new ByValue(group)]));
}

/** All quantities of a document that are well and not read off the geometry. */
export function readNumbers(values: DocumentValues): Known[] {
  const driving = new Set(listDriving(values.document).map(({ id }) => id));
  return listNamed(values.document).flatMap((record, place): Known[] => {
    const reading = values.sheet.read(record.id);
    if (record.type === 'table' || !reading || reading.diagnostics.length > 0 || reading.type?.kind !== 'quantity') return [];
    if (values.isMeasured(record.id)) return [];
    const { key: dimension } = reading.type.dimension;
    const isLiteral = reading.isLiteral && record.type === 'parameter';
    return [
      {
        id: record.id,
        place,
        name: record.name,
        value: reading.value,
        dimension,
        digits: isLiteral ? tellingDigits(dimension, reading.value, values.show(record.id)?.exact ?? '') : 0,
        isLiteral,
        isTaken: record.type === 'take',
        isDriving: driving.has(record.id),
      },
    ];
  });
}

const COMMON_ANGLES = new Set([15, 30, 45, 60, 90, 120, 135, 180, 270, 360]);

/** Digits that say something: `424 mm` has three, `20 mm` one. */
function tellingDigits(dimension: string, value: number, text: string): number {
  if (dimension === 'angle=1' && COMMON_ANGLES.has(Math.abs(value))) return 1;
  const digits = (/[\d.]+/.exec(text)?.[0] ?? '').replace('.', '').replace(/^0+/, '');
  return digits.replace(/0+$/, '').length;
}

/** A number follows something of its own kind, other than itself, that does not follow it; two plain driving values are equal by choice. */
function judgeTargets(values: DocumentValues, plain: Known): (target: Known) => boolean {
  let followers: ReadonlySet<string> | undefined;
  return (target) => {
    if (target.id === plain.id || (plain.isDriving && target.isLiteral)) return false;
    followers ??= findFollowers(values, plain.id);
    return !followers.has(target.id);
  };
}

/** Everything that reads a value, directly or through others. */
function findFollowers({ sheet }: DocumentValues, id: string): ReadonlySet<string> {
  const found = new Set<string>();
  const waiting = [id];
  for (let next = waiting.pop(); next !== undefined; next = waiting.pop()) {
    for (const reader of sheet.listReaders(next)) {
      if (found.has(reader)) continue;
      found.add(reader);
      waiting.push(reader);
    }
  }
  return found;
}

/** The surest tie of a number over all states; the shorter formula of two that are as sure. */
function findBest(values: DocumentValues, plain: Known, states: readonly TargetsOfState[]): Tie | undefined {
  const isPossible = judgeTargets(values, plain);
  const telling = Math.min(plain.digits, 3);
  let best: Tie | undefined;
  for (const { targets, then } of states) {
    // A number that was another then has not stayed.
    if (then && !isSame(then.get(plain.id), plain.value)) continue;
    const sorted = targets.get(plain.dimension);
    if (!sorted) continue;
    const offer = (formula: string, parts: readonly Target[], base: number): void => {
      // In an earlier state: what was so then and is not now.
      if (then && !parts.some(({ hasMoved }) => hasMoved)) return;
      const trust = base + (then ? 0.1 : 0) + (parts.some(({ name }) => haveCommonWord(plain.name, name)) ? 0.2 : 0);
      const confidence = Math.min(0.99, trust + (parts.every(({ isTaken }) => isTaken) ? 0.05 : 0));
      if (best && (confidence < best.confidence || (confidence === best.confidence && formula.length >= best.formula.length))) return;
      best = { id: plain.id, formula, to: parts.map(({ id }) => id), hasStayedBehind: then !== undefined, confidence };
    };
    for (const target of sorted.equalTo(plain.value)) {
      if (isPossible(target)) offer(target.name, [target], [0, 0.35, 0.65, 0.85][telling] ?? 0);
    }
    for (const [factor, write] of RATIOS) {
      // Radii of diameters, halves of thicknesses: by far the commonest ratios.
      const base = (factor === 2 || factor === 0.5 ? [0, 0.45, 0.5, 0.55] : [0, 0.05, 0.3, 0.55])[telling] ?? 0;
      for (const target of sorted.equalTo(plain.value / factor)) if (isPossible(target)) offer(write(target.name), [target], base);
    }
    // Sums of anything are met by chance too often, unless the number is telling.
    if (telling < 3 || (best && best.confidence >= SURER_THAN_SUMS)) continue;
    for (const { formula, parts, base } of findSums(plain.value, sorted, isPossible)) offer(formula, parts, base);
  }
  return best;
}

/** A round number equals a value by chance as often as not: what they share decides. */
function findRoundTie(
  values: DocumentValues,
  plain: Known,
  now: TargetsOfState | undefined,
  past: readonly PastValues[],
  bodies: ReadonlyMap<string, ReadonlySet<string>>,
): Tie | undefined {
  // Counts and plain factors are alike everywhere.
  if (plain.dimension === '' || plain.digits === 0) return undefined;
  const isPossible = judgeTargets(values, plain);
  const own = bodies.get(plain.id);
  const ties = (now?.targets.get(plain.dimension)?.equalTo(plain.value) ?? []).filter(isPossible).map((target): Tie => {
    const changedTogether = past.some((state) => isSame(state.get(plain.id), state.get(target.id) ?? NaN) && !isSame(state.get(plain.id), plain.value));
    const isNear = own !== undefined && values.sheet.listReaders(target.id).some((reader) => [...(bodies.get(reader) ?? [])].some((body) => own.has(body)));
    const confidence = 0.35 + (changedTogether ? 0.3 : 0) + (haveCommonWord(plain.name, target.name) ? 0.2 : 0) + (isNear ? 0.1 : 0);
    return { id: plain.id, formula: target.name, to: [target.id], hasStayedBehind: false, confidence };
  });
  return ties.filter(({ confidence }) => confidence >= LEAST_CONFIDENCE).sort((a, b) => b.confidence - a.confidence)[0];
}

/** The bodies that each value of a step works on, through the steps that build on its sketch as well. */
function bodiesOf({ document }: DocumentValues): ReadonlyMap<string, ReadonlySet<string>> {
  const ofStep = new Map<string, Set<string>>();
  for (const step of listSteps(document)) {
    const body = bodyOf(step);
    if (body === undefined) continue;
    for (const id of [step.id, ...sketchesOf(step)]) ofStep.set(id, (ofStep.get(id) ?? new Set()).add(body));
  }
  return new Map(
    listNamed(document).flatMap((record) => {
      const bodies = record.type === 'parameter' && record.owner !== undefined ? ofStep.get(record.owner) : undefined;
      return bodies ? [[record.id, bodies] as const] : [];
    }),
  );
}

interface Sum {
  readonly formula: string;
  readonly parts: readonly Target[];
  readonly base: number;
}

/** Sums and differences of two that give a number; none at all where so many do that it says nothing. */
function findSums(wanted: number, sorted: ByValue<Target>, isPossible: (target: Known) => boolean): Sum[] {
  const sums: Sum[] = [];
  const note = (sum: Sum): boolean => {
    if (sum.parts.every(isPossible)) sums.push(sum);
    return sums.length <= MOST_SUMS;
  };
  sorted.visitPairs(
    (first) => wanted - first,
    // Each sum is met from both its parts.
    (a, b) => a.place > b.place || note({ formula: `${a.name} + ${b.name}`, parts: [a, b], base: 0.5 }),
  );
  sorted.visitPairs(
    (first) => first - wanted,
    (a, b) => note({ formula: `${a.name} - ${b.name}`, parts: [a, b], base: 0.45 }),
  );
  return sums.length > MOST_SUMS ? [] : sums;
}

/** Words that say nothing of what a value belongs to. */
const COMMON_WORDS = new Set(['of', 'the', 'a', 'b', 'c', 'd', 'x', 'y', 'z', 'w', 'h', 'profile', 'step', 'dim', 'value']);

function haveCommonWord(a: string, b: string): boolean {
  const words = (name: string): string[] =>
    name
      .toLowerCase()
      .split(/[_\d]+/)
      .filter((word) => word.length > 1 && !COMMON_WORDS.has(word));
  const own = new Set(words(a));
  return words(b).some((word) => own.has(word));
}

/** The quantities of a state, to be looked at later. */
export function readState(values: DocumentValues): PastValues {
  return new Map(
    listNamed(values.document).flatMap((record) => {
      const value = findRecord(values.document, record.id, 'table') ? NaN : values.sheet.readNumber(record.id);
      return Number.isNaN(value) ? [] : [[record.id, value] as const];
    }),
  );
}

/** The same from the values of a revision. */
export function readRevision(published: Readonly<Record<string, TakenValue>>): PastValues {
  return new Map(Object.entries(published).flatMap(([id, value]) => (value.kind === 'quantity' ? [[id, value.value] as const] : [])));
}

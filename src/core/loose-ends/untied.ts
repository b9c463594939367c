/**
 * Plain numbers that ought to follow a named value and do not. Judged by what both are now, and by what they were:
 * a number that was equal to a driving value before that changed has most likely stayed behind.
 *
 * Confidence weighs how telling the number is (424 equals another value by chance far more seldom than 20 does),
 * how simple the relation is, and whether the names have a word in common. The weights are a judgement, set before
 * any labelled part was looked at.
 */
import { findRecord, listDriving, listNamed, type DocumentValues, type TakenValue } from '../document';

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

interface Known {
  readonly id: string;
  readonly name: string;
  readonly value: number;
  readonly dimension: string;
  readonly digits: number;
  readonly isLiteral: boolean;
  readonly isTaken: boolean;
  readonly isDriving: boolean;
}

/** Less than this is left to chance. */
const LEAST_CONFIDENCE = 0.5;
const RATIOS: readonly (readonly [factor: number, write: (name: string) => string])[] = [
  [2, (name) => `2 * ${name}`],
  [0.5, (name) => `${name} / 2`],
  [3, (name) => `3 * ${name}`],
  [1 / 3, (name) => `${name} / 3`],
  [4, (name) => `4 * ${name}`],
  [0.25, (name) => `${name} / 4`],
];

/** `past` holds earlier states, newest first. The best tie for each plain number, the surest first. */
export function findTies(values: DocumentValues, past: readonly PastValues[] = []): Tie[] {
  const all = collect(values);
  const targets = all.filter(({ isDriving }) => isDriving);
  const ties = all.flatMap((plain) => {
    if (!plain.isLiteral || plain.isTaken || plain.dimension === 'text') return [];
    const possible = targets.filter((target) => isPossible(values, plain, target));
    const offers = [...tiesAt(plain, plain.value, possible, undefined), ...past.flatMap((state) => tiesThen(plain, possible, state))];
    const [best] = offers.sort((a, b) => b.confidence - a.confidence || a.formula.length - b.formula.length);
    return best && best.confidence >= LEAST_CONFIDENCE ? [best] : [];
  });
  return ties.sort((a, b) => b.confidence - a.confidence);
}

/**
 * Plain numbers that equal a driving value which is computed from them in more than one step, of a telling number: the
 * tie that suggests itself would make a circle.
 */
export function findNearCircles(values: DocumentValues): { readonly plain: string; readonly follower: string }[] {
  const all = collect(values);
  return all.flatMap((plain) => {
    if (!plain.isLiteral || plain.digits < 2) return [];
    return all.flatMap((follower) => {
      const isEqual =
        follower.id !== plain.id && follower.isDriving && !follower.isLiteral && follower.dimension === plain.dimension && isSame(follower.value, plain.value);
      // What reads it directly is its own copy, on purpose.
      if (!isEqual || values.sheet.listReads(follower.id).includes(plain.id)) return [];
      return reads(values.sheet, follower.id, plain.id, new Set()) ? [{ plain: plain.id, follower: follower.id }] : [];
    });
  });
}

function collect(values: DocumentValues): Known[] {
  const driving = new Set(listDriving(values.document).map(({ id }) => id));
  return listNamed(values.document).flatMap((record): Known[] => {
    if (record.type === 'table') return [];
    const shown = values.show(record.id);
    if (!shown || shown.diagnostics.length > 0 || shown.type?.kind !== 'quantity' || values.isMeasured(record.id)) return [];
    const isAngle = shown.type.dimension.key === 'angle=1';
    return [
      {
        id: record.id,
        name: record.name,
        value: shown.value,
        dimension: shown.type.dimension.key,
        digits: isAngle && COMMON_ANGLES.has(Math.abs(shown.value)) ? 1 : significantDigits(shown.exact),
        isLiteral: shown.isLiteral && record.type === 'parameter',
        isTaken: record.type === 'take',
        isDriving: driving.has(record.id),
      },
    ];
  });
}

const COMMON_ANGLES = new Set([15, 30, 45, 60, 90, 120, 135, 180, 270, 360]);

/** Digits that say something: `424 mm` has three, `20 mm` one. */
function significantDigits(text: string): number {
  const digits = (/[\d.]+/.exec(text)?.[0] ?? '').replace('.', '').replace(/^0+/, '');
  return digits.replace(/0+$/, '').length;
}

/** A number follows something other than itself, of its own kind, that does not follow it; two plain driving values are equal by choice. */
function isPossible({ sheet }: DocumentValues, plain: Known, target: Known): boolean {
  if (target.id === plain.id || target.dimension !== plain.dimension || target.value === 0) return false;
  if (plain.isDriving && target.isLiteral) return false;
  return !reads(sheet, target.id, plain.id, new Set());
}

function reads(sheet: DocumentValues['sheet'], from: string, wanted: string, seen: Set<string>): boolean {
  if (seen.has(from)) return false;
  seen.add(from);
  return sheet.listReads(from).some((id) => id === wanted || reads(sheet, id, wanted, seen));
}

/** What was so in an earlier state and is not now: the number stayed, what it equalled has moved on. */
function tiesThen(plain: Known, possible: readonly Known[], state: PastValues): Tie[] {
  if (!isSame(state.get(plain.id), plain.value)) return [];
  const then = possible.flatMap((target) => {
    const value = state.get(target.id);
    return value === undefined ? [] : [{ ...target, value }];
  });
  return tiesAt(plain, plain.value, then, new Map(possible.map(({ id, value }) => [id, value])));
}

/** `now` holds what targets are now when those given are what they were. */
function tiesAt(plain: Known, wanted: number, targets: readonly Known[], now: ReadonlyMap<string, number> | undefined): Tie[] {
  const found: Tie[] = [];
  const offer = (formula: string, parts: readonly Known[], base: number): void => {
    if (now && parts.every(({ id, value }) => isSame(now.get(id), value))) return;
    const shares = parts.some(({ name }) => haveCommonWord(plain.name, name));
    const trust = base + (now ? 0.1 : 0) + (shares ? 0.2 : 0) + (parts.every(({ isTaken }) => isTaken) ? 0.05 : 0);
    found.push({ id: plain.id, formula, to: parts.map(({ id }) => id), hasStayedBehind: now !== undefined, confidence: Math.min(0.99, trust) });
  };
  const telling = Math.min(plain.digits, 3);
  for (const target of targets) {
    if (isSame(target.value, wanted)) offer(target.name, [target], [0, 0.35, 0.65, 0.85][telling] ?? 0);
    for (const [factor, write] of RATIOS) {
      // Radii of diameters, halves of thicknesses: by far the commonest ratios.
      const isCommon = factor === 2 || factor === 0.5;
      if (isSame(target.value * factor, wanted)) offer(write(target.name), [target], [0, 0.05, isCommon ? 0.5 : 0.3, 0.55][telling] ?? 0);
    }
  }
  // Sums of anything are met by chance too often, unless the number is telling.
  if (telling < 3) return found;
  targets.forEach((first, i) => {
    for (const second of targets.slice(i + 1)) {
      if (isSame(first.value + second.value, wanted)) offer(`${first.name} + ${second.name}`, [first, second], 0.5);
      if (isSame(first.value - second.value, wanted)) offer(`${first.name} - ${second.name}`, [first, second], 0.45);
      if (isSame(second.value - first.value, wanted)) offer(`${second.name} - ${first.name}`, [second, first], 0.45);
    }
  });
  return found;
}

function isSame(a: number | undefined, b: number): boolean {
  return a !== undefined && Math.abs(a - b) <= 1e-9 * Math.max(Math.abs(a), Math.abs(b), 1);
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

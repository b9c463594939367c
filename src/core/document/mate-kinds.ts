/** What each kind of mate is called, and which values it has. */
import type { QuantityKind } from '../units';
import type { MateKind, MateRecord, MateReference } from './assembly-schema';

const MATE_WORDS: Readonly<Record<MateKind, string>> = {
  coplanar: 'plane on plane',
  coaxial: 'axis on axis',
  coincident: 'coincident',
  parallel: 'parallel',
  perpendicular: 'perpendicular',
  angle: 'angle',
  tangent: 'tangent',
  centred: 'centred',
  slot: 'in a slot',
  gears: 'gears',
  screw: 'screw',
  together: 'fixed together',
};

/** What a mate is called where its sides are of one sort, or are not. */
export function mateWords(kind: MateKind, bothRun = true): string {
  return kind === 'coplanar' && !bothRun ? 'at a distance from a plane' : MATE_WORDS[kind];
}

export interface MateSlot {
  readonly slot: string;
  readonly kind: QuantityKind;
  readonly label: string;
  readonly initial: string;
}

const OFFSET: MateSlot = { slot: 'offset', kind: 'length', label: 'Offset', initial: '0 mm' };
const ANGLE: MateSlot = { slot: 'angle', kind: 'angle', label: 'Angle', initial: '0 deg' };
const RATIO: MateSlot = { slot: 'ratio', kind: 'number', label: 'Turns of the second per turn of the first', initial: '1' };
const LEAD: MateSlot = { slot: 'lead', kind: 'length', label: 'Travel per turn', initial: '1 mm' };

/** Kinds that can be held between two values, instead of at one. */
export function canBeLimited(kind: MateKind): boolean {
  return kind === 'coplanar' || kind === 'angle';
}

/** Whether the sense of a kind says something, and what it says either way; `bothRun` where both sides have a direction of the same sort. */
export function senseWords(kind: MateKind, bothRun = true): readonly [same: string, opposed: string] | undefined {
  switch (kind) {
    case 'coplanar':
      return bothRun ? ['same way', 'opposed'] : undefined;
    case 'coaxial':
    case 'parallel':
      return ['same way', 'opposed'];
    case 'gears':
      return ['turn the same way', 'turn opposite ways'];
    case 'screw':
      return ['right-hand', 'left-hand'];
    case 'tangent':
      return bothRun ? ['from outside', 'from inside'] : undefined;
    default:
      return undefined;
  }
}

/** What changing the sense is called. */
export function reverseWords(kind: MateKind): string {
  return kind === 'tangent' ? 'Change side' : 'Reverse direction';
}

/** All that a mate holds on to: two, or three. */
export function matePlaces({ first, second, third }: Pick<MateRecord, 'first' | 'second' | 'third'>): readonly MateReference[] {
  return third ? [first, second, third] : [first, second];
}

export function mateSlots({ kind, isLimited }: Pick<MateRecord, 'kind' | 'isLimited'>): readonly MateSlot[] {
  switch (kind) {
    case 'coplanar':
    case 'angle': {
      const one = kind === 'angle' ? ANGLE : OFFSET;
      if (isLimited !== true) return [one];
      const far = kind === 'angle' ? '90 deg' : '10 mm';
      return [
        { ...one, slot: 'least', label: `Least ${one.label.toLowerCase()}` },
        { ...one, slot: 'most', label: `Most ${one.label.toLowerCase()}`, initial: far },
      ];
    }
    case 'tangent':
      return [OFFSET];
    case 'gears':
      return [RATIO];
    case 'screw':
      return [LEAD];
    default:
      return [];
  }
}

/** What each kind of mate is called, and which values it has. */
import type { QuantityKind } from '../units';
import type { MateKind } from './schema';

export const MATE_WORDS: Readonly<Record<MateKind, string>> = {
  coplanar: 'plane on plane',
  coaxial: 'axis on axis',
  coincident: 'coincident',
  parallel: 'parallel',
  perpendicular: 'perpendicular',
  angle: 'angle',
  tangent: 'tangent',
  together: 'fixed together',
};

export interface MateSlot {
  readonly slot: string;
  readonly kind: QuantityKind;
  readonly label: string;
  readonly initial: string;
}

const OFFSET: MateSlot = { slot: 'offset', kind: 'length', label: 'Offset', initial: '0 mm' };
const ANGLE: MateSlot = { slot: 'angle', kind: 'angle', label: 'Angle', initial: '0 deg' };

export function mateSlots(kind: MateKind): readonly MateSlot[] {
  if (kind === 'coplanar' || kind === 'tangent') return [OFFSET];
  return kind === 'angle' ? [ANGLE] : [];
}

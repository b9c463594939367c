/** Interferences that somebody has looked at and left: of the pair of bodies, whatever their order, until they have more in common. */
import type { DocumentRecord } from '@/core/document';
import type { Interference, JudgedBody } from '../state/interference';

type Dismissal = Extract<DocumentRecord, { readonly type: 'dismissal' }>;

/** It comes back when the volume has grown by more than this share. */
const GROWTH = 0.05;

function pairText({ first, second }: Interference): string {
  const text = ({ path, body }: JudgedBody): string => `${path.join('/')}/${body}`;
  return [text(first), text(second)].sort().join(' ');
}

/** What a dismissal of it is kept under: the pair, and the volume in cubic millimetres. */
export function interferenceKey(one: Interference): string {
  return `interference ${pairText(one)} ${(one.volume ?? 0).toFixed(3)}`;
}

export function dismissalOf(dismissals: readonly Dismissal[], one: Interference): Dismissal | undefined {
  const pair = `interference ${pairText(one)} `;
  return dismissals.find(({ key }) => key.startsWith(pair) && (one.volume ?? 0) <= Number(key.slice(pair.length)) * (1 + GROWTH));
}

/** Texts of dimensions that were put elsewhere by hand, remembered in this browser: how far from where they would stand, in pixels. */
import { remembered } from '../state/remembered';

export type Shift = readonly [right: number, down: number];

interface MovedLabels {
  readonly by: Readonly<Record<string, Shift>>;
}

/** The oldest are forgotten. */
const MOST = 300;
/** A text that is put back as near as this stands by itself again, in pixels. */
const NEAR = 8;

export const movedLabels = remembered<MovedLabels>('warpbeam-moved-labels', { by: {} });

export function moveLabel(key: string, to: Shift | undefined): void {
  movedLabels.setState(({ by }) => ({ by: withMoved(by, key, to) }));
}

/** Those with one of them moved last; without it where it is put back. */
export function withMoved(by: MovedLabels['by'], key: string, to: Shift | undefined): MovedLabels['by'] {
  const others = Object.entries(by).filter(([other]) => other !== key);
  if (to === undefined || Math.hypot(...to) < NEAR) return Object.fromEntries(others);
  return Object.fromEntries([...others, [key, to] as const].slice(-MOST));
}

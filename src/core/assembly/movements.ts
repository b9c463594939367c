/** Stances as the kernel moves bodies. */
import type { Stance } from '../instances';
import type { Movement } from '../kernel-port';

/** A stance as movements of what stands at the origin: turned, then shifted. */
export function movementsOf({ origin, turn: [w, x, y, z] }: Stance): Movement[] {
  const sine = Math.hypot(x, y, z);
  const shift: Movement = { kind: 'shift', by: [...origin] };
  if (sine < 1e-12) return [shift];
  const about = { origin: [0, 0, 0], direction: [x / sine, y / sine, z / sine] } as const;
  return [{ kind: 'turn', about, angle: 2 * Math.atan2(sine, w) }, shift];
}

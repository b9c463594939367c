/** Names that are given to what is made. */
import { automaticName } from '@/core/formula';

/** `Cross rail` as `cross_rail`, then `cross_rail_2`. */
export function freeName(title: string, isTaken: (name: string) => boolean): string {
  const base = automaticName(title, () => false).replace(/_a$/, '');
  if (!isTaken(base)) return base;
  for (let n = 2; ; n++) if (!isTaken(`${base}_${n}`)) return `${base}_${n}`;
}

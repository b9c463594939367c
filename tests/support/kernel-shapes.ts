/** Sketch curves and bodies for tests of the kernel and of steps. Millimetres. */
import { DATUM_FRAMES, findProfiles, type Curve, type Frame, type Point2, type Profile } from '@/core/geometry';
import type { BodyHandle, KernelPort } from '@/core/kernel-port';
import type { Result } from '@/core/kit';

export const line = (id: string, start: Point2, end: Point2): Curve => ({ kind: 'line', id, start, end });
export const circle = (id: string, x: number, y: number, radius: number): Curve => ({ kind: 'circle', id, centre: [x, y], radius });

/** A closed polygon; its lines are called `l0`, `l1` ... */
export const polygon = (...points: Point2[]): Curve[] => points.map((point, i) => line(`l${i}`, point, points[(i + 1) % points.length] ?? point));

/** A rectangle with lines south, east, north, west. */
export const rectangle = (w: number, h: number, x = 0, y = 0): Curve[] => [
  line('south', [x, y], [x + w, y]),
  line('east', [x + w, y], [x + w, y + h]),
  line('north', [x + w, y + h], [x, y + h]),
  line('west', [x, y + h], [x, y]),
];

export function profilesOf(curves: readonly Curve[]): readonly Profile[] {
  const found = findProfiles(curves);
  if (found.problems.length > 0) throw new Error(JSON.stringify(found.problems));
  return found.profiles;
}

/** The value of a result that must be good. */
export function take<T>(result: Result<T, { readonly reason: string }>): T {
  if (!result.ok) throw new Error(result.failure.reason);
  return result.value;
}

export function prism(kernel: KernelPort, curves: readonly Curve[], height: number, step = 's', frame: Frame = DATUM_FRAMES.top, from = 0): BodyHandle {
  return take(kernel.extrude({ profiles: profilesOf(curves), frame, from, to: from + height, step }));
}

export const relative = (actual: number, expected: number): number => Math.abs(actual - expected) / Math.abs(expected);

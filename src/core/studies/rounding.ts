/** Amounts rounded to what is made and bought: to a step of their unit, or to preferred numbers. */
import type { Axis } from './minimise';

/** Preferred numbers of ISO 3:1973, from 1 to 10 (from memory). */
const SERIES = {
  R5: [1, 1.6, 2.5, 4, 6.3],
  R10: [1, 1.25, 1.6, 2, 2.5, 3.15, 4, 5, 6.3, 8],
  R20: [1, 1.12, 1.25, 1.4, 1.6, 1.8, 2, 2.24, 2.5, 2.8, 3.15, 3.55, 4, 4.5, 5, 5.6, 6.3, 7.1, 8, 9],
} as const;

export const ROUNDINGS = ['exact', '0.01', '0.1', '0.5', '1', '5', '10', 'R20', 'R10', 'R5'] as const;
export type Rounding = (typeof ROUNDINGS)[number];

/** The nearest that an amount may be, in internal units, where `size` is its unit; a choice or a count stays, and nothing leaves its bounds. */
export function roundTo(rounding: Rounding, amount: number, size: number, { from, to, allowed }: Axis): number {
  if (rounding === 'exact' || allowed) return amount;
  const near = candidates(rounding, amount / size).map((one) => one * size);
  const inside = near.filter((one) => one >= from && one <= to);
  return inside.reduce((best, one) => (Math.abs(one - amount) < Math.abs(best - amount) ? one : best), inside[0] ?? amount);
}

/** Those about an amount, in its unit. */
function candidates(rounding: Exclude<Rounding, 'exact'>, amount: number): number[] {
  if (rounding in SERIES) {
    const magnitude = Math.floor(Math.log10(Math.abs(amount)));
    if (!Number.isFinite(magnitude)) return [0];
    const numbers = SERIES[rounding as keyof typeof SERIES];
    // Written in decimals and read again: 1.12 times a thousandth is no double that anybody types.
    return [magnitude, magnitude + 1].flatMap((power) => numbers.map((one) => Math.sign(amount) * Number(`${one}e${power}`)));
  }
  const step = Number(rounding);
  const steps = Math.round(amount / step);
  return [steps - 1, steps, steps + 1].map((one) => Number((one * step).toPrecision(12)));
}

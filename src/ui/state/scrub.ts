/** Changing a plain number by dragging or turning a wheel: the number steps, what stands behind it stays. */

const PLAIN = /^\s*([+-]?)(\d+(?:\.(\d+))?)(\s*[^\d\s+\-*/^(),.=<>]*(?:\^\d)?)\s*$/u;

/** Whether a formula is one number, with a unit or without, that can be stepped. */
export function canStep(text: string): boolean {
  return PLAIN.test(text);
}

/**
 * The formula with its number moved by `steps` of its last written place: `18 mm` by 3 is `21 mm`, `0.4 mm` by
 * 1 is `0.5 mm`. Large whole numbers move by ten or a hundred, so that a drag across the screen is of use.
 */
export function stepNumber(text: string, steps: number): string | undefined {
  const [, sign = '', digits = '', decimals = '', rest = ''] = PLAIN.exec(text) ?? [];
  if (digits === '') return undefined;
  const value = Number(`${sign}${digits}`);
  const places = decimals.length;
  const grain = places > 0 ? 10 ** -places : Math.abs(value) >= 10_000 ? 100 : Math.abs(value) >= 1_000 ? 10 : 1;
  const next = Math.round(value / grain + Math.trunc(steps)) * grain;
  return `${(Object.is(next, -0) ? 0 : next).toFixed(places)}${rest}`;
}

/** The formula with its number changed by `amount`, rounded to `places` decimals. */
export function addToNumber(text: string, amount: number, places: number): string | undefined {
  const [, sign = '', digits = '', , rest = ''] = PLAIN.exec(text) ?? [];
  if (digits === '') return undefined;
  return `${Number((Number(`${sign}${digits}`) + amount).toFixed(places))}${rest}`;
}

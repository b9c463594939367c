/** Plain data as JSON that keeps every number as it is: also -0, and what is not finite. A property that is undefined is left out. */

interface ExactNumber {
  readonly $number: string;
}

export function writeExact(data: unknown): string {
  return JSON.stringify(data, (_, value: unknown) => {
    if (typeof value !== 'number' || (Number.isFinite(value) && !Object.is(value, -0))) return value;
    return { $number: Object.is(value, -0) ? '-0' : String(value) } satisfies ExactNumber;
  });
}

export function readExact(text: string): unknown {
  return JSON.parse(text, (_, value: unknown) => (isExactNumber(value) ? Number(value.$number) : value));
}

function isExactNumber(value: unknown): value is ExactNumber {
  return typeof value === 'object' && value !== null && '$number' in value && typeof value.$number === 'string';
}

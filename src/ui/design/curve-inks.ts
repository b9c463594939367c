const INKS = ['var(--indigo)', 'var(--madder)', 'var(--moss)', 'var(--orchil)', 'var(--weld)'];

/** The colour of a curve of a chart, by its place among them. */
export function curveInk(place: number): string {
  return INKS[place % INKS.length] ?? 'currentColor';
}

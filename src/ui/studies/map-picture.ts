/** A map of two values as a drawing, for a picture of it: shades, amounts, and hatching where something is wrong. */
import type { Field } from './field-map';

interface DrawnMap {
  /** Words of the amounts along both ways. */
  readonly across: readonly string[];
  readonly up: readonly string[];
  readonly acrossLabel: string;
  readonly upLabel: string;
  readonly fieldAt: (across: number, up: number) => Field;
}

/** Pixels. */
const [WIDE, HIGH, SIDE, HEAD] = [72, 32, 110, 44];
const SVG = 'http://www.w3.org/2000/svg';

export function drawMap({ across, up, acrossLabel, upLabel, fieldAt }: DrawnMap): SVGElement {
  const [width, height] = [SIDE + WIDE * across.length + 16, HEAD + HIGH * up.length + 16];
  const drawing = make('svg', { width, height, viewBox: `0 0 ${width} ${height}` });
  const known = across.flatMap((_, i) => up.flatMap((__, j) => fieldAt(i, j).value ?? []));
  const [least, most] = [Math.min(...known), Math.max(...known)];
  drawing.append(
    hatching(),
    text(`${upLabel} up, ${acrossLabel} across`, { x: 16, y: 16 }),
    ...across.map((words, i) => text(words, { x: SIDE + WIDE * (i + 0.5), y: HEAD - 8, 'text-anchor': 'middle' })),
  );
  up.forEach((words, j) => {
    const y = HEAD + HIGH * (up.length - 1 - j);
    drawing.append(text(words, { x: SIDE - 8, y: y + HIGH / 2 + 4, 'text-anchor': 'end' }));
    across.forEach((_, i) => {
      const { value, isWrong } = fieldAt(i, j);
      const place = { x: SIDE + WIDE * i, y, width: WIDE - 2, height: HIGH - 2 };
      const shade = typeof value !== 'number' || most === least ? 0 : (value - least) / (most - least);
      drawing.append(make('rect', { ...place, fill: 'var(--indigo)', 'fill-opacity': 0.06 + 0.34 * shade, stroke: 'var(--rule)' }));
      if (isWrong) drawing.append(make('rect', { ...place, fill: 'url(#wrong)' }));
      const words = typeof value === 'number' ? String(Number(value.toPrecision(3))) : '';
      drawing.append(text(`${isWrong ? '✕ ' : ''}${words}`, { x: place.x + WIDE / 2, y: y + HIGH / 2 + 4, 'text-anchor': 'middle' }));
    });
  });
  return drawing;
}

function hatching(): SVGElement {
  const pattern = make('pattern', { id: 'wrong', width: 6, height: 6, patternUnits: 'userSpaceOnUse', patternTransform: 'rotate(45)' });
  pattern.append(make('rect', { width: 1, height: 6, fill: 'var(--madder)' }));
  const defs = make('defs', {});
  defs.append(pattern);
  return defs;
}

function text(words: string, attributes: Readonly<Record<string, string | number>>): SVGElement {
  const element = make('text', { 'font-size': 12, fill: 'var(--walnut)', ...attributes });
  element.textContent = words;
  return element;
}

function make(name: string, attributes: Readonly<Record<string, string | number>>): SVGElement {
  const element = document.createElementNS(SVG, name);
  for (const [key, value] of Object.entries(attributes)) element.setAttribute(key, String(value));
  return element;
}

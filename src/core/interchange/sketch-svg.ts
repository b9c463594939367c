/**
 * A sketch as SVG (W3C SVG 1.1), true to size in millimetres: curves as paths, construction geometry left out. The y axis
 * of the plane runs up, that of SVG down.
 */
import { sweepOf, type Curve, type Point2 } from '../geometry';
import { boxOf } from './curve-box';

/** Line width, in millimetres; also the margin around the drawing. */
const LINE_WIDTH = 0.25;
const MARGIN = 1;

export function writeSketchSvg(name: string, curves: readonly Curve[]): string {
  const { min, max } = boxOf(curves);
  const [width, height] = [max[0] - min[0] + 2 * MARGIN, max[1] - min[1] + 2 * MARGIN];
  const place = ([x, y]: Point2): string => `${number(x - min[0] + MARGIN)} ${number(max[1] - y + MARGIN)}`;
  const paths = curves.map((curve) => `  <path id="${curve.id}" d="${pathOf(curve, place)}"/>`);
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<svg xmlns="http://www.w3.org/2000/svg" width="${number(width)}mm" height="${number(height)}mm" viewBox="0 0 ${number(width)} ${number(height)}" fill="none" stroke="#000" stroke-width="${LINE_WIDTH}">`,
    `  <title>${escape(name)}</title>`,
    ...paths,
    '</svg>',
    '',
  ].join('\n');
}

function pathOf(curve: Curve, place: (point: Point2) => string): string {
  switch (curve.kind) {
    case 'line':
      return `M ${place(curve.start)} L ${place(curve.end)}`;
    case 'arc': {
      const r = number(curve.radius);
      // Counter-clockwise in the plane is sweep 0 with y running down.
      return `M ${place(curve.start)} A ${r} ${r} 0 ${sweepOf(curve) > Math.PI ? 1 : 0} 0 ${place(curve.end)}`;
    }
    case 'circle': {
      const r = number(curve.radius);
      const [left, right] = [-1, 1].map((side) => place([curve.centre[0] + side * curve.radius, curve.centre[1]]));
      return `M ${left ?? ''} A ${r} ${r} 0 1 0 ${right ?? ''} A ${r} ${r} 0 1 0 ${left ?? ''} Z`;
    }
  }
}

/** To a nanometre, without a trailing zero. */
function number(value: number): string {
  return String(Number(value.toFixed(6)));
}

function escape(text: string): string {
  return text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;');
}

/** The curves of a sketch as short straight lines on the screen, for what keeps off them. Pure. */
import { toCurve, type DrawnShape, type Place } from '@/core/drawing';
import { sweepOf, type Curve } from '@/core/geometry';
import type { Pixel } from '../design/place-labels';
import { toScreen, type SketchView } from './sketch-view';

/** Pieces that a full circle is divided into. */
const PIECES = 24;

export function screenLines(shape: DrawnShape, view: SketchView): (readonly [Pixel, Pixel])[] {
  return shape.entities.flatMap((entity) => {
    const curve = entity.type === 'point' ? undefined : toCurve(shape, entity);
    const places = curve ? placesOn(curve).map((place) => toScreen(view, place)) : [];
    return places.slice(1).map((place, i) => [places[i] ?? place, place] as const);
  });
}

function placesOn(curve: Curve): readonly Place[] {
  if (curve.kind === 'line') return [curve.start, curve.end];
  const sweep = curve.kind === 'circle' ? 2 * Math.PI : sweepOf(curve);
  const from = curve.kind === 'circle' ? 0 : Math.atan2(curve.start[1] - curve.centre[1], curve.start[0] - curve.centre[0]);
  const pieces = Math.max(2, Math.ceil((PIECES * sweep) / (2 * Math.PI)));
  return Array.from({ length: pieces + 1 }, (_, i) => {
    const angle = from + (sweep * i) / pieces;
    return [curve.centre[0] + curve.radius * Math.cos(angle), curve.centre[1] + curve.radius * Math.sin(angle)];
  });
}

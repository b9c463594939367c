/** Which constraints fit a selection of sketch geometry. */
import type { ConstraintKind } from '@/core/document';
import type { DrawnShape } from './drawn-shape';

type Kind = 'point' | 'line' | 'circle' | 'arc';

/** The kinds that a constraint takes, whichever way round. */
const FITS: Readonly<Record<ConstraintKind, readonly (readonly Kind[])[]>> = {
  coincident: [
    ['point', 'point'],
    ['point', 'line'],
    ['point', 'circle'],
    ['point', 'arc'],
  ],
  horizontal: [['line'], ['point', 'point']],
  vertical: [['line'], ['point', 'point']],
  parallel: [['line', 'line']],
  perpendicular: [['line', 'line']],
  equal: [
    ['line', 'line'],
    ['circle', 'circle'],
    ['arc', 'arc'],
    ['arc', 'circle'],
  ],
  concentric: [
    ['circle', 'circle'],
    ['arc', 'arc'],
    ['arc', 'circle'],
    ['circle', 'point'],
    ['arc', 'point'],
  ],
  tangent: [
    ['circle', 'line'],
    ['arc', 'line'],
    ['circle', 'circle'],
    ['arc', 'arc'],
    ['arc', 'circle'],
  ],
  midpoint: [['line', 'point']],
  fixed: [['point'], ['line'], ['circle'], ['arc']],
};

export function offerConstraints(shape: DrawnShape, selected: readonly string[]): ConstraintKind[] {
  const kinds = selected.map((id): Kind => shape.entities.find((entity) => entity.id === id)?.type ?? 'point').sort();
  return (Object.keys(FITS) as ConstraintKind[]).filter((kind) => FITS[kind].some((wanted) => [...wanted].sort().join() === kinds.join()));
}

/** Short marks of our own beside the geometry. */
export const CONSTRAINT_MARKS: Readonly<Record<ConstraintKind, string>> = {
  coincident: 'on',
  horizontal: 'lvl',
  vertical: 'plb',
  parallel: '∥',
  perpendicular: '⊥',
  equal: '=',
  concentric: 'cc',
  tangent: 'tan',
  fixed: 'fix',
  midpoint: 'mid',
};

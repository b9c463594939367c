/** Which constraints fit a selection of sketch geometry. */
import type { ConstraintKind } from '../document';
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
  symmetric: [
    ['point', 'point', 'line'],
    ['circle', 'circle', 'line'],
    ['arc', 'arc', 'line'],
    ['arc', 'circle', 'line'],
  ],
  fixed: [['point'], ['line'], ['circle'], ['arc']],
};

export function offerConstraints(shape: DrawnShape, selected: readonly string[]): ConstraintKind[] {
  const kinds = selected.map((id): Kind => kindOf(shape, id)).sort();
  return (Object.keys(FITS) as ConstraintKind[]).filter((kind) => FITS[kind].some((wanted) => [...wanted].sort().join() === kinds.join()));
}

function kindOf(shape: DrawnShape, id: string): Kind {
  if (id === 'x-axis' || id === 'y-axis') return 'line';
  return shape.entities.find((entity) => entity.id === id)?.type ?? 'point';
}

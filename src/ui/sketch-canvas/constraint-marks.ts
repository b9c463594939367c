import type { ConstraintKind } from '@/core/document';

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
  symmetric: 'sym',
};

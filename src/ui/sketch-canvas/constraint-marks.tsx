import type { ConstraintKind } from '@/core/document';

/** Small pictures of what each constraint does, about the middle, in a square of 14 pixels: strokes, and what is filled. */
const MARKS: Readonly<Record<ConstraintKind, { readonly stroke: string; readonly fill?: string }>> = {
  // Two ends that meet in a point.
  coincident: { stroke: 'M-6 4L0 0L6 4', fill: dot(0, 0, 2.2) },
  // A level, with its bubble.
  horizontal: { stroke: 'M-6 3H6M-6 0V3M6 0V3', fill: dot(0, -1.5, 1.9) },
  // A plumb line, with its bob.
  vertical: { stroke: 'M0 -6V1', fill: 'M-2.4 1H2.4L0 6.5Z' },
  parallel: { stroke: 'M-4.5 5L0 -5M0 5L4.5 -5' },
  perpendicular: { stroke: 'M-6 4H6M0 4V-5' },
  equal: { stroke: 'M-5 -2.5H5M-5 2.5H5' },
  // Two rings about one middle.
  concentric: { stroke: ring(0, 0, 5.5) + ring(0, 0, 2.4) },
  // A wheel on a rail.
  tangent: { stroke: `${ring(0, -1, 4)}M-6 4H6` },
  // A nail in the ground.
  fixed: { stroke: 'M-3 -5H3M0 -5V3M-6 4H6M-4 4L-6 6.5M0 4L-2 6.5M4 4L2 6.5' },
  // A line with its middle.
  midpoint: { stroke: 'M-6 0H6M-6 -3V3M6 -3V3', fill: dot(0, 0, 2.2) },
  // Two things and the fold between them.
  symmetric: { stroke: 'M0 -6V-3M0 -1.5V1.5M0 3V6', fill: dot(-4.5, 0, 1.9) + dot(4.5, 0, 1.9) },
};

function ring(x: number, y: number, r: number): string {
  return `M${x - r} ${y}A${r} ${r} 0 1 0 ${x + r} ${y}A${r} ${r} 0 1 0 ${x - r} ${y}`;
}

function dot(x: number, y: number, r: number): string {
  return `${ring(x, y, r)}Z`;
}

/** The mark of a constraint in an SVG drawing, about its origin. */
export function ConstraintMark({ kind, colour }: { kind: ConstraintKind; colour: string }) {
  const { stroke, fill } = MARKS[kind];
  return (
    <>
      <path d={stroke} fill="none" stroke={colour} strokeWidth={1.3} strokeLinecap="round" strokeLinejoin="round" />
      {fill !== undefined && <path d={fill} fill={colour} />}
    </>
  );
}

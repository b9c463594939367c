'use client';
import type { Frame, Point3 } from '@/core/geometry';
import { Button } from '../design/button';
import type { SectionPlane } from '../state/shown-body';

const NORMALS = { side: [1, 0, 0], front: [0, 1, 0], top: [0, 0, 1] } as const satisfies Readonly<Record<string, Point3>>;
type Direction = keyof typeof NORMALS;

export interface Section {
  readonly direction: Direction;
  readonly isOtherSide: boolean;
  readonly offset: number;
}

/** The plane of a section. */
export function planeOf({ direction, isOtherSide, offset }: Section): SectionPlane {
  const [x, y, z] = NORMALS[direction];
  return isOtherSide ? { normal: [-x, -y, -z], offset: -offset } : { normal: [x, y, z], offset };
}

/** The same with axes of its own: as it is looked at, upright. */
export function frameOf({ direction, offset }: Section): Frame {
  const origin: Point3 = [NORMALS[direction][0] * offset, NORMALS[direction][1] * offset, NORMALS[direction][2] * offset];
  switch (direction) {
    case 'side':
      return { origin, x: [0, 1, 0], y: [0, 0, 1], normal: [1, 0, 0] };
    case 'front':
      return { origin, x: [1, 0, 0], y: [0, 0, 1], normal: [0, -1, 0] };
    case 'top':
      return { origin, x: [1, 0, 0], y: [0, 1, 0], normal: [0, 0, 1] };
  }
}

interface Box {
  readonly min: Point3;
  readonly max: Point3;
}

/** A section through the middle of what is shown. */
export function middleSection(box: Box, direction: Direction): Section {
  const [low, high] = rangeOf(box, direction);
  return { direction, isOtherSide: direction === 'front', offset: (low + high) / 2 };
}

function rangeOf({ min, max }: Box, direction: Direction): readonly [number, number] {
  const axis = NORMALS[direction].findIndex((part) => part === 1) as 0 | 1 | 2;
  return [min[axis], max[axis]];
}

/** Cuts the picture open: by which plane, where, and which side is left out. */
interface SectionControlProps {
  readonly box: Box;
  readonly section: Section | undefined;
  readonly onChange: (section: Section | undefined) => void;
  /** Writes the outlines of the cut to a file. */
  readonly onSave: (section: Section) => void;
}

export function SectionControl({ box, section, onChange, onSave }: SectionControlProps) {
  if (!section) {
    return (
      <Button
        tone="quiet"
        className="h-6 bg-flax/80"
        onClick={() => onChange(middleSection(box, 'side'))}
        title="Cuts the picture open; the part stays as it is"
      >
        Section
      </Button>
    );
  }
  const [low, high] = rangeOf(box, section.direction);
  return (
    <div role="group" aria-label="Section" className="flex items-center gap-2 rounded-box border border-rule bg-sheet px-2 py-1 shadow-box">
      <select
        aria-label="Plane of the section"
        className="h-6 rounded-box border border-rule bg-sheet"
        value={section.direction}
        onChange={(event) => onChange(middleSection(box, event.target.value as Direction))}
      >
        <option value="side">across x</option>
        <option value="front">across y</option>
        <option value="top">across z</option>
      </select>
      <input
        type="range"
        aria-label="Place of the section"
        className="w-32"
        min={low}
        max={high}
        step={(high - low) / 200}
        value={section.offset}
        onChange={(event) => onChange({ ...section, offset: Number(event.target.value) })}
      />
      <span className="w-20 font-mono text-[13px] tabular-nums">{section.offset.toFixed(1)} mm</span>
      <Button tone="quiet" className="h-6" onClick={() => onChange({ ...section, isOtherSide: !section.isOtherSide })}>
        Other side
      </Button>
      <Button tone="quiet" className="h-6" title="Saves the outlines of the cut, true to size" onClick={() => onSave(section)}>
        DXF
      </Button>
      <Button tone="quiet" className="h-6" onClick={() => onChange(undefined)}>
        Whole
      </Button>
    </div>
  );
}

'use client';
import type { CSSProperties } from 'react';
import { followPointer } from '../state/follow-pointer';

/** What a width may be, and what it begins with. */
interface Limits {
  readonly least: number;
  readonly most: number;
  readonly usual: number;
}

interface WidthGripProps {
  readonly label: string;
  readonly width: number;
  readonly limits: Limits;
  /** How far an arrow key moves it, in the unit of the width. */
  readonly keyStep: number;
  /** How much wider one pixel makes it. */
  readonly perPixel?: (grip: HTMLElement) => number;
  readonly onWidth: (width: number) => void;
  readonly className: string;
  readonly style?: CSSProperties;
}

/** An edge that is dragged or moved by arrow keys, within limits; a double click or Home gives the usual width. */
export function WidthGrip({ label, width, limits: { least, most, usual }, keyStep, perPixel = () => 1, onWidth, className, style }: WidthGripProps) {
  const put = (wanted: number): void => onWidth(Math.min(most, Math.max(least, wanted)));
  return (
    <div
      role="separator"
      aria-orientation="vertical"
      aria-label={label}
      aria-valuenow={Math.round(width)}
      aria-valuemin={least}
      aria-valuemax={most}
      tabIndex={0}
      title="Drag for another width; double click for the usual one"
      className={`cursor-col-resize touch-none ${className}`}
      style={style}
      onDoubleClick={() => put(usual)}
      onKeyDown={(event) => {
        if (event.key === 'ArrowLeft') put(width - keyStep);
        else if (event.key === 'ArrowRight') put(width + keyStep);
        else if (event.key === 'Home') put(usual);
        else return;
        event.preventDefault();
      }}
      onPointerDown={({ clientX, currentTarget }) => {
        const scale = perPixel(currentTarget);
        followPointer(
          (event) => put(width + (event.clientX - clientX) * scale),
          (isKept) => isKept || put(width),
        );
      }}
    />
  );
}

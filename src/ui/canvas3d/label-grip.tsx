'use client';
import { Move } from 'lucide-react';
import { followPointer } from '../state/follow-pointer';
import { moveLabel, movedLabels, type Shift } from './moved-labels';

/** By keys, in pixels. */
const STEP = 8;
const KEYS: Readonly<Record<string, Shift>> = { ArrowLeft: [-STEP, 0], ArrowRight: [STEP, 0], ArrowUp: [0, -STEP], ArrowDown: [0, STEP] };

/** Moves the text of a dimension in the picture, by dragging or by the arrow keys; Delete, or a double click, puts it back. */
export function LabelGrip({ label }: { label: string }) {
  const shift = (): Shift => movedLabels.getState().by[label] ?? [0, 0];
  return (
    <button
      type="button"
      aria-label="Move the text"
      title="Drag to move the text; a double click puts it back"
      className="absolute top-1/2 -left-4 flex h-5 w-4 -translate-y-1/2 cursor-grab touch-none items-center justify-center rounded-l-box border border-r-0 border-rule bg-flax text-walnut-soft opacity-0 group-focus-within:opacity-100 group-hover:opacity-100"
      onPointerDown={(event) => {
        if (event.button !== 0) return;
        event.preventDefault();
        event.stopPropagation();
        const before = movedLabels.getState().by[label];
        const [right, down] = shift();
        const { clientX, clientY } = event;
        followPointer(
          (to) => moveLabel(label, [right + to.clientX - clientX, down + to.clientY - clientY]),
          (isKept) => {
            if (!isKept) moveLabel(label, before);
          },
        );
      }}
      onDoubleClick={() => moveLabel(label, undefined)}
      onKeyDown={(event) => {
        const by = KEYS[event.key];
        if (by) moveLabel(label, [shift()[0] + by[0], shift()[1] + by[1]]);
        else if (event.key === 'Delete') moveLabel(label, undefined);
        else return;
        event.preventDefault();
        event.stopPropagation();
      }}
    >
      <Move size={11} aria-hidden />
    </button>
  );
}

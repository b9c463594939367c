/** What stands on the canvas for a moment: the cross of the keys, and the box that selects. */
import type { Place } from '@/core/drawing';
import { toPlane, toScreen, type SketchView } from './sketch-view';

/** Where an arrow key takes the cross, which begins in the middle of the view; ten times as far with `isFar`. Places in millimetres. */
export function stepCursor(view: SketchView, cursor: Place | undefined, key: string, isFar: boolean): Place {
  const small = cursorStep(view.scale);
  const step = small * (isFar ? 10 : 1);
  const [x, y] = cursor ?? roundPlace(toPlane(view, [view.widthPx / 2, view.heightPx / 2]), small);
  return [x + (key === 'arrowright' ? step : key === 'arrowleft' ? -step : 0), y + (key === 'arrowup' ? step : key === 'arrowdown' ? -step : 0)];
}

/** A step of about ten pixels that is a round number of millimetres: 1, 2 or 5 of some power of ten. */
function cursorStep(scale: number): number {
  const power = 10 ** Math.floor(Math.log10(10 / scale));
  const share = 10 / scale / power;
  return power * (share < 1.5 ? 1 : share < 3.5 ? 2 : share < 7.5 ? 5 : 10);
}

function roundPlace([x, y]: Place, step: number): Place {
  return [Math.round(x / step) * step, Math.round(y / step) * step];
}

/** Where the arrow keys are, with its place in words. */
export function KeyCursor({ view, at }: { view: SketchView; at: Place }) {
  const [x, y] = toScreen(view, at);
  return (
    <g stroke="var(--orchil)" strokeWidth={1.2}>
      <path d={`M${x - 12} ${y}H${x + 12}M${x} ${y - 12}V${y + 12}`} fill="none" />
      <text x={x + 14} y={y - 8} fontFamily="var(--font-mono)" fontSize={12} fill="var(--orchil)" stroke="none" role="status">
        {`${Number(at[0].toFixed(3))}, ${Number(at[1].toFixed(3))}`}
      </text>
    </g>
  );
}

export function SelectionBox({ view, from, to }: { view: SketchView; from: Place; to: Place }) {
  const [[x1, y1], [x2, y2]] = [toScreen(view, from), toScreen(view, to)];
  return (
    <rect
      x={Math.min(x1, x2)}
      y={Math.min(y1, y2)}
      width={Math.abs(x2 - x1)}
      height={Math.abs(y2 - y1)}
      fill="var(--orchil)"
      fillOpacity={0.08}
      stroke="var(--orchil)"
      strokeDasharray="3 3"
    />
  );
}

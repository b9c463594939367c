'use client';
import type { DrawState } from './draw-tools';
import type { Place } from './drawn-shape';
import type { Snap } from './snapping';
import { toScreen, type SketchView } from './sketch-view';

/** The figure being drawn, and what the next click would snap to, said before it. */
export function DraftLayer({ view, draw, snap }: { view: SketchView; draw: DrawState | undefined; snap: Snap | undefined }) {
  if (!draw || !snap) return null;
  const [x, y] = toScreen(view, snap.at);
  const word = snap.on ? { point: 'on the point', midpoint: 'at the middle', curve: 'on the line' }[snap.on.kind] : undefined;
  const words = [word, snap.direction].filter((part) => part !== undefined).join(', ');
  return (
    <g className="pointer-events-none" fill="none" stroke="var(--indigo)" strokeWidth={1.4} strokeDasharray="4 3">
      <DraftFigure view={view} draw={draw} to={snap.at} />
      {snap.on && <circle cx={x} cy={y} r={7} strokeDasharray="none" />}
      {words !== '' && (
        <text x={x + 12} y={y - 10} fontSize={12} fill="var(--indigo)" stroke="none">
          {words}
        </text>
      )}
    </g>
  );
}

function DraftFigure({ view, draw, to }: { view: SketchView; draw: DrawState; to: Place }) {
  const [first, second] = draw.points.map((point) => toScreen(view, point.snap.at));
  const [x, y] = toScreen(view, to);
  if (!first) return null;
  const [fx, fy] = first;
  switch (draw.tool) {
    case 'line':
      return <line x1={fx} y1={fy} x2={x} y2={y} />;
    case 'rectangle':
      return <rect x={Math.min(fx, x)} y={Math.min(fy, y)} width={Math.abs(x - fx)} height={Math.abs(y - fy)} />;
    case 'circle':
      return <circle cx={fx} cy={fy} r={Math.hypot(x - fx, y - fy)} />;
    case 'arc': {
      if (!second) return <line x1={fx} y1={fy} x2={x} y2={y} />;
      const r = Math.hypot(second[0] - fx, second[1] - fy);
      const reach = Math.hypot(x - fx, y - fy) || 1;
      const end: Place = [fx + ((x - fx) * r) / reach, fy + ((y - fy) * r) / reach];
      // Screen y runs down: counter-clockwise in the plane is the other way round here.
      const turn = Math.atan2(-(end[1] - fy), end[0] - fx) - Math.atan2(-(second[1] - fy), second[0] - fx);
      const sweep = ((turn % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI);
      return <path d={`M ${second.join(' ')} A ${r} ${r} 0 ${sweep > Math.PI ? 1 : 0} 0 ${end.join(' ')}`} />;
    }
  }
}

'use client';
import { clickToDraw, readShape, type DrawnShape, type DrawState, type Snap } from '@/core/drawing';
import { useSession } from '../state/context';
import { amountWords } from '../state/amount-words';
import { readDraft } from './draft-reading';
import { pathOf } from './shape-layer';
import { toScreen, type SketchView } from './sketch-view';

interface DraftLayerProps {
  readonly view: SketchView;
  readonly shape: DrawnShape;
  readonly draw: DrawState | undefined;
  readonly snap: Snap | undefined;
}

/** What the next click would make, and what it would snap to, said before it. */
export function DraftLayer({ view, shape, draw, snap }: DraftLayerProps) {
  const { values } = useSession();
  if (!draw || !snap) return null;
  const [x, y] = toScreen(view, snap.at);
  const word = snap.on
    ? { point: 'on the point', midpoint: 'at the middle', curve: snap.on.id.endsWith('-axis') ? 'on the axis' : 'on the line' }[snap.on.kind]
    : undefined;
  const words = [word, snap.direction, snap.relation?.kind].filter((part) => part !== undefined).join(', ');
  const drawn = figureOf(shape, draw, snap);
  const numbers = readDraft(draw.points[0]?.snap.at, snap.at, drawn?.entities ?? [], drawn?.shape.point ?? shape.point, drawn?.shape.radius ?? shape.radius);
  return (
    <g className="pointer-events-none" fill="none" stroke="var(--indigo)" strokeWidth={1.4} strokeDasharray="4 3">
      <DraftFigure view={view} drawn={drawn} draw={draw} snap={snap} />
      <text
        x={x + 14}
        y={y + 22}
        fontSize={12}
        fontFamily="var(--font-mono)"
        fill="var(--walnut)"
        stroke="var(--linen)"
        strokeWidth={4}
        paintOrder="stroke"
        strokeDasharray="none"
      >
        {numbers.map(({ kind, value, prefix = '' }) => prefix + amountWords(values, kind, value)).join('  ')}
      </text>
      {snap.on && <circle cx={x} cy={y} r={7} strokeDasharray="none" />}
      {words !== '' && (
        <text x={x + 12} y={y - 10} fontSize={12} fill="var(--indigo)" stroke="none">
          {words}
        </text>
      )}
    </g>
  );
}

interface Drawn {
  readonly entities: DrawnShape['entities'];
  /** The shape with them. */
  readonly shape: DrawnShape;
}

/** What a click would make; undefined while that is no whole figure. */
function figureOf(shape: DrawnShape, draw: DrawState, snap: Snap): Drawn | undefined {
  if (draw.points.length === 0) return undefined;
  let id = 0;
  const { figure } = clickToDraw(draw, snap, { sketch: 'draft', shape, newId: () => `draft${++id}` });
  return figure && { entities: figure.entities, shape: shapeWith(shape, figure.entities) };
}

function DraftFigure({ view, drawn, draw, snap }: { view: SketchView; drawn: Drawn | undefined; draw: DrawState; snap: Snap }) {
  if (draw.points.length === 0) return null;
  if (!drawn) {
    const places = [...draw.points.map((point) => point.snap.at), snap.at].map((place) => toScreen(view, place).join());
    return <polyline points={places.join(' ')} />;
  }
  return (
    <>
      {drawn.entities.map((entity) => (
        <path key={entity.id} d={pathOf(view, drawn.shape, entity)} />
      ))}
    </>
  );
}

/** The shape with a figure that is not in the document yet. */
function shapeWith(shape: DrawnShape, entities: DrawnShape['entities']): DrawnShape {
  const records = Object.fromEntries(entities.map((entity) => [entity.id, entity]));
  const ids = entities.map((entity) => entity.id);
  const draft = readShape({ records, lists: { 'draft/entities': ids } }, 'draft', undefined);
  const isOwn = (id: string): boolean => Object.hasOwn(records, id);
  const point = (id: string) => (isOwn(id) ? draft.point(id) : shape.point(id));
  return {
    entities: [...shape.entities, ...entities],
    point,
    radius: (id) => {
      const entity = isOwn(id) ? records[id] : undefined;
      if (!entity) return shape.radius(id);
      if (entity.type === 'circle') return entity.radius;
      if (entity.type !== 'arc') return 0;
      const [[cx, cy], [x, y]] = [point(entity.centre), point(entity.start)];
      return Math.hypot(x - cx, y - cy);
    },
  };
}

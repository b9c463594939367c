'use client';
import { toCurve, type DrawnShape, type Place } from '@/core/drawing';
import { sweepOf, type Curve } from '@/core/geometry';
import type { Entity } from '@/core/document';
import { toScreen, type SketchView } from './sketch-view';

interface ShapeLayerProps {
  readonly view: SketchView;
  readonly shape: DrawnShape;
  readonly free: ReadonlySet<string>;
  readonly conflicting: ReadonlySet<string>;
  readonly selected: ReadonlySet<string>;
}

/**
 * The curves and points. Determined: strong; free: thin, in the colour of what needs attention, with open ends; construction: dashed; taken
 * from elsewhere: dash and dot; in conflict: doubled.
 */
export function ShapeLayer({ view, shape, free, conflicting, selected }: ShapeLayerProps) {
  const curves = shape.entities.filter((entity) => entity.type !== 'point');
  const points = shape.entities.filter((entity) => entity.type === 'point');
  return (
    <g>
      {curves.map((entity) => {
        const isSelected = selected.has(entity.id);
        const isWrong = conflicting.has(entity.id);
        const isFree = free.has(entity.id);
        const d = pathOf(view, shape, entity);
        return (
          <g key={entity.id} fill="none">
            {isWrong && <path d={d} stroke="var(--madder)" strokeWidth={6} opacity={0.35} />}
            <path
              d={d}
              data-entity={entity.id}
              stroke={isWrong ? 'var(--madder)' : isSelected ? 'var(--orchil)' : isFree ? 'var(--weld)' : 'var(--walnut)'}
              strokeWidth={isSelected ? 3.2 : isFree || entity.isConstruction === true ? 1.4 : 2.4}
              strokeDasharray={entity.from ? '8 3 2 3' : entity.isConstruction === true ? '7 4' : undefined}
            />
          </g>
        );
      })}
      {points.map((entity) => {
        const [x, y] = toScreen(view, shape.point(entity.id));
        const isSelected = selected.has(entity.id);
        const isFree = free.has(entity.id);
        return (
          <circle
            key={entity.id}
            data-entity={entity.id}
            cx={x}
            cy={y}
            r={isSelected ? 5 : isFree ? 4 : 3.2}
            fill={isFree ? 'var(--linen)' : 'var(--walnut)'}
            stroke={isSelected ? 'var(--orchil)' : isFree ? 'var(--weld)' : 'var(--walnut)'}
            strokeWidth={1.6}
          />
        );
      })}
    </g>
  );
}

/** An entity as an SVG path on screen. */
export function pathOf(view: SketchView, shape: DrawnShape, entity: Entity): string {
  const curve = toCurve(shape, entity);
  return curve ? pathOfCurve(view, curve) : '';
}

export function pathOfCurve(view: SketchView, curve: Curve): string {
  const at = (place: Place): string => toScreen(view, place).join(' ');
  switch (curve.kind) {
    case 'line':
      return `M ${at(curve.start)} L ${at(curve.end)}`;
    case 'circle': {
      const [x, y] = toScreen(view, curve.centre);
      const r = curve.radius * view.scale;
      return `M ${x - r} ${y} A ${r} ${r} 0 1 0 ${x + r} ${y} A ${r} ${r} 0 1 0 ${x - r} ${y}`;
    }
    case 'arc': {
      const r = curve.radius * view.scale;
      return `M ${at(curve.start)} A ${r} ${r} 0 ${sweepOf(curve) > Math.PI ? 1 : 0} 0 ${at(curve.end)}`;
    }
  }
}

/** Origin and axes, faint, behind everything. */
export function AxisLayer({ view }: { view: SketchView }) {
  const [x, y] = toScreen(view, [0, 0]);
  return (
    <g stroke="var(--flax-deep)" strokeWidth={1}>
      <line x1={0} y1={y} x2={view.widthPx} y2={y} />
      <line x1={x} y1={0} x2={x} y2={view.heightPx} />
      <circle cx={x} cy={y} r={4} fill="var(--linen)" stroke="var(--walnut-soft)" />
    </g>
  );
}

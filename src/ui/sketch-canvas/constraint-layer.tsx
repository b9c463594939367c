'use client';
import { CONSTRAINT_MARKS } from './constraint-marks';
import { type DrawnShape, middleOf } from '@/core/drawing';
import { listRecords, type SketchConstraint } from '@/core/document';
import { useSession } from '../state/context';
import { toScreen, type SketchView } from './sketch-view';

interface ConstraintLayerProps {
  readonly sketch: string;
  readonly view: SketchView;
  readonly shape: DrawnShape;
  readonly selected: ReadonlySet<string>;
  readonly marked: ReadonlySet<string>;
  readonly onSelect: (id: string) => void;
}

/** A small word beside the geometry for each constraint; it can be selected and deleted. */
export function ConstraintLayer({ sketch, view, shape, selected, marked, onSelect }: ConstraintLayerProps) {
  const session = useSession();
  const constraints = listRecords(session.document, `${sketch}/constraints`, 'constraint');
  const crowd = new Map<string, number>();
  return (
    <g fontFamily="var(--font-mono)" fontSize={10}>
      {constraints.map((constraint) => {
        const anchor = anchorOf(constraint);
        const [x, y] = toScreen(view, middleOf(shape, anchor));
        const place = crowd.get(anchor) ?? 0;
        crowd.set(anchor, place + 1);
        const isSelected = selected.has(constraint.id);
        const isMarked = marked.has(constraint.id);
        const text = CONSTRAINT_MARKS[constraint.kind];
        const width = text.length * 6.2 + 6;
        return (
          <g
            key={constraint.id}
            role="button"
            tabIndex={0}
            aria-label={`${text} ${constraint.kind} constraint`}
            aria-pressed={isSelected}
            transform={`translate(${x + 9 + place * 26}, ${y + 14})`}
            className="cursor-pointer"
            onPointerDown={(event) => {
              event.stopPropagation();
              onSelect(constraint.id);
            }}
            onKeyDown={(event) => {
              if (event.key === 'Enter' || event.key === ' ') onSelect(constraint.id);
            }}
          >
            <title>{constraint.kind}</title>
            <rect
              x={-width / 2}
              y={-8}
              width={width}
              height={14}
              rx={3}
              fill={isMarked ? 'var(--madder-wash)' : 'var(--flax)'}
              stroke={isSelected ? 'var(--orchil)' : 'none'}
            />
            <text textAnchor="middle" y={2.5} fill={isMarked ? 'var(--madder)' : 'var(--walnut-soft)'}>
              {text}
            </text>
          </g>
        );
      })}
    </g>
  );
}

function anchorOf({ on }: SketchConstraint): string {
  return on.find((id) => id !== 'origin' && !id.endsWith('-axis')) ?? on[0] ?? 'origin';
}

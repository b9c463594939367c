'use client';
import { ConstraintMark } from './constraint-marks';
import { MARK_SIZE, type ConstraintPlace } from './constraint-places';

interface ConstraintLayerProps {
  readonly places: readonly ConstraintPlace[];
  readonly selected: ReadonlySet<string>;
  readonly marked: ReadonlySet<string>;
  readonly onSelect: (id: string) => void;
}

/** A small mark beside the geometry for each constraint; it can be selected and deleted. */
export function ConstraintLayer({ places, selected, marked, onSelect }: ConstraintLayerProps) {
  return (
    <g>
      {places.map(({ constraint: { id, kind }, at: [x, y] }) => {
        const isSelected = selected.has(id);
        const isMarked = marked.has(id);
        return (
          <g
            key={id}
            role="button"
            tabIndex={0}
            aria-label={`${kind} constraint`}
            aria-pressed={isSelected}
            transform={`translate(${x}, ${y})`}
            className="cursor-pointer"
            onPointerDown={(event) => {
              event.stopPropagation();
              onSelect(id);
            }}
            onKeyDown={(event) => {
              if (event.key === 'Enter' || event.key === ' ') onSelect(id);
            }}
          >
            <title>{kind}</title>
            <rect
              x={-MARK_SIZE / 2}
              y={-MARK_SIZE / 2}
              width={MARK_SIZE}
              height={MARK_SIZE}
              rx={3}
              fill={isMarked ? 'var(--madder-wash)' : 'var(--flax)'}
              stroke={isSelected ? 'var(--orchil)' : 'none'}
            />
            <ConstraintMark kind={kind} colour={isMarked ? 'var(--madder)' : isSelected ? 'var(--orchil)' : 'var(--walnut-soft)'} />
          </g>
        );
      })}
    </g>
  );
}

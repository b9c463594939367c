'use client';
import { listRecords, type SketchRepeat } from '@/core/document';
import type { DrawnShape, Place } from '@/core/drawing';
import type { Curve } from '@/core/geometry';
import { readCopies } from '@/core/steps';
import { prettyUnit } from '@/core/units';
import { useSession, useSessionState } from '../state/context';
import { pathOfCurve } from './shape-layer';
import { toScreen, type SketchView } from './sketch-view';
import type { OpenValue } from './sketch-gestures';

interface RepeatLayerProps {
  readonly sketch: string;
  readonly view: SketchView;
  readonly shape: DrawnShape;
  readonly selected: ReadonlySet<string>;
  readonly onSelect: (id: string) => void;
  readonly onOpen: (value: OpenValue) => void;
}

/** The copies that repeats make, and beside the last one how many there are and how far apart. */
export function RepeatLayer({ sketch, view, shape, selected, onSelect, onOpen }: RepeatLayerProps) {
  const session = useSession();
  const document = useSessionState((state) => state.document);
  // The values change within their own object.
  useSessionState((state) => state.version);
  const copies = readCopies(document, sketch, session.values, shape);
  return (
    <g>
      {copies.map((curve) => (
        <path key={curve.id} d={pathOfCurve(view, curve)} data-copy={curve.id} fill="none" stroke="var(--walnut)" strokeWidth={2} opacity={0.75} />
      ))}
      {listRecords(document, `${sketch}/constraints`, 'repeat').map((repeat) => (
        <Label
          key={repeat.id}
          repeat={repeat}
          at={labelPlace(repeat, copies, shape)}
          view={view}
          isSelected={selected.has(repeat.id)}
          onSelect={() => onSelect(repeat.id)}
          onOpen={onOpen}
        />
      ))}
    </g>
  );
}

interface LabelProps {
  readonly repeat: SketchRepeat;
  readonly at: Place;
  readonly view: SketchView;
  readonly isSelected: boolean;
  readonly onSelect: () => void;
  readonly onOpen: (value: OpenValue) => void;
}

function Label({ repeat, at, view, isSelected, onSelect, onOpen }: LabelProps) {
  const session = useSession();
  const [x, y] = toScreen(view, at);
  const value = (id: string): string => prettyUnit(session.values.show(id)?.shown ?? '') || 'error';
  const parts = [
    { id: repeat.count, text: `${value(repeat.count)} ×`, kind: 'count', dx: -30, label: 'Count of the repeat' },
    { id: repeat.spacing, text: value(repeat.spacing), kind: repeat.form === 'linear' ? 'length' : 'angle', dx: 30, label: 'Spacing of the repeat' },
  ];
  return (
    <g fontFamily="var(--font-mono)" fontSize={13} textAnchor="middle">
      {parts.map(({ id, text, kind, dx, label }) => {
        const open = (): void => onOpen({ id: `${repeat.id} ${kind}`, parameter: id, at: [at[0], at[1]], kind, sketch: repeat.sketch });
        const width = text.length * 7.5 + 10;
        return (
          <g
            key={id}
            role="button"
            tabIndex={0}
            aria-label={`${label}, ${text}`}
            className="cursor-pointer"
            onPointerDown={(event) => {
              event.stopPropagation();
              onSelect();
            }}
            onDoubleClick={open}
            onKeyDown={(event) => {
              if (event.key === 'Enter' || event.key === 'F2') open();
            }}
          >
            <rect x={x + dx - width / 2} y={y + 8} width={width} height={22} rx={4} fill="var(--linen)" stroke={isSelected ? 'var(--orchil)' : 'var(--rule)'} />
            <text x={x + dx} y={y + 24} fill="var(--indigo)">
              {text}
            </text>
          </g>
        );
      })}
    </g>
  );
}

/** By the copy that is furthest from the originals in the row. */
function labelPlace({ of, about }: SketchRepeat, copies: readonly Curve[], shape: DrawnShape): Place {
  const [first = ''] = of;
  const last = copies.filter(({ id }) => id.startsWith(`${first}~`)).at(-1);
  if (!last) return shape.point(about);
  return last.kind === 'circle' ? [last.centre[0], last.centre[1] - last.radius] : last.start;
}

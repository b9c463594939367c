'use client';
import type { DrawnShape, Place } from '@/core/drawing';
import { findAny, findRecord, isNamed, listRecords, type SketchDimension } from '@/core/document';
import type { SolvedSketch } from '@/core/steps';
import { prettyUnit } from '@/core/units';
import { useSession, useWorkspace } from '../state/context';
import { placeLabels, type WishedLabel } from '../design/place-labels';
import { drawDimension } from '../design/dimension-figure';
import { screenLines } from './screen-lines';
import { STRIP_HEIGHT, toScreen, type SketchView } from './sketch-view';

interface DimensionLayerProps {
  readonly sketch: string;
  readonly view: SketchView;
  readonly shape: DrawnShape;
  readonly solved: SolvedSketch | undefined;
  readonly conflicting: ReadonlySet<string>;
  /** Marks that the texts keep off. */
  readonly marks: readonly WishedLabel[];
  /** A text being moved: its dimension and where it is now. */
  readonly moved: { readonly id: string; readonly at: Place } | undefined;
  readonly onPress: (dimension: SketchDimension, event: React.PointerEvent) => void;
  readonly onOpen: (dimension: SketchDimension) => void;
  readonly onDelete: (dimension: SketchDimension) => void;
}

/** Height of a text, and what is kept free at the edges of the canvas, in pixels. */
const TEXT_HEIGHT = 22;
const EDGE = 4;

/** Dimensions: witness lines, dimension lines and texts. */
export function DimensionLayer({ sketch, view, shape, solved, conflicting, marks, moved, onPress, onOpen, onDelete }: DimensionLayerProps) {
  const session = useSession();
  const mode = useWorkspace((state) => state.dimensionText);
  const selected = useWorkspace((state) => state.selected);
  const texts = listRecords(session.document, `${sketch}/constraints`, 'dimension').map((dimension) => {
    const at = moved?.id === dimension.id ? moved.at : dimension.at;
    const parameter = findRecord(session.document, dimension.parameter, 'parameter');
    const shown = session.values.show(dimension.parameter);
    const reads = describe(dimension, solved);
    const value = dimension.isReference === true ? `(${reads})` : prettyUnit(shown?.shown ?? '') || 'error';
    const prefix = dimension.kind === 'diameter' ? '⌀ ' : dimension.kind === 'radius' ? 'R ' : '';
    const text = prefix + (mode === 'name' ? (parameter?.name ?? '') : mode === 'formula' ? (parameter?.formula.text ?? '') : value);
    const wish = { at: toScreen(view, [at[0], at[1]]), width: text.length * 7.3 + 10, height: TEXT_HEIGHT, isHeld: moved?.id === dimension.id };
    return { dimension, at, parameter, shown, reads, text, wish };
  });
  const places = placeLabels(
    texts.map(({ wish }) => wish),
    { left: EDGE, top: STRIP_HEIGHT, right: view.widthPx - EDGE, bottom: view.heightPx - EDGE },
    { boxes: marks, lines: screenLines(shape, view) },
  );
  return (
    <g>
      {texts.map(({ dimension, at, parameter, shown, reads, text, wish }, index) => {
        const figure = drawDimension(shape, { ...dimension, at: [at[0], at[1]] });
        const isWrong = (shown?.diagnostics.length ?? 0) > 0 || conflicting.has(dimension.id);
        const isSelected = selected === dimension.parameter;
        const colour = isWrong ? 'var(--madder)' : isSelected ? 'var(--orchil)' : shown?.isLiteral === true ? 'var(--walnut)' : 'var(--indigo)';
        const [tx, ty] = places[index] ?? wish.at;
        const { width } = wish;
        const isAside = Math.hypot(tx - wish.at[0], ty - wish.at[1]) > 1;
        return (
          <g key={dimension.id} stroke={colour} fill="none">
            {figure.witness.map(([a, b], i) => {
              const [[x1, y1], [x2, y2]] = [toScreen(view, a), toScreen(view, b)];
              return <line key={i} x1={x1} y1={y1} x2={x2} y2={y2} strokeWidth={0.7} opacity={0.6} />;
            })}
            <polyline points={figure.line.map((place) => toScreen(view, place).join()).join(' ')} strokeWidth={isSelected ? 1.8 : 1} />
            {[figure.line[0], figure.line[figure.line.length - 1]].map((end, i) => {
              if (!end) return null;
              const [x, y] = toScreen(view, end);
              return <line key={i} x1={x - 3.5} y1={y + 3.5} x2={x + 3.5} y2={y - 3.5} strokeWidth={1.4} />;
            })}
            {/* A text that had to give way is tied to where it belongs. */}
            {isAside && <line x1={wish.at[0]} y1={wish.at[1]} x2={tx} y2={ty} strokeWidth={0.7} opacity={0.6} />}
            <g
              role="button"
              tabIndex={0}
              aria-label={`Dimension ${parameter?.name ?? ''}, ${text}`}
              className="cursor-pointer"
              onPointerDown={(event) => onPress(dimension, event)}
              onDoubleClick={() => onOpen(dimension)}
              onKeyDown={(event) => {
                if (event.key === 'Enter' || event.key === 'F2') onOpen(dimension);
                else if (event.key === 'Delete' || event.key === 'Backspace') onDelete(dimension);
                else return;
                event.preventDefault();
              }}
            >
              <title>{`${parameter?.name ?? ''} = ${dimension.isReference === true ? 'measured' : (parameter?.formula.text ?? '')}; on the shape ${reads}${readsOf(session, dimension.parameter)}`}</title>
              <rect
                x={tx - width / 2}
                y={ty - TEXT_HEIGHT / 2}
                width={width}
                height={TEXT_HEIGHT}
                rx={4}
                fill="transparent"
                stroke={isSelected ? colour : 'none'}
              />
              {/* The dimension line is interrupted; what lies behind beyond that is hidden by the letters alone. */}
              <rect x={tx - width / 2 + 5} y={ty - 6} width={width - 10} height={12} fill="var(--linen)" stroke="none" />
              <text
                x={tx}
                y={ty + 4.5}
                textAnchor="middle"
                fontFamily="var(--font-mono)"
                fontSize={13}
                fill={colour}
                stroke="var(--linen)"
                strokeWidth={5}
                strokeLinejoin="round"
                paintOrder="stroke"
                fontStyle={dimension.isReference === true ? 'italic' : undefined}
                fontWeight={shown?.isLiteral === true ? 400 : 550}
              >
                {text}
              </text>
            </g>
          </g>
        );
      })}
    </g>
  );
}

/** The values that its formula reads, in words. */
function readsOf({ document, values }: ReturnType<typeof useSession>, parameter: string): string {
  const names = values.sheet.listReads(parameter).flatMap((id) => {
    const record = findAny(document, id);
    return record && isNamed(record) ? [record.name] : [];
  });
  return names.length === 0 ? '' : `; reads ${names.join(', ')}`;
}

function describe(dimension: SketchDimension, solved: SolvedSketch | undefined): string {
  const value = solved && Object.hasOwn(solved.measured, dimension.id) ? solved.measured[dimension.id] : undefined;
  if (value === undefined) return '?';
  return dimension.kind === 'angle' ? `${Number(((value * 180) / Math.PI).toFixed(3))}°` : `${Number(value.toFixed(3))} mm`;
}

'use client';
import { followPointer } from '../state/follow-pointer';
import { COLUMNS, pageSettings, usePageSettings } from '../state/page-settings';

/** Where the first column of a row begins, and the space between two, in pixels. */
const BEFORE = 25;
const BETWEEN = 7;
/** How far an arrow key moves an edge. */
const KEY_STEP = 8;

type Column = keyof typeof COLUMNS;

/** The edges of the columns of the ledger: dragged or moved by arrow keys; a double click or Home gives the usual width. */
export function ColumnGrips() {
  const { value, name } = usePageSettings(({ columns }) => columns);
  return (
    <div className="relative h-1.5 shrink-0 bg-linen">
      <Grip column="value" label="Width of the values" at={BEFORE + value} />
      <Grip column="name" label="Width of the names" at={BEFORE + value + BETWEEN + name} />
    </div>
  );
}

function Grip({ column, label, at }: { readonly column: Column; readonly label: string; readonly at: number }) {
  const width = usePageSettings(({ columns }) => columns[column]);
  const { least, most, usual } = COLUMNS[column];
  const put = (wanted: number): void => {
    pageSettings.setState(({ columns }) => ({ columns: { ...columns, [column]: Math.min(most, Math.max(least, Math.round(wanted))) } }));
  };
  return (
    <div
      role="separator"
      aria-orientation="vertical"
      aria-label={label}
      aria-valuenow={width}
      aria-valuemin={least}
      aria-valuemax={most}
      tabIndex={0}
      title="Drag for another width; double click for the usual one"
      className="absolute inset-y-0 w-1.5 cursor-col-resize border-x-2 border-walnut-soft/40 hover:border-indigo focus-visible:border-indigo"
      style={{ left: at }}
      onDoubleClick={() => put(usual)}
      onKeyDown={(event) => {
        if (event.key === 'ArrowLeft') put(width - KEY_STEP);
        else if (event.key === 'ArrowRight') put(width + KEY_STEP);
        else if (event.key === 'Home') put(usual);
        else return;
        event.preventDefault();
      }}
      onPointerDown={({ clientX }) =>
        followPointer(
          (event) => put(width + event.clientX - clientX),
          () => undefined,
        )
      }
    />
  );
}

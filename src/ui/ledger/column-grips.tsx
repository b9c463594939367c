'use client';
import { COLUMNS, pageSettings, usePageSettings } from '../state/page-settings';
import { WidthGrip } from './width-grip';

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
  const put = (wanted: number): void => pageSettings.setState(({ columns }) => ({ columns: { ...columns, [column]: Math.round(wanted) } }));
  return (
    <WidthGrip
      label={label}
      width={width}
      limits={COLUMNS[column]}
      keyStep={KEY_STEP}
      onWidth={put}
      className="absolute inset-y-0 w-1.5 border-x-2 border-walnut-soft/40 hover:border-indigo focus-visible:border-indigo"
      style={{ left: at }}
    />
  );
}

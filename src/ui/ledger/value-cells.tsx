'use client';
/** The cells of a row of the ledger: each is drawn again only when what it shows is another. */
import { cellOf, formulaNow, usedSize, describeMeasure, findRecord, isTable, limitsOf, shownTolerance, type Parameter, type Take } from '@/core/document';
import { prettyUnit } from '@/core/units';
import { useSafeRange } from '../state/safe-ranges';
import { useSession, useSessionState } from '../state/context';
import { useScrub } from './scrub-value';

interface ValueCellProps {
  readonly record: Parameter | Take;
  /** By which the row is called. */
  readonly cellId: string;
  readonly isLiteral: boolean;
  readonly isMeasured: boolean;
  readonly problem: string | undefined;
}

/** What a value is now, in full on hover; a plain number is dragged to another. */
export function ValueCell({ record, cellId, isLiteral, isMeasured, problem }: ValueCellProps) {
  const scrub = useScrub(record.id);
  const shown = useSessionState(({ values }) => values.show(record.id)?.shown ?? '');
  const exact = useSessionState(({ values }) => values.show(record.id)?.exact);
  const isDragged = isLiteral && record.type === 'parameter';
  return (
    <span
      role="cell"
      id={cellId}
      {...scrub}
      className={`w-[var(--value-column)] ${isDragged ? 'cursor-ew-resize touch-none select-none' : ''} shrink-0 truncate text-right font-mono tabular-nums ${problem === undefined ? styleOf(record, isLiteral) : 'value-error'} ${isMeasured ? 'italic' : ''}`}
      title={problem ?? exact}
    >
      {isTable(record) ? 'table' : problem === undefined ? prettyUnit(shown) : 'error'}
    </span>
  );
}

/** The tolerance as it is written, in full on hover. */
export function ToleranceCell({ record }: { record: Parameter | Take }) {
  const session = useSession();
  // Its limits may read anything.
  useSessionState((state) => state.version);
  const limits = limitsOf(session.values, record.id);
  const isWrong = limits !== undefined && 'problem' in limits;
  const written = shownTolerance(session.values, record.id);
  return (
    <span
      role="cell"
      className={`shrink-0 font-mono text-[13px] ${isWrong ? 'text-madder' : 'text-walnut-soft'}`}
      title={limits && ('problem' in limits ? limits.problem : limits.shown)}
    >
      {written !== '' ? written : limits && !('problem' in limits) ? limits.shown : ''}
    </span>
  );
}

/** How far the value may go before something fails, where that was found out. */
export function SafeRangeCell({ id }: { id: string }) {
  const words = useSafeRange(id);
  if (words === undefined) return null;
  return (
    <span role="cell" className="shrink-0 text-xs text-walnut-soft" title="Found by running it through a range">
      {words}
    </span>
  );
}

export function hasTolerance(record: Parameter | Take): boolean {
  return record.type === 'parameter' ? record.tolerance !== undefined : record.value.kind === 'quantity' && record.value.tolerance !== undefined;
}

function styleOf(record: Parameter | Take, isLiteral: boolean): string {
  if (record.type === 'take') return 'value-linked';
  return isLiteral ? 'value-plain' : 'value-formula';
}

/** Says that a value, or what is built, rests on a result that is older than its inputs. */
export function HeldMark({ id, isInCell = false }: { id: string; isInCell?: boolean }) {
  const isHeld = useSessionState(({ values }) => values.isHeld(id));
  if (!isHeld) return null;
  return (
    <span
      {...(isInCell ? {} : { role: 'cell' })}
      className="shrink-0 text-weld"
      title="Rests on the result of an outside calculation that is older than its inputs"
    >
      held
    </span>
  );
}

interface FromCellProps {
  readonly record: Parameter | Take;
  readonly isLiteral: boolean;
  readonly isMeasured: boolean;
  readonly problem: string | undefined;
}

/** Where a value comes from: its formula, or the document that it is taken from. */
export function FromCell({ record, isLiteral, isMeasured, problem }: FromCellProps) {
  const size = useSessionState((state) => (cellOf(state.document, record.id) ? usedSize(state.document)?.name : undefined));
  const formula = useSessionState((state) => (record.type === 'parameter' ? formulaNow(state.document, record).text : ''));
  const source = useSessionState((state) => (record.type === 'take' ? findRecord(state.document, record.link, 'link')?.sourceName : undefined));
  if (problem !== undefined) {
    return (
      <span className="wraps truncate text-madder" title={problem}>
        {record.type === 'parameter' && <span className="font-mono">{record.formula.text} </span>}
        {problem}
      </span>
    );
  }
  if (isMeasured)
    return (
      <span className="truncate text-walnut-soft">
        {record.type === 'parameter' && record.measure?.of === 'outside' ? (
          `answer: ${record.measure.output}`
        ) : (
          <>measured{record.type === 'parameter' && record.measure ? `: ${describeMeasure(record.measure.what)}` : ''}</>
        )}
      </span>
    );
  if (record.type === 'take') return <span className="value-linked truncate">{source}</span>;
  return (
    <span className={`wraps truncate font-mono ${isLiteral ? 'text-walnut-soft' : 'value-formula'}`}>
      {isLiteral ? '' : formula}
      {size !== undefined && <span className="ml-2 font-sans text-walnut-soft">{size}</span>}
    </span>
  );
}

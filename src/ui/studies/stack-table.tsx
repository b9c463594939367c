'use client';
/** What a value with tolerances is made of, and what one press makes of a tolerance. */
import { findRecord, toleranceText, type Edit, type Tolerance } from '@/core/document';
import { mostPieces, type Basis, type Contributor, type Required, type Stack } from '@/core/studies';
import { prettyUnit } from '@/core/units';
import { Button } from '../design/button';
import { useSession } from '../state/context';
import { tightenOne } from './tighten';

interface StackTableProps {
  readonly name: string;
  readonly stack: Stack;
  /** What is asked of the value. */
  readonly required: Required | undefined;
  readonly basis: Basis;
  /** A contributor is so many pieces from now on. */
  readonly onPieces: (id: string, count: number) => void;
}

export function StackTable({ name, stack, required, basis, onPieces }: StackTableProps) {
  return (
    <table className="w-full border-collapse">
      <caption className="sr-only">What {name} is made of</caption>
      <thead>
        <tr className="border-b border-rule text-left text-walnut-soft">
          {['Value', 'Nominal', 'Tolerance', 'Sensitivity', 'Share', ''].map((head) => (
            <th key={head} className="px-1 py-1 font-normal">
              {head === '' ? <span className="sr-only">Tighten</span> : head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {stack.contributors.map((one) => (
          <ContributorRow key={one.id} one={one} stack={stack} required={required} basis={basis} onPieces={onPieces} />
        ))}
      </tbody>
    </table>
  );
}

function ContributorRow({ one, stack, required, basis, onPieces }: Omit<StackTableProps, 'name'> & { one: Contributor }) {
  const session = useSession();
  const record = findRecord(session.document, one.id, 'parameter');
  const shown = session.values.show(one.id);
  const halved = record?.tolerance && halve(record.tolerance);
  const met = required && tightenOne(session.values, stack, one, required, basis);
  const put = (edit: Edit): void => void session.edit(edit);
  const write = (amount: number): string => (shown ? session.values.words({ ...shown, value: amount }, shown.unit, 4).shown : '');
  const text = record?.tolerance
    ? toleranceText(record.tolerance)
    : one.isGeneral === true
      ? `±${write(one.upper - one.nominal)}, general`
      : `${write(one.lower)} to ${write(one.upper)}`;
  return (
    <tr className="border-b border-rule/50">
      <th scope="row" className="px-1 py-1 text-left font-semibold">
        {one.name}
      </th>
      <td className="px-1 font-mono whitespace-nowrap">{prettyUnit(shown?.shown ?? '')}</td>
      <td className="px-1 font-mono whitespace-nowrap">{prettyUnit(text)}</td>
      <td className="px-1 font-mono whitespace-nowrap">
        × {Number(one.sensitivity.toPrecision(4))}
        <Pieces one={one} onChange={(count) => onPieces(one.id, count)} />
        {one.isCorner && <span title="It bends just here: the other way it counts for less."> at a corner</span>}
      </td>
      <td className="px-1">
        <span className="flex items-center gap-2 whitespace-nowrap">
          <span className="h-2 w-16 bg-flax-deep">
            <span className="block h-2 bg-indigo" style={{ width: `${Math.round(one.share * 100)}%` }} />
          </span>
          {Math.round(one.share * 100)} %
        </span>
      </td>
      <td className="px-1 text-right">
        {met ? (
          <Button className="h-6" aria-label={`Tighten ${one.name} to ${met.text}`} onClick={() => put(met.edit)}>
            Tighten to {met.text}
          </Button>
        ) : (
          record &&
          halved && (
            <Button
              tone="quiet"
              className="h-6"
              aria-label={`Halve the tolerance of ${one.name}`}
              onClick={() => put({ type: 'parameter.update', id: record.id, changes: { tolerance: halved } })}
            >
              Halve
            </Button>
          )
        )}
      </td>
    </tr>
  );
}

/** Whether what counts several times is one piece or several; nothing where there is nothing to choose. */
function Pieces({ one, onChange }: { one: Contributor; onChange: (count: number) => void }) {
  const most = mostPieces(one);
  if (most < 2) return null;
  return (
    <select
      aria-label={`Pieces of ${one.name}`}
      className="ml-2 h-6 rounded-box border border-rule bg-sheet px-1 font-sans"
      value={one.pieces === most ? most : 1}
      onChange={(event) => onChange(Number(event.target.value))}
    >
      <option value={1}>one piece</option>
      <option value={most}>{most} pieces</option>
    </select>
  );
}

/** Half as wide; undefined for limits and fits, which are chosen rather than computed. */
function halve(tolerance: Tolerance): Tolerance | undefined {
  const half = (text: string): string =>
    /^[+-]?[\d.]+\s*[^\d+\-*/^(),.=<>]*$/u.test(text.trim()) ? text.trim().replace(/[\d.]+/, (digits) => String(Number(digits) / 2)) : `(${text}) / 2`;
  switch (tolerance.kind) {
    case 'symmetric':
      return { ...tolerance, by: { ...tolerance.by, text: half(tolerance.by.text) } };
    case 'deviations':
      return { ...tolerance, upper: { ...tolerance.upper, text: half(tolerance.upper.text) }, lower: { ...tolerance.lower, text: half(tolerance.lower.text) } };
    default:
      return undefined;
  }
}

'use client';
/** What a value with tolerances is made of, and what one press makes of a tolerance. */
import Link from 'next/link';
import { DISTRIBUTIONS, findRecord, toleranceText, type Edit, type StackReading, type Tolerance } from '@/core/document';
import { mostPieces, type Contributor, type Required, type Stack } from '@/core/studies';
import { prettyUnit } from '@/core/units';
import { Button } from '../design/button';
import { TextField } from '../design/text-field';
import { useSession } from '../state/context';
import { homeOf, writerOf } from './contributor-words';
import { DISTRIBUTED_SHORT } from './stack-words';
import { tightenOne } from './tighten';
import type { StackReader } from './use-stack-reading';

interface StackTableProps {
  readonly name: string;
  readonly stack: Stack;
  readonly reading: StackReading;
  /** What is asked of the value. */
  readonly required: Required | undefined;
  readonly onChange: StackReader['changeOne'];
}

export function StackTable({ name, ...rest }: StackTableProps) {
  const heads = ['Value', 'Nominal', 'Tolerance', 'Sensitivity', 'Distribution', ...(rest.required ? ['Cost'] : []), 'Share', ''];
  return (
    <div className="overflow-x-auto">
      <table className="w-full border-collapse">
        <caption className="sr-only">What {name} is made of</caption>
        <thead>
          <tr className="border-b border-rule text-left text-walnut-soft">
            {heads.map((head) => (
              <th key={head} className="px-1 py-1 font-normal" title={head === 'Cost' ? COST_HINT : undefined}>
                {head === '' ? <span className="sr-only">Tighten</span> : head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rest.stack.contributors.map((one) => (
            <ContributorRow key={one.id} one={one} {...rest} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

const COST_HINT = 'How dear it is to hold this value closely, beside the others: what is dearer is tightened less.';

function ContributorRow({ one, stack, reading, required, onChange }: Omit<StackTableProps, 'name'> & { one: Contributor }) {
  const session = useSession();
  const record = findRecord(session.document, one.id, 'parameter');
  const halved = record?.tolerance && halve(record.tolerance);
  const met = required && tightenOne(session.values, stack, one, required, reading.basis ?? 'worst-case');
  const put = (edit: Edit): void => void session.edit(edit);
  const write = writerOf(session.values, one);
  const home = homeOf(session.values, one);
  const text = record?.tolerance ? toleranceText(record.tolerance) : widthOf(one, write);
  return (
    <tr className="border-b border-rule/50">
      <th scope="row" className="px-1 py-1 text-left font-semibold">
        {one.name.split('.').map((part, i) => (
          // A path of names is broken at its dots.
          <span key={i}>
            {i > 0 && (
              <>
                .<wbr />
              </>
            )}
            {part}
          </span>
        ))}
      </th>
      <td className="px-1 font-mono whitespace-nowrap">{prettyUnit(write(one.nominal))}</td>
      <td className="px-1 font-mono whitespace-nowrap">{prettyUnit(text)}</td>
      <td className="px-1 font-mono">
        × {Number(one.sensitivity.toPrecision(4))}
        <Pieces one={one} onChange={(count) => onChange(one.id, { pieces: count > 1 ? count : undefined })} />
        {one.isCorner && (
          <span className="font-sans text-walnut-soft" title="It bends just here: the other way it counts for less.">
            {' '}
            at a corner
          </span>
        )}
      </td>
      <td className="px-1">
        <select
          aria-label={`Distribution of ${one.name}`}
          className="h-6 rounded-box border border-rule bg-sheet px-1"
          value={one.distribution}
          onChange={(event) =>
            onChange(one.id, { distribution: DISTRIBUTIONS.find((own) => own === event.target.value && own !== (reading.distribution ?? 'even')) })
          }
        >
          {DISTRIBUTIONS.map((own) => (
            <option key={own} value={own}>
              {DISTRIBUTED_SHORT[own]}
            </option>
          ))}
        </select>
      </td>
      {required && (
        <td className="w-16 px-1">
          <TextField
            label={`Cost of ${one.name}`}
            value={String(one.cost)}
            check={(typed) => (costIn(typed) === undefined ? 'A number above 0' : undefined)}
            onAccept={(typed) => onChange(one.id, { cost: costIn(typed) === 1 ? undefined : costIn(typed) })}
          />
        </td>
      )}
      <td className="px-1">
        <span className="flex items-center gap-2 whitespace-nowrap">
          <span className="h-2 w-16 bg-flax-deep">
            <span className="block h-2 bg-indigo" style={{ width: `${Math.round(one.share * 100)}%` }} />
          </span>
          {Math.round(one.share * 100)} %
        </span>
      </td>
      <td className="px-1 text-right">
        {home ? (
          <Link href={`/documents/${home.id}`} className="underline decoration-rule underline-offset-4 hover:decoration-indigo">
            Open {home.name}
          </Link>
        ) : met ? (
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

/** As deviations where it is off alike to both sides; else as limits. */
function widthOf({ nominal, lower, upper, isGeneral }: Contributor, write: (amount: number) => string): string {
  const [above, below] = [write(upper - nominal), write(nominal - lower)];
  if (isGeneral === true) return `±${above}, general`;
  return above === below ? `±${above}` : `${write(lower)} to ${write(upper)}`;
}

/** Beside the others; undefined for what is none. */
function costIn(text: string): number | undefined {
  const cost = Number(text);
  return cost > 0 && cost <= 1e6 ? cost : undefined;
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

'use client';
/** The cells of one size: its name, and its formula for each value that sizes set, with what that comes to. */
import { tryFormula, slotOf, type Parameter, type Size } from '@/core/document';
import type { SizeReading } from '@/core/studies';
import { prettyUnit } from '@/core/units';
import { Cell } from '../design/cell';
import { useSession } from '../state/context';
import type { DocumentSession } from '../state/document-session';
import { cellEdit, renameSize } from './size-edits';

export function SizeName({ size }: { size: Size }) {
  const session = useSession();
  return (
    <Cell
      key={size.name}
      label={`Name of the size ${size.name}`}
      text={size.name}
      problemOf={(text) => (text === '' ? 'A size needs a name.' : undefined)}
      onAccept={(name) => session.edit(renameSize(session.document, size, name))}
    />
  );
}

interface SizeCellsProps {
  readonly size: Size;
  readonly columns: readonly Parameter[];
  readonly reading: SizeReading;
}

export function SizeCells({ size, columns, reading }: SizeCellsProps) {
  const session = useSession();
  return columns.map((parameter) => {
    const text = size.cells[parameter.id]?.text ?? '';
    const shown = reading.get(parameter.id);
    const wrong = shown?.diagnostics[0]?.message;
    const isOther = shown && prettyUnit(shown.shown) !== (text || prettyUnit(parameter.formula.text));
    return (
      <td key={parameter.id} className="px-1">
        <Cell
          key={text}
          label={`${parameter.name} of ${size.name}`}
          text={text}
          hint={parameter.formula.text}
          problemOf={(next) => (next === '' ? undefined : problemOf(session, parameter, next))}
          onAccept={(next) => session.edit(cellEdit(session.document, size, parameter.id, next))}
        />
        {(wrong !== undefined || isOther) && (
          <span className={`block px-1 font-mono text-xs ${wrong === undefined ? 'text-walnut-soft' : 'text-madder'}`} title={wrong}>
            {wrong === undefined ? prettyUnit(shown?.shown ?? '') : 'error'}
          </span>
        )}
      </td>
    );
  });
}

/** The formulas of the values themselves, which count without a size. */
export function WrittenCells({ columns }: { columns: readonly Parameter[] }) {
  const session = useSession();
  return columns.map((parameter) => (
    <td key={parameter.id} className="px-1">
      <Cell
        key={parameter.formula.text}
        label={`${parameter.name}, as written`}
        text={parameter.formula.text}
        problemOf={(text) => problemOf(session, parameter, text)}
        onAccept={(text) => session.edit({ type: 'parameter.setFormula', id: parameter.id, formula: { text }, isOwn: true })}
      />
    </td>
  ));
}

function problemOf(session: DocumentSession, parameter: Parameter, text: string): string | undefined {
  return tryFormula(session.values, text, slotOf(parameter), parameter.id).diagnostics[0]?.message;
}

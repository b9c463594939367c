'use client';
/** Cells of a spreadsheet file, chosen as inputs and results; the file is kept in the document. */
import { useState } from 'react';
import type { StoredFile } from '@/core/document';
import { kindDimension, parseUnit, QUANTITY_KINDS, systemUnit, type QuantityKind, type UnitSystem } from '@/core/units';
import { TaskVerbs } from '../design/task-dialog';
import { TextField } from '../design/text-field';
import { useSessionState } from '../state/context';
import { listCandidates, type CandidateCell } from './candidate-cells';
import { InputFormulas, useInputFormulas } from './input-formulas';
import type { NewOutside, Port } from './outside-edits';
import { readBook } from './read-book';

interface ReadBook {
  readonly file: StoredFile;
  readonly cells: readonly CandidateCell[];
}

interface ChosenCell extends Port {
  readonly use: 'input' | 'result';
}

/** Cells that are shown at once. */
const MOST_SHOWN = 100;

export function SpreadsheetForm({ onAdd }: { onAdd: (wanted: NewOutside) => void }) {
  const [book, setBook] = useState<ReadBook>();
  const [problem, setProblem] = useState<string>();
  const open = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    const read = await readBook(file);
    setProblem(read.ok ? undefined : read.failure);
    if (!read.ok) return;
    const cells = listCandidates(read.value.book);
    if (cells.length === 0) setProblem(`${file.name} has no cell with a number.`);
    else setBook({ file: read.value.file, cells });
  };
  return (
    <>
      <label className="block">
        <span className="text-walnut-soft">Spreadsheet file (XLSX)</span>
        <input
          type="file"
          accept=".xlsx"
          className="block w-full"
          onChange={(event) => {
            void open(event.target.files?.[0]);
          }}
        />
      </label>
      {problem !== undefined && (
        <p role="alert" className="mt-2 text-madder">
          {problem}
        </p>
      )}
      {book ? <CellsForm key={book.file.id} book={book} onAdd={onAdd} /> : <TaskVerbs label="Add" isDisabled onAccept={() => undefined} />}
    </>
  );
}

function CellsForm({ book, onAdd }: { book: ReadBook; onAdd: (wanted: NewOutside) => void }) {
  const units = useSessionState((state) => state.document.units);
  const [search, setSearch] = useState('');
  const [chosen, setChosen] = useState<readonly ChosenCell[]>([]);
  const wanted = search.trim().toLowerCase();
  const shown = book.cells.filter(({ key, label }) => `${key} ${label}`.toLowerCase().includes(wanted)).slice(0, MOST_SHOWN);
  const inputs = chosen.filter(({ use }) => use === 'input');
  const outputs = chosen.filter(({ use }) => use === 'result');
  const formulas = useInputFormulas(inputs);
  const put = (key: string, cell: ChosenCell | undefined): void => {
    const others = chosen.filter((one) => one.key !== key);
    setChosen(cell ? [...others, cell] : others);
  };
  const isRight = outputs.length > 0 && formulas.isComplete && chosen.every(({ kind, unit }) => unitFits(kind, unit));
  return (
    <>
      {book.cells.length > 8 && (
        <input
          aria-label="Search cells"
          placeholder="Search cells"
          className="mt-2 h-7 w-full rounded-box border border-rule bg-sheet px-1.5"
          value={search}
          onChange={(event) => setSearch(event.target.value)}
        />
      )}
      <div className="mt-2 max-h-[30vh] overflow-y-auto">
        <table className="w-full border-collapse">
          <thead>
            <tr className="text-left text-walnut-soft">
              {['Cell', 'Beside it', 'Number', 'Used as', 'Kind', 'Unit'].map((title) => (
                <th key={title} className="px-1 font-normal">
                  {title}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {shown.map((cell) => (
              <CellRow key={cell.key} cell={cell} chosen={chosen.find(({ key }) => key === cell.key)} units={units} onPut={(next) => put(cell.key, next)} />
            ))}
          </tbody>
        </table>
      </div>
      {inputs.length > 0 && <InputFormulas ports={inputs} formulas={formulas} />}
      <TaskVerbs
        label="Add"
        isDisabled={!isRight}
        onAccept={() =>
          onAdd({
            name: book.file.name.replace(/\.xlsx$/i, '').slice(0, 60) || 'Spreadsheet',
            asked: { of: 'spreadsheet', file: book.file.id },
            inputs: inputs.map(({ key, kind, unit }) => ({ key, kind, unit, formula: formulas.of(key) })),
            outputs: outputs.map(({ key, kind, unit }) => ({ key, kind, unit })),
            file: book.file,
          })
        }
      />
    </>
  );
}

interface CellRowProps {
  readonly cell: CandidateCell;
  readonly chosen: ChosenCell | undefined;
  readonly units: UnitSystem;
  readonly onPut: (cell: ChosenCell | undefined) => void;
}

/** A cell: what it is used as, and what its number is. */
function CellRow({ cell, chosen, units, onPut }: CellRowProps) {
  const use = (value: string): void => {
    if (value === '') onPut(undefined);
    else onPut({ key: cell.key, kind: chosen?.kind ?? 'number', unit: chosen?.unit ?? '', use: value === 'input' ? 'input' : 'result' });
  };
  return (
    <tr className={`border-t border-rule/50 ${chosen ? 'bg-indigo-wash' : ''}`}>
      <td className="px-1 font-mono">{cell.key}</td>
      <td className="max-w-40 truncate px-1">{cell.label}</td>
      <td className="px-1 text-right font-mono tabular-nums">{Number(cell.value.toPrecision(6))}</td>
      <td className="px-1">
        <select
          aria-label={`What ${cell.key} is used as`}
          className="h-6 rounded-box border border-rule bg-sheet"
          value={chosen?.use ?? ''}
          onChange={(event) => use(event.target.value)}
        >
          <option value="">–</option>
          {!cell.isComputed && <option value="input">input</option>}
          <option value="result">result</option>
        </select>
      </td>
      <td className="px-1">
        {chosen && (
          <select
            aria-label={`What ${cell.key} is`}
            className="h-6 rounded-box border border-rule bg-sheet"
            value={chosen.kind}
            onChange={(event) => onPut({ ...chosen, kind: event.target.value, unit: unitFor(event.target.value, units) })}
          >
            {QUANTITY_KINDS.map((kind) => (
              <option key={kind}>{kind}</option>
            ))}
          </select>
        )}
      </td>
      <td className="w-24 px-1">
        {chosen && chosen.kind !== 'number' && chosen.kind !== 'count' && (
          <TextField
            label={`Unit of ${cell.key}`}
            value={chosen.unit}
            check={(unit) => (unitFits(chosen.kind, unit) ? undefined : `A unit of ${chosen.kind}`)}
            onAccept={(unit) => onPut({ ...chosen, unit })}
          />
        )}
      </td>
    </tr>
  );
}

function findKindOf(kind: string): QuantityKind {
  return QUANTITY_KINDS.find((one) => one === kind) ?? 'number';
}

function unitFor(kind: string, units: UnitSystem): string {
  const known = findKindOf(kind);
  return known === 'number' || known === 'count' ? '' : systemUnit(units, kindDimension(known)).symbol;
}

function unitFits(kind: string, unit: string): boolean {
  const dimension = kindDimension(findKindOf(kind));
  if (unit === '') return dimension === kindDimension('number');
  const parsed = parseUnit(unit);
  return parsed !== undefined && parsed.offset === undefined && parsed.dimension === dimension;
}

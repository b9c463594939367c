'use client';
/** Another file in the place of a calculation's spreadsheet: what it has in the cells that are asked, before anything is changed. */
import { useState } from 'react';
import type { Answer, OutsideCalculation } from '@/core/document';
import { TaskDialog, TaskVerbs } from '../design/task-dialog';
import { useSession } from '../state/context';
import { amountWords } from './outside-words';
import { findCells, readBook, type FoundCell, type OpenBook } from './read-book';

interface ReplaceBookProps {
  readonly outside: OutsideCalculation;
  readonly answer: Answer | undefined;
  readonly onClose: () => void;
}

export function ReplaceBook({ outside, answer, onClose }: ReplaceBookProps) {
  const session = useSession();
  const [found, setFound] = useState<OpenBook & { readonly cells: readonly FoundCell[] }>();
  const [problem, setProblem] = useState<string>();
  const open = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    const read = await readBook(file);
    setProblem(read.ok ? undefined : `${file.name}: ${read.failure}`);
    setFound(read.ok ? { ...read.value, cells: await findCells(outside, read.value.book) } : undefined);
  };
  const accept = (): void => {
    if (!found) return;
    const { file } = found;
    const failure = session.edit({ type: 'outside.put', outside: { ...outside, asked: { of: 'spreadsheet', file: file.id } }, outputs: [], file });
    setProblem(failure?.message);
    if (!failure) onClose();
  };
  const isRight = found?.cells.every((cell) => cell.problem === undefined) === true;
  return (
    <TaskDialog
      title={`Another file for ${outside.name}`}
      description={<>Its cells are looked up first. Inputs, results and what reads them stay as they are; Undo brings the file of before back.</>}
      width="wide"
      onClose={onClose}
    >
      <label className="block">
        <span className="text-walnut-soft">Spreadsheet file (XLSX)</span>
        <input type="file" accept=".xlsx" className="block w-full" onChange={(event) => void open(event.target.files?.[0])} />
      </label>
      {problem !== undefined && (
        <p role="alert" className="mt-2 text-madder">
          {problem}
        </p>
      )}
      {found && (
        <table className="mt-2 w-full border border-rule">
          <caption className="text-left text-walnut-soft">What is asked, in {found.file.name}</caption>
          <thead>
            <tr className="text-left text-walnut-soft">
              {['Cell', 'Used as', 'Now', 'Saved in the file'].map((title) => (
                <th key={title} className="px-2 font-normal">
                  {title}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {found.cells.map((cell) => (
              <tr key={`${cell.use} ${cell.key}`} className="border-t border-rule">
                <td className="px-2 py-0.5 font-mono">{cell.key}</td>
                <td className="px-2 py-0.5">{cell.use}</td>
                <td className="px-2 py-0.5 font-mono text-madder">{amountWords((cell.use === 'input' ? answer?.inputs : answer?.outputs)?.[cell.key])}</td>
                <td className={`px-2 py-0.5 ${cell.problem === undefined ? 'font-mono text-indigo' : 'text-madder'}`}>
                  {cell.problem ?? (cell.saved === undefined ? 'computed' : String(Number(cell.saved.toPrecision(6))))}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {found && !isRight && <p className="mt-2 text-madder">Name these cells in the spreadsheet as they are called here, then choose it again.</p>}
      <TaskVerbs label="Use this file" isDisabled={!isRight} onAccept={accept} />
    </TaskDialog>
  );
}

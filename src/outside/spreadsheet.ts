/** Computes a workbook with other numbers in some of its cells, and reads others. The formulas of its cells are run by a spreadsheet engine. */
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { gunzipSync } from 'node:zlib';
import type { Model as Engine } from '@ironcalc/wasm';
import type { AnsweredAmount, Question } from '@/core/document';
import { fail, succeed, type Result } from '@/core/kit';
import { columnLetters, locateCell, readWorkbook, type Workbook, type WorkbookCell } from '@/formats/workbook';
import { checkOutputs, type Answered, type AskFailure } from './answered';

/** What the engine says a cell is. */
const NUMBER = 1;
const ERROR = 16;
/** The engine gives texts: this one has all digits. */
const ALL_DIGITS = '0.0000000000000000E+00';

interface Place {
  readonly sheet: number;
  readonly row: number;
  readonly column: number;
}

export interface SpreadsheetQuestion {
  readonly name: string;
  /** The file, packed with gzip, in base64. */
  readonly content: string;
  readonly question: Question;
}

export async function computeSpreadsheet({ name, content, question }: SpreadsheetQuestion): Promise<Result<Answered, AskFailure>> {
  const refuse = (problem: string): Result<never, AskFailure> => fail({ kind: 'refused', problem: `${name}: ${problem}` });
  const book = await readWorkbook(gunzipSync(Buffer.from(content, 'base64')));
  if (!book.ok) return refuse(book.failure);
  const deep = findTooDeep(book.value);
  if (deep !== undefined) return refuse(deep);
  const changed = new Map<string, number>();
  for (const [key, { value }] of Object.entries(question.inputs)) {
    const place = locateCell(book.value, key);
    if (!place) return refuse(`there is no cell ${key}.`);
    changed.set(textOf(place), value);
  }
  let engine: Engine | undefined;
  try {
    engine = await open(book.value, changed);
    const lost = findLost(engine, book.value, changed);
    const first = readOutputs(engine, book.value, question);
    const stored = lost.length > 0 ? readOutputs(putStored(engine, lost), book.value, question) : first;
    const outputs: Record<string, AnsweredAmount> = {};
    for (const { key, unit } of question.outputs) {
      const [read, other] = [first.get(key), stored.get(key)];
      if (!read || !other) return refuse(`there is no cell ${key}.`);
      // What comes out otherwise with what was stored rests on it, also where a formula hides the error.
      if (read.ok && other.ok && read.value === other.value) outputs[key] = { value: read.value, unit };
      else if (other.ok) outputs[key] = { value: other.value, unit, stored: whyStored(lost) };
      else return refuse(other.failure);
    }
    return checkOutputs(name, question.outputs, outputs, name);
  } catch (problem) {
    // The engine is not ours: what it breaks on is told, and nothing else breaks.
    return refuse(`The spreadsheet engine cannot compute it (${problem instanceof Error ? problem.message.slice(0, 100) : 'it stopped'}).`);
  } finally {
    release(engine);
  }
}

/** The engine nests each operation in the one before, and breaks at about a thousand. */
const MOST_OPERATIONS = 500;

function findTooDeep({ sheets }: Workbook): string | undefined {
  for (const { name, cells } of sheets) {
    for (const { row, column, formula = '' } of cells) {
      const operations = formula.length > MOST_OPERATIONS ? (formula.match(/[-+*/^&=<>(%]/g)?.length ?? 0) : 0;
      if (operations > MOST_OPERATIONS)
        return `${name}!${columnLetters(column)}${row} has ${operations} operations in one formula; at most ${MOST_OPERATIONS} are computed. Divide it over several cells.`;
    }
  }
  return undefined;
}

/** One that broke cannot be let go of either. */
function release(engine: Engine | undefined): void {
  try {
    engine?.free();
  } catch {
    // Its memory goes with the thread.
  }
}

const textOf = ({ sheet, row, column }: Place): string => `${sheet} ${row} ${column}`;

async function open({ sheets, names }: Workbook, changed: ReadonlyMap<string, number>): Promise<Engine> {
  const { initSync, Model } = await import('@ironcalc/wasm');
  initSync({ module: readFileSync(path.join(process.cwd(), 'node_modules/@ironcalc/wasm/wasm_bg.wasm')) });
  const engine = new Model('workbook', 'en', 'UTC', 'en');
  engine.pauseEvaluation();
  sheets.forEach(({ name }, i) => {
    if (i > 0) engine.newSheet();
    engine.renameSheet(i, name);
  });
  for (const { name, cell } of names) {
    const at = cell.lastIndexOf('!');
    engine.newDefinedName(name, undefined, `${cell.slice(0, at)}!${cell.slice(at + 1).replace(/([A-Z]+)(\d+)/, '$$$1$$$2')}`);
  }
  sheets.forEach(({ cells }, sheet) => {
    for (const cell of cells) engine.setUserInput(sheet, cell.row, cell.column, typed(cell, changed.get(textOf({ sheet, ...cell }))));
  });
  for (const [text, number] of changed) {
    const [sheet = 0, row = 1, column = 1] = text.split(' ').map(Number);
    engine.setUserInput(sheet, row, column, String(number));
  }
  engine.resumeEvaluation();
  engine.evaluate();
  return engine;
}

/** A cell as somebody would type it. */
function typed({ formula, value }: WorkbookCell, changed: number | undefined): string {
  if (changed !== undefined) return String(changed);
  // Functions that came after the format are marked in files.
  if (formula !== undefined) return `=${formula.replace(/_xlfn\.(_xlws\.)?/g, '')}`;
  if (typeof value === 'string') return `'${value}`;
  return typeof value === 'boolean' ? String(value).toUpperCase() : String(value);
}

function readCell(engine: Engine, book: Workbook, place: Place): Result<number, string> {
  const { sheet, row, column } = place;
  const address = addressOf(book, place);
  const type = engine.getCellType(sheet, row, column);
  const shown = engine.getFormattedCellValue(sheet, row, column);
  if (type === ERROR) return fail(explain(engine, book, address, shown));
  if (type !== NUMBER || shown === '') return fail(`${address} is ${shown === '' ? 'empty' : `"${shown.slice(0, 40)}"`}, not a number.`);
  // On a sheet of its own, so that nothing of the book is in the way.
  const own = book.sheets.length;
  if (engine.getWorksheetsProperties().length === own) engine.newSheet();
  const cell = `'${(book.sheets[sheet]?.name ?? '').replaceAll("'", "''")}'!${columnLetters(column)}${row}`;
  const numberOf = (formula: string): number => {
    engine.setUserInput(own, 1, 1, `=TEXT(${formula},"${ALL_DIGITS}")`);
    engine.evaluate();
    return Number(engine.getFormattedCellValue(own, 1, 1));
  };
  // Some fifteen digits; what is left over gives the others.
  const near = numberOf(cell);
  const value = near + numberOf(`${cell}-(${near})`);
  return Number.isFinite(value) ? succeed(value) : fail(`${address} has no finite value.`);
}

function addressOf({ sheets }: Workbook, { sheet, row, column }: Place): string {
  return `${sheets[sheet]?.name ?? ''}!${columnLetters(column)}${row}`;
}

const REASONS: Readonly<Record<string, string>> = {
  '#CIRC!': 'leads back to itself',
  '#DIV/0!': 'divides by zero',
  '#REF!': 'reads a cell that is not there',
  '#VALUE!': 'computes with a text',
  '#NUM!': 'has no number as its result',
  '#N/A': 'looks up something that is not there',
};

/** A cell that cannot be computed here, with what it was saved with, and why. */
interface LostCell extends Place {
  readonly value: WorkbookCell['value'];
  readonly why: string;
}

/** Cells that read another workbook, or use a function that the engine does not know. */
function findLost(engine: Engine, { sheets }: Workbook, changed: ReadonlyMap<string, number>): LostCell[] {
  return sheets.flatMap(({ name, cells }, sheet) =>
    cells.flatMap(({ row, column, formula, value }) => {
      const place = { sheet, row, column, value };
      if (formula === undefined || changed.has(textOf(place))) return [];
      const at = `${name}!${columnLetters(column)}${row}`;
      if (/\[\d+\]/.test(formula)) return [{ ...place, why: `${at} reads another workbook, which is not here.` }];
      // The engine writes functions that it does not know in small letters.
      const [, unknown] = /(?<![A-Za-z0-9_."])([a-z][a-z0-9.]*)\(/.exec(engine.getCellContent(sheet, row, column)) ?? [];
      return unknown === undefined ? [] : [{ ...place, why: `${at} uses ${unknown.toUpperCase()}, a function that is not known here.` }];
    }),
  );
}

/** The reasons, the first ones in full. */
function whyStored(lost: readonly LostCell[]): string {
  const [first, second, ...more] = lost.map(({ why }) => why.slice(0, 150));
  return [first, second, ...(more.length > 0 ? [`And ${more.length} more cells.`] : [])].filter(Boolean).join(' ');
}

/** Puts what the file was saved with in the place of such cells, where it says anything. */
function putStored(engine: Engine, lost: readonly LostCell[]): Engine {
  for (const { sheet, row, column, value } of lost) if (value !== '') engine.setUserInput(sheet, row, column, typed({ row, column, value }, undefined));
  engine.evaluate();
  return engine;
}

function readOutputs(engine: Engine, book: Workbook, { outputs }: Question): Map<string, Result<number, string>> {
  return new Map(
    outputs.flatMap(({ key }) => {
      const place = locateCell(book, key);
      return place ? [[key, readCell(engine, book, place)] as const] : [];
    }),
  );
}

/** The cell where the error comes from, where that can be told. */
function explain(engine: Engine, book: Workbook, address: string, error: string): string {
  const [lost] = findLost(engine, book, new Map()).filter(({ sheet, row, column }) => engine.getCellType(sheet, row, column) === ERROR);
  return lost?.why ?? `${address} ${REASONS[error] ?? 'has an error'} (${error}).`;
}

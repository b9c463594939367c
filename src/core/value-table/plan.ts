/**
 * What a table from a spreadsheet would change, cell by cell, before anything is changed. Rows are found by name; a
 * new name is a new value. Nothing is deleted: a row that is missing leaves its value as it is, and so does an empty cell.
 */
import type { DocumentValues } from '../document';
import {
  applyEdit,
  findNamed,
  findRecord,
  meantNames,
  inShownUnit,
  readTypedTolerance,
  shownTolerance,
  TOLERANCE_HINT,
  tryFormula,
  withReadUnit,
  type Beside,
  type Edit,
  type EditOf,
  type Parameter,
} from '../document';
import { checkName } from '../formula';
import { parseUnit, QUANTITY_KINDS } from '../units';
import { COLUMNS, type Column } from './table';

/** The cells of a row that say something, and its number in the spreadsheet. */
export type ReadRow = Readonly<Partial<Record<Column, string>>> & { readonly number: number };

export interface PlannedChange {
  readonly name: string;
  readonly change: 'added' | 'changed';
  readonly column: Column;
  readonly before: string;
  readonly after: string;
}

export interface CellProblem {
  /** As the spreadsheet counts it: from 1, with the heading and with empty rows. */
  readonly row: number;
  readonly column: Column;
  readonly message: string;
}

export interface TablePlan {
  readonly changes: readonly PlannedChange[];
  readonly problems: readonly CellProblem[];
  /** All changes as one edit; undefined when there is none, or a cell cannot be read. */
  readonly edit: Edit | undefined;
}

type SingleEdit = Exclude<Edit, EditOf<'batch'>>;

/** More rows than this are no ledger. */
const MOST_ROWS = 5000;
/** Edits that one batch holds. */
const MOST_EDITS = 1000;

export function planTable(values: DocumentValues, rows: readonly ReadRow[], newId: () => string): TablePlan {
  const plan = new Plan(values, newId);
  for (const row of rows.slice(0, MOST_ROWS)) plan.read(row);
  const beyond = rows[MOST_ROWS];
  if (beyond) plan.refuse(beyond, `At most ${MOST_ROWS} rows are read.`);
  return plan.finish();
}

/** The columns of a table by its heading row; without a known heading, name and formula in the first two. */
export function readRows(cells: readonly (readonly string[])[]): ReadRow[] {
  const [first = [], ...rest] = cells;
  const heading = first.map((cell) => COLUMNS.find((column) => column === cell.trim().toLowerCase()));
  const hasHeading = heading.includes('name') && heading.filter((column) => column !== undefined).length > 1;
  const columns = hasHeading ? heading : (['name', 'formula', 'note'] as const);
  return (hasHeading ? rest : cells).flatMap((row, i) => {
    if (row.every((cell) => cell.trim() === '')) return [];
    const named = Object.fromEntries(columns.flatMap((column, at) => (column ? [[column, (row[at] ?? '').trim()]] : []))) as Partial<Record<Column, string>>;
    return [{ ...named, number: i + (hasHeading ? 2 : 1) }];
  });
}

class Plan {
  private readonly changes: PlannedChange[] = [];
  private readonly problems: CellProblem[] = [];
  private readonly edits: SingleEdit[] = [];
  /** Which row wrote a value, to tell where its formula is wrong. */
  private readonly rowOf = new Map<string, number>();
  private readonly names = new Set<string>();

  constructor(
    private readonly values: DocumentValues,
    private readonly newId: () => string,
  ) {}

  refuse({ number }: ReadRow, message: string): void {
    this.problems.push({ row: number, column: 'name', message });
  }

  read(row: ReadRow): void {
    const { name = '', number } = row;
    const problem = (column: Column, message: string): void => void this.problems.push({ row: number, column, message });
    if (name === '') {
      problem('name', 'This row has no name.');
      return;
    }
    if (this.names.has(name)) {
      problem('name', `${name} stands in the table twice.`);
      return;
    }
    this.names.add(name);
    const record = findNamed(this.values.document, name);
    if (!record) this.add(name, row, problem);
    else if (record.type === 'parameter') this.change(record, row, problem);
    else if ((row.formula ?? '') !== '')
      problem('formula', `${name} is ${record.type === 'take' ? 'linked from another document' : 'a lookup table'}; it has no formula here.`);
  }

  private add(name: string, row: ReadRow, problem: (column: Column, message: string) => void): void {
    const refusal = checkName(name, () => false);
    const text = formulaText(row);
    if (refusal) problem('name', refusal.message);
    if (text === '') problem('formula', `${name} is new and needs a formula.`);
    if (refusal || text === '') return;
    const kind = row.kind !== undefined && KINDS.has(row.kind) ? row.kind : 'any';
    const id = this.newId();
    this.rowOf.set(id, row.number);
    const parameter: Parameter = { type: 'parameter', id, name, formula: { text }, kind, ...(row.note ? { note: row.note } : {}) };
    this.edits.push({ type: 'parameter.add', parameter });
    this.changes.push({ name, change: 'added', column: 'formula', before: '', after: text });
    this.changeRest(parameter, { ...row, kind: '' }, problem);
  }

  private change(record: Parameter, row: ReadRow, problem: (column: Column, message: string) => void): void {
    this.rowOf.set(record.id, row.number);
    const text = formulaText(row);
    if (text !== '' && text !== record.formula.text) {
      if (this.values.isMeasured(record.id)) problem('formula', `${record.name} is measured; it has no formula.`);
      else {
        this.edits.push({ type: 'parameter.setFormula', id: record.id, formula: { text, names: meantNames(this.values.document, text) } });
        this.changes.push({ name: record.name, change: 'changed', column: 'formula', before: record.formula.text, after: text });
      }
    }
    if (row.note && row.note !== record.note) this.update(record, 'note', record.note ?? '', row.note, { note: row.note });
    this.changeRest(record, row, problem);
  }

  private changeRest(record: Parameter, row: ReadRow, problem: (column: Column, message: string) => void): void {
    const { kind = '', unit, least, most, tolerance, choices } = row;
    if (kind !== '' && kind !== record.kind && kind !== 'measured' && record.owner === undefined) {
      if (KINDS.has(kind)) this.update(record, 'kind', record.kind, kind, { kind });
      else problem('kind', `${kind} is not a kind of value; kinds are ${[...KINDS].join(', ')}.`);
    }
    if (unit && unit !== record.displayUnit) {
      if (parseUnit(unit)) this.update(record, 'unit', record.displayUnit ?? '', unit, { displayUnit: unit });
      else problem('unit', `${unit} is not a unit.`);
    }
    const beside = this.besideRow(record, row);
    for (const [side, text] of [
      ['least', least],
      ['most', most],
    ] as const) {
      const before = record[side] ? withReadUnit(this.values, record[side].text, record) : '';
      if (text && text !== before) this.update(record, side, before, text, { [side]: { text: inShownUnit(this.values, text, beside) } });
    }
    const written = shownTolerance(this.values, record.id);
    if (tolerance && tolerance !== written) {
      const parsed = readTypedTolerance(this.values, tolerance, beside);
      if (parsed) this.update(record, 'tolerance', written, tolerance, { tolerance: parsed });
      else problem('tolerance', TOLERANCE_HINT);
    }
    const listed = record.choices?.join('; ') ?? '';
    if (choices && choices !== listed) {
      const parts = choices.split(';').map((choice) => inShownUnit(this.values, choice.trim(), beside));
      this.update(record, 'choices', listed, choices, { choices: parts });
    }
  }

  /** The unit that the value of a row will be shown in: by its column, by its formula, or as it is now. */
  private besideRow(record: Parameter, row: ReadRow): Beside {
    const named = row.unit === undefined ? undefined : parseUnit(row.unit);
    const text = formulaText(row);
    const isKnown = this.values.show(record.id) !== undefined && (text === '' || text === record.formula.text);
    return named ? { unit: named } : isKnown ? { id: record.id } : { unit: tryFormula(this.values, text).unit };
  }

  private update({ id, name }: Parameter, column: Column, before: string, after: string, changes: EditOf<'parameter.update'>['changes']): void {
    this.edits.push({ type: 'parameter.update', id, changes });
    this.changes.push({ name, change: 'changed', column, before, after });
  }

  finish(): TablePlan {
    const { changes, problems } = this;
    const [only] = this.edits;
    if (!only || this.edits.length > MOST_EDITS) {
      const tooMany = only ? [{ row: MOST_EDITS, column: 'name' as const, message: `At most ${MOST_EDITS} changes are made at once.` }] : [];
      return { changes, problems: [...problems, ...tooMany], edit: undefined };
    }
    const edit: Edit = this.edits.length === 1 ? only : { type: 'batch', edits: this.edits };
    const tried = applyEdit(this.values.document, edit);
    if (!tried.ok) return { changes, problems: [...problems, { row: 1, column: 'name', message: tried.failure.message }], edit: undefined };
    const wrong = this.findWrong(this.values.openState(tried.value.document));
    const all = [...problems, ...wrong].sort((a, b) => a.row - b.row);
    return { changes, problems: all, edit: all.length > 0 ? undefined : edit };
  }

  /** Formulas that have an error of their own once all rows are in. */
  private findWrong(values: DocumentValues): CellProblem[] {
    return [...this.rowOf].flatMap(([id, row]): CellProblem[] => {
      const [problem] = findRecord(values.document, id, 'parameter') && !values.isMeasured(id) ? (values.show(id)?.diagnostics ?? []) : [];
      return problem && problem.code !== 'waiting' ? [{ row, column: 'formula', message: problem.message }] : [];
    });
  }
}

const KINDS: ReadonlySet<string> = new Set(['any', ...QUANTITY_KINDS, 'yes-no', 'text']);

/** A leading equals sign, as spreadsheets want it, is none of the formula. */
function formulaText({ formula = '' }: ReadRow): string {
  return formula.replace(/^=(?!=)/, '').trim();
}

/** What the command line tells of a document: every value, in ledger order, with its diagnostics. */
import {
  findRecord,
  hasComponents,
  isNamed,
  listDriving,
  listOutputs,
  listRecords,
  listSteps,
  readGoals,
  textOfGoal,
  type Document,
  type DocumentValues,
  type Drive,
  type MeasuredValue,
  type Parameter,
  type Take,
} from '../core/document';
import { dismissalOf, listParts, placeComponents, type Interference, type PartsRow, type PlacedSolid, type ShapeSource } from '../core/assembly';
import { builtInOf, listPlaced, openValues, toMatrix, type InstanceSource } from '../core/instances';
import { KILOGRAM } from '@/core/units';

export interface ValueReport {
  readonly id: string;
  readonly name: string;
  readonly formula: string;
  /** Rounded for reading, with its unit; empty when it has an error. */
  readonly shown: string;
  /** The number in `unit`, or yes/no, or a text; null when it has an error. */
  readonly value: number | string | null;
  readonly unit: string;
  /** It rests on the result of an outside calculation that is older than its inputs. */
  readonly isHeld?: true;
  readonly diagnostics: readonly { readonly code: string; readonly message: string; readonly from: number; readonly to: number }[];
}

/** A part that stands in an assembly, and where. */
export interface ComponentReport {
  /** Names from the assembly down: `unit.rail`. */
  readonly path: string;
  readonly document: string;
  /** 4 x 4, row by row, in millimetres. */
  readonly placement: readonly number[];
}

export interface MateReport {
  readonly name: string;
  readonly kind: string;
  readonly status: string;
  readonly message?: string;
}

export interface DocumentReport {
  readonly id: string;
  readonly name: string;
  readonly kind: string;
  readonly values: readonly ValueReport[];
  readonly guards: readonly { readonly message: string; readonly severity: string; readonly holds: boolean | null }[];
  readonly goals?: readonly { readonly goal: string; readonly by: readonly string[]; readonly isMet: boolean; readonly problem?: string }[];
  /** Of an assembly: what it sets in its components, by path. */
  readonly driven?: readonly ValueReport[];
  readonly components?: readonly ComponentReport[];
  readonly mates?: readonly MateReport[];
  /** How much its components can still move, all together; null while nothing is built. */
  readonly degreesOfFreedom?: number | null;
  /** What it is made of: each make once. */
  readonly parts?: readonly PartsRow[];
  /** Pairs that stand in one another, in cubic millimetres; null for one that could not be judged. Absent where nothing was built. */
  readonly interference?: readonly { readonly first: string; readonly second: string; readonly volume: number | null; readonly dismissed?: string }[];
  /** In kilograms; null where something has none. */
  readonly mass?: number | null;
}

/** What a regeneration has told of a document. */
interface Regeneration {
  /** What was read off its geometry. */
  readonly measured?: Readonly<Record<string, MeasuredValue>>;
  readonly shapes?: ShapeSource | undefined;
  readonly interference?: readonly Interference<PlacedSolid>[] | undefined;
}

export function reportDocument(document: Document, source: InstanceSource, { measured = {}, shapes, interference }: Regeneration = {}): DocumentReport {
  const values = openValues(document, source);
  values.setMeasured(measured);
  const rows: (Parameter | Take)[] = [
    ...listDriving(document),
    ...listOutputs(document),
    ...listSteps(document).flatMap((step) => listRecords(document, `${step.id}/values`, 'parameter')),
  ];
  return {
    id: document.id,
    name: document.name,
    kind: document.kind,
    values: rows.filter(isNamed).map((row) => reportValue(values, row)),
    guards: listRecords(document, 'guards', 'guard').map((guard) => {
      const value = values.sheet.readNumber(guard.id);
      return { message: guard.message, severity: guard.severity, holds: Number.isNaN(value) ? null : value === 1 };
    }),
    ...reportGoals(values),
    ...(hasComponents(document) ? { driven: reportDriven(values) } : {}),
    ...(document.kind === 'assembly' ? reportComponents(values, source, shapes) : {}),
    ...(interference ? { interference: interference.map((one) => reportInterference(document, one)) } : {}),
  };
}

function reportGoals(values: DocumentValues): Pick<DocumentReport, 'goals'> {
  const goals = readGoals(values);
  if (goals.length === 0) return {};
  return {
    goals: goals.map(({ goal, isMet, problem }) => ({
      goal: textOfGoal(goal),
      by: goal.by.map(({ text }) => text),
      isMet,
      ...(problem === undefined ? {} : { problem }),
    })),
  };
}

/** What is set in components and in calc sheets that are used. */
function reportDriven(values: DocumentValues): ValueReport[] {
  return listRecords(values.document, 'components', 'component').flatMap(({ id, name }) =>
    listRecords(values.document, `${id}/drives`, 'drive').map((drive) => reportDrive(values, name, drive)),
  );
}

function reportComponents(values: DocumentValues, source: InstanceSource, known: ShapeSource | undefined): Partial<DocumentReport> {
  // Without geometry components are told where they were put.
  const isBuilt = known !== undefined;
  const shapes: ShapeSource = known ?? (() => undefined);
  const placement = placeComponents(values, shapes);
  const mass = builtInOf(values, '', 'mass', source);
  return {
    components: listPlaced(values, isBuilt ? placement.standing : undefined).map(({ name, document, at }) => ({
      path: name,
      document: document.name,
      placement: toMatrix(at),
    })),
    mates: [...placement.mates].flatMap(([id, { status, message }]) => {
      const record = values.document.records[id];
      return record?.type === 'mate' ? { name: record.name, kind: record.kind, status, ...(message === undefined ? {} : { message }) } : [];
    }),
    parts: listParts(values, source),
    degreesOfFreedom: 'value' in mass ? placement.degreesOfFreedom : null,
    mass: 'value' in mass ? mass.value / KILOGRAM : null,
  };
}

function reportInterference(document: Document, one: Interference<PlacedSolid>): NonNullable<DocumentReport['interference']>[number] {
  const dismissal = dismissalOf(listRecords(document, 'dismissals', 'dismissal'), one);
  const { first, second, volume } = one;
  return { first: first.part.name, second: second.part.name, volume: volume ?? null, ...(dismissal ? { dismissed: dismissal.reason } : {}) };
}

function reportDrive(values: DocumentValues, component: string, { id, sourceName, formula }: Drive): ValueReport {
  const reading = values.sheet.read(id);
  const row = { id, name: `${component}.${sourceName}`, formula: formula.text };
  if (!reading || reading.diagnostics.length > 0) return { ...row, shown: '', value: null, unit: '', diagnostics: listDiagnostics(reading?.diagnostics ?? []) };
  const unit = values.unitOf(undefined, reading);
  const { shown, exact } = values.words(reading, unit);
  const isNumber = reading.type?.kind === 'quantity' || reading.type?.kind === 'temperature';
  return { ...row, shown, value: isNumber ? Number.parseFloat(exact) : shown, unit: unit?.symbol ?? '', diagnostics: [] };
}

function formulaOf(document: Document, row: Parameter | Take): string {
  if (row.type === 'take') return `${row.sourceName} (linked)`;
  if (row.measure?.of !== 'outside') return row.formula.text;
  const name = findRecord(document, row.measure.outside, 'outside')?.name ?? 'outside';
  return `${row.measure.output} of ${name}`;
}

function listDiagnostics(found: readonly ValueReport['diagnostics'][number][]): ValueReport['diagnostics'] {
  return found.map(({ code, message, from, to }) => ({ code, message, from, to }));
}

function reportValue(values: DocumentValues, row: Parameter | Take): ValueReport {
  const shown = values.show(row.id);
  const formula = formulaOf(values.document, row);
  if (!shown || shown.diagnostics.length > 0) {
    return {
      id: row.id,
      name: row.name,
      formula,
      shown: '',
      value: null,
      unit: '',
      diagnostics: listDiagnostics(shown?.diagnostics ?? []),
    };
  }
  const symbol = shown.unit?.symbol ?? '';
  const amount = Number.parseFloat(shown.exact);
  const isNumber = shown.type?.kind === 'quantity' || shown.type?.kind === 'temperature';
  return {
    id: row.id,
    name: row.name,
    formula,
    shown: shown.shown,
    value: isNumber ? amount : shown.shown,
    unit: symbol,
    ...(values.isHeld(row.id) ? { isHeld: true } : {}),
    diagnostics: [],
  };
}

/** A table for people: name, value, formula; errors below their line. */
export function formatReport(report: DocumentReport): string {
  const rows = [...report.values, ...(report.driven ?? [])];
  const width = Math.max(4, ...rows.map((value) => value.name.length));
  const lines = rows.flatMap((value) => [
    `  ${value.name.padEnd(width)}  ${(value.diagnostics.length > 0 ? 'error' : value.shown).padStart(14)}  ${value.formula}${value.isHeld ? ' (held)' : ''}`,
    ...value.diagnostics.map((diagnostic) => `  ${' '.repeat(width)}  ${' '.repeat(14)}  ^ ${diagnostic.message}`),
  ]);
  const broken = report.guards.filter((guard) => guard.holds !== true).map((guard) => `  guard broken: ${guard.message}`);
  const missed = (report.goals ?? [])
    .filter(({ isMet }) => !isMet)
    .map(({ goal, problem }) => `  goal not met: ${goal}${problem === undefined ? '' : ` (${problem})`}`);
  const placed = (report.components ?? []).map(({ path, document, placement: [, , , x = 0, , , , y = 0, , , , z = 0] }) => {
    return `  component ${path}: ${document} at ${[x, y, z].map((mm) => (Math.round(mm * 1000) / 1000 + 0).toFixed(3)).join(', ')} mm`;
  });
  const mass = report.mass === undefined || report.mass === null || placed.length === 0 ? [] : [`  mass: ${report.mass.toFixed(4)} kg`];
  const mates = (report.mates ?? []).flatMap(({ name, status, message }) =>
    status === 'holds' || status === 'waiting' ? [] : `  mate ${name}: ${status}${message === undefined ? '' : `, ${message}`}`,
  );
  const common = (report.interference ?? []).map(
    ({ first, second, volume, dismissed }) =>
      `  interference ${first}, ${second}: ${volume === null ? 'not judged' : `${volume.toFixed(3)} mm³`}${dismissed === undefined ? '' : `, dismissed: ${dismissed}`}`,
  );
  return [`${report.name} (${report.kind})`, ...lines, ...placed, ...mates, ...common, ...mass, ...broken, ...missed].join('\n');
}

/** Whether something is wrong with a value or a guard. */
export function hasErrors(reports: readonly DocumentReport[]): boolean {
  return reports.some(
    (report) =>
      [...report.values, ...(report.driven ?? [])].some((value) => value.diagnostics.length > 0) ||
      report.guards.some((guard) => guard.holds !== true && guard.severity === 'error'),
  );
}

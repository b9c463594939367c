/** What the command line tells of a document: every value, in ledger order, with its diagnostics. */
import { DocumentValues, isNamed, listDriving, listRecords, listSteps, type Document, type MeasuredValue, type Parameter, type Take } from '../core/document';

export interface ValueReport {
  readonly id: string;
  readonly name: string;
  readonly formula: string;
  /** Rounded for reading, with its unit; empty when it has an error. */
  readonly shown: string;
  /** The number in `unit`, or yes/no, or a text; null when it has an error. */
  readonly value: number | string | null;
  readonly unit: string;
  readonly diagnostics: readonly { readonly code: string; readonly message: string; readonly from: number; readonly to: number }[];
}

export interface DocumentReport {
  readonly id: string;
  readonly name: string;
  readonly kind: string;
  readonly values: readonly ValueReport[];
  readonly guards: readonly { readonly message: string; readonly severity: string; readonly holds: boolean | null }[];
}

/** `measured`: what regeneration read off its geometry, where it was regenerated. */
export function reportDocument(document: Document, measured: Readonly<Record<string, MeasuredValue>> = {}): DocumentReport {
  const values = new DocumentValues(document);
  values.setMeasured(measured);
  const rows: (Parameter | Take)[] = [
    ...listDriving(document),
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
  };
}

function reportValue(values: DocumentValues, row: Parameter | Take): ValueReport {
  const shown = values.show(row.id);
  const formula = row.type === 'parameter' ? row.formula.text : `${row.sourceName} (linked)`;
  if (!shown || shown.diagnostics.length > 0) {
    return {
      id: row.id,
      name: row.name,
      formula,
      shown: '',
      value: null,
      unit: '',
      diagnostics: (shown?.diagnostics ?? []).map(({ code, message, from, to }) => ({ code, message, from, to })),
    };
  }
  const symbol = shown.unit?.symbol ?? '';
  const amount = Number.parseFloat(shown.exact);
  const isNumber = shown.type?.kind === 'quantity' || shown.type?.kind === 'temperature';
  return { id: row.id, name: row.name, formula, shown: shown.shown, value: isNumber ? amount : shown.shown, unit: symbol, diagnostics: [] };
}

/** A table for people: name, value, formula; errors below their line. */
export function formatReport(report: DocumentReport): string {
  const width = Math.max(4, ...report.values.map((value) => value.name.length));
  const lines = report.values.flatMap((value) => [
    `  ${value.name.padEnd(width)}  ${(value.diagnostics.length > 0 ? 'error' : value.shown).padStart(14)}  ${value.formula}`,
    ...value.diagnostics.map((diagnostic) => `  ${' '.repeat(width)}  ${' '.repeat(14)}  ^ ${diagnostic.message}`),
  ]);
  const broken = report.guards.filter((guard) => guard.holds !== true).map((guard) => `  guard broken: ${guard.message}`);
  return [`${report.name} (${report.kind})`, ...lines, ...broken].join('\n');
}

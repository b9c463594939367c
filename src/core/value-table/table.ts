/** The ledger as a table of texts, to go out to a spreadsheet and to come back. */
import {
  findRecord,
  findStep,
  listDriving,
  listIds,
  listOutputs,
  listRecords,
  listSteps,
  shownTolerance,
  withReadUnit,
  type DocumentValues,
  type Parameter,
  type Take,
} from '../document';

export const COLUMNS = ['name', 'formula', 'value', 'kind', 'unit', 'note', 'least', 'most', 'tolerance', 'choices', 'from'] as const;
export type Column = (typeof COLUMNS)[number];

/** One value. `value` and `from` are for the reader: they are not read back. */
export type TableRow = Readonly<Record<Column, string>>;

/** Values in the order of the ledger; of some of them, when ids are given. */
export function writeTable(values: DocumentValues, ids?: ReadonlySet<string>): TableRow[] {
  const { document } = values;
  const all: (Parameter | Take)[] = [
    ...listDriving(document),
    ...listOutputs(document),
    ...listSteps(document).flatMap((step) => listIds(document, `${step.id}/values`).flatMap((id) => findRecord(document, id, 'parameter') ?? [])),
  ];
  const sources = new Map(listRecords(document, 'links', 'link').map(({ id, sourceName }) => [id, sourceName]));
  return all.filter(({ id }) => !ids || ids.has(id)).map((record) => rowOf(values, record, sources));
}

function rowOf(values: DocumentValues, record: Parameter | Take, sources: ReadonlyMap<string, string>): TableRow {
  const shown = values.show(record.id);
  const value = shown?.diagnostics[0]?.message ?? `${shown?.shown ?? ''}${values.isHeld(record.id) ? ' (held)' : ''}`;
  const common = { name: record.name, value, note: record.note ?? '' };
  if (record.type === 'take') {
    return { ...common, formula: '', kind: 'linked', unit: '', least: '', most: '', tolerance: '', choices: '', from: sources.get(record.link) ?? '' };
  }
  return {
    ...common,
    formula: values.isMeasured(record.id) ? '' : record.formula.text,
    kind: values.isMeasured(record.id) ? 'measured' : record.kind,
    unit: record.displayUnit ?? '',
    least: record.least ? withReadUnit(values, record.least.text, record) : '',
    most: record.most ? withReadUnit(values, record.most.text, record) : '',
    tolerance: shownTolerance(values, record.id),
    choices: record.choices?.join('; ') ?? '',
    from: findStep(values.document, record.owner ?? '')?.name ?? findRecord(values.document, record.owner ?? '', 'outside')?.name ?? '',
  };
}

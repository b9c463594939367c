/** What the sheet of a document holds for its records: the formula, input or table of each, and what its value must be. */
import { ANY_SLOT, evaluateConstant, numberOfText, quantityType, TEMPERATURE_POINT, TEXT, YES_NO, type LookupTable, type Scope, type Slot } from '../formula';
import type { Definition, InputDefinition } from '../network';
import { kindDimension, parseUnit, QUANTITY_KINDS, readDimensionKey } from '../units';
import type { measureSource } from './history-nodes';
import type { Formula, Parameter, Table, TakenValue } from './schema';

/** What was read off the geometry, in internal units; or why it could not be. */
export type MeasuredValue = { readonly value: number } | { readonly problem: string };

export function measuredInput(name: string, { reads, kind }: NonNullable<ReturnType<typeof measureSource>>, measured: MeasuredValue): Definition {
  const found = 'value' in measured ? { value: measured.value } : { value: NaN, problem: measured.problem };
  return { kind: 'input', name, type: quantityType(kindDimension(kind)), ...found, reads };
}

export function formulaOf(name: string, formula: Formula, slot: Slot) {
  return { kind: 'formula', name, text: formula.text, slot, ...(formula.readIn ? { units: formula.readIn } : {}) } as const;
}

/** What a parameter's value must be, from its kind. */
export function slotOf(parameter: Pick<Parameter, 'kind' | 'name' | 'owner'>): Slot {
  const label = parameter.owner === undefined ? parameter.name : `the ${parameter.kind}`;
  if (parameter.kind === 'yes-no' || parameter.kind === 'text') return { kind: parameter.kind, label };
  const kind = QUANTITY_KINDS.find((known) => known === parameter.kind);
  if (!kind) return ANY_SLOT;
  return { kind: 'quantity', dimension: kindDimension(kind), isCount: kind === 'count', label };
}

/** What a formula must yield that takes the place of a linked value. */
export function slotOfTaken(value: TakenValue, label: string): Slot {
  switch (value.kind) {
    case 'quantity':
      return { kind: 'quantity', dimension: readDimensionKey(value.dimension), isCount: value.isCount === true, label };
    case 'yes-no':
    case 'text':
      return { kind: value.kind, label };
    default:
      return ANY_SLOT;
  }
}

/** A value as another document handed it over, for a sheet. */
export function inputOf(name: string, value: Exclude<TakenValue, { readonly kind: 'table' }>): InputDefinition {
  switch (value.kind) {
    case 'quantity': {
      const unit = parseUnit(value.unit);
      return {
        kind: 'input',
        name,
        type: quantityType(readDimensionKey(value.dimension)),
        value: value.value,
        ...(unit ? { unit } : {}),
        ...(value.isHeld ? { isHeld: true } : {}),
      };
    }
    case 'temperature':
      return { kind: 'input', name, type: TEMPERATURE_POINT, value: value.value };
    case 'yes-no':
      return { kind: 'input', name, type: YES_NO, value: value.value };
    case 'text':
      return { kind: 'input', name, type: TEXT, value: numberOfText(value.value) };
    case 'refused':
      return { kind: 'input', name, type: undefined, value: NaN, problem: value.problem };
  }
}

/** What a cell of a column must be. */
export function tableSlot({ name, kind }: Table['columns'][number]): Slot {
  if (kind === 'text') return { kind: 'text', label: name };
  const known = QUANTITY_KINDS.find((candidate) => candidate === kind) ?? 'number';
  return { kind: 'quantity', dimension: kindDimension(known), isCount: known === 'count', label: name };
}

/** A table with its cells computed. Cells that are no fixed value of their column's kind are NaN. */
export function readTable(record: Pick<Table, 'name' | 'columns' | 'rows'>, scope: Scope): LookupTable {
  return {
    name: record.name,
    columns: record.columns.map((column, index) => {
      const slot = tableSlot(column);
      return {
        name: column.name,
        type: slot.kind === 'quantity' ? quantityType(slot.dimension) : TEXT,
        cells: record.rows.map((row) => {
          const result = evaluateConstant(row[index] ?? '', scope, slot);
          return result.ok ? result.value : NaN;
        }),
      };
    }),
  };
}

/** A document with some of its values at other amounts: what everything else comes to then. The document itself is never changed. */
import { findRecord, isNamed, isTable, writeTaken, type Document, type DocumentValues, type Formula, type TakenValue } from '../document';
import { openValues, withValues, type InstanceSource } from '../instances';

export class Sampler {
  readonly values: DocumentValues;
  /** The amounts that the values have in the document, in internal units; not a number for what is none. */
  readonly present: readonly number[];
  private taken: ReadonlyMap<string, TakenValue> = new Map();
  /** How each value is written: as a quantity of its dimension, or whatever else it is. */
  private readonly sorts: readonly (TakenValue | undefined)[];

  /** `ids`: parameters or taken values. */
  constructor(
    private readonly base: Document,
    private readonly ids: readonly string[],
    source: InstanceSource,
  ) {
    this.values = openValues(base, source);
    this.sorts = ids.map((id) => {
      const record = findRecord(base, id, 'parameter') ?? findRecord(base, id, 'take');
      const shown = record && isNamed(record) && !isTable(record) ? this.values.show(id) : undefined;
      return shown && this.values.complete(shown, shown.unit);
    });
    this.present = this.sorts.map((sort) => (sort?.kind === 'quantity' ? sort.value : NaN));
  }

  /** Whether every value is an amount that can be another. */
  get isAmount(): boolean {
    return this.ids.every((id, i) => this.sorts[i]?.kind === 'quantity' && !this.values.isMeasured(id));
  }

  /** Sets the values to amounts, in their order and in internal units; {@link values} and {@link document} are as they are then. */
  at(amounts: readonly number[]): void {
    const set = this.ids.flatMap((id, i) => {
      const [sort, value] = [this.sorts[i], amounts[i]];
      return sort?.kind === 'quantity' && value !== undefined ? [[id, { ...sort, value }] as const] : [];
    });
    this.taken = new Map(set);
    this.values.forgetMeasured();
    const isName = (name: string): boolean => this.values.sheet.findByName(name) !== undefined;
    this.values.setOverrides(new Map(set.flatMap(([id, value]) => formulaThatSays(id, value, isName))));
  }

  /** To be built. */
  get document(): Document {
    return withValues(this.base, this.taken);
  }
}

function formulaThatSays(id: string, value: TakenValue, isName: (name: string) => boolean): readonly (readonly [string, Formula])[] {
  const text = writeTaken(value, isName);
  return text === undefined ? [] : [[id, { text }]];
}

/** A document with some of its values at other amounts: what everything else comes to then. The document itself is never changed. */
import { findRecord, isNamed, isTable, type Document, type DocumentValues, type TakenValue } from '../document';
import { diffDocuments, openValues, withValues, type InstanceSource } from '../instances';

export class Sampler {
  readonly values: DocumentValues;
  /** The amounts that the values have in the document, in internal units; not a number for what is none. */
  readonly present: readonly number[];
  private current: Document;
  /** How each value is written: as a quantity of its dimension, or whatever else it is. */
  private readonly sorts: readonly (TakenValue | undefined)[];

  /** `ids`: parameters or taken values. */
  constructor(
    private readonly document: Document,
    private readonly ids: readonly string[],
    source: InstanceSource,
  ) {
    this.values = openValues(document, source);
    this.current = document;
    this.sorts = ids.map((id) => {
      const record = findRecord(document, id, 'parameter') ?? findRecord(document, id, 'take');
      const shown = record && isNamed(record) && !isTable(record) ? this.values.show(id) : undefined;
      return shown && this.values.complete(shown, shown.unit);
    });
    this.present = this.sorts.map((sort) => (sort?.kind === 'quantity' ? sort.value : NaN));
  }

  /** Whether every value is an amount that can be another. */
  get isAmount(): boolean {
    return this.ids.every((id, i) => this.sorts[i]?.kind === 'quantity' && !this.values.isMeasured(id));
  }

  /** The document with the values at amounts, in their order and in internal units; {@link values} are those of it then. */
  at(amounts: readonly number[]): Document {
    const set = this.ids.flatMap((id, i) => {
      const [sort, value] = [this.sorts[i], amounts[i]];
      return sort?.kind === 'quantity' && value !== undefined ? [[id, { ...sort, value }] as const] : [];
    });
    if (set.length === 0) return this.document;
    const next = withValues(this.document, new Map(set));
    this.values.forgetMeasured();
    this.values.apply(next, diffDocuments(this.current, next));
    this.current = next;
    return next;
  }
}

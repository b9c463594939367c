/** A document with one of its values at other amounts: what everything else comes to then. The document itself is never changed. */
import { findRecord, isNamed, isTable, type Document, type DocumentValues, type TakenValue } from '../document';
import { diffDocuments, openValues, withValues, type InstanceSource } from '../instances';

export class Sampler {
  readonly values: DocumentValues;
  private current: Document;
  /** How the value is written: as a quantity of its dimension, or whatever else it is. */
  private readonly sort: TakenValue | undefined;

  /** `id`: a parameter or a taken value. */
  constructor(
    private readonly document: Document,
    private readonly id: string,
    source: InstanceSource,
  ) {
    this.values = openValues(document, source);
    this.current = document;
    const record = findRecord(document, id, 'parameter') ?? findRecord(document, id, 'take');
    const shown = record && isNamed(record) && !isTable(record) ? this.values.show(id) : undefined;
    this.sort = shown && this.values.complete(shown, shown.unit);
  }

  /** Whether the value is an amount that can be another. */
  get isAmount(): boolean {
    return this.sort?.kind === 'quantity' && !this.values.isMeasured(this.id);
  }

  /** The amount that the value has in the document, in internal units. */
  get present(): number {
    return this.sort?.kind === 'quantity' ? this.sort.value : NaN;
  }

  /** The document with the value at an amount, in internal units; {@link values} are those of it then. */
  at(amount: number): Document {
    const { sort } = this;
    if (sort?.kind !== 'quantity') return this.document;
    const next = withValues(this.document, new Map([[this.id, { ...sort, value: amount }]]));
    this.values.forgetMeasured();
    this.values.apply(next, diffDocuments(this.current, next));
    this.current = next;
    return next;
  }
}

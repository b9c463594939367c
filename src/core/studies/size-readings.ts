/** What a document comes to in each of its sizes, read one after another with only what differs evaluated; and which results of a check are old. */
import {
  formulaNow,
  hashOfContent,
  inSize,
  sizeColumns,
  sizeTable,
  SIZE_TABLE,
  stableJson,
  type Document,
  type DocumentValues,
  type ShownValue,
} from '../document';
import { diffDocuments, meaningText, openValues, type InstanceSource } from '../instances';

/** The values of a size, by their ids: those that the table sets, and those that it shows. */
export type SizeReading = ReadonlyMap<string, ShownValue>;

export class SizeReader {
  private readonly values: DocumentValues;
  private current: Document;
  private readonly known = new Map<string | undefined, SizeReading>();

  constructor(
    private readonly document: Document,
    source: InstanceSource,
  ) {
    this.values = openValues(document, source);
    this.current = document;
  }

  /** Of the document as it is written without a size. What is measured on its shape is not known here: it is told as an error. */
  read(size: string | undefined): SizeReading {
    const known = this.known.get(size);
    if (known) return known;
    const next = inSize(this.document, size);
    if (next !== this.current) this.values.apply(next, diffDocuments(this.current, next));
    this.current = next;
    const reading = new Map(
      valuesOfTable(next).flatMap((id) => {
        const shown = this.values.show(id);
        return shown ? [[id, shown] as const] : [];
      }),
    );
    this.known.set(size, reading);
    return reading;
  }
}

/** The values that stand in the table of sizes: those that sizes set, then those that are shown beside them. */
export function valuesOfTable(document: Document): string[] {
  const table = sizeTable(document);
  return [...new Set([...(table?.columns ?? []), ...(table?.results ?? [])])];
}

/** Fingerprint of all that decides what a document is in one of its sizes: another size, or a note, leaves it as it was. */
export function keyOfSize(document: Document, size: string): string {
  const sized = inSize(document, size);
  const cells = sizeColumns(sized).map((parameter) => [parameter.id, formulaNow(sized, parameter)]);
  return hashOfContent(`${keyOfRest(document)} ${stableJson(cells)}`).slice(0, 40);
}

/** Documents never change, so neither do their fingerprints. */
const rests = new WeakMap<Document, string>();

/** Of all that does not hang on the size. */
function keyOfRest(document: Document): string {
  const known = rests.get(document);
  if (known !== undefined) return known;
  const records = Object.entries(document.records).filter(([id, { type }]) => type !== 'size' && id !== SIZE_TABLE);
  const columns = sizeColumns(document).map((parameter) => [parameter.id, { ...parameter, formula: { text: '' } }] as const);
  const { sizes: _, sizing: __, ...lists } = document.lists;
  const key = hashOfContent(meaningText({ ...document, records: { ...Object.fromEntries(records), ...Object.fromEntries(columns) }, lists }));
  rests.set(document, key);
  return key;
}

/** What a document comes to in each of its sizes, read one after another with only what differs evaluated; and which results of a check are old. */
import {
  findRecord,
  formulaNow,
  hasComponents,
  hashOfContent,
  inSize,
  SIZE_TABLE,
  sizeColumns,
  sizeTable,
  stableJson,
  type Document,
  type DocumentValues,
  type ShownValue,
  type Size,
} from '../document';
import { sameData } from '../kit';
import { diffDocuments, meaningText, openValues, type InstanceSource } from '../instances';

/** The values of a size, by their ids: those that the table sets, and those that it shows. */
export type SizeReading = ReadonlyMap<string, ShownValue>;

/** Reads sizes one after another: from one to the next only the values that differ are evaluated. */
export class SizeReader {
  /** The document without any sizes, into which one after another is put: those who read share it, each may put in any. */
  private readonly stage: DocumentValues;
  private readonly shown: readonly string[];
  private readonly known = new Map<Size | undefined, SizeReading>();

  /** What an earlier reader knows is taken over as far as it still holds. */
  constructor(
    private readonly document: Document,
    private readonly source: InstanceSource,
    before?: SizeReader,
  ) {
    const base = withoutSizes(document);
    this.shown = valuesOfTable(document);
    // What components stand for may have come in since.
    const isSame = before !== undefined && before.source === source && !hasComponents(document) && isOneDocument(before.stage.document, base);
    this.stage = isSame ? before.stage : openValues(base, source);
    if (!isSame || !sameData(before.shown, this.shown)) return;
    for (const [size, reading] of before.known) if (size === undefined || document.records[size.id] === size) this.known.set(size, reading);
  }

  /** Undefined for the document as it is written. What is measured on its shape is not known here: it is told as an error. */
  read(id: string | undefined): SizeReading {
    const size = id === undefined ? undefined : findRecord(this.document, id, 'size');
    const known = this.known.get(size);
    if (known) return known;
    const values = this.stage;
    values.setOverrides(new Map(Object.entries(size?.cells ?? {})));
    const reading = new Map(
      this.shown.flatMap((value) => {
        const shown = values.show(value);
        if (!shown) return [];
        // A size is the document's own.
        const { isOverridden: _, ...own } = shown;
        return [[value, own] as const];
      }),
    );
    this.known.set(size, reading);
    return reading;
  }
}

/** The newest readers, by what stands behind them: with the next edit little is read again. */
const readers = new WeakMap<InstanceSource, Map<string, SizeReader>>();

/** Reads the sizes of a document, with what was read of it before. */
export function readSizes(document: Document, source: InstanceSource): SizeReader {
  const known = readers.get(source) ?? new Map<string, SizeReader>();
  readers.set(source, known);
  const reader = new SizeReader(document, source, known.get(document.id));
  known.set(document.id, reader);
  return reader;
}

function withoutSizes(document: Document): Document {
  const { sizes: _, sizing: __, ...lists } = document.lists;
  const records = Object.entries(document.records).filter(([id, { type }]) => type !== 'size' && id !== SIZE_TABLE);
  return { ...document, records: Object.fromEntries(records), lists };
}

function isOneDocument(one: Document, other: Document): boolean {
  const { records, lists, fields } = diffDocuments(one, other);
  return records.length + lists.length + fields.length === 0;
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
  const base = withoutSizes(document);
  const columns = sizeColumns(document).map((parameter) => [parameter.id, { ...parameter, formula: { text: '' } }] as const);
  const key = hashOfContent(meaningText({ ...base, records: { ...base.records, ...Object.fromEntries(columns) } }));
  rests.set(document, key);
  return key;
}

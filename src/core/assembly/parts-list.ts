/** What an assembly is made of: each part that is of one make once, with how many there are. */
import { listRecords, type Document, type DocumentValues } from '../document';
import { diffDocuments, listPlaced, type InstanceSource, type PlacedPart } from '../instances';

export interface PartsRow {
  /** From 1, in the order of the components. */
  readonly item: number;
  readonly quantity: number;
  readonly document: string;
  readonly revision: number;
  /** What the assembly sets in it: `rail_length 300 mm`. */
  readonly set: string;
  /** Of its bodies. */
  readonly materials: string;
  /** Kilograms; undefined where it has none, or is not built. */
  readonly mass: number | undefined;
}

const KILOGRAM = 1e8;

/** The parts of each make, in the order of the components: of one revision under equal values, and of one hand, in whatever plane they are mirrored. */
export function groupByMake(parts: readonly PlacedPart[]): readonly (readonly [PlacedPart, ...PlacedPart[]])[] {
  const makes = new Map<string, [PlacedPart, ...PlacedPart[]]>();
  for (const part of parts) {
    const make = part.key.replace(/"mirrored":"\w+"/, '"mirrored"');
    const known = makes.get(make);
    if (known) known.push(part);
    else makes.set(make, [part]);
  }
  return [...makes.values()];
}

/** Parts of sub-assemblies count where they stand: the list is flat. */
export function listParts(values: DocumentValues, source: InstanceSource): PartsRow[] {
  return groupByMake(listPlaced(values)).map(([part, ...others], i): PartsRow => {
    const revision = Number(/@(\d+)/.exec(part.key)?.[1] ?? 0);
    const mass = source.built(part.key, part.document)?.mass;
    return {
      item: i + 1,
      quantity: 1 + others.length,
      document: part.document.name,
      revision,
      set: wordsOfSet(part, source.snapshot(part.document.id, revision)),
      materials: [...new Set(listRecords(part.document, 'bodies', 'body').flatMap(({ material }) => (material === '' ? [] : material)))].join(', '),
      mass: mass && 'value' in mass ? mass.value / KILOGRAM : undefined,
    };
  });
}

/** How it is other here than at home: mirrored, or with other values. */
function wordsOfSet({ document, values, isMirrored }: PlacedPart, home: Document | undefined): string {
  if (!home || home === document) return '';
  const set = diffDocuments(home, document).records.flatMap(({ after }) =>
    after?.type === 'parameter' || after?.type === 'take' ? `${after.name} ${values.show(after.id)?.shown ?? ''}` : [],
  );
  return [...(isMirrored ? ['mirrored'] : []), ...set].join(', ');
}

const PARTS_COLUMNS = ['item', 'quantity', 'document', 'revision', 'set here', 'material', 'mass each in kg', 'mass together in kg'] as const;

/** The list as a table, with its heading and the sum of the masses; a mass that is not known leaves its cell empty. */
export function partsTable(rows: readonly PartsRow[]): string[][] {
  const weigh = (kilograms: number | undefined): string => (kilograms === undefined ? '' : kilograms.toFixed(4));
  const isWhole = rows.every(({ mass }) => mass !== undefined);
  const all = rows.reduce((sum, { mass = 0, quantity }) => sum + mass * quantity, 0);
  return [
    [...PARTS_COLUMNS],
    ...rows.map(({ item, quantity, document, revision, set, materials, mass }) => [
      `${item}`,
      `${quantity}`,
      document,
      `${revision}`,
      set,
      materials,
      weigh(mass),
      weigh(mass === undefined ? undefined : mass * quantity),
    ]),
    ['', `${rows.reduce((sum, { quantity }) => sum + quantity, 0)}`, '', '', '', '', '', isWhole ? weigh(all) : ''],
  ];
}

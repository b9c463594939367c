/** What an assembly is made of: each part that is of one make once, with how many there are. */
import { hasShape, listRecords, type Document, type DocumentValues } from '../document';
import { complete, diffDocuments, listPlaced, listShown, type InstanceKey, type InstanceSource, type PlacedPart } from '../instances';
import { KILOGRAM } from '../units';

export interface PartsRow<Item = number> {
  /** From 1, in the order of the components; by level `2.1` for the first within the second. */
  readonly item: Item;
  readonly quantity: number;
  /** What the texts `part_number` and `description` of the document say, as they are here; empty where it has none. */
  readonly number: string;
  readonly description: string;
  readonly document: string;
  readonly revision: number;
  /** What the assembly sets in it: `rail_length 300 mm`. */
  readonly set: string;
  /** Of its bodies. */
  readonly materials: string;
  /** Kilograms; undefined where it has none, or is not built. */
  readonly mass: number | undefined;
}

/** Equal for parts that are made alike: of one revision under equal values, and of one hand, in whatever plane they are mirrored. */
function makeOf(key: InstanceKey): string {
  return key.replace(/"mirrored":"\w+"/, '"mirrored"');
}

/** The parts of each make, in the order of the components. */
export function groupByMake(parts: readonly PlacedPart[]): readonly (readonly [PlacedPart, ...PlacedPart[]])[] {
  return groupBy(parts, ({ key }) => makeOf(key));
}

function groupBy<T>(all: Iterable<T>, keyOf: (one: T) => string): readonly (readonly [T, ...T[]])[] {
  const groups = new Map<string, [T, ...T[]]>();
  for (const one of all) {
    const known = groups.get(keyOf(one));
    if (known) known.push(one);
    else groups.set(keyOf(one), [one]);
  }
  return [...groups.values()];
}

/** Parts of sub-assemblies count where they stand: the list is flat. */
export function listParts(values: DocumentValues, source: InstanceSource): PartsRow[] {
  return groupByMake(listPlaced(values)).map(([part, ...others], i): PartsRow => {
    const { key, document, values: inside, isMirrored } = part;
    const mass = source.built(key, document)?.mass;
    return {
      item: i + 1,
      quantity: 1 + others.length,
      ...describe(key, inside, source, isMirrored),
      mass: mass && 'value' in mass ? mass.value / KILOGRAM : undefined,
    };
  });
}

/** Each assembly followed by what it is made of, which counts once for each of it: quantities are those in the assembly around. */
export function listPartsByLevel(values: DocumentValues, source: InstanceSource): PartsRow<string>[] {
  return listLevel(values, source, []);
}

function listLevel(values: DocumentValues, source: InstanceSource, above: readonly number[]): PartsRow<string>[] {
  const shown = [...listShown(values, [], () => new Map())].filter(({ instance }) => hasShape(instance.values.document));
  return groupBy(shown, ({ instance }) => makeOf(instance.key)).flatMap(([one, ...others], i): PartsRow<string>[] => {
    const { instance, component } = one;
    const { document } = instance.values;
    const path = [...above, i + 1];
    const item = path.join('.');
    const own = { item, quantity: 1 + others.length, ...describe(instance.key, instance.values, source, component.mirrored !== undefined) };
    if (document.kind !== 'assembly') {
      const mass = source.built(instance.key, complete(document, source))?.mass;
      return [{ ...own, mass: mass && 'value' in mass ? mass.value / KILOGRAM : undefined }];
    }
    const inside = listLevel(instance.values, source, path);
    const direct = inside.filter((row) => row.item.split('.').length === path.length + 1);
    const mass = direct.reduce((sum: number | undefined, row) => (sum === undefined || row.mass === undefined ? undefined : sum + row.mass * row.quantity), 0);
    return [{ ...own, mass }, ...inside];
  });
}

/** What is said of a part or an assembly, with the values that it has here. */
function describe(key: InstanceKey, values: DocumentValues, source: InstanceSource, isMirrored: boolean): Omit<PartsRow, 'item' | 'quantity' | 'mass'> {
  const { document } = values;
  const revision = Number(/@(\d+)/.exec(key)?.[1] ?? 0);
  return {
    number: textOf(values, 'part_number'),
    description: textOf(values, 'description'),
    document: document.name,
    revision,
    set: wordsOfSet(values, isMirrored, source.snapshot(document.id, revision)),
    materials: [...new Set(listRecords(document, 'bodies', 'body').flatMap(({ material }) => (material === '' ? [] : material)))].join(', '),
  };
}

/** A text of that name; empty where there is none. */
function textOf(values: DocumentValues, name: string): string {
  const id = values.sheet.findByName(name);
  const taken = id === undefined ? undefined : values.handOver(id);
  return taken?.kind === 'text' ? taken.value : '';
}

/** How it is other here than at home: mirrored, or with other values. */
function wordsOfSet(values: DocumentValues, isMirrored: boolean, home: Document | undefined): string {
  const { document } = values;
  if (!home || home === document) return '';
  const set = diffDocuments(home, document).records.flatMap(({ after }) =>
    (after?.type === 'parameter' || after?.type === 'take') && !TOLD.has(after.name) ? `${after.name} ${values.show(after.id)?.shown ?? ''}` : [],
  );
  return [...(isMirrored ? ['mirrored'] : []), ...set].join(', ');
}

/** They have columns of their own. */
const TOLD: ReadonlySet<string> = new Set(['part_number', 'description']);

const PARTS_COLUMNS = [
  'item',
  'quantity',
  'part number',
  'description',
  'document',
  'revision',
  'set here',
  'material',
  'mass each in kg',
  'mass together in kg',
] as const;

/** The list as a table, with its heading and the sum of the masses; a mass that is not known leaves its cell empty. */
export function partsTable(rows: readonly PartsRow<number | string>[]): string[][] {
  const weigh = (kilograms: number | undefined): string => (kilograms === undefined ? '' : kilograms.toFixed(4));
  // By level, what stands in an assembly is counted with it.
  const outermost = rows.filter(({ item }) => !`${item}`.includes('.'));
  const isWhole = outermost.every(({ mass }) => mass !== undefined);
  const all = outermost.reduce((sum, { mass = 0, quantity }) => sum + mass * quantity, 0);
  return [
    [...PARTS_COLUMNS],
    ...rows.map(({ item, quantity, number, description, document, revision, set, materials, mass }) => [
      `${item}`,
      `${quantity}`,
      number,
      description,
      document,
      `${revision}`,
      set,
      materials,
      weigh(mass),
      weigh(mass === undefined ? undefined : mass * quantity),
    ]),
    ['', `${outermost.reduce((sum, { quantity }) => sum + quantity, 0)}`, '', '', '', '', '', '', '', isWhole ? weigh(all) : ''],
  ];
}

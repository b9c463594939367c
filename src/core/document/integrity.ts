/**
 * What must hold between the records and lists of a document, beside what the schema says of each: checked of a file that comes
 * in, and after every edit, so that what is acknowledged can always be opened, saved, exported and imported again.
 *
 * - A record is called by its own id, and stands in one list: the one that its kind and owner tell. A file stands in none.
 * - What it is part of is there: the step of a dimension, the link of a taken value, the points of a line, the values of a step.
 * - No two values have one name.
 */
import { sizeTable } from './sizes';
import { findAny, findRecord, findStep, hasName, isStep } from './access';
import { FIXED_REFERENCES, isEntity, referencesOf } from './apply-sketch';
import type { RecordChange } from './draft';
import type { Document, DocumentRecord } from './schema';
import { mateOwners } from './copy-ids';
import { matePlaces, mateSlots } from './mate-kinds';
import { slotsOf, slotValues } from './step-kinds';

export interface Breach {
  /** Words for what is wrong, with the ids that it is about. */
  readonly message: string;
  /** The record, or the list. */
  readonly at: string;
}

/** Everything that does not hold, at most `most` of it. */
export function findBreaches(document: Document, most = 20): Breach[] {
  const found: Breach[] = [];
  for (const breach of breachesOf(document)) {
    found.push(breach);
    if (found.length >= most) break;
  }
  return found;
}

/** Whether a change can have broken what holds between records: numbers and texts that change within one cannot. */
export function changesStructure(changes: readonly RecordChange[], lists: readonly string[]): boolean {
  return lists.length > 0 || changes.some(({ before, after }) => before === null || after === null || tiesOf(before) !== tiesOf(after));
}

/** All that ties a record to others, as text. */
function tiesOf(record: DocumentRecord): string {
  const name = hasName(record) ? record.name : '';
  const parameter = record.type === 'dimension' ? record.parameter : record.type === 'repeat' ? `${record.count} ${record.spacing}` : '';
  const slots = isStep(record)
    ? `${Object.entries(slotValues(record)).flat().join(' ')} ${slotsOf(record)
        .map(({ slot }) => slot)
        .join(' ')}`
    : '';
  const mate =
    record.type === 'mate'
      ? [record.kind, record.isLimited === true, ...Object.values(record.values), ...matePlaces(record).map(({ path }) => path.join(' '))].join(' ')
      : '';
  const sizes =
    record.type === 'size-table'
      ? `${record.columns.join(' ')} ${record.results?.join(' ') ?? ''} ${record.used ?? ''}`
      : record.type === 'size'
        ? Object.keys(record.cells).join(' ')
        : '';
  const outside =
    record.type === 'outside' && record.asked.of === 'spreadsheet'
      ? record.asked.file
      : record.type === 'parameter' && record.measure?.of === 'outside'
        ? record.measure.outside
        : '';
  const copies = record.type === 'component' ? Object.values(record.pattern?.values ?? {}).join(' ') : '';
  return [record.id, record.type, homeOf(record), name, mate, copies, sizes, outside, ...referencesOf(record), parameter, slots].join('|');
}

/** The list in which a record stands; undefined for a file, which its step holds. */
export function homeOf(record: DocumentRecord): string | undefined {
  if (isStep(record)) return 'steps';
  if (isEntity(record)) return `${record.sketch}/entities`;
  switch (record.type) {
    case 'parameter':
      return record.owner === undefined ? 'parameters' : `${record.owner}/values`;
    case 'constraint':
    case 'dimension':
    case 'repeat':
      return `${record.sketch}/constraints`;
    case 'take':
      return `${record.link}/takes`;
    case 'drive':
      return `${record.component}/drives`;
    case 'file':
      return undefined;
    default:
      return HOMES[record.type];
  }
}

const HOMES = {
  paragraph: 'paragraphs',
  chart: 'charts',
  page: 'paging',
  size: 'sizes',
  'size-table': 'sizing',
  link: 'links',
  table: 'tables',
  guard: 'guards',
  goal: 'goals',
  dismissal: 'dismissals',
  body: 'bodies',
  component: 'components',
  mate: 'mates',
  outside: 'outsides',
  answer: 'answers',
} as const;

function* breachesOf(document: Document): Generator<Breach> {
  const names = new Map<string, string>();
  const listed = new Map<string, string>();
  for (const [list, ids] of Object.entries(document.lists)) {
    for (const id of ids) {
      if (!findAny(document, id)) yield { message: `${list} lists ${id}, which is not there.`, at: list };
      if (listed.has(id)) yield { message: `${id} is listed twice.`, at: list };
      listed.set(id, list);
    }
  }
  for (const [id, record] of Object.entries(document.records)) {
    if (record.id !== id) yield { message: `The record ${id} calls itself ${record.id}.`, at: id };
    const [home, list] = [homeOf(record), listed.get(id)];
    if (home !== list)
      yield { message: home === undefined ? `${record.type} ${id} stands in no list.` : `${record.type} ${id} is not in the list ${home}.`, at: id };
    if (hasName(record)) {
      const other = names.get(record.name);
      if (other !== undefined) yield { message: `${other} and ${id} are both called ${record.name}.`, at: id };
      names.set(record.name, id);
    }
    const missing = findMissing(document, record);
    if (missing !== undefined) yield { message: `${record.type} ${id} needs ${missing}, which is not there.`, at: id };
  }
}

/** What a record is part of or made of, and is not there. */
function findMissing(document: Document, record: DocumentRecord): string | undefined {
  const inSketch = (sketch: string): string | undefined => {
    if (!findRecord(document, sketch, 'sketch')) return `the sketch ${sketch}`;
    return referencesOf(record).find((other) => {
      const found = findAny(document, other);
      return !FIXED_REFERENCES.has(other) && !(found && isEntity(found) && found.sketch === sketch);
    });
  };
  const ownValue = (owner: string, id: string): string | undefined =>
    findRecord(document, id, 'parameter')?.owner === owner ? undefined : `a value ${id} of its own`;
  switch (record.type) {
    case 'from-part':
      return findRecord(document, record.component, 'component') ? undefined : `the part ${record.component}`;
    case 'parameter':
      if (record.measure?.of === 'outside' && !findRecord(document, record.measure.outside, 'outside')) return 'its outside calculation';
      return record.owner === undefined || findStep(document, record.owner) || hasValues(findAny(document, record.owner))
        ? undefined
        : `the step ${record.owner}`;
    case 'take':
      return findRecord(document, record.link, 'link') ? undefined : `the link ${record.link}`;
    case 'dimension':
      return inSketch(record.sketch) ?? ownValue(record.sketch, record.parameter);
    case 'repeat':
      return inSketch(record.sketch) ?? ownValue(record.sketch, record.count) ?? ownValue(record.sketch, record.spacing);
    case 'point':
    case 'line':
    case 'circle':
    case 'arc':
      return inSketch(record.sketch) ?? pointsOf(document, record);
    case 'component': {
      if (document.kind !== 'assembly' && record.at !== undefined) return 'an assembly to stand in';
      return Object.values(record.pattern?.values ?? {})
        .map((value) => ownValue(record.id, value))
        .find(Boolean);
    }
    case 'mate': {
      const gone = mateOwners(record).find((owner) => owner !== undefined && !findRecord(document, owner, 'component'));
      const lacking = mateSlots(record).find(({ slot }) => findRecord(document, record.values[slot] ?? '', 'parameter')?.owner !== record.id);
      return gone !== undefined ? `the component ${gone}` : lacking?.label.toLowerCase();
    }
    case 'drive':
      return findRecord(document, record.component, 'component') ? undefined : `the component ${record.component}`;
    case 'size-table': {
      const gone = record.columns.find((value) => !findRecord(document, value, 'parameter'));
      const missing = gone ?? record.results?.find((value) => !findRecord(document, value, 'parameter') && !findRecord(document, value, 'take'));
      if (missing !== undefined) return `the value ${missing}`;
      return record.used === undefined || findRecord(document, record.used, 'size') ? undefined : `the size ${record.used}`;
    }
    case 'size': {
      const columns = new Set(sizeTable(document)?.columns);
      return Object.keys(record.cells).every((value) => columns.has(value)) ? undefined : 'a column for each of its values';
    }
    case 'outside':
      return record.asked.of === 'service' || findRecord(document, record.asked.file, 'file') ? undefined : 'its spreadsheet';
    case 'answer': {
      const [component] = record.within;
      if (component === undefined) return findRecord(document, record.outside, 'outside') ? undefined : 'its outside calculation';
      return findRecord(document, component, 'component') ? undefined : `the component ${component}`;
    }
    case 'constraint':
      return inSketch(record.sketch);
    default:
      break;
  }
  if (!isStep(record)) return undefined;
  if (document.kind !== 'part') return 'a part to stand in';
  for (const value of Object.values(slotValues(record))) {
    const missing = ownValue(record.id, value);
    if (missing !== undefined) return missing;
  }
  return slotsOf(record)
    .find(({ slot }) => slotValues(record)[slot] === undefined)
    ?.label.toLowerCase();
}

/** Whether values can stand under it, beside those of steps. */
function hasValues(record: DocumentRecord | undefined): boolean {
  return record?.type === 'mate' || record?.type === 'component' || record?.type === 'outside';
}

/** Lines and arcs end in points, and have their centre in one. */
function pointsOf(document: Document, record: DocumentRecord): string | undefined {
  return referencesOf(record).find((id) => !findRecord(document, id, 'point'));
}

/** A document with values set from outside: what it is with formulas that say just those. */
import {
  findAny,
  findRecord,
  hasName,
  inSize,
  isStep,
  listIds,
  listRecords,
  stableJson,
  usedSize,
  writeTaken,
  type Answer,
  type Component,
  type Document,
  type DocumentRecord,
  type Drive,
  type TakenValue,
} from '../document';
import { mirrorAssembly } from './mirror-assembly';

/** Values of a master, or of another document without a place, that are set for everything below that takes them. */
export interface SetAbove {
  readonly source: string;
  readonly revision: number;
  readonly hash: string;
  readonly values: ReadonlyMap<string, TakenValue>;
}

export interface Overrides {
  /** By path of ids, joined with spaces: through components of the document to a value, a taken value or a step that is suppressed. */
  readonly values: ReadonlyMap<string, TakenValue>;
  readonly above: readonly SetAbove[];
  /** The id of the size that it has; undefined for that which it has at home. */
  readonly size?: string;
  /** The plane of its own that a part or an assembly is mirrored in. */
  readonly mirrored?: Component['mirrored'];
  /** Answers of outside calculations that it was given here. */
  readonly answers?: readonly Answer[];
}

/** What tells an instance from others: the same key, the same values and the same geometry. */
export type InstanceKey = string;

/** Equal for equal snapshots under equal values, wherever they come from. */
export function instanceKey({ source, revision }: Pick<Component, 'source' | 'revision'>, overrides: Overrides): InstanceKey {
  const pinned = `${source}@${revision}`;
  if (isAsWritten(overrides)) return pinned;
  const { values, above, mirrored, size, answers = [] } = overrides;
  const set = {
    ...(mirrored === undefined ? {} : { mirrored }),
    ...(size === undefined ? {} : { size }),
    ...(answers.length === 0 ? {} : { answers: answers.map(({ outside, within, question, outputs }) => ({ outside, within, question, outputs })) }),
    values: Object.fromEntries(values),
    above: above.map((one) => ({ ...one, values: Object.fromEntries(one.values) })),
  };
  return `${pinned}?${stableJson(set)}`;
}

function isAsWritten({ values, above, mirrored, size, answers = [] }: Overrides): boolean {
  return values.size === 0 && above.length === 0 && mirrored === undefined && size === undefined && answers.length === 0;
}

export function driveDocument(snapshot: Document, overrides: Overrides): Document {
  if (isAsWritten(overrides)) return snapshot;
  const { values, above, mirrored, size, answers = [] } = overrides;
  const changes = new Changes(size === undefined ? snapshot : inSize(snapshot, size));
  for (const one of above) changes.setAbove(one);
  for (const [path, value] of values) changes.set(path.split(' '), value);
  if (mirrored !== undefined && snapshot.kind === 'part') changes.mirror(mirrored);
  for (const answer of answers) changes.answer(answer);
  const driven = changes.finish();
  return mirrored !== undefined && snapshot.kind === 'assembly' ? mirrorAssembly(driven, mirrored) : driven;
}

function nameAbove(id: string): string {
  return `_above_${id}`;
}

/** Whether a component stands in its document only to hand on what is set further out. */
export function isHandedDown({ id, name }: Pick<Component, 'id' | 'name'>): boolean {
  return name === nameAbove(id);
}

/** A document with some of its values at others, by their ids: what it is with formulas that say just those. */
export function withValues(document: Document, values: ReadonlyMap<string, TakenValue>): Document {
  return driveDocument(document, { values, above: [] });
}

class Changes {
  private readonly records: Record<string, DocumentRecord>;
  private readonly lists: Record<string, readonly string[]>;
  private readonly names: ReadonlySet<string>;
  private count = 0;

  constructor(private readonly snapshot: Document) {
    this.records = { ...snapshot.records };
    this.lists = { ...snapshot.lists };
    this.names = new Set(Object.values(snapshot.records).flatMap((record) => (hasName(record) ? record.name : [])));
  }

  finish(): Document {
    return { ...this.snapshot, records: this.records, lists: this.lists };
  }

  set([id = '', ...rest]: readonly string[], value: TakenValue): void {
    const record = findAny({ records: this.records }, id);
    if (!record) return;
    if (rest.length > 0) {
      if (record.type === 'component') this.drive(record, rest, value);
      return;
    }
    const text = this.write(value);
    if (record.type === 'take') this.records[id] = { ...record, value };
    else if (text === undefined) return;
    else if (record.type === 'parameter' && record.measure === undefined) {
      this.records[id] = { ...record, formula: { text } };
      this.dropCell(id);
    } else if (isStep(record) || record.type === 'component') this.records[id] = { ...record, suppressed: { text } };
  }

  /** An answer that came where the document stands; it counts as later than all of its own. */
  answer(answer: Answer): void {
    const id = this.freshId();
    this.records[id] = { ...answer, id };
    this.lists['answers'] = [...listIds({ lists: this.lists }, 'answers'), id];
  }

  /** Every body of a part, once it is built. */
  mirror(plane: NonNullable<Component['mirrored']>): void {
    for (const body of listIds({ lists: this.lists }, 'bodies')) {
      const id = this.freshId();
      this.records[id] = { type: 'place', id, name: 'mirrored', mirror: plane, body, values: {} };
      this.lists['steps'] = [...listIds({ lists: this.lists }, 'steps'), id];
    }
  }

  /** What is set from outside wins over what the size says. */
  private dropCell(value: string): void {
    const size = usedSize({ ...this.snapshot, records: this.records });
    if (!size || !Object.hasOwn(size.cells, value)) return;
    this.records[size.id] = { ...size, cells: Object.fromEntries(Object.entries(size.cells).filter(([id]) => id !== value)) };
  }

  /** Below, the values are set where they are taken; here by a component of that document without a place. */
  setAbove({ source, revision, hash, values }: SetAbove): void {
    const there = listRecords({ ...this.snapshot, lists: this.lists, records: this.records }, 'components', 'component').find(
      (component) => component.source === source && component.at === undefined,
    );
    const component = there ?? this.addComponent(source, revision, hash);
    for (const [id, value] of values) this.drive(component, [id], value);
  }

  private addComponent(source: string, revision: number, hash: string): Component {
    const id = this.freshId();
    // A name that nobody gives: formulas do not read it.
    const component: Component = { type: 'component', id, name: nameAbove(id), source, sourceName: '', policy: 'hold', revision, hash };
    this.records[id] = component;
    this.lists['components'] = [...listIds({ lists: this.lists }, 'components'), id];
    return component;
  }

  /** What is set further out wins over what is set here. */
  private drive(component: Component, path: readonly string[], value: TakenValue): void {
    const text = this.write(value);
    if (text === undefined) return;
    const list = `${component.id}/drives`;
    const goal = path.join(' ');
    const known = listIds({ lists: this.lists }, list).find(
      (id) => findRecord({ ...this.snapshot, records: this.records }, id, 'drive')?.path.join(' ') === goal,
    );
    const id = known ?? this.freshId();
    const drive: Drive = { type: 'drive', id, component: component.id, path: [...path], sourceName: '', formula: { text } };
    this.records[id] = drive;
    if (known === undefined) this.lists[list] = [...listIds({ lists: this.lists }, list), id];
  }

  private freshId(): string {
    let id = `above-${this.count++}`;
    while (findAny({ records: this.records }, id)) id = `above-${this.count++}`;
    return id;
  }

  private write(value: TakenValue): string | undefined {
    return writeTaken(value, (name) => this.names.has(name));
  }
}

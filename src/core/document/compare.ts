/**
 * What sets two states of one document apart, in the designer's terms: values with their formulas, steps, and
 * the rest; and the exact patch that leads from one to the other.
 */
import { sameData } from '../kit';
import { findAny, findRecord, listIds, listSteps } from './access';
import type { EditOf, PatchOp } from './edit-schema';
import { textOfGoal } from './goal-nodes';
import type { Document, TakenValue } from './schema';
import type { Step } from './step-schema';
import { showTaken } from './taken-text';

/** A state with the values that it had. */
export interface Snapshot {
  readonly document: Document;
  /** Every value by id, as others would take it. */
  readonly values: Readonly<Record<string, TakenValue>>;
}

export interface SideOfValue {
  readonly name: string;
  readonly shown: string;
  /** The formula as typed; absent for a value taken from another document. */
  readonly formula?: string;
  /** The document that it is taken from. */
  readonly source?: string;
}

/** A value that differs; a side is absent where the value is not there. */
export interface ValueDifference {
  readonly id: string;
  readonly before?: SideOfValue;
  readonly after?: SideOfValue;
}

export interface StepDifference {
  readonly id: string;
  readonly name: string;
  readonly change: 'added' | 'removed' | 'changed' | 'moved';
}

export interface Comparison {
  /** First those that were changed themselves, then those that only followed. */
  readonly values: readonly ValueDifference[];
  readonly steps: readonly StepDifference[];
  /** Names of lookup tables, links and guards that differ. */
  readonly others: readonly string[];
}

/** Both are states of the same document; `before` is usually the older one. */
export function compareSnapshots(before: Snapshot, after: Snapshot): Comparison {
  const ids = [...new Set([...Object.keys(after.document.records), ...Object.keys(before.document.records)])];
  return {
    values: changedFirst(ids.flatMap((id) => compareValue(id, sideOf(before, id), sideOf(after, id)) ?? [])),
    steps: compareSteps(before.document, after.document),
    others: ids.flatMap((id) => nameOfOther(before.document, after.document, id) ?? []),
  };
}

function sideOf({ document, values }: Snapshot, id: string): SideOfValue | undefined {
  const record = findRecord(document, id, 'parameter') ?? findRecord(document, id, 'take');
  if (!record) return undefined;
  const value = Object.hasOwn(values, id) ? values[id] : undefined;
  return {
    name: record.name,
    shown: value ? showTaken(value) : '',
    ...(record.type === 'parameter' ? { formula: record.formula.text } : { source: findRecord(document, record.link, 'link')?.sourceName ?? '' }),
  };
}

function compareValue(id: string, before: SideOfValue | undefined, after: SideOfValue | undefined): ValueDifference | undefined {
  if (sameData(before, after)) return undefined;
  return { id, ...(before ? { before } : {}), ...(after ? { after } : {}) };
}

function changedFirst(differences: readonly ValueDifference[]): ValueDifference[] {
  const hasFollowed = ({ before, after }: ValueDifference): boolean =>
    before?.formula !== undefined && before.name === after?.name && before.formula === after.formula;
  return [...differences.filter((one) => !hasFollowed(one)), ...differences.filter(hasFollowed)];
}

function compareSteps(before: Document, after: Document): StepDifference[] {
  const [old, now] = [listSteps(before), listSteps(after)];
  const differences: StepDifference[] = old.filter(({ id }) => !now.some((step) => step.id === id)).map(({ id, name }) => ({ id, name, change: 'removed' }));
  // A step has moved when the steps that stayed stand before it in another order.
  const stayed = old.map(({ id }) => id).filter((id) => now.some((step) => step.id === id));
  const order = now.map(({ id }) => id).filter((id) => stayed.includes(id));
  for (const step of now) {
    const { id, name } = step;
    const previous = old.find((other) => other.id === id);
    if (!previous) differences.push({ id, name, change: 'added' });
    else if (!sameStep(before, after, previous, step)) differences.push({ id, name, change: 'changed' });
    else if (order.indexOf(id) !== stayed.indexOf(id)) differences.push({ id, name, change: 'moved' });
  }
  return differences;
}

/** Whether a step is the same but for the values that it owns, which are told by themselves. */
function sameStep(before: Document, after: Document, old: Step, now: Step): boolean {
  if (!sameData(old, now)) return false;
  return ['entities', 'constraints'].every((part) => {
    const [oldIds, nowIds] = [listIds(before, `${now.id}/${part}`), listIds(after, `${now.id}/${part}`)];
    return sameData(oldIds, nowIds) && nowIds.every((id) => sameData(findAny(before, id), findAny(after, id)));
  });
}

function nameOfOther(before: Document, after: Document, id: string): string | undefined {
  const [old, now] = [findAny(before, id), findAny(after, id)];
  const record = now ?? old;
  if (!record || sameData(old, now)) return undefined;
  switch (record.type) {
    case 'table':
      return `table ${record.name}`;
    case 'guard':
      return `guard ${record.condition.text}`;
    case 'goal':
      return `goal ${textOfGoal(record)}`;
    case 'link':
      return `link to ${record.sourceName}`;
    case 'body':
      return `body ${record.name}`;
    case 'paragraph':
      return 'a text';
    case 'chart':
      return `chart ${record.title}`;
    case 'size':
      return `size ${record.name}`;
    case 'outside':
      return `outside calculation ${record.name}`;
    case 'size-table':
      return 'the table of sizes';
    default:
      return undefined;
  }
}

/** The exact patch from one state of a document to another, as restoring a revision needs it. */
export function planRestore(from: Document, to: Document): EditOf<'patch'> {
  const ops: PatchOp[] = [];
  if (from.name !== to.name) ops.push({ op: 'name', before: from.name, after: to.name });
  if (!sameData(from.units, to.units)) ops.push({ op: 'units', before: from.units, after: to.units });
  if (from.general !== to.general) ops.push({ op: 'general', before: from.general ?? null, after: to.general ?? null });
  for (const id of new Set([...Object.keys(from.records), ...Object.keys(to.records)])) {
    const [before, after] = [findAny(from, id) ?? null, findAny(to, id) ?? null];
    if (!sameData(before, after)) ops.push({ op: 'put', id, before, after });
  }
  for (const list of new Set([...Object.keys(from.lists), ...Object.keys(to.lists)])) {
    ops.push(...restoreList(list, listIds(from, list), listIds(to, list)));
  }
  return { type: 'patch', ops };
}

/** Leaves the common head alone, takes the rest out and puts what should be there in. */
function restoreList(list: string, from: readonly string[], to: readonly string[]): PatchOp[] {
  let head = 0;
  while (head < from.length && from[head] === to[head]) head++;
  const removals = from.slice(head).map((id): PatchOp => ({ op: 'remove', list, id, after: from[head - 1] ?? null }));
  const insertions = to.slice(head).map((id, i): PatchOp => ({ op: 'insert', list, id, after: to[head + i - 1] ?? null }));
  return [...removals, ...insertions];
}

/** Edits of components, and of their values that the assembly sets. */
import { findAny, findRecord, listIds, listRecords, listSteps } from './access';
import { dropAnswers } from './apply-outside';
import type { Draft } from './draft';
import { notFound, otherKind, type EditFailure } from './edit-failure';
import { removeValues } from './deletion';
import type { EditOf, Readers } from './edit-schema';
import { findReaders, renamePaths, resolveTyped } from './formulas-in';
import { mateOwners } from './copy-ids';
import { KIND_WORDS } from './page';
import { claimName } from './naming';
import type { Component } from './assembly-schema';
import type { Parameter } from './schema';

type ComponentEdit = EditOf<
  | 'component.put'
  | 'component.repeat'
  | 'component.remove'
  | 'component.place'
  | 'component.catchUp'
  | 'drive.put'
  | 'drive.remove'
  | 'mate.put'
  | 'mate.remove'
>;

export function applyComponentEdit(draft: Draft, edit: ComponentEdit): EditFailure | undefined {
  switch (edit.type) {
    case 'component.put':
      return putComponent(draft, edit);
    case 'component.repeat':
      return repeatComponent(draft, edit);
    case 'component.remove':
      return removeComponent(draft, edit.id);
    case 'component.place':
      for (const [id, at] of Object.entries(edit.places)) {
        const component = findRecord(draft.document, id, 'component');
        if (!component) return notFound('This component');
        draft.put(id, { ...component, at, ...(edit.inside?.[id] ? { inside: edit.inside[id] } : {}) });
      }
      for (const [id, turned] of Object.entries(edit.turned ?? {})) {
        const mate = findRecord(draft.document, id, 'mate');
        if (!mate) return notFound('This mate');
        draft.put(id, { ...mate, turned });
      }
      return undefined;
    case 'component.catchUp':
      return catchUp(draft, edit);
    case 'drive.put':
      return putDrive(draft, edit);
    case 'mate.put':
      return putMate(draft, edit);
    case 'mate.remove':
      return removeMate(draft, edit.id, edit.readers);
    case 'drive.remove': {
      const drive = findRecord(draft.document, edit.id, 'drive');
      if (!drive) return notFound('This driven value');
      draft.removeFromList(`${drive.component}/drives`, drive.id);
      draft.put(drive.id, null);
      return undefined;
    }
  }
}

function putComponent(draft: Draft, { component, after }: EditOf<'component.put'>): EditFailure | undefined {
  const { kind, id } = draft.document;
  if (kind !== 'assembly' && component.at) {
    return { code: 'wrong-owner', message: `Only in an assembly does something have a place: a ${KIND_WORDS[kind]} uses it without one.` };
  }
  if (component.source === id) return { code: 'bad-reference', message: `This ${KIND_WORDS[kind]} cannot contain itself.` };
  const there = findAny(draft.document, component.id);
  if (there && there.type !== 'component') return otherKind(component.id);
  if (there) {
    const { pattern: _, ...rest } = component;
    draft.put(component.id, { ...rest, name: there.name, ...(there.pattern ? { pattern: there.pattern } : {}) });
    return undefined;
  }
  if (component.pattern) return { code: 'bad-reference', message: 'A component is there before it is repeated.' };
  const failure = claimName(draft, component.id, component.name);
  if (failure) return failure;
  draft.put(component.id, component);
  draft.insert('components', component.id, after);
  return undefined;
}

function repeatComponent(draft: Draft, { id, pattern, values, readers = { mode: 'refuse' } }: EditOf<'component.repeat'>): EditFailure | undefined {
  const component = findRecord(draft.document, id, 'component');
  if (!component) return notFound('This component');
  if (component.at === undefined) return { code: 'wrong-owner', message: `${component.name} has no place: it sets values for the others.` };
  const refused = putOwnValues(draft, component, { slots: pattern?.values ?? {}, values, readers });
  if (refused) return refused;
  const { pattern: _, ...rest } = component;
  draft.put(id, { ...rest, ...(pattern ? { pattern } : {}) });
  return undefined;
}

interface OwnValues {
  /** Ids of its values, by the slots that they are for. */
  readonly slots: Readonly<Record<string, string>>;
  /** Those of them that are new. */
  readonly values: readonly Parameter[];
  readonly readers: Readers;
}

/** Gives a component or a mate its values: those that it no longer has are removed, new ones added. */
function putOwnValues(draft: Draft, owner: { readonly id: string; readonly name: string }, { slots, values, readers }: OwnValues): EditFailure | undefined {
  const list = `${owner.id}/values`;
  const kept = new Set(Object.values(slots));
  const gone = listIds(draft.document, list).filter((id) => !kept.has(id));
  const blocked = removeValues(draft, gone, readers, new Set());
  if (blocked) return blocked;
  for (const value of values) {
    if (value.owner !== owner.id) return { code: 'wrong-owner', message: `${value.name} is not a value of ${owner.name}.` };
    if (findAny(draft.document, value.id)) return { code: 'already-there', message: `${value.name} is here already.` };
    const failure = claimName(draft, value.id, value.name);
    if (failure) return failure;
    draft.put(value.id, value);
    draft.insert(list, value.id);
  }
  return undefined;
}

function removeComponent(draft: Draft, id: string): EditFailure | undefined {
  const component = findRecord(draft.document, id, 'component');
  if (!component) return notFound('This component');
  const starting = listSteps(draft.document).filter((step) => step.type === 'from-part' && step.component === id);
  if (starting.length > 0) {
    const names = starting.map((step) => step.name).join(', ');
    return {
      code: 'built-on',
      message: `${names} ${starting.length === 1 ? 'starts' : 'start'} from ${component.name}.`,
      ids: starting.map((step) => step.id),
    };
  }
  const own = new Set(listIds(draft.document, `${id}/drives`));
  const readers = findReaders(draft.document, new Set([component.name])).filter((record) => !own.has(record.id));
  if (readers.length > 0)
    return stillRead(
      component,
      readers.map((record) => record.id),
    );
  for (const drive of own) {
    draft.removeFromList(`${id}/drives`, drive);
    draft.put(drive, null);
  }
  const blocked = removeValues(draft, listIds(draft.document, `${id}/values`), { mode: 'refuse' }, new Set());
  if (blocked) return blocked;
  for (const mate of listRecords(draft.document, 'mates', 'mate')) {
    if (!mateOwners(mate).includes(id)) continue;
    const refused = removeMate(draft, mate.id, { mode: 'refuse' });
    if (refused) return refused;
  }
  dropAnswers(draft, ({ within: [first] }) => first === id);
  draft.removeFromList('components', id);
  draft.put(id, null);
  return undefined;
}

/** A part that no step starts from any more goes, unless its values are read. */
export function dropUnused(draft: Draft, id: string): void {
  const isUsed = listSteps(draft.document).some((step) => step.type === 'from-part' && step.component === id);
  if (!isUsed) removeComponent(draft, id);
}

function stillRead({ name }: Component, ids: readonly string[]): EditFailure {
  const count = `${ids.length} formula${ids.length === 1 ? '' : 's'}`;
  return { code: 'still-read', message: `${name} is still read by ${count}; change ${ids.length === 1 ? 'that' : 'those'} first.`, ids };
}

function catchUp(draft: Draft, { id, revision, hash, sourceName, names = {} }: EditOf<'component.catchUp'>): EditFailure | undefined {
  const component = findRecord(draft.document, id, 'component');
  if (!component) return notFound('This component');
  draft.put(id, { ...component, revision, hash, sourceName });
  const renamed = new Map(Object.entries(names).map(([before, after]) => [`${component.name}.${before}`, `${component.name}.${after}`]));
  if (renamed.size > 0) renamePaths(draft, (path) => renamed.get(path));
  return undefined;
}

function putMate(draft: Draft, { mate, values, readers = { mode: 'refuse' } }: EditOf<'mate.put'>): EditFailure | undefined {
  if (draft.document.kind !== 'assembly') return { code: 'wrong-owner', message: 'Only an assembly has mates.' };
  const there = findAny(draft.document, mate.id);
  if (there && there.type !== 'mate') return otherKind(mate.id);
  const [one, two] = mateOwners(mate);
  if (one !== undefined && one === two) {
    return { code: 'bad-reference', message: 'A mate needs two different components. Pick on another one.' };
  }
  if (!there) draft.insert('mates', mate.id);
  draft.put(mate.id, mate);
  return putOwnValues(draft, mate, { slots: mate.values, values, readers });
}

function removeMate(draft: Draft, id: string, readers: Readers): EditFailure | undefined {
  if (!findRecord(draft.document, id, 'mate')) return notFound('This mate');
  const blocked = removeValues(draft, listIds(draft.document, `${id}/values`), readers, new Set());
  if (blocked) return blocked;
  draft.removeFromList('mates', id);
  draft.put(id, null);
  return undefined;
}

function putDrive(draft: Draft, { drive, names }: EditOf<'drive.put'>): EditFailure | undefined {
  if (!findRecord(draft.document, drive.component, 'component')) return notFound('The component of this value');
  const there = findAny(draft.document, drive.id);
  if (there && (there.type !== 'drive' || there.component !== drive.component)) return otherKind(drive.id);
  const goal = drive.path.join(' ');
  const twin = listRecords(draft.document, `${drive.component}/drives`, 'drive').find((other) => other.id !== drive.id && other.path.join(' ') === goal);
  if (twin) return { code: 'already-there', message: `${drive.sourceName} is set from here already.`, ids: [twin.id] };
  if (!there) draft.insert(`${drive.component}/drives`, drive.id);
  draft.put(drive.id, { ...drive, formula: resolveTyped(draft.document, { ...drive.formula, ...(names ? { names } : {}) }) });
  return undefined;
}

/** Copies of a component in a row or round an axis, as edits. */
import {
  findAny,
  findRecord,
  listIds,
  listRecords,
  listSteps,
  meantNames,
  plainId,
  takenNames,
  type Component,
  type DocumentValues,
  type SpacedPattern,
  type Document,
  type Edit,
  type EditOf,
  type MateReference,
  type Parameter,
} from '@/core/document';
import { freeName } from '../state/free-name';
import { newId } from '../state/identity';

type SingleEdit = Exclude<Edit, EditOf<'batch'>>;

const INITIAL = { linear: { span: '50 mm', kind: 'length', word: 'spacing' }, circular: { span: '90 deg', kind: 'angle', word: 'angle' } } as const;

/** Repeats a component that is not, as two in a row along x; its values get names after it: `rail_count`, `rail_spacing`. */
export function repeatEdit(document: Document, component: Component): Edit {
  const [count, span] = [newValue(document, component, 'count'), newValue(document, component, 'linear')];
  const pattern: SpacedPattern = { form: 'linear', along: { axis: 'x' }, values: { count: count.id, span: span.id } };
  return { type: 'component.repeat', id: component.id, pattern, values: [count, span] };
}

/** The pattern with other words for where its copies stand; of another form, its distance becomes an angle, or the other way. */
export function changePattern(document: Document, component: Component, changes: Partial<Omit<SpacedPattern, 'values'>>): Edit | undefined {
  const { pattern, id } = component;
  if (!pattern) return undefined;
  if (pattern.form === 'followed') {
    if (changes.form !== undefined) return respaced(document, component, changes.form);
    return changes.skip ? { type: 'component.repeat', id, pattern: { ...pattern, skip: changes.skip }, values: [] } : undefined;
  }
  const next = { ...pattern, ...changes };
  if (next.form === pattern.form) return { type: 'component.repeat', id, pattern: next, values: [] };
  const span = newValue(document, component, next.form);
  return { type: 'component.repeat', id, pattern: { ...next, values: { ...next.values, span: span.id } }, values: [span], readers: { mode: 'refuse' } };
}

/** Copies that followed a pattern, in a row or round an axis of their own. */
function respaced(document: Document, component: Component, form: SpacedPattern['form']): Edit {
  const [count, span] = [newValue(document, component, 'count'), newValue(document, component, form)];
  const pattern: SpacedPattern = { form, along: { axis: 'x' }, values: { count: count.id, span: span.id } };
  return { type: 'component.repeat', id: component.id, pattern, values: [count, span] };
}

/** Copies at each place of a pattern in a part of the assembly: what is counted and spaced there is not counted here. */
export function followPattern({ id }: Component, along: PatternChoice['along']): Edit {
  return {
    type: 'component.repeat',
    id,
    pattern: { form: 'followed', along: { path: [...along.path], step: along.step }, values: {} },
    values: [],
    readers: { mode: 'refuse' },
  };
}

/** A pattern in a part that stands in the assembly, and what it is called: `left_side: Screw row`. */
export interface PatternChoice {
  readonly along: { readonly path: readonly string[]; readonly step: string };
  readonly words: string;
}

/** Patterns that the copies of a component could follow: those of the parts beside it, down through sub-assemblies. */
export function patternChoices(values: DocumentValues, component: string): PatternChoice[] {
  const visit = (inside: DocumentValues, path: readonly string[], names: readonly string[]): PatternChoice[] =>
    listRecords(inside.document, 'components', 'component').flatMap(({ id, name, at }) => {
      const below = at === undefined || (path.length === 0 && id === component) ? undefined : inside.components?.valuesOf(id);
      if (!below) return [];
      const [here, called] = [
        [...path, id],
        [...names, name],
      ];
      if (below.document.kind === 'assembly') return visit(below, here, called);
      return listSteps(below.document).flatMap((step) =>
        step.type === 'pattern' ? [{ along: { path: here, step: step.id }, words: `${called.join('.')}: ${step.name}` }] : [],
      );
    });
  return visit(values, [], []);
}

export function stopRepeating({ id }: Component): Edit {
  return { type: 'component.repeat', id, pattern: null, values: [], readers: { mode: 'refuse' } };
}

function newValue(document: Document, component: Component, what: 'count' | 'linear' | 'circular'): Parameter {
  const { span, kind, word } = what === 'count' ? { span: '2', kind: 'count', word: 'count' } : INITIAL[what];
  const name = freeName(`${component.name} ${word}`, takenNames(document));
  return { type: 'parameter', id: newId(), owner: component.id, name, formula: { text: span }, kind };
}

/** Numbers of copies as they are typed, `3, 5`; undefined for what is none. */
export function readSkipped(text: string): number[] | undefined {
  const parts = text.split(/[,;\s]+/).filter((part) => part !== '');
  const numbers = parts.map(Number);
  return numbers.every((n) => Number.isInteger(n) && n >= 2 && n <= 2000) ? [...new Set(numbers)].sort((a, b) => a - b) : undefined;
}

export interface OtherDocument {
  readonly document: Document;
  readonly revision: number;
  readonly hash: string;
}

/**
 * Another document in the place of a component's: its mates hold on to faces of the same names, on the body of the same name or the only one;
 * what is set in it is set in the values of the same names. What is not there is told where it stands.
 */
export function replaceEdit(document: Document, component: Component, before: Document | undefined, { document: source, revision, hash }: OtherDocument): Edit {
  const edits: SingleEdit[] = [{ type: 'component.put', component: { ...component, source: source.id, sourceName: source.name, revision, hash } }];
  const idOf = new Map(Object.values(source.records).flatMap((record) => ('name' in record ? [[record.name, record.id] as const] : [])));
  for (const id of listIds(document, `${component.id}/drives`)) {
    const drive = findRecord(document, id, 'drive');
    const was = before && findAny(before, drive?.path[0] ?? '');
    const goal = drive?.path.length === 1 ? idOf.get(was && 'name' in was ? was.name : drive.sourceName) : undefined;
    if (!drive || goal === undefined) continue;
    edits.push({ type: 'drive.put', drive: { ...drive, path: [goal] }, names: meantNames(document, drive.formula.text) });
  }
  const bodies = listIds(source, 'bodies');
  const bodyFor = (id: string): string => {
    if (bodies.includes(id)) return id;
    const name = before && findRecord(before, id, 'body')?.name;
    return bodies.find((other) => findRecord(source, other, 'body')?.name === name) ?? bodies[0] ?? id;
  };
  for (const id of listIds(document, 'mates')) {
    const mate = findRecord(document, id, 'mate');
    if (!mate) continue;
    const move = (reference: MateReference): MateReference =>
      'body' in reference && reference.path.length === 1 && plainId(reference.path[0] ?? '') === component.id
        ? { ...reference, body: bodyFor(reference.body) }
        : reference;
    const { first, second, third } = mate;
    const moved = { ...mate, first: move(first), second: move(second), ...(third ? { third: move(third) } : {}) };
    if (moved.first !== first || moved.second !== second || moved.third !== third) edits.push({ type: 'mate.put', mate: moved, values: [] });
  }
  const [only] = edits;
  return edits.length > 1 || !only ? { type: 'batch', edits } : only;
}

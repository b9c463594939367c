/** Edits inside a sketch: geometry, constraints, dimensions, the shape a solve starts from. */
import { addValues, checkOrder } from './apply-step';
import { findAny, findRecord, listIds, listRecords } from './access';
import { removeValues } from './deletion';
import type { Draft } from './draft';
import { notFound, type EditFailure } from './edit-failure';
import type { EditOf } from './edit-schema';
import type { Document, DocumentRecord, Entity, SketchDimension } from './schema';

type SketchEdit = EditOf<'sketch.draw' | 'sketch.reshape' | 'sketch.erase' | 'sketch.reconnect' | 'dimension.update' | 'entity.setConstruction'>;

/** What constraints may name besides entities of the sketch. */
export const FIXED_REFERENCES: ReadonlySet<string> = new Set(['origin', 'x-axis', 'y-axis']);

export function applySketchEdit(draft: Draft, edit: SketchEdit): EditFailure | undefined {
  switch (edit.type) {
    case 'sketch.draw':
      return draw(draft, edit);
    case 'sketch.reshape':
      return reshape(draft, edit.sketch, edit);
    case 'sketch.erase':
      return erase(draft, edit);
    case 'sketch.reconnect':
      return reconnect(draft, edit);
    case 'dimension.update': {
      const dimension = findRecord(draft.document, edit.id, 'dimension');
      if (!dimension) return notFound('This dimension');
      const { isReference: before, ...rest } = dimension;
      const isReference = edit.isReference ?? before ?? false;
      if (edit.on?.some((id) => !FIXED_REFERENCES.has(id) && !isInSketch(draft, id, dimension.sketch))) return notFound('Something of this sketch');
      draft.put(dimension.id, { ...rest, ...(edit.at ? { at: edit.at } : {}), ...(edit.on ? { on: edit.on } : {}), ...(isReference ? { isReference } : {}) });
      return undefined;
    }
    case 'entity.setConstruction':
      for (const id of edit.ids) {
        const record = findAny(draft.document, id);
        if (!record || !isEntity(record)) return notFound('This line');
        const { isConstruction: _, ...rest } = record;
        draft.put(id, edit.isConstruction ? { ...rest, isConstruction: true } : rest);
      }
      return undefined;
  }
}

function draw(draft: Draft, edit: EditOf<'sketch.draw'>): EditFailure | undefined {
  const sketch = findRecord(draft.document, edit.sketch, 'sketch');
  if (!sketch) return notFound('This sketch');
  const failure = (edit.shape && reshape(draft, edit.sketch, edit.shape)) ?? addValues(draft, sketch, edit.values);
  if (failure) return failure;
  // Geometry first: what a dimension is on tells its side.
  const drawn = [...edit.entities, ...edit.constraints, ...edit.dimensions, ...(edit.repeats ?? [])];
  for (const record of drawn) {
    if (record.sketch !== sketch.id) return { code: 'wrong-owner', message: 'This geometry belongs to another sketch.' };
    if (findAny(draft.document, record.id)) return { code: 'already-there', message: 'This geometry is here already.' };
    draft.put(record.id, record.type === 'dimension' ? withSense(draft.document, record) : record);
    draft.insert(`${sketch.id}/${isEntity(record) ? 'entities' : 'constraints'}`, record.id);
  }
  for (const record of drawn) {
    const missing = referencesOf(record).find((id) => !FIXED_REFERENCES.has(id) && !isInSketch(draft, id, sketch.id));
    if (missing !== undefined) return { code: 'bad-reference', message: `A ${record.type} refers to geometry that is not in ${sketch.name}.` };
    if (record.type === 'dimension' && findRecord(draft.document, record.parameter, 'parameter')?.owner !== sketch.id) {
      return { code: 'bad-reference', message: 'A dimension has no value.' };
    }
    const values = record.type === 'repeat' ? [record.count, record.spacing] : [];
    if (values.some((id) => findRecord(draft.document, id, 'parameter')?.owner !== sketch.id)) {
      return { code: 'bad-reference', message: 'A repeat has no count or no spacing.' };
    }
  }
  // Only what is taken from elsewhere can stand before what it is taken from.
  return edit.entities.some(({ from }) => from !== undefined) ? checkOrder(draft) : undefined;
}

/** A horizontal or vertical dimension with the side on which it lies now, unless it has one. */
function withSense(document: Document, dimension: SketchDimension): SketchDimension {
  if (dimension.sense !== undefined || (dimension.kind !== 'horizontal' && dimension.kind !== 'vertical')) return dimension;
  const [first = '', second = ''] = dimension.on;
  const line = findRecord(document, first, 'line');
  const [from, to] = [line?.start ?? first, line?.end ?? second].map((id) => (id === 'origin' ? { x: 0, y: 0 } : findRecord(document, id, 'point')));
  if (!from || !to) return dimension;
  const axis = dimension.kind === 'horizontal' ? 'x' : 'y';
  return { ...dimension, sense: to[axis] < from[axis] ? -1 : 1 };
}

/** The sides of its dimensions are those of the shape before it changes: a value that is negative now stays so. */
function reshape(draft: Draft, sketch: string, shape: Pick<EditOf<'sketch.reshape'>, 'points' | 'radii'>): EditFailure | undefined {
  for (const dimension of listRecords(draft.document, `${sketch}/constraints`, 'dimension')) draft.put(dimension.id, withSense(draft.document, dimension));
  for (const [id, [x, y]] of Object.entries(shape.points)) {
    const point = findRecord(draft.document, id, 'point');
    if (point?.sketch !== sketch) return notFound('A point of this sketch');
    draft.put(id, { ...point, x, y });
  }
  for (const [id, radius] of Object.entries(shape.radii)) {
    const round = findRecord(draft.document, id, 'circle') ?? findRecord(draft.document, id, 'arc');
    if (round?.sketch !== sketch) return notFound('A circle of this sketch');
    // The radius of an arc follows from its points.
    if (round.type === 'circle') draft.put(id, { ...round, radius });
  }
  return undefined;
}

/** What falls with the given records: constraints and dimensions on them, lines of erased points, lone points. */
function erase(draft: Draft, edit: EditOf<'sketch.erase'>): EditFailure | undefined {
  const { document } = draft;
  const entities = listIds(document, `${edit.sketch}/entities`);
  const constraints = listIds(document, `${edit.sketch}/constraints`);
  if (!edit.ids.every((id) => entities.includes(id) || constraints.includes(id))) return notFound('Something of this sketch');
  const going = new Set(edit.ids);
  for (let grew = true; grew;) {
    grew = false;
    for (const id of [...entities, ...constraints]) {
      const record = findAny(document, id);
      if (!record || going.has(id)) continue;
      if (referencesOf(record).some((other) => going.has(other))) {
        going.add(id);
        grew = true;
      }
    }
  }
  for (const id of entities) {
    if (going.has(id) || findAny(document, id)?.type !== 'point') continue;
    const users = entities.filter((other) => referencesOf(findAny(document, other)).includes(id));
    if (users.length > 0 && users.every((user) => going.has(user))) going.add(id);
  }
  for (const id of constraints) {
    if (referencesOf(findAny(document, id)).some((other) => going.has(other))) going.add(id);
  }
  const values = [...going].flatMap((id) => {
    const record = findAny(document, id);
    if (record?.type === 'repeat') return [record.count, record.spacing];
    return record?.type === 'dimension' ? [record.parameter] : [];
  });
  const blocked = removeValues(draft, values, edit.readers, going);
  if (blocked) return blocked;
  for (const id of going) {
    draft.removeFromList(`${edit.sketch}/constraints`, id);
    draft.removeFromList(`${edit.sketch}/entities`, id);
    draft.put(id, null);
  }
  return undefined;
}

function reconnect(draft: Draft, { id, start, end }: EditOf<'sketch.reconnect'>): EditFailure | undefined {
  const curve = findRecord(draft.document, id, 'line') ?? findRecord(draft.document, id, 'arc');
  if (!curve) return notFound('This line');
  const next = { ...curve, start: start ?? curve.start, end: end ?? curve.end };
  for (const point of [next.start, next.end]) {
    if (findRecord(draft.document, point, 'point')?.sketch !== curve.sketch) return notFound('A point of this sketch');
  }
  if (next.start === next.end) return { code: 'bad-reference', message: 'A line needs two different ends.' };
  draft.put(id, next);
  const all = [...listIds(draft.document, `${curve.sketch}/entities`), ...listIds(draft.document, `${curve.sketch}/constraints`)];
  for (const point of [curve.start, curve.end]) {
    if (point === next.start || point === next.end || all.some((other) => referencesOf(findAny(draft.document, other)).includes(point))) continue;
    draft.removeFromList(`${curve.sketch}/entities`, point);
    draft.put(point, null);
  }
  return undefined;
}

export function isEntity(record: DocumentRecord): record is Entity {
  return record.type === 'point' || record.type === 'line' || record.type === 'circle' || record.type === 'arc';
}

/** Ids of the geometry that a record of a sketch is built on. */
export function referencesOf(record: DocumentRecord | undefined): readonly string[] {
  switch (record?.type) {
    case 'line':
      return [record.start, record.end];
    case 'circle':
      return [record.centre];
    case 'arc':
      return [record.centre, record.start, record.end];
    case 'constraint':
    case 'dimension':
      return record.on;
    case 'repeat':
      return [...record.of, record.about];
    default:
      return [];
  }
}

function isInSketch(draft: Draft, id: string, sketch: string): boolean {
  const record = findAny(draft.document, id);
  return record !== undefined && isEntity(record) && record.sketch === sketch;
}

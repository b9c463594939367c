/** Where the values of a step are written on the solid. Pure: the canvas draws what comes out. */
import { findRecord, findStep, listRecords, slotsOf, slotValues, sketchesOf, type Document, type Step, type StepOf } from '@/core/document';
import { toSpace, type Frame, type Point3 } from '@/core/geometry';
import type { Regenerated, SolvedSketch } from '@/core/steps';

export interface SolidDimension {
  /** The parameter. */
  readonly id: string;
  readonly at: Point3;
  /** What it is measured from, where a line shows that. */
  readonly from?: Point3;
  /** A millimetre more moves its place so far, in millimetres: it can be drawn along there. */
  readonly along?: Point3;
  /** Which of several at one place it is. */
  readonly row: number;
}

/** What the places are found from. */
export interface SolidFacts {
  /** The middle of the first face that has a name which begins so. */
  readonly middleOf: (prefix: string) => Point3 | undefined;
  /** What a value is, in millimetres. */
  readonly lengthOf: (id: string) => number;
}

/** Own values of a step, and the dimensions of the sketches that it is made from. */
export function dimensionsOnSolid(document: Document, regenerated: Regenerated, step: string, facts: SolidFacts): SolidDimension[] {
  const record = findStep(document, step);
  if (!record) return [];
  const sketches = record.type === 'sketch' ? [record.id] : record.type === 'hole' ? [] : sketchesOf(record);
  return [
    ...ownDimensions(regenerated, record, facts),
    ...sketches.flatMap((id) => sketchDimensions(document, id, regenerated.steps.find((outcome) => outcome.id === id)?.sketch)),
  ];
}

/** The step that a value or a step belongs to. */
export function stepOfSelection(document: Document, selected: string | undefined): string | undefined {
  if (selected === undefined) return undefined;
  return findStep(document, selected)?.id ?? findRecord(document, selected, 'parameter')?.owner;
}

function sketchDimensions(document: Document, sketch: string, solved: SolvedSketch | undefined): SolidDimension[] {
  if (!solved) return [];
  return listRecords(document, `${sketch}/constraints`, 'dimension').map(({ parameter, at, on }) => {
    const from = middleOfGeometry(document, on[0] ?? '', solved);
    return { id: parameter, at: toSpace(solved.frame, ...at), ...(from ? { from: toSpace(solved.frame, ...from) } : {}), row: 0 };
  });
}

function middleOfGeometry(document: Document, id: string, { points }: SolvedSketch): readonly [number, number] | undefined {
  const at = (point: string): readonly [number, number] | undefined => (Object.hasOwn(points, point) ? points[point] : undefined);
  const line = findRecord(document, id, 'line');
  const [start, end] = [at(line?.start ?? ''), at(line?.end ?? '')];
  if (start && end) return [(start[0] + end[0]) / 2, (start[1] + end[1]) / 2];
  const round = findRecord(document, id, 'circle') ?? findRecord(document, id, 'arc');
  return at(round?.centre ?? '') ?? at(id);
}

function ownDimensions({ steps }: Regenerated, step: Step, { middleOf, lengthOf }: SolidFacts): SolidDimension[] {
  const values = slotValues(step);
  const given = slotsOf(step).flatMap(({ slot }) => (values[slot] === undefined ? [] : [{ slot, id: values[slot] }]));
  const outcome = steps.find(({ id }) => id === step.id);
  const sketch = step.type === 'extrude' ? steps.find(({ id }) => id === step.sketch)?.sketch : undefined;
  const elsewhere = middleOf(`${step.id}/`) ?? outcome?.frame?.origin;
  let row = 0;
  return given.flatMap(({ slot, id }): SolidDimension[] => {
    if (step.type === 'extrude' && sketch && (slot === 'depth' || slot === 'back')) return [depthOf(step, slot, id, sketch, lengthOf(id))];
    if (step.type === 'datum' && outcome?.frame && slot === 'offset') return [{ id, at: outcome.frame.origin, along: outcome.frame.normal, row: row++ }];
    return elsewhere ? [{ id, at: elsewhere, row: row++ }] : [];
  });
}

/** The depth of an extrusion, at its far end. */
function depthOf(step: StepOf<'extrude'>, slot: 'depth' | 'back', id: string, { frame, points }: SolvedSketch, depth: number): SolidDimension {
  const [x, y] = middleOfPoints(points);
  const way = (step.isReversed === true ? -1 : 1) * (slot === 'back' ? -1 : 1);
  const share = step.extent === 'centred' ? 0.5 : 1;
  const from = toSpace(frame, x, y, step.extent === 'centred' ? -way * share * depth : 0);
  return { id, from, at: toSpace(frame, x, y, way * share * depth), along: scaled(frame, way * share), row: 0 };
}

function scaled({ normal }: Frame, by: number): Point3 {
  return [normal[0] * by, normal[1] * by, normal[2] * by];
}

function middleOfPoints(points: SolvedSketch['points']): readonly [number, number] {
  const all = Object.values(points);
  const sum = all.reduce(([x, y], point) => [x + point[0], y + point[1]], [0, 0]);
  return all.length === 0 ? [0, 0] : [sum[0] / all.length, sum[1] / all.length];
}

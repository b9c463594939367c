/** Where the values of a step are written on the solid. Pure: the canvas draws what comes out. */
import { findRecord, findStep, listRecords, slotsOf, slotValues, sketchesOf, type Document, type Step, type StepOf } from '@/core/document';
import { readShape } from '@/core/drawing';
import { toSpace, type Frame, type Point3 } from '@/core/geometry';
import type { Regenerated, SolvedSketch } from '@/core/steps';
import type { SpaceFigure } from '../canvas3d/space-labels';
import { drawDimension } from '../design/dimension-figure';

export interface SolidDimension {
  /** The parameter. */
  readonly id: string;
  readonly at: Point3;
  /** What it is about, where a line leads there. */
  readonly from?: Point3;
  /** The lines of the dimension, in millimetres. */
  readonly figure?: SpaceFigure;
  /** In front of the value: `R`, `⌀`. */
  readonly prefix?: string;
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
  const shape = readShape(document, sketch, solved);
  const inSpace = ([x, y]: readonly [number, number]): Point3 => toSpace(solved.frame, x, y);
  return listRecords(document, `${sketch}/constraints`, 'dimension').map((dimension) => {
    const { witness, line } = drawDimension(shape, { ...dimension, at: [dimension.at[0], dimension.at[1]] });
    const figure = { witness: witness.map(([from, to]) => [inSpace(from), inSpace(to)] as const), line: line.map(inSpace) };
    const prefix = dimension.kind === 'diameter' ? '⌀ ' : dimension.kind === 'radius' ? 'R ' : undefined;
    return { id: dimension.parameter, at: inSpace([dimension.at[0], dimension.at[1]]), figure, ...(prefix === undefined ? {} : { prefix }), row: 0 };
  });
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
    const prefix = PREFIXES[`${step.type} ${slot}`];
    return elsewhere ? [{ id, at: elsewhere, from: elsewhere, ...(prefix === undefined ? {} : { prefix }), row: row++ }] : [];
  });
}

const PREFIXES: Readonly<Record<string, string>> = { 'hole diameter': '⌀ ', 'fillet radius': 'R ' };

/** How far beside its profile a depth is drawn, as a share of the size of that. */
const BESIDE = 0.12;

/** The depth of an extrusion, beside a corner of the box of its profile. */
function depthOf(step: StepOf<'extrude'>, slot: 'depth' | 'back', id: string, { frame, points }: SolvedSketch, depth: number): SolidDimension {
  const way = (step.isReversed === true ? -1 : 1) * (slot === 'back' ? -1 : 1);
  const share = step.extent === 'centred' ? 0.5 : 1;
  const [low, high] = [step.extent === 'centred' ? -way * share * depth : 0, way * share * depth];
  const { corner, beside } = besideProfile(points);
  const place = ([x, y]: readonly [number, number], height: number): Point3 => toSpace(frame, x, y, height);
  const line = [place(beside, low), place(beside, high)] as const;
  const witness = [low, high].map((height) => [place(corner, height), place(beside, height)] as const);
  return { id, at: place(beside, (low + high) / 2), figure: { witness, line }, along: scaled(frame, way * share), row: 0 };
}

function scaled({ normal }: Frame, by: number): Point3 {
  return [normal[0] * by, normal[1] * by, normal[2] * by];
}

/** The right lower point of a profile, and a place beside it. */
function besideProfile(points: SolvedSketch['points']): Readonly<Record<'corner' | 'beside', readonly [number, number]>> {
  const all = Object.values(points);
  const [first = [0, 0]] = all;
  const corner = all.reduce<readonly [number, number]>((best, point) => (point[0] - point[1] > best[0] - best[1] ? point : best), first);
  const reach = Math.max(...([0, 1] as const).map((axis) => Math.max(...all.map((point) => point[axis])) - Math.min(...all.map((point) => point[axis]))), 1);
  return { corner, beside: [corner[0] + BESIDE * reach, corner[1]] };
}

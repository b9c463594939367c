/** Where geometry that a sketch takes from elsewhere lies in its plane: edges of bodies and curves of other sketches. */
import { findStep, type Document, type Entity } from '../document';
import { toPlane, toSpace, type Frame, type Point2, type Point3 } from '../geometry';
import type { EdgeShape, KernelPort } from '../kernel-port';
import { fail, succeed, type Result } from '../kit';
import type { BodyState } from './build/context';
import type { StepProblem } from './outcome';
import { readEntities, type TakenPlaces } from './sketch-model';
import type { SketchResult } from './sketch-result';

interface Sources {
  readonly port: KernelPort;
  readonly body: (id: string) => BodyState | undefined;
  readonly sketch: (id: string) => SketchResult | undefined;
}

/** A curve in space, as much of it as matters here. */
type SpaceCurve =
  | { readonly kind: 'point'; readonly at: Point3 }
  | { readonly kind: 'line'; readonly start: Point3; readonly end: Point3; readonly sense?: 1 | -1 }
  | { readonly kind: 'round'; readonly centre: Point3; readonly normal: Point3; readonly radius: number; readonly start: Point3; readonly end: Point3 };

/** The places of everything that the sketch takes, or what of it is lost. */
export function placeTakenGeometry(document: Document, sketch: string, frame: Frame, sources: Sources): Result<TakenPlaces, StepProblem> {
  const points = new Map<string, Point2>();
  const radii = new Map<string, number>();
  const drawn = readEntities(document, sketch);
  for (const entity of drawn) {
    if (!entity.from) continue;
    const curve = 'body' in entity.from ? edgeOf(sources, entity.from) : curveOfSketch(document, sources, entity.from);
    if (!curve.ok) return fail({ ...curve.failure, about: [entity.id] });
    const problem = place(entity, curve.value, frame, drawn, points, radii);
    if (problem !== undefined) return fail({ message: problem, about: [entity.id] });
  }
  return succeed({ points, radii });
}

function edgeOf({ port, body }: Sources, from: { readonly body: string; readonly edge: string }): Result<SpaceCurve, StepProblem> {
  const state = body(from.body);
  const edge = state && port.describeEdge(state.handle, from.edge);
  if (!edge) return fail({ message: 'An edge that it takes is no longer there; take another or delete the line.', about: [], lost: from.edge });
  return toSpaceCurve(edge);
}

function toSpaceCurve(edge: EdgeShape): Result<SpaceCurve, StepProblem> {
  switch (edge.kind) {
    case 'line':
      return succeed({ kind: 'line', start: edge.start, end: edge.end, ...(edge.sense ? { sense: edge.sense } : {}) });
    case 'circle':
      return succeed({ kind: 'round', centre: edge.axis.origin, normal: edge.axis.direction, radius: edge.radius, start: edge.start, end: edge.end });
    case 'other':
      return fail({ message: 'An edge that it takes is neither straight nor round.', about: [] });
  }
}

function curveOfSketch(document: Document, { sketch }: Sources, from: { readonly sketch: string; readonly entity: string }): Result<SpaceCurve, StepProblem> {
  const result = sketch(from.sketch);
  const entity = readEntities(document, from.sketch).find(({ id }) => id === from.entity);
  const name = findStep(document, from.sketch)?.name ?? 'another sketch';
  if (!result || !entity) return fail({ message: `What it takes of ${name} is not there.`, about: [] });
  const { frame, solution } = result;
  const at = (id: string): Point3 => toSpace(frame, ...(solution.points.get(id) ?? ([0, 0] as const)));
  switch (entity.type) {
    case 'point':
      return succeed({ kind: 'point', at: at(entity.id) });
    case 'line':
      return succeed({ kind: 'line', start: at(entity.start), end: at(entity.end) });
    case 'circle':
    case 'arc': {
      const radius = solution.radii.get(entity.id) ?? 0;
      const [start, end] = entity.type === 'arc' ? [at(entity.start), at(entity.end)] : [at(entity.centre), at(entity.centre)];
      return succeed({ kind: 'round', centre: at(entity.centre), normal: frame.normal, radius, start, end });
    }
  }
}

/** Puts a taken curve into the plane of the sketch; the words for why it cannot be. */
function place(
  entity: Entity,
  curve: SpaceCurve,
  frame: Frame,
  drawn: readonly Entity[],
  points: Map<string, Point2>,
  radii: Map<string, number>,
): string | undefined {
  const kindChanged = 'What it takes from has become another kind of curve; take it again.';
  switch (entity.type) {
    case 'point':
      if (curve.kind !== 'point') return kindChanged;
      points.set(entity.id, toPlane(frame, curve.at));
      return undefined;
    case 'line': {
      if (curve.kind !== 'line') return kindChanged;
      const [start, end] = [toPlane(frame, curve.start), toPlane(frame, curve.end)];
      if (Math.hypot(end[0] - start[0], end[1] - start[1]) < 1e-6) return 'A straight edge that it takes now stands upright on the sketch.';
      const wanted = entity.from && 'body' in entity.from ? entity.from.sense : undefined;
      const isAgainst = wanted && curve.sense ? wanted !== curve.sense : runsAgainst(entity, drawn, start, end);
      const [a, b] = isAgainst ? [end, start] : [start, end];
      points.set(entity.start, a);
      points.set(entity.end, b);
      return undefined;
    }
    case 'circle':
    case 'arc': {
      if (curve.kind !== 'round') return kindChanged;
      const along = curve.normal.reduce((sum, part, i) => sum + part * (frame.normal[i] ?? 0), 0);
      if (Math.abs(along) < 1 - 1e-9) return 'A round edge that it takes is not parallel to the sketch.';
      points.set(entity.centre, toPlane(frame, curve.centre));
      radii.set(entity.id, curve.radius);
      if (entity.type === 'circle') return undefined;
      // An arc runs counter-clockwise as one looks at the sketch.
      const [start, end] = along > 0 ? [curve.start, curve.end] : [curve.end, curve.start];
      points.set(entity.start, toPlane(frame, start));
      points.set(entity.end, toPlane(frame, end));
      return undefined;
    }
  }
}

/**
 * Whether an edge runs the other way than its line was drawn: the kernel may turn it round, which must not exchange its sides. For edges whose
 * faces do not tell.
 */
function runsAgainst({ start, end }: Extract<Entity, { readonly type: 'line' }>, drawn: readonly Entity[], from: Point2, to: Point2): boolean {
  const [a, b] = [start, end].map((id) => drawn.find((entity) => entity.id === id));
  return a?.type === 'point' && b?.type === 'point' && (b.x - a.x) * (to[0] - from[0]) + (b.y - a.y) * (to[1] - from[1]) < 0;
}

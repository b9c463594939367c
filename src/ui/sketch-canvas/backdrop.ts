/** What lies behind the sketch: edges of the bodies and curves of other sketches, as seen along its normal. */
import { findRecord, listRecords, listSteps, type Document } from '@/core/document';
import type { Place, TakenFrom } from '@/core/drawing';
import { toPlane, toSpace, type Frame, type Point3 } from '@/core/geometry';
import type { BodyMesh } from '@/core/kernel-port';
import { senseInMesh, type SolvedSketch, type StepOutcome } from '@/core/steps';

export interface BackdropCurve {
  readonly from: TakenFrom;
  /** Along the curve, in the plane of the sketch. */
  readonly points: readonly Place[];
  /** That an edge is of. */
  readonly mesh?: BodyMesh;
}

/** What is taken of it: of an edge, with which way it runs. */
export function sourceOf({ from, mesh }: BackdropCurve): TakenFrom {
  const sense = mesh && 'edge' in from ? senseInMesh(mesh, from.edge) : undefined;
  return sense && 'edge' in from ? { ...from, sense } : from;
}

/** Edges as they are meshed: pairs of points. Those that stand upright on the sketch are left out. */
export function edgesBehind(body: string, mesh: BodyMesh, frame: Frame): BackdropCurve[] {
  const at = (i: number): Place => {
    const space: Point3 = [mesh.edgePoints[i * 3] ?? 0, mesh.edgePoints[i * 3 + 1] ?? 0, mesh.edgePoints[i * 3 + 2] ?? 0];
    return toPlane(frame, space);
  };
  return mesh.edges.flatMap(({ name, start, count }) => {
    const points = [at(start)];
    for (let i = start + 1; i < start + count; i += 2) points.push(at(i));
    const [first] = points;
    const extent = Math.max(...points.map(([x, y]) => Math.hypot(x - (first?.[0] ?? 0), y - (first?.[1] ?? 0))));
    return extent > 1e-6 ? [{ from: { body, edge: name }, points, mesh }] : [];
  });
}

/** Curves and lone points of the sketches that stand before this one. */
export function sketchesBehind(document: Document, sketch: string, outcomes: readonly StepOutcome[], frame: Frame): BackdropCurve[] {
  const steps = listSteps(document);
  const before = steps.slice(
    0,
    steps.findIndex(({ id }) => id === sketch),
  );
  return before.flatMap(({ id }) => {
    const solved = findRecord(document, id, 'sketch') ? outcomes.find((outcome) => outcome.id === id)?.sketch : undefined;
    return solved ? curvesOf(document, id, solved, frame) : [];
  });
}

/** How many chords a circle is shown by. */
const CHORDS = 48;

function curvesOf(document: Document, sketch: string, solved: SolvedSketch, frame: Frame): BackdropCurve[] {
  const place = (x: number, y: number): Place => toPlane(frame, toSpace(solved.frame, x, y));
  const point = (id: string): readonly [number, number] => solved.points[id] ?? [0, 0];
  const around = ([cx, cy]: readonly [number, number], radius: number, from: number, sweep: number): Place[] =>
    Array.from({ length: CHORDS + 1 }, (_, i) =>
      place(cx + radius * Math.cos(from + (sweep * i) / CHORDS), cy + radius * Math.sin(from + (sweep * i) / CHORDS)),
    );
  const list = `${sketch}/entities`;
  const lines = listRecords(document, list, 'line').map(({ id, start, end }) => ({ id, points: [place(...point(start)), place(...point(end))] }));
  const circles = listRecords(document, list, 'circle').map(({ id, centre }) => ({ id, points: around(point(centre), solved.radii[id] ?? 0, 0, 2 * Math.PI) }));
  const arcs = listRecords(document, list, 'arc').map(({ id, centre, start, end }) => {
    const angle = (to: string): number => Math.atan2(point(to)[1] - point(centre)[1], point(to)[0] - point(centre)[0]);
    const sweep = (angle(end) - angle(start) + 4 * Math.PI) % (2 * Math.PI) || 2 * Math.PI;
    return { id, points: around(point(centre), solved.radii[id] ?? 0, angle(start), sweep) };
  });
  const points = listRecords(document, list, 'point').map(({ id }) => ({ id, points: [place(...point(id))] }));
  return [...lines, ...circles, ...arcs, ...points].map(({ id, points: along }) => ({ from: { sketch, entity: id }, points: along }));
}

/** The nearest curve within reach; points come before curves that run through them. */
export function nearestBehind(curves: readonly BackdropCurve[], at: Place, reach: number): BackdropCurve | undefined {
  let best: { readonly curve: BackdropCurve; readonly distance: number } | undefined;
  for (const curve of curves) {
    const distance = distanceTo(curve.points, at) - (curve.points.length === 1 ? reach / 2 : 0);
    if (distance <= reach && distance < (best?.distance ?? Infinity)) best = { curve, distance };
  }
  return best?.curve;
}

function distanceTo(points: readonly Place[], [x, y]: Place): number {
  const [first] = points;
  if (first && points.length === 1) return Math.hypot(x - first[0], y - first[1]);
  let least = Infinity;
  for (let i = 1; i < points.length; i++) {
    const [[ax, ay], [bx, by]] = [points[i - 1] ?? [0, 0], points[i] ?? [0, 0]];
    const [dx, dy] = [bx - ax, by - ay];
    const along = Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1)));
    least = Math.min(least, Math.hypot(x - ax - along * dx, y - ay - along * dy));
  }
  return least;
}

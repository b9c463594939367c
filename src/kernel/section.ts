/** Where a plane cuts a body: the outlines of the cut, in the plane. */
import type { TopoDS_Edge } from 'replicad-opencascadejs';
import { dot, toPlane, type Curve, type Frame } from '@/core/geometry';
import { edgeShape } from './inspect';
import type { NamedBody } from './named-body';
import { withScope } from './scope';
import { edgesOf, type Oc } from './shapes';

/** Pieces that a curve which is neither straight nor round is drawn as. */
const PIECES = 48;
/** A circle is whole when it is as long as its radius says, within this share. */
const WHOLE = 1e-6;

/** Lines, arcs and circles in millimetres, in x and y of the frame; other curves as short lines. Undefined where the kernel cannot tell. */
export function section(oc: Oc, body: NamedBody, frame: Frame): readonly Curve[] | undefined {
  return withScope((scope) => {
    const point = scope.own(new oc.gp_Pnt(...frame.origin));
    const plane = scope.own(new oc.gp_Pln(point, scope.own(new oc.gp_Dir(...frame.normal))));
    const cut = scope.own(new oc.BRepAlgoAPI_Section(body.shape, plane, true));
    if (!cut.IsDone()) return undefined;
    const edges = edgesOf(oc, scope.own(cut.Shape()));
    const curves = edges.flatMap((edge, i) => curvesOf(oc, edge, frame, `e${i}`));
    for (const edge of edges) edge.delete();
    return curves;
  });
}

function curvesOf(oc: Oc, edge: TopoDS_Edge, frame: Frame, id: string): readonly Curve[] {
  const shape = edgeShape(oc, edge);
  const [start, end] = [toPlane(frame, shape.start), toPlane(frame, shape.end)];
  if (shape.kind === 'line') return [{ kind: 'line', id, start, end }];
  if (shape.kind === 'other') return sampled(oc, edge, frame, id);
  const centre = toPlane(frame, shape.axis.origin);
  const { radius } = shape;
  if (Math.abs(shape.length - 2 * Math.PI * radius) < WHOLE * radius) return [{ kind: 'circle', id, centre, radius }];
  const isForward = dot(shape.axis.direction, frame.normal) > 0;
  return [{ kind: 'arc', id, centre, radius, start: isForward ? start : end, end: isForward ? end : start }];
}

function sampled(oc: Oc, edge: TopoDS_Edge, frame: Frame, id: string): readonly Curve[] {
  return withScope((scope) => {
    const curve = scope.own(new oc.BRepAdaptor_Curve(edge));
    const [from, to] = [curve.FirstParameter(), curve.LastParameter()];
    const points = Array.from({ length: PIECES + 1 }, (_, i) => {
      const at = scope.own(curve.Value(from + ((to - from) * i) / PIECES));
      return toPlane(frame, [at.X(), at.Y(), at.Z()]);
    });
    return points.slice(1).map((end, i) => ({ kind: 'line', id: `${id}-${i}`, start: points[i] ?? end, end }));
  });
}

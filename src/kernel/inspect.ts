/** What faces, edges and corners are: planes, cylinders, lines, circles, points; and where they are nearest to one another. */
import type { BRepAdaptor_Surface, gp_Ax1, gp_Pnt, TopoDS_Edge, TopoDS_Face, TopoDS_Shape } from 'replicad-opencascadejs';
import { cross, turnSense, type Point3 } from '@/core/geometry';
import { facesIn, readEdge, sortOf, type Axis, type CornerShape, type EdgeShape, type FaceShape, type Nearest } from '@/core/kernel-port';
import { findCorner, findEdges, findFaces, type MeetingEdge } from './lookup';
import type { NamedBody } from './named-body';
import { withScope, type Scope } from './scope';
import type { Oc } from './shapes';

export function describeFace(oc: Oc, body: NamedBody, name: string): FaceShape | undefined {
  const [first, ...rest] = findFaces(oc, body, name).map((face) => faceShape(oc, face));
  // All its pieces together, where it was cut into several.
  return first && { ...first, area: rest.reduce((sum, { area }) => sum + area, first.area) };
}

export function faceShape(oc: Oc, face: TopoDS_Face): FaceShape {
  return withScope((scope) => {
    const surface = scope.own(new oc.BRepAdaptor_Surface(face, true));
    const properties = scope.own(new oc.GProp_GProps());
    oc.BRepGProp.SurfaceProperties(face, properties, false, false);
    const area = properties.Mass();
    switch (String(surface.GetType())) {
      case 'GeomAbs_Plane': {
        const plane = scope.own(surface.Plane());
        const axis = readAxis(scope, scope.own(plane.Axis()));
        // A face of the other orientation has the solid on the other side of its surface.
        const way = String(face.Orientation()) === 'TopAbs_REVERSED' ? -1 : 1;
        const handed = plane.Direct() ? 1 : -1;
        const normal = scale(axis.direction, way * handed);
        return { kind: 'plane', area, frame: frameOn(readPoint(scope.own(properties.CentreOfMass())), normal) };
      }
      case 'GeomAbs_Cylinder': {
        const cylinder = scope.own(surface.Cylinder());
        return { kind: 'round', area, axis: readAxis(scope, scope.own(cylinder.Axis())), radius: cylinder.Radius() };
      }
      case 'GeomAbs_Sphere': {
        const sphere = scope.own(surface.Sphere());
        return { kind: 'sphere', area, centre: readPoint(scope.own(sphere.Location())), radius: sphere.Radius() };
      }
      case 'GeomAbs_Cone':
      case 'GeomAbs_Torus':
        return { kind: 'revolved', area, axis: axisOfRevolution(scope, surface) };
      default:
        return { kind: 'other', area };
    }
  });
}

/** The axis of a cone or torus: that of the circle through three points at one height, a third of a turn apart. */
function axisOfRevolution(scope: Scope, surface: BRepAdaptor_Surface): Axis {
  const height = (surface.FirstVParameter() + surface.LastVParameter()) / 2;
  const [a, b, c] = [0, 1, 2].map((third) => readPoint(scope.own(surface.Value((third * 2 * Math.PI) / 3, height)))) as [Point3, Point3, Point3];
  const across = cross([b[0] - a[0], b[1] - a[1], b[2] - a[2]], [c[0] - a[0], c[1] - a[1], c[2] - a[2]]);
  return { origin: [(a[0] + b[0] + c[0]) / 3, (a[1] + b[1] + c[1]) / 3, (a[2] + b[2] + c[2]) / 3], direction: scale(across, 1 / Math.hypot(...across)) };
}

export function describeEdge(oc: Oc, body: NamedBody, name: string): EdgeShape | undefined {
  const found = findEdges(oc, body, name);
  const [first, ...rest] = found.map((entry) => senseOf(oc, name, entry, edgeShape(oc, entry.edge)));
  if (!first || rest.length === 0) return first;
  const all = [first, ...rest];
  const meets = (a: Point3, b: Point3): boolean => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]) < 1e-6;
  // Of parts that go on from one another: where the first begins and the last ends.
  const start = all.find((one) => !all.some((other) => meets(other.end, one.start))) ?? first;
  const end = all.find((one) => !all.some((other) => meets(other.start, one.end))) ?? first;
  return { ...first, start: start.start, end: end.end, length: all.reduce((sum, { length }) => sum + length, 0) };
}

export function describeCorner(oc: Oc, body: NamedBody, name: string): CornerShape | undefined {
  const found = findCorner(oc, body, name);
  return found && { kind: 'corner', point: found.at };
}

/** A straight edge between plane faces with which way it runs about them. */
function senseOf(oc: Oc, name: string, { meeting }: MeetingEdge, shape: EdgeShape): EdgeShape {
  if (shape.kind !== 'line' || meeting.length !== 2) return shape;
  const wanted = new Set(facesIn(readEdge(name)?.faces[0]?.whole ?? ''));
  const isFirst = meeting.map((face) => facesIn(face.name).some((whole) => wanted.has(whole)));
  if (isFirst[0] === isFirst[1]) return shape;
  const normals = meeting.map(({ face }) => faceShape(oc, face)).map((face) => (face.kind === 'plane' ? face.frame.normal : undefined));
  const [a, b] = isFirst[0] === true ? normals : normals.reverse();
  const along: Point3 = [shape.end[0] - shape.start[0], shape.end[1] - shape.start[1], shape.end[2] - shape.start[2]];
  const sense = a && b && turnSense(along, a, b);
  return sense ? { ...shape, sense } : shape;
}

export function edgeShape(oc: Oc, edge: TopoDS_Edge): EdgeShape {
  return withScope((scope) => {
    const curve = scope.own(new oc.BRepAdaptor_Curve(edge));
    const properties = scope.own(new oc.GProp_GProps());
    oc.BRepGProp.LinearProperties(edge, properties, false, false);
    const base = {
      length: properties.Mass(),
      start: readPoint(scope.own(curve.Value(curve.FirstParameter()))),
      end: readPoint(scope.own(curve.Value(curve.LastParameter()))),
    };
    switch (String(curve.GetType())) {
      case 'GeomAbs_Line':
        return { ...base, kind: 'line' };
      case 'GeomAbs_Circle': {
        const circle = scope.own(curve.Circle());
        return { ...base, kind: 'circle', axis: readAxis(scope, scope.own(circle.Axis())), radius: circle.Radius() };
      }
      default:
        return { ...base, kind: 'other' };
    }
  });
}

interface Place {
  readonly body: NamedBody;
  readonly name: string | undefined;
}

/** Where two bodies, or faces or edges of them, are nearest; undefined when one is not there. */
export function findNearest(oc: Oc, first: Place, second: Place): Nearest | undefined {
  const [a, b] = [findShape(oc, first), findShape(oc, second)];
  if (!a || !b) return undefined;
  return withScope((scope) => {
    const extrema = scope.own(new oc.BRepExtrema_DistShapeShape());
    extrema.LoadS1(a);
    extrema.LoadS2(b);
    extrema.Perform(scope.own(new oc.Message_ProgressRange()));
    if (!extrema.IsDone() || extrema.NbSolution() === 0) return undefined;
    const [from, to] = [readPoint(scope.own(extrema.PointOnShape1(1))), readPoint(scope.own(extrema.PointOnShape2(1)))];
    return { distance: extrema.Value(), from, to };
  });
}

function findShape(oc: Oc, { body, name }: Place): TopoDS_Shape | undefined {
  if (name === undefined) return body.shape;
  switch (sortOf(name)) {
    case 'edge':
      return findEdges(oc, body, name)[0]?.edge;
    case 'corner':
      return findCorner(oc, body, name)?.vertex;
    case 'face':
      return findFaces(oc, body, name)[0];
  }
}

function readPoint(point: gp_Pnt): Point3 {
  return [point.X(), point.Y(), point.Z()];
}

function readAxis(scope: Scope, axis: gp_Ax1): Axis {
  const [at, along] = [scope.own(axis.Location()), scope.own(axis.Direction())];
  return { origin: readPoint(at), direction: [along.X(), along.Y(), along.Z()] };
}

function scale([x, y, z]: Point3, by: number): Point3 {
  return [x * by, y * by, z * by];
}

/**
 * A frame of a plane face: its normal points out of the body, its x runs level, or along x where the face
 * itself is level, so that a sketch on it stands the way one looks at it.
 */
function frameOn(origin: Point3, normal: Point3) {
  const isLevel = Math.abs(normal[2]) > 1 - 1e-9;
  const x: Point3 = isLevel ? [1, 0, 0] : unit([-normal[1], normal[0], 0]);
  const y: Point3 = [normal[1] * x[2] - normal[2] * x[1], normal[2] * x[0] - normal[0] * x[2], normal[0] * x[1] - normal[1] * x[0]];
  const height = origin[0] * normal[0] + origin[1] * normal[1] + origin[2] * normal[2];
  // The origin of the document laid onto the plane: it does not move when the face only grows.
  return { origin: scale(normal, height), x, y, normal };
}

function unit([x, y, z]: Point3): Point3 {
  const length = Math.hypot(x, y, z);
  return [x / length, y / length, z / length];
}

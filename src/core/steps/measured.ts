/** Reading measured values off sketches and bodies, in internal units. */
import {
  findRecord,
  isOfAssembly,
  listRecords,
  partOfDistance,
  type Document,
  type DocumentValues,
  type MeasuredValue,
  type StepMeasure,
  type Parameter,
} from '../document';
import { distanceOfLines, measureSection, type Profile, type SectionProperties } from '../geometry';
import type { Axis, BodyProperties, KernelPort, GeometryShape } from '../kernel-port';
import { describeNamed } from './describe-named';
import type { BodyState } from './build/context';
import { massOf } from './materials';
import type { SketchResult } from './sketch-result';
import { KILOGRAM, MILLIMETRE, RADIAN } from '../units';

export function measuredOn(document: Document, step: string): (Parameter & { readonly measure: StepMeasure })[] {
  return listRecords(document, `${step}/values`, 'parameter').flatMap((parameter) =>
    parameter.measure && parameter.measure.of !== 'outside' && !isOfAssembly(parameter.measure) ? [{ ...parameter, measure: parameter.measure }] : [],
  );
}

/** What the reference dimensions and region measures of a sketch read; the same problem for all when it is not solved. */
export function measureSketch(document: Document, sketch: string, result: SketchResult | undefined, problem: string): Record<string, MeasuredValue> {
  const found: Record<string, MeasuredValue> = {};
  for (const { id, kind, parameter, isReference } of listRecords(document, `${sketch}/constraints`, 'dimension')) {
    if (isReference !== true) continue;
    const value = result?.solution.measured.get(id);
    found[parameter] = value === undefined ? { problem } : { value: kind === 'angle' ? value * RADIAN : value * MILLIMETRE };
  }
  for (const { id, measure } of measuredOn(document, sketch)) {
    if (measure.of !== 'region') continue;
    found[id] = result ? measureRegion(result, measure) : { problem };
  }
  return found;
}

function measureRegion({ profiles, profileProblem }: SketchResult, { what, curve }: Extract<StepMeasure, { readonly of: 'region' }>): MeasuredValue {
  if (profileProblem) return { problem: profileProblem.message };
  const wanted = curve === undefined ? profiles : profiles.filter((profile) => bounds(profile, curve));
  if (wanted.length === 0) return { problem: 'The region that was measured is no longer there.' };
  return { value: readSection(measureSection(wanted), what) };
}

function bounds({ outer }: Profile, id: string): boolean {
  return outer.curves.some(({ curve }) => curve.id === id);
}

function readSection(section: SectionProperties, what: Extract<StepMeasure, { readonly of: 'region' }>['what']): number {
  switch (what) {
    case 'area':
      return section.area * MILLIMETRE ** 2;
    case 'perimeter':
      return section.perimeter * MILLIMETRE;
    case 'centroid-x':
      return section.centroid[0] * MILLIMETRE;
    case 'centroid-y':
      return section.centroid[1] * MILLIMETRE;
    case 'second-moment-x':
      return section.secondMomentX * MILLIMETRE ** 4;
    case 'second-moment-y':
      return section.secondMomentY * MILLIMETRE ** 4;
    case 'product-moment':
      return section.productMoment * MILLIMETRE ** 4;
  }
}

export interface BodyReader {
  readonly document: Document;
  readonly values: DocumentValues;
  readonly port: KernelPort;
  readonly state: (body: string) => BodyState | undefined;
}

/** A measured value of a body as it is now. */
export function measureBody(reader: BodyReader, measure: Exclude<StepMeasure, { readonly of: 'region' }>): MeasuredValue {
  const body = findRecord(reader.document, measure.body, 'body');
  const state = reader.state(measure.body);
  if (!body || !state) return { problem: `Waiting on ${body?.name ?? 'a body'}.` };
  if (measure.of === 'geometry') return measureGeometry(reader.port, state, measure);
  const properties = reader.port.measure(state.handle);
  const mass = massOf(reader.values, body, properties.volume);
  if ('problem' in mass && (measure.what === 'mass' || measure.what.startsWith('inertia'))) return mass;
  return { value: readProperty(properties, 'kilograms' in mass ? mass.kilograms : 0, measure.what) };
}

function readProperty(properties: BodyProperties, mass: number, what: Extract<StepMeasure, { readonly of: 'body' }>['what']): number {
  const { box, centre, inertia, volume } = properties;
  const axis = what.endsWith('-x') ? 0 : what.endsWith('-y') ? 1 : 2;
  switch (what) {
    case 'volume':
      return volume * MILLIMETRE ** 3;
    case 'area':
      return properties.area * MILLIMETRE ** 2;
    case 'mass':
      return mass * KILOGRAM;
    case 'centre-x':
    case 'centre-y':
    case 'centre-z':
      return centre[axis] * MILLIMETRE;
    case 'size-x':
    case 'size-y':
    case 'size-z':
      return (box.max[axis] - box.min[axis]) * MILLIMETRE;
    case 'inertia-x':
    case 'inertia-y':
    case 'inertia-z':
      return ((inertia[axis] * mass) / volume) * KILOGRAM * MILLIMETRE ** 2;
  }
}

function measureGeometry(port: KernelPort, { handle }: BodyState, { what, on }: Extract<StepMeasure, { readonly of: 'geometry' }>): MeasuredValue {
  const [first = '', second] = on;
  const shapes = on.map((name) => describeNamed(port, handle, name));
  const [a, b] = shapes;
  if (!a || (second !== undefined && !b)) return { problem: 'What was measured is no longer there; pick it again.' };
  switch (what) {
    case 'length':
      return 'length' in a ? { value: a.length * MILLIMETRE } : { problem: 'Only an edge has a length.' };
    case 'area':
      return 'area' in a ? { value: a.area * MILLIMETRE ** 2 } : { problem: 'Only a face has an area.' };
    case 'radius':
      return 'radius' in a ? { value: a.radius * MILLIMETRE } : { problem: 'It is not round.' };
    case 'distance':
    case 'distance-x':
    case 'distance-y':
    case 'distance-z': {
      const found = second === undefined ? undefined : port.nearest({ body: handle, name: first }, { body: handle, name: second });
      if (!found) return { problem: 'A distance needs two faces, edges or corners.' };
      const { distance, from, to } = found;
      return { value: partOfDistance(what, distance, [to[0] - from[0], to[1] - from[1], to[2] - from[2]]) * MILLIMETRE };
    }
    case 'axis-distance': {
      const [p, q] = [axisOf(a), b && axisOf(b)];
      return p && q ? { value: distanceOfLines(p, q) * MILLIMETRE } : { problem: 'Only round faces and edges have an axis.' };
    }
    case 'angle': {
      const [p, q] = [directionOf(a), b && directionOf(b)];
      if (!p || !q) return { problem: 'An angle needs two plane faces, straight edges or axes.' };
      const cosine = Math.abs(p[0] * q[0] + p[1] * q[1] + p[2] * q[2]);
      return { value: Math.acos(Math.min(1, cosine)) * RADIAN };
    }
  }
}

function axisOf(shape: GeometryShape): Axis | undefined {
  return shape.kind === 'round' || shape.kind === 'revolved' || shape.kind === 'circle' ? shape.axis : undefined;
}

function directionOf(shape: GeometryShape): readonly [number, number, number] | undefined {
  switch (shape.kind) {
    case 'plane':
      return shape.frame.normal;
    case 'round':
    case 'revolved':
    case 'circle':
      return shape.axis.direction;
    case 'line': {
      const [dx, dy, dz] = [shape.end[0] - shape.start[0], shape.end[1] - shape.start[1], shape.end[2] - shape.start[2]];
      const length = Math.hypot(dx, dy, dz);
      return [dx / length, dy / length, dz / length];
    }
    case 'sphere':
    case 'corner':
    case 'other':
      return undefined;
  }
}

/** Values that are read off an assembly as it stands, in internal units; which of them only the kernel can tell. */
import { listRecords, type AssemblyMeasure, type DocumentValues, type MeasuredValue, type PlacedGeometry, plainId } from '../document';
import { distanceOfLines, dot, type Point3 } from '../geometry';
import { Instances, relativeTo, rotate, toOutside, type InstanceKey } from '../instances';
import type { GeometryShape, Movement } from '../kernel-port';
import { boxAt, type Box } from './close-pairs';
import { placeText, type Interference } from './interference';
import { readGeometry } from './mate-geometry';
import { movementsOf } from './movements';
import { directionOf } from './mate-equations';
import type { PlacedSolid } from './solids';
import { KILOGRAM, MILLIMETRE, RADIAN } from '../units';

/** An assembly, the outermost or one that stands in it, with values that are measured on it. */
export interface MeasuredAssembly {
  readonly key: InstanceKey;
  readonly values: DocumentValues;
}

/** Each assembly once for each set of values that it has, the innermost first. */
export function listMeasured(values: DocumentValues, key: InstanceKey = ''): MeasuredAssembly[] {
  const found = new Map<InstanceKey, DocumentValues>();
  const visit = (inside: DocumentValues, at: InstanceKey): void => {
    const { components, document } = inside;
    if (!(components instanceof Instances) || found.has(at)) return;
    for (const component of listRecords(document, 'components', 'component')) {
      const instance = component.at === undefined ? undefined : components.find(component.id);
      if (instance?.values?.document.kind === 'assembly') visit(instance.values, instance.key);
    }
    if (measuresOf(document).length > 0) found.set(at, inside);
  };
  visit(values, key);
  return [...found].map(([at, inside]) => ({ key: at, values: inside }));
}

/** Something to be measured, under an id. */
export interface OneMeasure {
  readonly id: string;
  readonly measure: AssemblyMeasure;
}

export function measuresOf(document: DocumentValues['document']): OneMeasure[] {
  return listRecords(document, 'parameters', 'parameter').flatMap(({ id, measure }) =>
    measure?.of === 'assembly' || measure?.of === 'components' ? [{ id, measure }] : [],
  );
}

/** Two bodies of which the kernel is to tell how far they are apart, and how far they are at least. */
export interface ClearancePair {
  /** By what the two are and how they stand to one another. */
  readonly key: string;
  readonly first: PlacedSolid;
  readonly second: PlacedSolid;
  readonly names: readonly [string | undefined, string | undefined];
  readonly movements: readonly Movement[];
  readonly least: number;
}

/** Pairs of a clearance, the nearest by their boxes first; the problem where there is nothing to measure. */
export function clearancePairs(
  solids: readonly PlacedSolid[],
  on: readonly [PlacedGeometry, PlacedGeometry],
): readonly ClearancePair[] | { readonly problem: string } {
  const [firsts, seconds] = [solidsOf(solids, on[0]), solidsOf(solids, on[1])];
  if (firsts.length === 0 || seconds.length === 0) return NOT_THERE;
  return firsts
    .flatMap((first) =>
      seconds.flatMap((second): ClearancePair[] => {
        if (first === second && on[0].name === on[1].name) return [];
        const relative = relativeTo(first.at, second.at);
        const names = [on[0].name, on[1].name] as const;
        const key = `${first.key} ${names[0] ?? ''} ${second.key} ${names[1] ?? ''} ${placeText(relative)}`;
        return [{ key, first, second, names, movements: movementsOf(relative), least: boxDistance(boxAt(first.box, first.at), boxAt(second.box, second.at)) }];
      }),
    )
    .sort((a, b) => a.least - b.least);
}

const NOT_THERE = { problem: 'What was measured is not there now: it is suppressed, removed or not built.' } as const;

function solidsOf(solids: readonly PlacedSolid[], { path, body }: PlacedGeometry): PlacedSolid[] {
  return solids.filter(
    (solid) => path.every((id, i) => plainId(solid.path[i] ?? '') === id) && (body === undefined || (solid.body === body && solid.path.length === path.length)),
  );
}

function boxDistance(a: Box, b: Box): number {
  return Math.hypot(...([0, 1, 2] as const).map((i) => Math.max(0, a.min[i] - b.max[i], b.min[i] - a.max[i])));
}

/** What is known without the kernel: everything but clearances, sizes and interference. `shapes` tells faces and edges. */
export function measureStill(
  { what, of, ...rest }: AssemblyMeasure,
  solids: readonly PlacedSolid[],
  shapes: (solid: PlacedSolid, name: string) => GeometryShape | 'lost' | undefined,
): MeasuredValue | undefined {
  if (of === 'components') {
    if (!('on' in rest)) return undefined;
    return what === 'angle' ? measureAngle(rest.on, solids, shapes) : what === 'axis-distance' ? measureAxes(rest.on, solids, shapes) : undefined;
  }
  switch (what) {
    case 'volume':
      return { value: solids.reduce((sum, { properties }) => sum + properties.volume, 0) * MILLIMETRE ** 3 };
    case 'mass':
    case 'centre-x':
    case 'centre-y':
    case 'centre-z':
      return measureMass(what, solids);
    default:
      return undefined;
  }
}

/** How far boxes reach along an axis together: `size-x`. */
export function measureSize(what: 'size-x' | 'size-y' | 'size-z', boxes: readonly Box[]): MeasuredValue {
  if (boxes.length === 0) return NOT_THERE;
  const axis = axisOf(what);
  return { value: (Math.max(...boxes.map(({ max }) => max[axis])) - Math.min(...boxes.map(({ min }) => min[axis]))) * MILLIMETRE };
}

function axisOf(what: string): 0 | 1 | 2 {
  return what.endsWith('-x') ? 0 : what.endsWith('-y') ? 1 : 2;
}

/** Centres by the masses of the bodies: the parallel-axis sums of any text on statics. */
function measureMass(what: 'mass' | 'centre-x' | 'centre-y' | 'centre-z', solids: readonly PlacedSolid[]): MeasuredValue {
  const weightless = solids.find(({ mass }) => mass === undefined);
  if (weightless) return { problem: weightless.massProblem ?? `${weightless.part.name} has no mass.` };
  const mass = solids.reduce((sum, one) => sum + (one.mass ?? 0), 0);
  if (what === 'mass') return { value: mass * KILOGRAM };
  if (mass === 0) return NOT_THERE;
  const axis = axisOf(what);
  return { value: (solids.reduce((sum, one) => sum + (one.mass ?? 0) * toOutside(one.at, one.properties.centre)[axis], 0) / mass) * MILLIMETRE };
}

function measureAngle(
  on: readonly [PlacedGeometry, PlacedGeometry],
  solids: readonly PlacedSolid[],
  shapes: (solid: PlacedSolid, name: string) => GeometryShape | 'lost' | undefined,
): MeasuredValue | undefined {
  const directions: Point3[] = [];
  for (const place of on) {
    const [solid] = solidsOf(solids, place);
    if (!solid || place.name === undefined) return NOT_THERE;
    const shape = shapes(solid, place.name);
    if (shape === undefined) return undefined;
    const direction = shape === 'lost' ? undefined : directionOf(readGeometry(shape) ?? { kind: 'point', point: [0, 0, 0] });
    if (!direction) return { problem: 'An angle needs two plane faces, straight edges or axes.' };
    directions.push(rotate(solid.at.turn, direction));
  }
  const [a, b] = directions;
  return a && b ? { value: Math.acos(Math.min(1, Math.abs(dot(a, b)))) * RADIAN } : NOT_THERE;
}

/** Between the axes of two round faces or edges, as straight lines without ends. */
function measureAxes(
  on: readonly [PlacedGeometry, PlacedGeometry],
  solids: readonly PlacedSolid[],
  shapes: (solid: PlacedSolid, name: string) => GeometryShape | 'lost' | undefined,
): MeasuredValue | undefined {
  const axes: { readonly origin: Point3; readonly direction: Point3 }[] = [];
  for (const place of on) {
    const [solid] = solidsOf(solids, place);
    if (!solid || place.name === undefined) return NOT_THERE;
    const shape = shapes(solid, place.name);
    if (shape === undefined) return undefined;
    if (shape === 'lost' || !('axis' in shape)) return { problem: 'Only round faces and edges have an axis.' };
    axes.push({ origin: toOutside(solid.at, shape.axis.origin), direction: rotate(solid.at.turn, shape.axis.direction) });
  }
  const [a, b] = axes;
  return a && b ? { value: distanceOfLines(a, b) * MILLIMETRE } : NOT_THERE;
}

/** All that stands in one another together, but for what is meant so; the problem where a pair could not be judged. */
export function measureInterference(found: readonly Interference[], isMeant: (one: Interference) => boolean): MeasuredValue {
  const open = found.filter((one) => !isMeant(one));
  if (open.some(({ volume }) => volume === undefined)) return { problem: 'Two parts could not be judged.' };
  return { value: open.reduce((sum, { volume = 0 }) => sum + volume, 0) * MILLIMETRE ** 3 };
}

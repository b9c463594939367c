/**
 * How fast what is read between two bodies moves when the value of a mate does, by the implicit function theorem.
 *
 * Where everything stands, r(x, v) = 0 for all equations r of mates with values v, and J = ∂r/∂x by the small shifts and turns of the bodies. A reading m(x) moves by
 * ∇m·dx where J dx = -∂r/∂v dv. Where ∇m = Jᵀλ it moves by -λ·∂r/∂v dv, however what is free moves; λ is the same for all mates. Equations that follow from
 * those before them are left out: they are the ones to give way.
 */
import { findRecord, mateSlots, type AssemblyMeasure, type DocumentValues } from '../document';
import { dot } from '../geometry';
import { rotate, STANDING, type Stance } from '../instances';
import { analyseRowSpace, combinationOf } from '../numeric';
import { valueOf, type Equation, type Term } from './equations';
import { rowsOf } from './freedom';
import { gather, gatherSide, type ShapeSource } from './gather';
import { RigidPlacements, type AssemblyPlacement } from './place';
import { bodiesOf, directionOf, equationsOf } from './mate-equations';
import { NONE_YIELDING, type Mate, type MatedBody, type MateSide } from './model';
import { columnsOf, type Group } from './settle';
import { sizeOf } from './solve';
import { MILLIMETRE, RADIAN } from '../units';

/** How far two parallel axes are apart, in millimetres; or the angle of two directions, in radians. */
export interface PairReading {
  readonly what: 'axis-distance' | 'angle';
  readonly first: MateSide;
  readonly second: MateSide;
}

/** A value is moved by so much to both sides: what an equation asks for is nearly straight in it. */
const HAIR = 1e-5;
/** Directions within this are parallel: their angle has no slope, their distance has one. */
const PARALLEL = 1e-9;

/**
 * By the ids of mates: millimetres or radians of the reading for one of the value. Undefined where it has no slopes: where what is free moves it, or it has none
 * as it stands. `bodies` stand where their mates hold.
 */
export function readingSlopesByMates(bodies: readonly MatedBody[], mates: readonly Mate[], reading: PairReading): ReadonlyMap<string, number> | undefined {
  const index = new Map(bodies.map(({ id }, i) => [id, i]));
  const stances = bodies.map(({ at }) => at);
  const held = bodies.map(({ isHeld }) => isHeld);
  const group: Group = { bodies: bodies.map((_, i) => i), held, stances, size: sizeOf(bodies, mates) };
  const read = equationOfReading(reading, index, stances);
  if (!read) return undefined;
  const joined = mates.flatMap((mate) => {
    const placed = bodiesOf(mate, index);
    const found = placed && equationsOf(mate, placed);
    return found ? [{ mate, placed, found }] : [];
  });
  const equations = joined.flatMap(({ found }) => found.equations);
  const all = rowsOf(equations, group);
  const count = 6 * columnsOf(group).size;
  const dependent = new Set(analyseRowSpace(all, count).dependentRows);
  const gradient = new Float64Array(count);
  const [own = []] = rowsOf([read.equation], group);
  for (let p = 0; p < own.length; p += 2) gradient[own[p] ?? 0] = own[p + 1] ?? 0;
  const independent = all.filter((_, i) => !dependent.has(i));
  const factors = combinationOf(independent, gradient);
  if (!factors) return undefined;
  let row = 0;
  let kept = 0;
  return new Map(
    joined.map(({ mate, placed, found }) => {
      const [up, down] = [HAIR, -HAIR].map((by) => equationsOf({ ...mate, value: mate.value + by }, placed)?.equations ?? []);
      let slope = 0;
      found.equations.forEach((_, i) => {
        const factor = dependent.has(row++) ? 0 : (factors[kept++] ?? 0);
        const at = (moved: readonly Equation[] | undefined): number => (moved?.[i] ? valueOf(moved[i], stances, group.size) : NaN);
        if (factor !== 0) slope -= (factor * (at(up) - at(down))) / (2 * HAIR);
      });
      return [mate.id, slope * read.scale * (read.equation.isLength ? group.size : 1)] as const;
    }),
  );
}

/** The reading as an equation, and how much it moves when that does by one. */
function equationOfReading({ what, first, second }: PairReading, index: ReadonlyMap<string, number>, stances: readonly Stance[]) {
  const [a, b] = [index.get(first.body), index.get(second.body)];
  const [u, v] = [directionOf(first.geometry), directionOf(second.geometry)];
  if (a === undefined || b === undefined || !u || !v) return undefined;
  const cosine = dot(rotate((stances[a] ?? STANDING).turn, u), rotate((stances[b] ?? STANDING).turn, v));
  const isParallel = Math.abs(cosine) > 1 - PARALLEL;
  const pair = { first: a, second: b };
  if (what === 'angle') {
    if (isParallel) return undefined;
    // Of acos |c|.
    return { equation: equationOf({ ...pair, kind: 'turn', u, v }, false), scale: -Math.sign(cosine) / Math.sqrt(1 - cosine * cosine) };
  }
  if (!isParallel || first.geometry.kind !== 'line' || second.geometry.kind !== 'line') return undefined;
  const gap = equationOf({ ...pair, kind: 'gap', u, p: first.geometry.point, r: second.geometry.point }, true);
  // Where they are one, every way apart is as good.
  return valueOf(gap, stances, 1) < 1e-6 ? undefined : { equation: gap, scale: 1 };
}

function equationOf(term: Term, isLength: boolean): Equation {
  return { mate: '', terms: [term], d: 0, isLength };
}

/**
 * The same for a value that is measured on an assembly, by the values of its own mates, in internal units. Undefined for what the kernel measures.
 */
export function slopesOfMeasure(
  values: DocumentValues,
  shapes: ShapeSource,
  measure: AssemblyMeasure,
  { stances, turned }: Pick<AssemblyPlacement, 'stances' | 'turned'>,
): ReadonlyMap<string, number> | undefined {
  if (measure.of !== 'components' || (measure.what !== 'axis-distance' && measure.what !== 'angle')) return undefined;
  const options = { rigid: new RigidPlacements(shapes).stances, startAt: { stances, turned }, yielding: NONE_YIELDING.own };
  const [first, second] = measure.on.map(({ path, body, name }) =>
    body === undefined || name === undefined ? undefined : gatherSide(values, shapes, options, { path, body, name }),
  );
  if (!first || !second) return undefined;
  const { bodies, mates } = gather(values, shapes, options);
  const slopes = readingSlopesByMates(bodies, mates, { what: measure.what, first, second });
  const reading = measure.what === 'angle' ? RADIAN : MILLIMETRE;
  return (
    slopes &&
    new Map(
      [...slopes].flatMap(([id, slope]) => {
        const record = findRecord(values.document, id, 'mate');
        const [slot] = record ? mateSlots(record) : [];
        const value = slot && record?.values[slot.slot];
        if (value === undefined || !slot) return [];
        const own = slot.kind === 'angle' ? RADIAN : slot.kind === 'length' ? MILLIMETRE : 1;
        return [[value, (slope * reading) / own] as const];
      }),
    )
  );
}

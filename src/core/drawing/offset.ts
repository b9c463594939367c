/**
 * Curves drawn beside others at a distance. A chain keeps its corners and its smooth joints; what holds the copy to
 * its original is no more than is needed, and one value drives it all.
 */
import { findAny, takenNames, type Entity, type Parameter, type SketchConstraint, type SketchDimension } from '../document';
import { automaticName } from '../formula';
import { intersectCurves, type Curve } from '../geometry';
import { solveSketch, type SketchEntity } from '../sketch';
import { change, refuseChange, type ChangeContext, type ChangeResult } from './change';
import { distance, turn } from './circles';
import { shapeToStore, type DrawnShape, type Place } from './drawn-shape';
import type { NamedFormula } from './dimension-plan';
import { FigureMaker, type Figure } from './figure';
import { freeName } from './free-name';

/** What is offset: the dimensions that hold it are all given by the first. */
export interface OffsetWish {
  readonly ids: readonly string[];
  /** A place on the side where the copy goes. */
  readonly towards: Place;
  /** How far, in millimetres, where the solve starts. */
  readonly distance: number;
  readonly value: NamedFormula;
}

type Line = Extract<Entity, { readonly type: 'line' }>;
type Arc = Extract<Entity, { readonly type: 'arc' }>;
type Circle = Extract<Entity, { readonly type: 'circle' }>;
type Side = 1 | -1;

export function offsetCurves(context: ChangeContext, wish: OffsetWish): ChangeResult {
  const { shape, sketch } = context;
  const chosen = shape.entities.filter((entity) => wish.ids.includes(entity.id));
  const chain = chosen.filter((entity) => entity.type === 'line' || entity.type === 'arc');
  const circles = chosen.filter((entity) => entity.type === 'circle');
  if (!(wish.distance > 0)) return refuseChange('The distance must be more than 0.');
  if (chain.length + circles.length === 0) return refuseChange('Offset takes lines, arcs and circles.');
  const maker = new OffsetMaker(context, wish);
  for (const circle of circles) if (!maker.circle(circle)) return refuseChange('The circle is too small for that distance.');
  if (!maker.chain(chain)) return refuseChange('An arc is too small for that distance.');
  const { figure, dimensions, values } = maker.finish();
  return change(() => [
    {
      type: 'sketch.draw',
      sketch,
      entities: [...figure.entities],
      constraints: [...figure.constraints],
      dimensions: [...dimensions],
      values: [...values],
      shape: shapeToStore(shape),
    },
  ]);
}

/** Makes the copies and collects what could hold them, most wanted first. */
class OffsetMaker {
  private readonly maker: FigureMaker;
  private readonly measures: { readonly kind: SketchDimension['kind']; readonly on: readonly string[]; readonly at: Place }[] = [];
  private readonly relations: SketchConstraint[] = [];

  constructor(
    private readonly context: ChangeContext,
    private readonly wish: OffsetWish,
  ) {
    this.maker = new FigureMaker(context.sketch, context.newId);
  }

  circle(circle: Circle): boolean {
    const { shape } = this.context;
    const centre = shape.point(circle.centre);
    const own = shape.radius(circle.id);
    const radius = own + (distance(this.wish.towards, centre) > own ? this.wish.distance : -this.wish.distance);
    if (radius <= 0) return false;
    this.measureRims(circle, this.maker.circle(circle.centre, radius), radius);
    return true;
  }

  chain(curves: readonly (Line | Arc)[]): boolean {
    const { shape } = this.context;
    const sides = chainSides(shape, curves, this.wish.towards);
    const sideOf = (curve: Line | Arc): Side => sides.get(curve.id) ?? 1;
    if (curves.some((curve) => curve.type === 'arc' && shape.radius(curve.id) - sideOf(curve) * this.wish.distance <= 1e-9)) return false;
    const corners = new Map<string, string>();
    const cornerOf = (id: string): string => {
      const known = corners.get(id);
      if (known !== undefined) return known;
      const made = this.maker.pointAt(offsetCorner(shape, curves, id, sideOf, this.wish.distance));
      corners.set(id, made);
      return made;
    };
    const copies = new Map<string, string>();
    for (const curve of curves) {
      const [a, b] = [cornerOf(curve.start), cornerOf(curve.end)];
      if (curve.type === 'arc') {
        copies.set(curve.id, this.maker.arc(curve.centre, a, b));
        continue;
      }
      copies.set(curve.id, this.maker.line(a, b));
      const [p, q] = [shape.point(curve.start), shape.point(curve.end)];
      this.measures.push({ kind: 'length', on: [a, curve.id], at: [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2] });
    }
    this.relateJoints(curves, copies);
    for (const curve of curves) {
      const copy = copies.get(curve.id) ?? '';
      if (curve.type === 'line') this.relate('parallel', curve.id, copy);
      else this.measureRims(curve, copy, shape.radius(curve.id) - sideOf(curve) * this.wish.distance);
    }
    // An open end of an arc stays on the ray through the end of its original.
    for (const curve of curves) {
      if (curve.type !== 'arc') continue;
      for (const end of [curve.start, curve.end]) {
        if (curves.some((other) => other !== curve && (other.start === end || other.end === end))) continue;
        this.relate('coincident', end, this.maker.line(curve.centre, cornerOf(end), true));
      }
    }
    return true;
  }

  finish(): { readonly figure: Figure; readonly dimensions: readonly SketchDimension[]; readonly values: readonly Parameter[] } {
    const { context, wish } = this;
    const owner = findAny(context.document, context.sketch);
    const base = wish.value.name ?? automaticName(owner && 'name' in owner ? owner.name : 'sketch', takenNames(context.document));
    const dimensions: SketchDimension[] = [];
    const values: Parameter[] = [];
    const candidates = this.measures.map(({ kind, on, at }, i): { readonly dimension: SketchDimension; readonly value: Parameter } => {
      const id = context.newId();
      const isFirst = i === 0;
      return {
        dimension: { type: 'dimension', id: context.newId(), sketch: context.sketch, kind, on: [...on], parameter: id, at: [at[0], at[1]] },
        value: { type: 'parameter', id, owner: context.sketch, name: base, formula: { text: isFirst ? wish.value.formula : base }, kind: 'length' },
      };
    });
    const figure = this.maker.finish();
    const kept = this.chooseNeeded(
      figure,
      candidates.map(({ dimension }) => dimension),
    );
    for (const { dimension, value } of candidates) {
      if (!kept.has(dimension.id)) continue;
      dimensions.push(dimension);
      values.push(values.length === 0 ? value : { ...value, name: freeName(context, `${base}_${values.length + 1}`, values) });
    }
    return { figure: { ...figure, constraints: [...figure.constraints, ...this.relations.filter(({ id }) => kept.has(id))] }, dimensions, values };
  }

  /** Those that take freedom away, tried in the order of how much they are wanted, with the originals where they are. */
  private chooseNeeded(figure: Figure, dimensions: readonly SketchDimension[]): ReadonlySet<string> {
    const { shape } = this.context;
    const originals = shape.entities.map((entity): SketchEntity => {
      if (entity.type === 'point') {
        const [x, y] = shape.point(entity.id);
        return { ...entity, x, y };
      }
      return entity.type === 'circle' ? { ...entity, radius: shape.radius(entity.id) } : entity;
    });
    const fixed = originals.flatMap(({ id, type }) => (type === 'line' || type === 'arc' ? [] : [{ id: `fixed ${id}`, kind: 'fixed' as const, on: [id] }]));
    const base = { entities: [...originals, ...figure.entities], constraints: [...fixed, ...figure.constraints], dimensions: [] };
    const measured = dimensions.map(({ id, kind, on }) => ({ id, kind, on, value: this.wish.distance, isReference: false }));
    const [first, ...others] = measured;
    const kept = new Set<string>();
    const solve = () =>
      solveSketch({
        ...base,
        constraints: [...base.constraints, ...this.relations.filter(({ id }) => kept.has(id))],
        dimensions: measured.filter(({ id }) => kept.has(id)),
      });
    let { degreesOfFreedom } = solve();
    const tangents = this.relations.filter(({ kind }) => kind !== 'parallel');
    const parallels = this.relations.filter(({ kind }) => kind === 'parallel');
    for (const { id } of [...tangents, ...(first ? [first] : []), ...parallels, ...others]) {
      kept.add(id);
      const tried = solve();
      if (tried.status === 'solved' && tried.degreesOfFreedom < degreesOfFreedom) degreesOfFreedom = tried.degreesOfFreedom;
      else kept.delete(id);
    }
    return kept;
  }

  /** Copies run on smoothly where their originals do. */
  private relateJoints(curves: readonly (Line | Arc)[], copies: ReadonlyMap<string, string>): void {
    const { shape } = this.context;
    curves.forEach((a, i) => {
      for (const b of curves.slice(i + 1)) {
        if (a.type === 'line' && b.type === 'line') continue;
        const shared = [a.start, a.end].find((end) => end === b.start || end === b.end);
        if (shared === undefined) continue;
        const [n, m] = [leftNormal(shape, a, shared), leftNormal(shape, b, shared)];
        if (Math.abs(n[0] * m[1] - n[1] * m[0]) < SMOOTH) this.relate('tangent', copies.get(a.id) ?? '', copies.get(b.id) ?? '');
      }
    });
  }

  /** Construction points on both rims, level with the centre, carry the distance. */
  private measureRims(original: Circle | Arc, copy: string, radius: number): void {
    const { shape } = this.context;
    const [x, y] = shape.point(original.centre);
    const [inner, outer] = [this.maker.pointAt([x + shape.radius(original.id), y]), this.maker.pointAt([x + radius, y])];
    this.maker.relate('coincident', inner, original.id);
    this.maker.relate('coincident', outer, copy);
    this.maker.relate('horizontal', original.centre, inner);
    this.maker.relate('horizontal', original.centre, outer);
    this.measures.push({ kind: 'horizontal', on: [inner, outer], at: [x + radius + this.wish.distance, y + this.wish.distance] });
  }

  private relate(kind: SketchConstraint['kind'], ...on: string[]): void {
    this.relations.push({ type: 'constraint', id: this.context.newId(), sketch: this.context.sketch, kind, on });
  }
}

/** Sine of the angle between two curves that counts as running on smoothly. */
const SMOOTH = 1e-4;

/** Unit vector to the left of a curve, as it runs, at one of its ends; arcs run counter-clockwise. */
function leftNormal(shape: DrawnShape, curve: Line | Arc, end: string): Place {
  if (curve.type === 'line') {
    const [a, b] = [shape.point(curve.start), shape.point(curve.end)];
    const length = distance(a, b) || 1;
    return [-(b[1] - a[1]) / length, (b[0] - a[0]) / length];
  }
  const [centre, at] = [shape.point(curve.centre), shape.point(end)];
  const radius = distance(centre, at) || 1;
  return [(centre[0] - at[0]) / radius, (centre[1] - at[1]) / radius];
}

/** 1 where the copy lies left of a curve as it runs: by the curve nearest to the place, then along the chain. */
function chainSides(shape: DrawnShape, curves: readonly (Line | Arc)[], towards: Place): ReadonlyMap<string, Side> {
  const sides = new Map<string, Side>();
  const own = (curve: Line | Arc): Side => {
    if (curve.type === 'line') return turn(shape.point(curve.start), shape.point(curve.end), towards) > 0 ? 1 : -1;
    return distance(shape.point(curve.centre), towards) < shape.radius(curve.id) ? 1 : -1;
  };
  const byGap = [...curves].sort((a, b) => gapTo(shape, a, towards) - gapTo(shape, b, towards));
  for (const first of byGap) {
    if (!sides.has(first.id)) sides.set(first.id, own(first));
    // Neighbours that are drawn the other way round have it on their other side.
    for (let grew = true; grew;) {
      grew = false;
      for (const curve of curves) {
        if (sides.has(curve.id)) continue;
        const neighbour = curves.find((other) => sides.has(other.id) && [other.start, other.end].some((id) => id === curve.start || id === curve.end));
        if (!neighbour) continue;
        const sameWay = neighbour.end === curve.start || neighbour.start === curve.end;
        sides.set(curve.id, ((sides.get(neighbour.id) ?? 1) * (sameWay ? 1 : -1)) as Side);
        grew = true;
      }
    }
  }
  return sides;
}

function gapTo(shape: DrawnShape, curve: Line | Arc, at: Place): number {
  const [a, b] = [shape.point(curve.start), shape.point(curve.end)];
  if (curve.type === 'arc') {
    const rim = Math.abs(distance(shape.point(curve.centre), at) - shape.radius(curve.id));
    // Within the sweep the rim is nearest, beyond it an end.
    return turn(a, at, b) > 0 === turn(a, shape.point(curve.centre), b) > 0 ? Math.min(distance(a, at), distance(b, at)) : rim;
  }
  const length = distance(a, b) || 1;
  const along = Math.min(1, Math.max(0, ((at[0] - a[0]) * (b[0] - a[0]) + (at[1] - a[1]) * (b[1] - a[1])) / (length * length)));
  return Math.hypot(a[0] + along * (b[0] - a[0]) - at[0], a[1] + along * (b[1] - a[1]) - at[1]);
}

/** Where the offset curves at a joint meet; beside it where only one ends there or they run on smoothly. */
function offsetCorner(shape: DrawnShape, curves: readonly (Line | Arc)[], id: string, sideOf: (curve: Line | Arc) => Side, far: number): Place {
  const at = shape.point(id);
  const [first, second] = curves.filter((curve) => curve.start === id || curve.end === id);
  if (!first) return at;
  const beside = (curve: Line | Arc): Place => {
    const [nx, ny] = leftNormal(shape, curve, id);
    return [at[0] + nx * sideOf(curve) * far, at[1] + ny * sideOf(curve) * far];
  };
  const near = beside(first);
  if (!second || distance(near, beside(second)) < SMOOTH * far) return near;
  const meeting = intersectCurves(carrier(shape, first, sideOf(first) * far, near), carrier(shape, second, sideOf(second) * far, beside(second)), 1e-9);
  return [...meeting].sort((p, q) => distance(p, at) - distance(q, at))[0] ?? near;
}

/** The whole line or circle that an offset curve lies on. */
function carrier(shape: DrawnShape, curve: Line | Arc, left: number, through: Place): Curve {
  if (curve.type === 'arc') return { kind: 'circle', id: curve.id, centre: shape.point(curve.centre), radius: shape.radius(curve.id) - left };
  const [a, b] = [shape.point(curve.start), shape.point(curve.end)];
  const [dx, dy] = [(b[0] - a[0]) * 1e3, (b[1] - a[1]) * 1e3];
  return { kind: 'line', id: curve.id, start: [through[0] - dx, through[1] - dy], end: [through[0] + dx, through[1] + dy] };
}

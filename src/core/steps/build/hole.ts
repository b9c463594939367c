/** Holes: one drilled shape, a section turned about its axis, at every point of a sketch. */
import { findRecord, listRecords, referencesOf, listIds, findAny, type StepOf } from '../../document';
import { cross, findProfiles, toSpace, type Curve, type Frame, type Point2, type Point3 } from '../../geometry';
import { succeed } from '../../kit';
import { keyOf } from '../keys';
import type { SketchResult } from '../sketch-result';
import { nameNumber, readNumbers, refuse, requirePositive, type BodyState, type Buildable, type Builder, type BuildContext, type Tool } from './context';
import { combineWith, heightsAlong } from './solids';

const OVERSHOOT = 1;

export const buildHole: Builder<StepOf<'hole'>> = (context, step) => {
  const sketch = context.sketch(step.sketch);
  if (!sketch.ok) return sketch;
  const base = context.body(step.body);
  if (!base.ok) return base;
  const numbers = readNumbers(context, step);
  if (!numbers.ok) return numbers;
  const sound = requirePositive(context, step, numbers.value, Object.keys(numbers.value));
  if (!sound.ok) return sound;
  const points = holePoints(context, step.sketch, sketch.value);
  if (points.length === 0) {
    const name = findRecord(context.document, step.sketch, 'sketch')?.name ?? 'its sketch';
    return refuse({ message: `${step.name}: ${name} has no point to drill at. Draw points where the holes go.`, about: [] });
  }
  const { diameter = 0, head = 0, seat = 0, cone = 0 } = numbers.value;
  if (step.form !== 'simple' && head <= diameter) {
    const { text, id } = nameNumber(context, step, 'head');
    return refuse({ message: `${step.name}: ${text} is no larger than the hole, ${nameNumber(context, step, 'diameter').text}.`, about: [id] });
  }
  if (step.form === 'countersink' && cone >= Math.PI - 1e-6) {
    const { text, id } = nameNumber(context, step, 'cone');
    return refuse({ message: `${step.name}: ${text}, but a countersink must be below 180°.`, about: [id] });
  }
  const { frame } = sketch.value;
  const heights = heightsAlong(context.port.measure(base.value.handle), frame);
  const into = context.keepTo('into', () => findInto(context, frame, { base: base.value, heights, points, radius: diameter / 2 }));
  if (!into.ok) return into;
  const drilling = drillingFrame(frame, into.value[2] > 0 !== (step.isReversed === true));
  const depthFor = ({ low, high }: Heights): number =>
    step.extent === 'through' ? Math.max(drilling.isUp ? high : -low, OVERSHOOT) + OVERSHOOT : (numbers.value['depth'] ?? 0);
  const depth = depthFor(heights);
  const sinks = step.form === 'counterbore' ? seat : step.form === 'countersink' ? (head - diameter) / 2 / Math.tan(cone / 2) : 0;
  if (sinks >= depth) {
    const { text, id } = nameNumber(context, step, step.form === 'counterbore' ? 'seat' : 'cone');
    return refuse({ message: `${step.name}: ${text} takes more than the whole depth of the hole.`, about: [id] });
  }
  const places = points.map(({ id, at }) => ({ prefix: `${step.id}/${id}`, at: toSpace(frame, ...at) }));
  const toolFor = (range: Heights): Tool => {
    // A plain hole through everything begins on the far side of its sketch too; one with a seat begins at the sketch.
    const behind = Math.max(drilling.isUp ? -range.low : range.high, 0);
    const start = step.form === 'simple' && step.extent === 'through' ? -behind - OVERSHOOT : 0;
    const curves = section({ form: step.form, radius: diameter / 2, head: head / 2, sinks, start, depth: depthFor(range) });
    const key = keyOf([context.port.version, step.id, 'hole', drilling.frame, curves, places]);
    const solid = () =>
      context.make(key, () => {
        const { profiles } = findProfiles(curves);
        const turned = context.port.revolve({
          profiles,
          frame: drilling.frame,
          axis: { origin: [0, 0], direction: [0, 1] },
          angle: 2 * Math.PI,
          step: step.id,
        });
        if (!turned.ok) return turned;
        const repeated = context.port.repeat(
          turned.value,
          places.map(({ prefix, at }) => ({ prefix, movements: [{ kind: 'shift', by: at }] })),
        );
        context.port.release(turned.value);
        return repeated;
      });
    return { key, solid, operation: 'remove' };
  };
  const tool = toolFor(heights);
  if (step.extent !== 'through') return combineWith(context, 'remove', base.value, [tool]);
  return combineWith(context, 'remove', base.value, [{ ...tool, through: { frame, ...heights, reaching: (low, high) => toolFor({ low, high }) } }]);
};

interface Heights {
  readonly low: number;
  readonly high: number;
}

/** Points of the sketch that belong to no line, circle or arc. */
function holePoints({ document }: BuildContext, sketch: string, { solution }: SketchResult): { readonly id: string; readonly at: Point2 }[] {
  const used = new Set(listIds(document, `${sketch}/entities`).flatMap((id) => referencesOf(findAny(document, id))));
  return listRecords(document, `${sketch}/entities`, 'point').flatMap(({ id, isConstruction }) => {
    const at = solution.points.get(id);
    return at && isConstruction !== true && !used.has(id) ? [{ id, at }] : [];
  });
}

/** How far over the sketch plane material is looked for, in millimetres. */
const PROBE = 0.01;

interface Drilled {
  readonly base: BodyState;
  readonly heights: Heights;
  readonly points: readonly { readonly at: Point2 }[];
  readonly radius: number;
}

/**
 * Where the material is, for a step that keeps to no direction yet: from the sketch plane holes go against its normal, or along it where
 * there is material on that side alone, at the first point. As the sketch sees it: z along its normal. `isReversed` turns that round.
 */
function findInto(context: BuildContext, frame: Frame, { base, heights, points, radius }: Drilled): Buildable<Point3> {
  let isUp = heights.low > -1e-6;
  if (!isUp && heights.high > 1e-6) {
    const [first] = points;
    const [above, below] = [PROBE, -PROBE].map((height) => hasMaterial(context, base, frame, first?.at ?? [0, 0], radius, height));
    if (above && !above.ok) return above;
    if (below && !below.ok) return below;
    isUp = above?.value === true && below?.value === false;
  }
  return succeed([0, 0, isUp ? 1 : -1]);
}

/** Whether a thin disc from the plane to a height over it has anything in common with the body. */
function hasMaterial({ port, make }: BuildContext, base: BodyState, frame: Frame, [x, y]: Point2, radius: number, height: number): Buildable<boolean> {
  const centre: Point2 = [x, y];
  const { profiles } = findProfiles([{ kind: 'circle', id: 'probe', centre, radius }]);
  const key = keyOf([port.version, 'probe', frame, centre, radius, height]);
  const disc = make(key, () => port.extrude({ profiles, frame, from: Math.min(0, height), to: Math.max(0, height), step: 'probe' }));
  if (!disc.ok) return disc;
  const common = make(keyOf([port.version, 'probe', base.key, key]), () => port.combine('keep', base.handle, [disc.value.handle]));
  // Nothing in common is what the kernel refuses.
  return succeed(common.ok && port.measure(common.value.handle).volume > 0);
}

/** The plane of the section, through the origin: y runs into the body. */
function drillingFrame(frame: Frame, isUp: boolean): { readonly frame: Frame; readonly isUp: boolean } {
  const [nx, ny, nz] = frame.normal;
  const y = isUp ? frame.normal : ([-nx, -ny, -nz] as const);
  const { x } = frame;
  return { frame: { origin: [0, 0, 0], x, y, normal: cross(x, y) }, isUp };
}

interface Section {
  readonly form: StepOf<'hole'>['form'];
  readonly radius: number;
  readonly head: number;
  /** Where it begins, along the hole from the sketch plane. */
  readonly start: number;
  /** How deep the counterbore or countersink goes. */
  readonly sinks: number;
  readonly depth: number;
}

/** Half the section of the hole, from its axis outwards. */
function section({ form, radius, head, sinks, start, depth }: Section): Curve[] {
  const rim: [string, Point2][] =
    form === 'simple' ? [['top', [radius, start]]] : form === 'counterbore' ? counterbore(radius, head, sinks) : countersink(radius, head, sinks);
  const corners: [string, Point2][] = [...rim, ['wall', [radius, depth]], ['floor', [0, depth]], ['axis', [0, start]]];
  let at: Point2 = [0, start];
  return corners.map(([id, end]) => {
    const curve: Curve = { kind: 'line', id, start: at, end };
    at = end;
    return curve;
  });
}

function counterbore(radius: number, head: number, sinks: number): [string, Point2][] {
  return [
    ['top', [head, 0]],
    ['head', [head, sinks]],
    ['seat', [radius, sinks]],
  ];
}

function countersink(radius: number, head: number, sinks: number): [string, Point2][] {
  return [
    ['top', [head, 0]],
    ['cone', [radius, sinks]],
  ];
}

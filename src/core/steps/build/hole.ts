/** Holes: one drilled shape, a section turned about its axis, at every point of a sketch. */
import { findRecord, listRecords, referencesOf, listIds, findAny, type StepOf } from '../../document';
import { findProfiles, toSpace, type Curve, type Frame, type Point2 } from '../../geometry';
import { keyOf } from '../keys';
import type { SketchResult } from '../sketch-result';
import { nameNumber, readNumbers, refuse, requirePositive, type Builder, type BuildContext, type Tool } from './context';
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
  const drilling = drillingFrame(step, frame, heights.low);
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

/**
 * The plane of the section, through the origin: y runs into the body. From the sketch plane holes go against its
 * normal, or along it where the body lies on that side alone; `isReversed` turns that round.
 */
function drillingFrame(step: StepOf<'hole'>, frame: Frame, low: number): { readonly frame: Frame; readonly isUp: boolean } {
  const isUp = low > -1e-6 !== (step.isReversed === true);
  const [nx, ny, nz] = frame.normal;
  const y = isUp ? frame.normal : ([-nx, -ny, -nz] as const);
  const { x } = frame;
  const normal = [x[1] * y[2] - x[2] * y[1], x[2] * y[0] - x[0] * y[2], x[0] * y[1] - x[1] * y[0]] as const;
  return { frame: { origin: [0, 0, 0], x, y, normal }, isUp };
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

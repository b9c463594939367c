/** Solids drawn along paths and through outlines, split bodies, and bodies from files. */
import { gunzipSync } from 'fflate';
import { findRecord, hashOfContent, listRecords, type StepOf } from '../../document';
import {
  findPath,
  findPathCrossing,
  placeAlong,
  sweepOf,
  toPlane,
  toSpace,
  type Curve,
  type Frame,
  type PathProblem,
  type PathWidth,
  type PlanePath,
  type Point2,
  type Profile,
} from '../../geometry';
import { fail, readBase64, succeed } from '../../kit';
import { keyOf } from '../keys';
import type { SketchResult } from '../sketch-result';
import { readCurves } from '../sketch-model';
import { refuse, wait, type BodyState, type Buildable, type BuildContext, type Builder } from './context';
import { asTool, combineWith, heightsAlong, standOn } from './solids';

export const buildSweep: Builder<StepOf<'sweep'>> = (context, step) => {
  const ground = standOn(context, step, step.sketch);
  if (!ground.ok) return ground;
  const path = findSketchPath(context, step.path);
  if (!path.ok) return path;
  const { sketch, base } = ground.value;
  const { profiles, frame } = sketch;
  const crossing = findPathCrossing(path.value.path, widthAlong(path.value.path, path.value.frame, profiles, frame));
  if (crossing) return refuse({ message: `${step.name}: ${CROSSING_WORDS[crossing.kind]}`, about: crossing.curves });
  const key = keyOf([context.port.version, step.id, 'sweep', frame, sketch.profileKey, path.value]);
  const solid = () =>
    context.make(key, () => {
      const made = context.port.sweep({ profiles, frame, path: path.value.path, pathFrame: path.value.frame, step: step.id });
      return made.ok ? made : fail({ ...made.failure, reason: `${made.failure.reason} ${SWEEP_ADVICE}` });
    });
  return combineWith(context, step.operation, base, [{ key, solid, operation: asTool(step.operation) }]);
};

const CROSSING_WORDS = {
  crosses: 'the path crosses itself, and the solid would run through itself there. Draw it as two paths.',
  'too-close': 'two stretches of the path lie closer than the profile is wide, and the solid would run through itself there.',
} as const;

/** How far profiles reach to the left and right of the start of a path, in its plane. */
function widthAlong(path: PlanePath, pathFrame: Frame, profiles: readonly Profile[], frame: Frame): PathWidth {
  const { at, heading } = placeAlong(path, 0);
  const offsets = profiles.flatMap(({ outer }) =>
    outer.curves
      .flatMap(({ curve }) => outerPoints(curve))
      .map(([x, y]) => {
        const [px, py] = toPlane(pathFrame, toSpace(frame, x, y));
        return -(px - at[0]) * Math.sin(heading) + (py - at[1]) * Math.cos(heading);
      }),
  );
  return { left: Math.max(...offsets), right: Math.min(...offsets) };
}

/** Points that a curve reaches no further than, but for a hundredth of its radius. */
function outerPoints(curve: Curve): Point2[] {
  if (curve.kind === 'line') return [curve.start, curve.end];
  const from = curve.kind === 'circle' ? 0 : Math.atan2(curve.start[1] - curve.centre[1], curve.start[0] - curve.centre[0]);
  const sweep = curve.kind === 'circle' ? 2 * Math.PI : sweepOf(curve);
  const parts = 48;
  return Array.from({ length: parts + 1 }, (_, i) => {
    const angle = from + (sweep * i) / parts;
    return [curve.centre[0] + curve.radius * Math.cos(angle), curve.centre[1] + curve.radius * Math.sin(angle)];
  });
}

const SWEEP_ADVICE = 'The path should start in the plane of its profile, and its bends be wider than the profile.';

/** The chain that the curves of a sketch form, and the plane that it lies in. */
export function findSketchPath(context: BuildContext, id: string): Buildable<{ readonly path: PlanePath; readonly frame: Frame }> {
  const sketch = context.sketch(id);
  if (!sketch.ok) return sketch;
  const { solution, frame } = sketch.value;
  const places = { point: (point: string) => solution.points.get(point) ?? ([0, 0] as const), radius: (curve: string) => solution.radii.get(curve) ?? 0 };
  // A path runs on from where it was begun, whichever way round its arcs are kept.
  const drawn = listRecords(context.document, `${id}/entities`, 'point').map((point) => places.point(point.id));
  const rank = (end: Point2): number => {
    const at = drawn.findIndex((point) => Math.hypot(point[0] - end[0], point[1] - end[1]) < SAME_PLACE);
    return at < 0 ? drawn.length : at;
  };
  const path = findPath(readCurves(context.document, id, context.values, places), rank);
  const name = findRecord(context.document, id, 'sketch')?.name ?? 'The path';
  return path.ok ? succeed({ path: path.value, frame }) : refuse({ message: `${name}: ${PATH_WORDS[path.failure.kind]}`, about: aboutPath(path.failure) });
}

/** Millimetres within which a point of a sketch is the end of a curve. */
const SAME_PLACE = 1e-6;

const PATH_WORDS: Readonly<Record<PathProblem['kind'], string>> = {
  empty: 'there is nothing to run along; draw lines or arcs that join end to end.',
  branching: 'three curves meet in one point; a path has one way on.',
  apart: 'the curves do not join to one chain; close the gap, or make what does not belong to the path construction.',
};

function aboutPath(problem: PathProblem): readonly string[] {
  return problem.kind === 'empty' ? [] : [problem.curve];
}

export const buildLoft: Builder<StepOf<'loft'>> = (context, step) => {
  const sections: { readonly profile: Profile; readonly frame: Frame }[] = [];
  const keys: unknown[] = [];
  let base: BodyState | undefined;
  for (const id of step.sketches) {
    const ground = standOn(context, step, id);
    if (!ground.ok) return ground;
    ({ base } = ground.value);
    const outline = onlyOutline(context, id, ground.value.sketch);
    if (!outline.ok) return outline;
    const { frame, profileKey } = ground.value.sketch;
    sections.push({ profile: outline.value, frame });
    keys.push([frame, profileKey]);
  }
  const isRuled = step.isRuled ?? false;
  const key = keyOf([context.port.version, step.id, 'loft', keys, isRuled]);
  const solid = () => context.make(key, () => context.port.loft({ sections, isRuled, step: step.id }));
  return combineWith(context, step.operation, base, [{ key, solid, operation: asTool(step.operation) }]);
};

function onlyOutline({ document }: BuildContext, id: string, { profiles }: SketchResult): Buildable<Profile> {
  const [only] = profiles;
  if (only && profiles.length === 1 && only.holes.length === 0) return succeed(only);
  const name = findRecord(document, id, 'sketch')?.name ?? 'A sketch';
  return refuse({ message: `${name}: a loft needs one closed outline without holes; there ${describeRegions(profiles)}.`, about: [] });
}

function describeRegions(profiles: readonly Profile[]): string {
  const [first] = profiles;
  if (!first) return 'is no outline';
  if (profiles.length > 1) return `are ${profiles.length} regions`;
  return `is one with ${first.holes.length} hole${first.holes.length === 1 ? '' : 's'}`;
}

/** The cutting block reaches this far past the body, in millimetres. */
const MARGIN = 1;

export const buildSplit: Builder<StepOf<'split'>> = (context, step) => {
  const base = context.body(step.body);
  if (!base.ok) return base;
  const plane = context.frame(step.plane);
  if (!plane.ok) return plane;
  const frame = plane.value;
  const box = context.port.measure(base.value.handle);
  const { low, high } = heightsAlong(box, frame);
  if (low > -1e-6 || high < 1e-6) return refuse({ message: `${step.name}: the plane does not go through the body.`, about: [] });
  const along = [heightsAlong(box, { ...frame, normal: frame.x }), heightsAlong(box, { ...frame, normal: frame.y })] as const;
  const block = blockOver(frame, along, high + MARGIN, step.id);
  const key = keyOf([context.port.version, step.id, 'split', block]);
  const cutter = context.make(key, () => context.port.extrude(block));
  if (!cutter.ok) return cutter;
  const part = (operation: 'keep' | 'remove'): Buildable<BodyState> =>
    context.make(keyOf([context.port.version, operation, base.value.key, [key]]), () =>
      context.port.combine(operation, base.value.handle, [cutter.value.handle]),
    );
  const stays = part(step.keep === 'back' ? 'remove' : 'keep');
  if (!stays.ok) return stays;
  if (step.keep !== 'both' || step.other === undefined) return succeed({ state: stays.value, tools: [] });
  const behind = part('remove');
  return behind.ok ? succeed({ state: stays.value, tools: [], started: [{ body: step.other, state: behind.value }] }) : behind;
};

/** A block that stands on a plane and covers everything in front of it; its foot is the cut. */
function blockOver(frame: Frame, [x, y]: readonly [Heights, Heights], height: number, step: string) {
  const corners = [
    [x.low - MARGIN, y.low - MARGIN],
    [x.high + MARGIN, y.low - MARGIN],
    [x.high + MARGIN, y.high + MARGIN],
    [x.low - MARGIN, y.high + MARGIN],
  ] as const;
  const curves = corners.map((start, i) => ({
    curve: { kind: 'line' as const, id: ['cut', 'right', 'far', 'left'][i] ?? '', start, end: corners[(i + 1) % 4] ?? start },
    isReversed: false,
  }));
  const area = (x.high - x.low + 2 * MARGIN) * (y.high - y.low + 2 * MARGIN);
  return { profiles: [{ outer: { curves, area }, holes: [] }], frame, from: 0, to: height, step };
}

interface Heights {
  readonly low: number;
  readonly high: number;
}

export const buildImport: Builder<StepOf<'import'>> = (context, step) => {
  const file = findRecord(context.document, step.file, 'file');
  if (!file) return refuse({ message: `${step.name}: its file is no longer there.`, about: [] });
  const content = file.content ?? context.file(file.hash ?? '');
  if (content === undefined) return wait(`Waiting on the content of ${file.name}.`);
  const state = context.make(keyOf([context.port.version, step.id, 'import', file.hash ?? hashOfContent(content)]), () => {
    const bytes = unpack(content);
    return bytes ? context.port.importStep(bytes, step.id) : fail({ operation: 'import', reason: 'The stored file is damaged; import it again.' });
  });
  return state.ok ? succeed({ state: state.value, tools: [] }) : state;
};

/** The body as the other part has it, its faces told from those that are made here. */
export const buildFromPart: Builder<StepOf<'from-part'>> = (context, step) => {
  const original = context.bodyOfPart(step.component, step.of);
  if (!original.ok) return original;
  const { key, handle } = original.value;
  const state = context.make(keyOf([context.port.version, step.id, 'from-part', key]), () => context.port.move(handle, [], `${step.id}/${FROM_PART}`));
  return state.ok ? succeed({ state: state.value, tools: [] }) : state;
};

/** Stands in names of faces where the number of a copy would. */
const FROM_PART = 'part';

function unpack(content: string): Uint8Array | undefined {
  try {
    const packed = readBase64(content);
    return packed && gunzipSync(packed);
  } catch {
    return undefined;
  }
}

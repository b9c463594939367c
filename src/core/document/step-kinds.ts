/**
 * What each kind of step is, for everything that treats them alike: which numbers it has, what it stands on.
 */
import type { QuantityKind } from '../units';
import type { AxisReference, PathReference, PlaneReference, Step, ValuedStep } from './step-schema';

/** A number of a step: its slot, what it is, and the words for it. */
export interface StepSlot {
  readonly slot: string;
  readonly kind: QuantityKind;
  readonly label: string;
  /** A formula to begin with. */
  readonly initial: string;
}

const LENGTH = (slot: string, label: string, initial: string): StepSlot => ({ slot, kind: 'length', label, initial });
const ANGLE = (slot: string, label: string, initial: string): StepSlot => ({ slot, kind: 'angle', label, initial });

/** The numbers that a step needs, as its choices are. */
export function slotsOf(step: Step): readonly StepSlot[] {
  switch (step.type) {
    case 'sketch':
    case 'mirror':
    case 'combine':
    case 'sweep':
    case 'loft':
    case 'split':
    case 'import':
    case 'from-part':
      return [];
    case 'datum':
      return [LENGTH('offset', 'Offset', '20 mm'), ...(step.turn === 'none' ? [] : [ANGLE('angle', 'Angle', '30 deg')])];
    case 'extrude':
      return [
        ...(step.extent === 'through' || step.extent === 'up-to' ? [] : [LENGTH('depth', 'Depth', '18 mm')]),
        ...(step.extent === 'both' ? [LENGTH('back', 'Depth the other way', '10 mm')] : []),
        ...(step.isTapered === true ? [ANGLE('taper', 'Taper', '3 deg')] : []),
      ];
    case 'revolve':
      return step.extent === 'angle' ? [ANGLE('angle', 'Angle', '180 deg')] : [];
    case 'hole':
      return [
        LENGTH('diameter', 'Diameter', '5.5 mm'),
        ...(step.extent === 'blind' ? [LENGTH('depth', 'Depth', '12 mm')] : []),
        ...(step.form === 'simple' ? [] : [LENGTH('head', step.form === 'counterbore' ? 'Counterbore diameter' : 'Countersink diameter', '10 mm')]),
        ...(step.form === 'counterbore' ? [LENGTH('seat', 'Counterbore depth', '5 mm')] : []),
        ...(step.form === 'countersink' ? [ANGLE('cone', 'Countersink angle', '90 deg')] : []),
      ];
    case 'fillet':
      return [LENGTH('radius', 'Radius', '3 mm')];
    case 'chamfer':
      return [
        LENGTH('distance', 'Distance', '2 mm'),
        ...(step.form === 'two-distances' ? [LENGTH('second', 'Second distance', '3 mm')] : []),
        ...(step.form === 'distance-angle' ? [ANGLE('angle', 'Angle', '30 deg')] : []),
      ];
    case 'shell':
      return [LENGTH('wall', 'Wall', '2 mm')];
    case 'draft':
      return [ANGLE('angle', 'Angle', '3 deg')];
    case 'pattern': {
      const isSpan = step.spread === 'span';
      const spread =
        step.form !== 'circular'
          ? LENGTH('span', isSpan ? 'First to last' : 'Spacing', isSpan ? '100 mm' : '20 mm')
          : ANGLE('span', isSpan ? 'First to last' : 'Angle between', isSpan ? '180 deg' : '360 deg / 6');
      return [{ slot: 'count', kind: 'count', label: 'Count', initial: '6' }, spread];
    }
    case 'place':
      if (step.mirror !== undefined) return [];
      return [
        LENGTH('x', 'Along x', '0 mm'),
        LENGTH('y', 'Along y', '0 mm'),
        LENGTH('z', 'Along z', '0 mm'),
        ...(step.about ? [ANGLE('angle', 'Angle', '90 deg')] : []),
      ];
  }
}

/** The words for a kind of step. */
export const STEP_WORDS: Readonly<Record<Step['type'], string>> = {
  sketch: 'sketch',
  datum: 'datum plane',
  extrude: 'extrude',
  revolve: 'revolve',
  sweep: 'sweep',
  loft: 'loft',
  import: 'body from a file',
  'from-part': 'body of another part',
  hole: 'hole',
  fillet: 'fillet',
  chamfer: 'chamfer',
  shell: 'shell',
  draft: 'taper of faces',
  pattern: 'pattern',
  mirror: 'mirror',
  combine: 'combine',
  split: 'split',
  place: 'place',
};

/** The named values of a step, by slot; none for a sketch, whose values belong to its dimensions. */
export function slotValues(step: Step): Readonly<Record<string, string>> {
  return step.type === 'sketch' ? {} : step.values;
}

export function hasSlots(step: Step): step is ValuedStep {
  return step.type !== 'sketch';
}

/** The body that a step makes or changes. */
export function bodyOf(step: Step): string | undefined {
  return step.type === 'sketch' || step.type === 'datum' ? undefined : step.body;
}

/** Whether the body of the step was not there before it. */
export function startsBody(step: Step): boolean {
  switch (step.type) {
    case 'extrude':
    case 'revolve':
    case 'sweep':
    case 'loft':
      return step.operation === 'start';
    case 'place':
      return step.from !== undefined;
    case 'import':
    case 'from-part':
      return true;
    default:
      return false;
  }
}

/** All bodies that the step brings about. */
export function startedBodies(step: Step): readonly string[] {
  if (step.type === 'split') return step.other === undefined ? [] : [step.other];
  return startsBody(step) ? [bodyOf(step) ?? ''] : [];
}

/** Sketches that it is made from. */
export function sketchesOf(step: Step): readonly string[] {
  switch (step.type) {
    case 'extrude':
    case 'revolve':
    case 'hole':
      return [step.sketch];
    case 'sweep':
      return [step.sketch, step.path];
    case 'loft':
      return step.sketches;
    case 'pattern':
      return typeof step.along === 'object' && 'path' in step.along ? [step.along.path] : [];
    default:
      return [];
  }
}

/** Steps that it is built on, by id: they stand before it. */
export function stepsUnder(step: Step): readonly string[] {
  switch (step.type) {
    case 'sketch':
      return stepsOfPlane(step.plane);
    case 'datum':
      return stepsOfPlane(step.from);
    case 'extrude':
    case 'revolve':
    case 'hole':
    case 'sweep':
    case 'loft':
      return sketchesOf(step);
    case 'draft':
    case 'split':
      return stepsOfPlane(step.plane);
    case 'pattern':
      return [...step.of, ...stepsOfAxis(step.along)];
    case 'mirror':
      return [...step.of, ...stepsOfPlane(step.plane)];
    case 'place':
      return [...(step.mirror === undefined ? [] : stepsOfPlane(step.mirror)), ...(step.about ? stepsOfAxis(step.about) : [])];
    default:
      return [];
  }
}

/** Bodies that it reads beside the one that it works on. */
export function bodiesUnder(step: Step): readonly string[] {
  switch (step.type) {
    case 'sketch':
      return bodiesOfPlane(step.plane);
    case 'datum':
      return bodiesOfPlane(step.from);
    case 'draft':
    case 'mirror':
    case 'split':
      return bodiesOfPlane(step.plane);
    case 'combine':
      return step.tools;
    case 'pattern':
      return bodiesOfAxis(step.along);
    case 'place':
      return [
        ...(step.from === undefined ? [] : [step.from]),
        ...(step.mirror === undefined ? [] : bodiesOfPlane(step.mirror)),
        ...(step.about ? bodiesOfAxis(step.about) : []),
      ];
    default:
      return [];
  }
}

function stepsOfPlane(plane: PlaneReference): readonly string[] {
  return typeof plane === 'object' && 'datum' in plane ? [plane.datum] : [];
}

function bodiesOfPlane(plane: PlaneReference): readonly string[] {
  return typeof plane === 'object' && 'body' in plane ? [plane.body] : [];
}

function stepsOfAxis(axis: AxisReference | PathReference): readonly string[] {
  if (typeof axis !== 'object') return [];
  return 'sketch' in axis ? [axis.sketch] : 'path' in axis ? [axis.path] : [];
}

function bodiesOfAxis(axis: AxisReference | PathReference): readonly string[] {
  return typeof axis === 'object' && 'body' in axis ? [axis.body] : [];
}

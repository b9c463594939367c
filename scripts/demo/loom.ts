/** The loom put together: two sides, a rail, a beam with its ratchet, driven from above by its width and the board that it is made of. */
import {
  createDocument,
  mateSlots,
  type Component,
  type Document,
  type Edit,
  type MateKind,
  type MateRecord,
  type MateReference,
} from '../../src/core/document';
import { build, componentsOf, drive, parameter } from './shapes';

const at = (x: number, y = 0, z = 0): Pick<Component, 'at'> => ({ at: { origin: [x, y, z], turn: [1, 0, 0, 0] } });

/** A beam with its ratchet wheel, as far along it as the frame is wide. */
export function beamUnit(documents: readonly Document[]): Document {
  const component = componentsOf(documents);
  return build(createDocument('beam-unit', 'assembly', 'Beam unit'), [
    parameter('wheel-offset', 'wheel_offset', '443 mm', 'length', {
      pinned: true,
      offered: true,
      note: 'From the shoulder of the beam to the wheel.',
      least: { text: '100 mm' },
    }),
    component('beam', 'warp-beam', { ...at(0), isAnchored: true }),
    component('wheel', 'ratchet-wheel', at(500)),
    mate('wheel-axis', {
      name: 'Wheel on the beam',
      kind: 'coaxial',
      on: [face('beam', 'beam', 'turned/side(far-rim-side)'), face('wheel', 'wheel-body', 'wheel/side(bore)')],
    }),
    mate('wheel-place', {
      name: 'Wheel along the beam',
      kind: 'coplanar',
      on: [face('beam', 'beam', 'turned/side(near-barrel-side)'), face('wheel', 'wheel-body', 'wheel/start')],
      value: ['wheel_place', '-wheel_offset'],
    }),
    mate('wheel-turn', { name: 'Wheel turns with the beam', kind: 'parallel', on: [plane('beam', 'top'), plane('wheel', 'top')] }),
  ]);
}

export function loom(documents: readonly Document[]): Document {
  const component = componentsOf(documents);
  return build(createDocument('loom', 'assembly', 'Loom'), [
    parameter('loom-width', 'loom_width', '400 mm', 'length', {
      pinned: true,
      offered: true,
      note: 'Sets the weaving width of everything in this loom.',
      least: { text: '200 mm' },
      most: { text: '900 mm' },
    }),
    parameter('board', 'board', '18 mm', 'length', {
      pinned: true,
      choices: ['12 mm', '15 mm', '18 mm', '21 mm'],
      note: 'Thickness of the boards of the frame.',
    }),
    parameter('wheel-gap', 'wheel_gap', '1 mm', 'length', { note: 'Between the wheel and the side that it stands beside.' }),
    parameter('thread-pull', 'thread_pull', '0.6 N', 'force', { note: 'In one thread of the warp.' }),
    parameter('tooth-load', 'tooth_load', 'tension.tooth_load', 'force', { offered: true, note: 'On the tooth of the ratchet that holds the warp.' }),
    component('sizes', 'loom-sizes'),
    component('tension', 'warp-tension'),
    component('left-side', 'side-frame', { ...at(0), isAnchored: true }),
    component('right-side', 'side-frame', { ...at(500), mirrored: 'side' }),
    component('rail', 'cross-rail', at(0, 160, 20)),
    component('unit', 'beam-unit', at(-20, 60, 180)),
    component('pawl', 'pawl', at(500, 130, 219)),
    drive('sizes', 'weaving-width', 'weaving_width', 'loom_width'),
    drive('sizes', 'frame-stock', 'frame_stock', 'board'),
    drive('tension', 'thread-pull', 'thread_pull', 'thread_pull'),
    drive('unit', 'wheel-offset', 'wheel_offset', 'sizes.inner_width + board + wheel_gap'),
    mate('right-side', {
      name: 'Sides apart',
      kind: 'coplanar',
      on: [plane('left-side', 'side'), plane('right-side', 'side')],
      value: ['side_distance', 'sizes.inner_width + 2 * board'],
    }),
    mate('right-front', {
      name: 'Sides in line',
      kind: 'coplanar',
      on: [plane('left-side', 'front'), plane('right-side', 'front')],
      value: ['side_shift', '0 mm'],
    }),
    mate('right-foot', { name: 'Sides level', kind: 'coplanar', on: [plane('left-side', 'top'), plane('right-side', 'top')], value: ['side_rise', '0 mm'] }),
    mate('rail-foot', {
      name: 'Rail in its mortise',
      kind: 'coplanar',
      on: [face('left-side', 'side-body', 'openings-cut/side(mortise-bottom)'), face('rail', 'rail-body', 'bar/side(rail-edge-bottom)')],
      sense: -1,
      value: ['rail_play', '0 mm'],
    }),
    mate('rail-back', {
      name: 'Rail against its mortise',
      kind: 'coplanar',
      on: [face('left-side', 'side-body', 'openings-cut/side(mortise-left)'), face('rail', 'rail-body', 'bar/side(rail-edge-left)')],
      sense: -1,
      value: ['rail_gap', '0 mm'],
    }),
    mate('rail-end', {
      name: 'Rail flush',
      kind: 'coplanar',
      on: [face('left-side', 'side-body', 'board/start'), face('rail', 'rail-body', 'bar/start')],
      value: ['rail_stand', '0 mm'],
    }),
    mate('beam-axis', {
      name: 'Beam in its bearing',
      kind: 'coaxial',
      on: [face('left-side', 'side-body', 'openings-cut/side(bearing)'), face('unit beam', 'beam', 'turned/side(far-rim-side)')],
    }),
    mate('beam-place', {
      name: 'Beam against the side',
      kind: 'coplanar',
      on: [face('left-side', 'side-body', 'board/end'), face('unit beam', 'beam', 'turned/side(near-barrel-side)')],
      sense: -1,
      value: ['beam_play', '0 mm'],
    }),
    mate('beam-turn', {
      name: 'Beam turned',
      kind: 'angle',
      on: [plane('left-side', 'top'), plane('unit beam', 'top')],
      value: ['beam_turn', '0 deg'],
      about: [1, 0, 0],
    }),
    mate('pawl-side', {
      name: 'Pawl beside the wheel',
      kind: 'coplanar',
      on: [plane('unit wheel', 'side'), plane('pawl', 'side')],
      value: ['pawl_middle', 'board / 2'],
    }),
    mate('pawl-front', {
      name: 'Pawl behind the beam',
      kind: 'tangent',
      on: [plane('right-side', 'front'), face('pawl', 'pawl-body', 'blank/side(pivot-hole)')],
      value: ['pawl_depth', '-(left_side.bearing_inset + 70 mm) - sizes.screw_hole / 2'],
    }),
    // A point of the pawl above a plane, but for how it is turned: its axis lies in both.
    mate('pawl-rise', {
      name: 'Pawl above the beam',
      kind: 'tangent',
      on: [plane('right-side', 'top'), face('pawl', 'pawl-body', 'blank/side(pivot-hole)')],
      value: ['pawl_height', 'left_side.beam_height + 39 mm - sizes.screw_hole / 2'],
    }),
    mate('pawl-turn', {
      name: 'Pawl turned',
      kind: 'angle',
      on: [plane('right-side', 'top'), plane('pawl', 'top')],
      value: ['pawl_turn', '157 deg'],
      about: [1, 0, 0],
    }),
  ]);
}

/** `path`: ids of components, with spaces. */
function plane(path: string, name: 'front' | 'top' | 'side'): MateReference {
  return { path: path.split(' '), plane: name };
}

function face(path: string, body: string, name: string): MateReference {
  return { path: path.split(' '), body, name };
}

interface MateWish {
  readonly name: string;
  readonly kind: MateKind;
  readonly on: readonly [MateReference, MateReference];
  readonly sense?: 1 | -1;
  /** Name and formula of its value. */
  readonly value?: readonly [string, string];
  readonly about?: [number, number, number];
}

function mate(id: string, { name, kind, on: [first, second], sense = 1, value, about }: MateWish): Edit {
  const [slot] = mateSlots({ kind });
  const own = `mate-${id}`;
  const values = slot ? { [slot.slot]: `${own}-value` } : {};
  const record: MateRecord = { type: 'mate', id: own, name, kind, first, second, sense, values, ...(about ? { about } : {}) };
  return {
    type: 'mate.put',
    mate: record,
    values: slot && value ? [{ type: 'parameter', id: `${own}-value`, owner: own, name: value[0], formula: { text: value[1] }, kind: slot.kind }] : [],
  };
}

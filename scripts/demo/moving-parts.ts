/** The parts of the loom that turn and beat: warp beam, ratchet wheel, pawl, reed. */
import { createDocument, type Document, type Edit } from '../../src/core/document';
import { build, circle, componentsOf, dimension, drive, feature, parameter, place, polygon, rectangle, sketch } from './shapes';

type Take = (part: string, ids: readonly string[]) => Edit;

const edge = (...faces: readonly string[]): string => `edge[${[...faces].sort().join(' | ')}]`;

export function warpBeam(take: Take): Document {
  return build(createDocument('warp-beam', 'part', 'Warp beam'), [
    take('beam', ['weaving-width', 'inner-width', 'beam-dia', 'frame-stock', 'screw-hole']),
    parameter('journal-length', 'journal_length', '2 * frame_stock', 'length', { note: 'Through the side frame, and room for the ratchet wheel.' }),
    parameter('barrel-dia', 'barrel_dia', 'beam_dia + 12 mm', 'length', { pinned: true }),
    parameter('tie-pitch', 'tie_pitch', '50 mm', 'length', { note: 'From one tie hole to the next.' }),
    sketch('profile', 'Beam profile', 'front'),
    polygon(
      'profile',
      [
        ['start', 0, 0],
        ['end', 496, 0],
        ['far-rim', 496, 22.5],
        ['far-step', 460, 22.5],
        ['far-barrel', 460, 28.5],
        ['near-barrel', 36, 28.5],
        ['near-step', 36, 22.5],
        ['near-rim', 0, 22.5],
      ],
      [
        ['length', ['near-rim-side'], 'journal_radius', 'beam_dia / 2'],
        ['length', ['near-step-side'], 'near_journal', 'journal_length'],
        ['length', ['far-rim-side'], 'far_journal', 'journal_length'],
        ['length', ['far-barrel-side'], 'barrel_length', 'inner_width'],
        ['vertical', ['start', 'near-barrel'], 'barrel_radius', 'barrel_dia / 2'],
        ['vertical', ['end', 'far-rim'], 'far_radius', 'journal_radius'],
      ],
      [['start', 'origin']],
    ),
    feature(
      { type: 'revolve', id: 'turned', name: 'Beam turned', sketch: 'profile', axis: 'x-axis', operation: 'start', extent: 'full', body: 'beam' },
      {},
      { type: 'body', id: 'beam', name: 'Beam', material: 'Ash' },
    ),
    feature(
      {
        type: 'chamfer',
        id: 'ends',
        name: 'Beam ends chamfered',
        form: 'equal',
        edges: [edge('turned/side(near-rim-side)', 'turned/side(near-step-side)'), edge('turned/side(end-side)', 'turned/side(far-rim-side)')],
        body: 'beam',
      },
      { distance: ['end_chamfer', '2 mm'] },
    ),
    sketch('first-tie', 'First tie hole', 'top'),
    {
      type: 'sketch.draw',
      sketch: 'first-tie',
      entities: [{ type: 'point', id: 'tie', sketch: 'first-tie', x: 60, y: 0 }],
      constraints: [{ type: 'constraint', id: 'tie-on', sketch: 'first-tie', kind: 'coincident', on: ['tie', 'x-axis'] }],
      dimensions: [],
      values: [],
    },
    place('first-tie', 'tie-inset', 'horizontal', 'tie', 'tie_inset', 'journal_length + (inner_width - (tie_count - 1) * tie_pitch) / 2', [30, 12]),
    feature(
      { type: 'hole', id: 'ties', name: 'Tie hole', sketch: 'first-tie', form: 'simple', extent: 'through', body: 'beam' },
      { diameter: ['tie_hole', '5 mm'] },
    ),
    feature(
      { type: 'pattern', id: 'tie-row', name: 'Tie holes', form: 'linear', of: ['ties'], along: 'x', spread: 'spacing', body: 'beam' },
      { count: ['tie_count', 'floor(weaving_width / tie_pitch) + 1'], span: ['tie_spacing', 'tie_pitch'] },
    ),
  ]);
}

/** Its thickness follows what the calculation `tension` asks for. */
export function ratchetWheel(take: Take, tension: Document): Document {
  const component = componentsOf([tension]);
  return build(createDocument('ratchet-wheel', 'part', 'Ratchet wheel'), [
    take('ratchet', ['beam-dia', 'frame-stock', 'teeth', 'pitch-angle', 'screw-hole']),
    parameter('wheel-dia', 'wheel_dia', '2.4 * beam_dia', 'length', { offered: true, pinned: true }),
    parameter('tooth-depth', 'tooth_depth', 'wheel_dia * pi / teeth / 2', 'length', { note: 'Half of the pitch along the rim.' }),
    component('tension', 'warp-tension'),
    drive('tension', 'wheel-dia', 'wheel_dia', 'wheel_dia'),
    sketch('disc', 'Wheel disc', 'side'),
    circle('disc', 'rim', [0, 0], 54, ['rim_dia', 'wheel_dia'], true),
    circle('disc', 'bore', [0, 0], 22.5, ['hub_bore', 'beam_dia'], true),
    feature(
      { type: 'extrude', id: 'wheel', name: 'Wheel blank', sketch: 'disc', operation: 'start', extent: 'forward', body: 'wheel-body' },
      { depth: ['wheel_stock', 'max(frame_stock, tension.least_width)'] },
      { type: 'body', id: 'wheel-body', name: 'Wheel', material: 'Steel' },
    ),
    sketch('notch', 'Tooth notch', 'side'),
    polygon(
      'notch',
      [
        ['root', 47, 0],
        ['tip', 56, 0],
        ['back', 56, 14],
      ],
      [
        ['horizontal', ['origin', 'root'], 'root_radius', 'wheel_dia / 2 - tooth_depth'],
        ['horizontal', ['origin', 'tip'], 'over_rim', 'wheel_dia / 2 + 1 mm'],
        ['vertical', ['tip', 'back'], 'notch_rise', 'wheel_dia / 2 * sin(pitch_angle)'],
      ],
      [['root', 'x-axis']],
    ),
    feature({ type: 'extrude', id: 'tooth', name: 'Tooth cut', sketch: 'notch', operation: 'remove', extent: 'through', body: 'wheel-body' }),
    feature(
      { type: 'pattern', id: 'toothing', name: 'Teeth', form: 'circular', of: ['tooth'], along: 'x', spread: 'spacing', body: 'wheel-body' },
      { count: ['tooth_count', 'teeth'], span: ['tooth_angle', 'pitch_angle'] },
    ),
    sketch('screw-mark', 'Set screw mark', 'top'),
    {
      type: 'sketch.draw',
      sketch: 'screw-mark',
      entities: [{ type: 'point', id: 'screw-at', sketch: 'screw-mark', x: 9, y: 0 }],
      constraints: [{ type: 'constraint', id: 'screw-on', sketch: 'screw-mark', kind: 'coincident', on: ['screw-at', 'x-axis'] }],
      dimensions: [],
      values: [],
    },
    place('screw-mark', 'screw-place', 'horizontal', 'screw-at', 'screw_place', 'wheel_stock / 2', [4, 12]),
    feature(
      { type: 'hole', id: 'set-screw', name: 'Set screw hole', sketch: 'screw-mark', form: 'simple', extent: 'blind', isReversed: true, body: 'wheel-body' },
      { diameter: ['set_screw', 'screw_hole'], depth: ['set_screw_reach', 'wheel_dia / 2'] },
    ),
  ]);
}

export function pawl(take: Take): Document {
  const slot = 'outline';
  const point = (id: string, x: number, y: number) => ({ type: 'point', id, sketch: slot, x, y }) as const;
  const tangent = (id: string, ...on: string[]) => ({ type: 'constraint', id, sketch: slot, kind: 'tangent', on }) as const;
  return build(createDocument('pawl', 'part', 'Pawl'), [
    take('pawl', ['frame-stock', 'screw-hole']),
    sketch(slot, 'Pawl outline', 'side'),
    {
      type: 'sketch.draw',
      sketch: slot,
      entities: [
        point('pivot', 0, 0),
        point('nose', 60, 0),
        point('pivot-top', 0, 10),
        point('pivot-foot', 0, -10),
        point('nose-top', 60, 6),
        point('nose-foot', 60, -6),
        { type: 'line', id: 'back', sketch: slot, start: 'pivot-top', end: 'nose-top' },
        { type: 'line', id: 'belly', sketch: slot, start: 'pivot-foot', end: 'nose-foot' },
        { type: 'arc', id: 'heel', sketch: slot, centre: 'pivot', start: 'pivot-top', end: 'pivot-foot' },
        { type: 'arc', id: 'tip', sketch: slot, centre: 'nose', start: 'nose-foot', end: 'nose-top' },
        { type: 'circle', id: 'pivot-hole', sketch: slot, centre: 'pivot', radius: 3.3 },
      ],
      constraints: [
        { type: 'constraint', id: 'pivot-on', sketch: slot, kind: 'coincident', on: ['pivot', 'origin'] },
        { type: 'constraint', id: 'nose-on', sketch: slot, kind: 'coincident', on: ['nose', 'x-axis'] },
        tangent('t1', 'back', 'heel'),
        tangent('t2', 'belly', 'heel'),
        tangent('t3', 'back', 'tip'),
        tangent('t4', 'belly', 'tip'),
      ],
      dimensions: [
        { type: 'dimension', id: 'reach-dim', sketch: slot, kind: 'horizontal', on: ['pivot', 'nose'], parameter: 'reach', at: [30, -24] },
        { type: 'dimension', id: 'heel-dim', sketch: slot, kind: 'radius', on: ['heel'], parameter: 'heel-radius', at: [-22, 14] },
        { type: 'dimension', id: 'tip-dim', sketch: slot, kind: 'radius', on: ['tip'], parameter: 'tip-radius', at: [74, 14] },
        { type: 'dimension', id: 'pivot-dim', sketch: slot, kind: 'diameter', on: ['pivot-hole'], parameter: 'pivot-hole-dia', at: [10, 20] },
      ],
      values: [
        dimension(slot, 'reach', 'pawl_reach', '60 mm', 'length'),
        dimension(slot, 'heel-radius', 'heel_radius', '10 mm', 'length'),
        dimension(slot, 'tip-radius', 'tip_radius', '0.6 * heel_radius', 'length'),
        dimension(slot, 'pivot-hole-dia', 'pawl_pivot', 'screw_hole', 'length'),
      ],
    },
    feature(
      { type: 'extrude', id: 'blank', name: 'Pawl blank', sketch: slot, operation: 'start', extent: 'centred', body: 'pawl-body' },
      { depth: ['pawl_stock', 'frame_stock / 2'] },
      { type: 'body', id: 'pawl-body', name: 'Pawl', material: 'Steel' },
    ),
    feature(
      {
        type: 'fillet',
        id: 'eased',
        name: 'Pawl back eased',
        edges: [edge('blank/end(back)', 'blank/side(back)'), edge('blank/side(back)', 'blank/start(back)')],
        body: 'pawl-body',
      },
      { radius: ['ease_radius', '1 mm'] },
    ),
  ]);
}

export function reed(take: Take): Document {
  return build(createDocument('reed', 'part', 'Reed'), [
    take('reed', ['weaving-width', 'dents', 'dents-per-cm']),
    parameter('reed-margin', 'reed_margin', '15 mm', 'length', { note: 'Solid edge on all sides of the dents.' }),
    parameter('dent-pitch', 'dent_pitch', '1 / dents_per_cm', 'length', { offered: true }),
    sketch('plate', 'Reed plate', 'front'),
    rectangle('plate', 'reed-edge', [0, 0, 430, 100], { width: ['reed_width', 'weaving_width + 2 * reed_margin'], height: ['reed_height', '100 mm'] }, true),
    feature(
      { type: 'extrude', id: 'reed-blank', name: 'Reed blank', sketch: 'plate', operation: 'start', extent: 'forward', body: 'reed-body' },
      { depth: ['reed_stock', '3 mm'] },
      { type: 'body', id: 'reed-body', name: 'Reed', material: 'Stainless steel' },
    ),
    sketch('dent', 'First dent', 'front'),
    rectangle(
      'dent',
      'dent-edge',
      [15, 15, 1.5, 70],
      { width: ['dent_gap', '0.6 * dent_pitch'], height: ['dent_height', 'reed_height - 2 * reed_margin'] },
      false,
    ),
    place('dent', 'dent-inset', 'horizontal', 'dent-edge-a', 'dent_inset', 'reed_margin', [6, -10]),
    place('dent', 'dent-rise', 'vertical', 'dent-edge-a', 'dent_rise', 'reed_margin', [-12, 6]),
    feature({ type: 'extrude', id: 'dent-cut', name: 'Dent cut', sketch: 'dent', operation: 'remove', extent: 'through', body: 'reed-body' }),
    feature(
      { type: 'pattern', id: 'dent-row', name: 'Dents', form: 'linear', of: ['dent-cut'], along: 'x', spread: 'spacing', body: 'reed-body' },
      { count: ['dent_count', 'dents'], span: ['dent_spacing', 'dent_pitch'] },
    ),
  ]);
}

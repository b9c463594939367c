/** Writes the demo projects, demo/table-loom.json and demo/first-draft.json, from what is said here and in demo/. Run after changing it. */
import { writeFileSync } from 'node:fs';
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { createDocument, DocumentValues, stableJson, writeProjectFile, type Edit } from '../src/core/document';
import { publishValues } from '../src/core/links';
import { beamUnit, loom } from './demo/loom';
import { letOffBrake } from './demo/let-off-brake';
import { firstDraft } from './demo/first-draft';
import { pawl, ratchetWheel, reed, warpBeam } from './demo/moving-parts';
import { warpTension } from './demo/warp-tension';
import { build, circle, feature, parameter, place, point, rectangle, sketch } from './demo/shapes';

/** A size of a document: what values are in it, by their ids. */
function size(id: string, name: string, formulas: Readonly<Record<string, string>>): Edit {
  return { type: 'size.put', size: { id: `size-${id}`, name, cells: Object.fromEntries(Object.entries(formulas).map(([value, text]) => [value, { text }])) } };
}

const sizes = build(createDocument('loom-sizes', 'master', 'Loom sizes'), [
  {
    type: 'table.put',
    table: {
      type: 'table',
      id: 'screws',
      name: 'screws',
      columns: [
        { name: 'size', kind: 'text' },
        { name: 'clearance', kind: 'length' },
        { name: 'head', kind: 'length' },
      ],
      rows: [
        ['"M5"', '5.5 mm', '8.5 mm'],
        ['"M6"', '6.6 mm', '10 mm'],
        ['"M8"', '9 mm', '13 mm'],
      ],
    },
  },
  parameter('weaving-width', 'weaving_width', '400 mm', 'length', {
    pinned: true,
    offered: true,
    note: 'Widest cloth that the loom weaves.',
    least: { text: '150 mm' },
    most: { text: '900 mm' },
  }),
  parameter('frame-stock', 'frame_stock', '18 mm', 'length', {
    pinned: true,
    offered: true,
    choices: ['12 mm', '15 mm', '18 mm', '21 mm'],
    note: 'Board thicknesses that the timber yard keeps.',
  }),
  parameter('frame-height', 'frame_height', '260 mm', 'length', { offered: true }),
  parameter('frame-depth', 'frame_depth', '0.9 * weaving_width', 'length', { offered: true, note: 'A wide loom tips unless it is deep as well.' }),
  parameter('side-gap', 'side_gap', '12 mm', 'length', { offered: true, note: 'Room between the cloth and the side frame, on each side.' }),
  parameter('inner-width', 'inner_width', 'weaving_width + 2 * side_gap', 'length', { offered: true }),
  parameter('beam-dia', 'beam_dia', '45 mm', 'length', { offered: true, pinned: true, tolerance: { kind: 'fit', fit: 'h9' } }),
  parameter('bearing-clearance', 'bearing_clearance', '0.4 mm', 'length', { offered: true }),
  parameter('bearing-dia', 'bearing_dia', 'beam_dia + bearing_clearance', 'length', { offered: true, tolerance: { kind: 'fit', fit: 'H9' } }),
  parameter('teeth', 'teeth', '24', 'count', { offered: true, least: { text: '8' } }),
  parameter('pitch-angle', 'pitch_angle', '360 deg / teeth', 'angle', { offered: true }),
  parameter('dents-per-cm', 'dents_per_cm', '4/cm', 'any', { offered: true }),
  parameter('dents', 'dents', 'floor(weaving_width * dents_per_cm)', 'count', { offered: true }),
  parameter('screw', 'screw', '"M6"', 'text', { offered: true, choices: ['"M5"', '"M6"', '"M8"'] }),
  parameter('screw-hole', 'screw_hole', 'lookup(screws, screw, "clearance")', 'length', { offered: true }),
  size('narrow', 'Narrow', { 'weaving-width': '280 mm', 'frame-stock': '15 mm' }),
  size('standard', 'Standard', { 'weaving-width': '400 mm' }),
  size('wide', 'Wide', { 'weaving-width': '600 mm', 'frame-stock': '21 mm', 'beam-dia': '60 mm' }),
  {
    type: 'guard.put',
    guard: {
      type: 'guard',
      id: 'deep-enough',
      condition: { text: 'frame_depth >= 2 * beam_dia' },
      message: 'The frame is too shallow for two beams.',
      severity: 'error',
    },
  },
  {
    type: 'guard.put',
    guard: {
      type: 'guard',
      id: 'thick-enough',
      condition: { text: 'frame_stock >= 3 * lookup(screws, screw, "clearance") / 2' },
      message: 'The frame is too thin for the screw.',
      severity: 'error',
    },
  },
]);

const published = publishValues(new DocumentValues(sizes));
const hash = bytesToHex(sha256(utf8ToBytes(stableJson(sizes)))).slice(0, 40);

const take = (part: string, ids: readonly string[]): Edit => ({
  type: 'link.put',
  link: { type: 'link', id: `${part}-sizes`, source: 'loom-sizes', sourceName: 'Loom sizes', policy: 'ask', revision: 1, hash },
  takes: ids.map((id) => {
    const value = published[id];
    if (!value) throw new Error(`no value ${id}`);
    const name = id.replaceAll('-', '_');
    return { type: 'take', id: `${part}-${id}`, link: `${part}-sizes`, parameter: id, name, sourceName: name, value };
  }),
});

const side = build(createDocument('side-frame', 'part', 'Side frame'), [
  take('side', ['frame-stock', 'frame-height', 'frame-depth', 'beam-dia', 'bearing-dia', 'screw-hole']),
  parameter('beam-height', 'beam_height', 'frame_height - beam_dia - 35 mm', 'length', { pinned: true, note: 'Axis of both beams above the table.' }),
  parameter('rail-section', 'rail_section', '2 * frame_stock', 'length'),
  sketch('outline', 'Side outline', 'side'),
  rectangle('outline', 'edge', [0, 0, 360, 260], { width: ['depth', 'frame_depth'], height: ['height', 'frame_height'] }, true),
  feature(
    { type: 'extrude', id: 'board', name: 'Side board', sketch: 'outline', operation: 'start', extent: 'forward', body: 'side-body' },
    { depth: ['stock', 'frame_stock'] },
    { type: 'body', id: 'side-body', name: 'Side', material: 'Beech' },
  ),
  sketch('openings', 'Side openings', 'side'),
  rectangle('openings', 'mortise', [162, 30, 36, 36], { width: ['mortise_depth', 'rail_section'], height: ['mortise_height', 'rail_section'] }, false),
  place('openings', 'rail-gap', 'vertical', 'mortise-a', 'side_openings_a', '18 mm', [130, 12]),
  place('openings', 'mortise-place', 'horizontal', 'mortise-a', 'mortise_place', '(frame_depth - rail_section) / 2', [80, 86]),
  circle('openings', 'bearing', [60, 180], 22, ['warp_bearing', 'bearing_dia']),
  place('openings', 'bearing-x', 'horizontal', 'bearing-centre', 'bearing_inset', '60 mm', [30, 232]),
  place('openings', 'bearing-y', 'vertical', 'bearing-centre', 'bearing_rise', 'beam_height', [-22, 90]),
  feature({ type: 'extrude', id: 'openings-cut', name: 'Side openings cut', sketch: 'openings', operation: 'remove', extent: 'through', body: 'side-body' }),
  feature(
    {
      type: 'fillet',
      id: 'corners',
      name: 'Corners rounded',
      edges: [
        ['bottom', 'right'],
        ['right', 'top'],
        ['left', 'top'],
        ['bottom', 'left'],
      ].map(([a, b]) => `edge[board/side(edge-${a}) | board/side(edge-${b})]`),
      body: 'side-body',
    },
    { radius: ['corner_round', '2 / 3 * frame_stock'] },
  ),
  sketch('screw-place', 'Screw places', 'side'),
  point('screw-place', 'screw', [20, 20]),
  place('screw-place', 'screw-x', 'horizontal', 'screw', 'screw_inset', '20 mm', [10, -12]),
  place('screw-place', 'screw-y', 'vertical', 'screw', 'screw_rise', '20 mm', [-14, 10]),
  feature(
    { type: 'hole', id: 'screw-hole', name: 'First screw hole', sketch: 'screw-place', form: 'simple', extent: 'through', body: 'side-body' },
    { diameter: ['screw_bore', 'screw_hole'] },
  ),
  feature(
    { type: 'pattern', id: 'screw-row', name: 'Screw holes', form: 'linear', of: ['screw-hole'], along: 'y', spread: 'span', body: 'side-body' },
    { count: ['screw_count', '2'], span: ['screw_span', 'frame_depth - 2 * screw_inset'] },
  ),
  sketch('pawl-slot', 'Pawl slot', 'side'),
  rectangle('pawl-slot', 'slot', [95, 215, 40, 8], { width: ['slot_length', '40 mm'], height: ['slot_width', '8 mm'] }, false),
  place('pawl-slot', 'slot-x', 'horizontal', 'slot-a', 'slot_place', 'bearing_inset + 35 mm', [48, 235]),
  place('pawl-slot', 'slot-y', 'vertical', 'slot-a', 'slot_rise', 'beam_height + 35 mm', [150, 108]),
  feature({ type: 'extrude', id: 'pawl-slot-cut', name: 'Pawl slot cut', sketch: 'pawl-slot', operation: 'remove', extent: 'through', body: 'side-body' }),
]);

const rail = build(createDocument('cross-rail', 'part', 'Cross rail'), [
  take('rail', ['frame-stock', 'inner-width', 'screw-hole']),
  parameter('rail-tenon', 'tenon', 'frame_stock', 'length', { note: 'How far the rail goes into each side.' }),
  parameter('rail-length', 'rail_length', 'inner_width + 2 * tenon', 'length', { offered: true, pinned: true }),
  sketch('section', 'Rail section', 'side'),
  rectangle('section', 'rail-edge', [0, 0, 36, 36], { width: ['section_depth', '2 * frame_stock'], height: ['section_height', 'section_depth'] }, true),
  feature(
    { type: 'extrude', id: 'bar', name: 'Rail bar', sketch: 'section', operation: 'start', extent: 'forward', body: 'rail-body' },
    { depth: ['bar_length', 'rail_length'] },
    { type: 'body', id: 'rail-body', name: 'Rail', material: 'Beech' },
  ),
  sketch('end-hole', 'End hole', 'side'),
  circle('end-hole', 'hole', [18, 18], 3.3, ['end_hole', 'screw_hole']),
  place('end-hole', 'hole-x', 'horizontal', 'hole-centre', 'end_hole_across', 'section_depth / 2', [9, -8]),
  place('end-hole', 'hole-y', 'vertical', 'hole-centre', 'end_hole_rise', 'section_height / 2', [-8, 9]),
  feature({ type: 'extrude', id: 'hole-cut', name: 'End hole bored', sketch: 'end-hole', operation: 'remove', extent: 'through', body: 'rail-body' }),
]);

const tension = warpTension(take('tension', ['dents', 'beam-dia']));
const brake = letOffBrake(take('brake', ['dents', 'beam-dia']));
const parts = [sizes, side, rail, warpBeam(take), ratchetWheel(take, tension), pawl(take), reed(take)];
// Which content a component stands for is written down when the project is imported.
const unit = beamUnit(parts);
const documents = [...parts, tension, brake, unit, loom([...parts, tension, unit])];
writeFileSync(new URL('../demo/first-draft.json', import.meta.url), writeProjectFile({ name: 'Loom, first draft', documents: firstDraft() }));
writeFileSync(new URL('../demo/table-loom.json', import.meta.url), writeProjectFile({ name: 'Table loom', documents }));

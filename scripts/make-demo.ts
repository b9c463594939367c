/** Writes demo/table-loom.json, the demo project, from what is said here. Run after changing it. */
import { writeFileSync } from 'node:fs';
import { applyEdit, createDocument, DocumentValues, writeProjectFile, type Document, type Edit, type Parameter } from '../src/core/document';
import { publishValues } from '../src/core/links';
import { stableJson } from '../src/core/document';
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';

function build(document: Document, edits: readonly Edit[]): Document {
  return edits.reduce((current, edit) => {
    const result = applyEdit(current, edit);
    if (!result.ok) throw new Error(`${edit.type}: ${result.failure.message}`);
    return result.value.document;
  }, document);
}

const parameter = (id: string, name: string, text: string, kind: string, more: Partial<Parameter> = {}): Edit => ({
  type: 'parameter.add',
  parameter: { type: 'parameter', id, name, formula: { text }, kind, ...more },
});

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
  parameter('beam-dia', 'beam_dia', '45 mm', 'length', { offered: true, pinned: true }),
  parameter('bearing-clearance', 'bearing_clearance', '0.4 mm', 'length', { offered: true }),
  parameter('bearing-dia', 'bearing_dia', 'beam_dia + bearing_clearance', 'length', { offered: true }),
  parameter('teeth', 'teeth', '24', 'count', { offered: true, least: { text: '8' } }),
  parameter('pitch-angle', 'pitch_angle', '360 deg / teeth', 'angle', { offered: true }),
  parameter('dents-per-cm', 'dents_per_cm', '4/cm', 'any', { offered: true }),
  parameter('dents', 'dents', 'floor(weaving_width * dents_per_cm)', 'count', { offered: true }),
  parameter('screw', 'screw', '"M6"', 'text', { offered: true, choices: ['"M5"', '"M6"', '"M8"'] }),
  parameter('screw-hole', 'screw_hole', 'lookup(screws, screw, "clearance")', 'length', { offered: true }),
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

const dimension = (sketch: string, id: string, name: string, text: string, kind: string): Parameter => ({
  type: 'parameter',
  id,
  owner: sketch,
  name,
  formula: { text },
  kind,
});

/** A rectangle from (x, y), its lower left corner, with its two dimensions. */
function rectangle(
  sketch: string,
  prefix: string,
  box: readonly [number, number, number, number],
  sizes: { width: readonly [string, string]; height: readonly [string, string] },
  anchor: boolean,
): Edit {
  const [x, y, w, h] = box;
  const p = (n: string) => `${prefix}-${n}`;
  const point = (n: string, px: number, py: number) => ({ type: 'point', id: p(n), sketch, x: px, y: py }) as const;
  const line = (n: string, a: string, b: string) => ({ type: 'line', id: p(n), sketch, start: p(a), end: p(b) }) as const;
  const relate = (n: string, kind: 'horizontal' | 'vertical' | 'coincident', ...on: string[]) => ({ type: 'constraint', id: p(n), sketch, kind, on }) as const;
  return {
    type: 'sketch.draw',
    sketch,
    entities: [
      point('a', x, y),
      point('b', x + w, y),
      point('c', x + w, y + h),
      point('d', x, y + h),
      line('bottom', 'a', 'b'),
      line('right', 'b', 'c'),
      line('top', 'c', 'd'),
      line('left', 'd', 'a'),
    ],
    constraints: [
      relate('h1', 'horizontal', p('bottom')),
      relate('h2', 'horizontal', p('top')),
      relate('v1', 'vertical', p('right')),
      relate('v2', 'vertical', p('left')),
      ...(anchor ? [relate('o', 'coincident', p('a'), 'origin')] : []),
    ],
    dimensions: [
      { type: 'dimension', id: p('dim-w'), sketch, kind: 'horizontal', on: [p('bottom')], parameter: p('w'), at: [x + w / 2, y - 24] },
      { type: 'dimension', id: p('dim-h'), sketch, kind: 'vertical', on: [p('right')], parameter: p('h'), at: [x + w + 24, y + h / 2] },
    ],
    values: [dimension(sketch, p('w'), ...sizes.width, 'length'), dimension(sketch, p('h'), ...sizes.height, 'length')],
  };
}

const place = (
  sketch: string,
  prefix: string,
  kind: 'horizontal' | 'vertical',
  point: string,
  name: string,
  text: string,
  at: readonly [number, number],
): Edit => ({
  type: 'sketch.draw',
  sketch,
  entities: [],
  constraints: [],
  dimensions: [{ type: 'dimension', id: `${prefix}-dim`, sketch, kind, on: ['origin', point], parameter: prefix, at: [at[0], at[1]] }],
  values: [dimension(sketch, prefix, name, text, 'length')],
});

const side = build(createDocument('side-frame', 'part', 'Side frame'), [
  take('side', ['frame-stock', 'frame-height', 'frame-depth', 'beam-dia', 'bearing-dia', 'screw-hole']),
  parameter('beam-height', 'beam_height', 'frame_height - beam_dia - 35 mm', 'length', { pinned: true, note: 'Axis of both beams above the table.' }),
  parameter('rail-section', 'rail_section', '2 * frame_stock', 'length'),
  { type: 'step.add', step: { type: 'sketch', id: 'outline', name: 'Side outline', plane: 'side' }, values: [] },
  rectangle('outline', 'edge', [0, 0, 360, 260], { width: ['depth', 'frame_depth'], height: ['height', 'frame_height'] }, true),
  {
    type: 'step.add',
    step: {
      type: 'extrude',
      id: 'board',
      name: 'Side board',
      sketch: 'outline',
      operation: 'start',
      extent: 'forward',
      body: 'side-body',
      values: { depth: 'stock' },
    },
    values: [dimension('board', 'stock', 'stock', 'frame_stock', 'length')],
    body: { type: 'body', id: 'side-body', name: 'Side', material: 'Beech' },
  },
  { type: 'step.add', step: { type: 'sketch', id: 'openings', name: 'Side openings', plane: 'side' }, values: [] },
  rectangle('openings', 'mortise', [162, 30, 36, 36], { width: ['mortise_depth', 'rail_section'], height: ['mortise_height', 'rail_section'] }, false),
  place('openings', 'rail-gap', 'vertical', 'mortise-a', 'side_openings_a', '18 mm', [130, 12]),
  place('openings', 'mortise-place', 'horizontal', 'mortise-a', 'mortise_place', '(frame_depth - rail_section) / 2', [80, 86]),
  {
    type: 'sketch.draw',
    sketch: 'openings',
    entities: [
      { type: 'point', id: 'bearing-centre', sketch: 'openings', x: 60, y: 180 },
      { type: 'circle', id: 'bearing', sketch: 'openings', centre: 'bearing-centre', radius: 22 },
    ],
    constraints: [],
    dimensions: [
      { type: 'dimension', id: 'bearing-dim', sketch: 'openings', kind: 'diameter', on: ['bearing'], parameter: 'warp-bearing', at: [60, 180] },
      {
        type: 'dimension',
        id: 'bearing-x-dim',
        sketch: 'openings',
        kind: 'horizontal',
        on: ['origin', 'bearing-centre'],
        parameter: 'bearing-x',
        at: [30, 232],
      },
      { type: 'dimension', id: 'bearing-y-dim', sketch: 'openings', kind: 'vertical', on: ['origin', 'bearing-centre'], parameter: 'bearing-y', at: [-22, 90] },
    ],
    values: [
      dimension('openings', 'warp-bearing', 'warp_bearing', 'bearing_dia', 'length'),
      dimension('openings', 'bearing-x', 'bearing_inset', '60 mm', 'length'),
      dimension('openings', 'bearing-y', 'bearing_rise', 'beam_height', 'length'),
    ],
  },
  {
    type: 'step.add',
    step: {
      type: 'extrude',
      id: 'openings-cut',
      name: 'Side openings cut',
      sketch: 'openings',
      operation: 'remove',
      extent: 'through',
      body: 'side-body',
      values: {},
    },
    values: [],
  },
]);

const rail = build(createDocument('cross-rail', 'part', 'Cross rail'), [
  take('rail', ['frame-stock', 'inner-width', 'screw-hole']),
  parameter('rail-tenon', 'tenon', 'frame_stock', 'length', { note: 'How far the rail goes into each side.' }),
  parameter('rail-length', 'rail_length', 'inner_width + 2 * tenon', 'length', { offered: true, pinned: true }),
  { type: 'step.add', step: { type: 'sketch', id: 'section', name: 'Rail section', plane: 'side' }, values: [] },
  rectangle('section', 'rail-edge', [0, 0, 36, 36], { width: ['section_depth', '2 * frame_stock'], height: ['section_height', 'section_depth'] }, true),
  {
    type: 'step.add',
    step: {
      type: 'extrude',
      id: 'bar',
      name: 'Rail bar',
      sketch: 'section',
      operation: 'start',
      extent: 'forward',
      body: 'rail-body',
      values: { depth: 'bar-length' },
    },
    values: [dimension('bar', 'bar-length', 'bar_length', 'rail_length', 'length')],
    body: { type: 'body', id: 'rail-body', name: 'Rail', material: 'Beech' },
  },
  { type: 'step.add', step: { type: 'sketch', id: 'end-hole', name: 'End hole', plane: 'side' }, values: [] },
  {
    type: 'sketch.draw',
    sketch: 'end-hole',
    entities: [
      { type: 'point', id: 'hole-centre', sketch: 'end-hole', x: 18, y: 18 },
      { type: 'circle', id: 'hole', sketch: 'end-hole', centre: 'hole-centre', radius: 3.3 },
    ],
    constraints: [],
    dimensions: [
      { type: 'dimension', id: 'hole-dim', sketch: 'end-hole', kind: 'diameter', on: ['hole'], parameter: 'hole-dia', at: [26, 26] },
      { type: 'dimension', id: 'hole-x-dim', sketch: 'end-hole', kind: 'horizontal', on: ['origin', 'hole-centre'], parameter: 'hole-x', at: [9, -8] },
      { type: 'dimension', id: 'hole-y-dim', sketch: 'end-hole', kind: 'vertical', on: ['origin', 'hole-centre'], parameter: 'hole-y', at: [-8, 9] },
    ],
    values: [
      dimension('end-hole', 'hole-dia', 'end_hole', 'screw_hole', 'length'),
      dimension('end-hole', 'hole-x', 'end_hole_across', 'section_depth / 2', 'length'),
      dimension('end-hole', 'hole-y', 'end_hole_rise', 'section_height / 2', 'length'),
    ],
  },
  {
    type: 'step.add',
    step: {
      type: 'extrude',
      id: 'hole-cut',
      name: 'End hole bored',
      sketch: 'end-hole',
      operation: 'remove',
      extent: 'through',
      body: 'rail-body',
      values: {},
    },
    values: [],
  },
]);

writeFileSync(new URL('../demo/table-loom.json', import.meta.url), writeProjectFile({ name: 'Table loom', documents: [sizes, side, rail] }));

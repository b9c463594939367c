/**
 * Parts with their loose ends labelled by hand: what a designer who knows the part would want tied, and what only looks
 * like it. Invented. The detection was written before them and is not tuned on them.
 */
import { applyEdit, createDocument, DocumentValues, type Document, type Edit } from '@/core/document';
import { readState, type PastValues } from '@/core/loose-ends';

export interface LabelledPart {
  readonly name: string;
  readonly driving: Readonly<Record<string, string>>;
  /** Dimensions, by name. */
  readonly dimensions: Readonly<Record<string, string>>;
  /** Changes of driving values since, in order. */
  readonly changes?: readonly (readonly [name: string, formula: string])[];
  /** For each dimension that should be tied: a value that it should read. */
  readonly loose: Readonly<Record<string, string>>;
}

export const LABELLED_PARTS: readonly LabelledPart[] = [
  {
    name: 'Beater',
    driving: { reed_length: '424 mm', beater_stock: '21 mm', handle_dia: '27 mm' },
    dimensions: {
      upper_rail: 'reed_length',
      lower_rail: '424 mm',
      groove_depth: '9 mm',
      groove_width: '5 mm',
      end_block: '21 mm',
      handle_bore: 'handle_dia + 0.4 mm',
    },
    loose: { lower_rail: 'reed_length', end_block: 'beater_stock' },
  },
  {
    name: 'Beater, made wider since',
    driving: { reed_length: '424 mm', beater_stock: '21 mm' },
    dimensions: { upper_rail: 'reed_length', lower_rail: '424 mm', cap_length: '424 mm', foot: '60 mm', chamfer: '2 mm' },
    changes: [['reed_length', '504 mm']],
    loose: { lower_rail: 'reed_length', cap_length: 'reed_length' },
  },
  {
    name: 'Shuttle',
    driving: { shuttle_length: '280 mm', bobbin_dia: '22 mm', wall: '4 mm' },
    dimensions: {
      body_length: 'shuttle_length',
      cavity_length: 'shuttle_length / 2',
      cavity_width: 'bobbin_dia + 6 mm',
      pin_hole: '3 mm',
      tip_radius: '12 mm',
      eye: '2.5 mm',
    },
    loose: {},
  },
  {
    name: 'Bobbin',
    driving: { bobbin_dia: '22 mm', bobbin_length: '96 mm', pin: '3.2 mm' },
    dimensions: { flange: '22 mm', barrel: 'bobbin_dia / 2', bore: 'pin + 0.3 mm', axle_bore: '3.2 mm', winding: '88 mm', flange_edge: '4 mm' },
    loose: { flange: 'bobbin_dia', axle_bore: 'pin' },
  },
  {
    name: 'Treadle, pivot changed twice',
    driving: { pivot_dia: '12 mm', treadle_length: '512 mm', treadle_width: '45 mm' },
    dimensions: { board: 'treadle_length', heel: '45 mm', pivot_hole: '12 mm', cord_hole: '6.5 mm', toe_radius: '18 mm', bearing_hole: 'pivot_dia + 0.2 mm' },
    changes: [
      ['pivot_dia', '14 mm'],
      ['pivot_dia', '16 mm'],
    ],
    loose: { heel: 'treadle_width', pivot_hole: 'pivot_dia' },
  },
  {
    name: 'Heddle frame',
    driving: { weave: '400 mm', heddle_height: '235 mm', bar_width: '17 mm' },
    dimensions: { bar_length: 'weave + 34 mm', post: '235 mm', end_overlap: '17 mm', eye_gap: '8 mm', hook_hole: '4 mm', half_span: 'weave / 2' },
    loose: { post: 'heddle_height', end_overlap: 'bar_width' },
  },
  {
    name: 'Warping board',
    driving: { board_width: '915 mm', board_height: '610 mm', peg_dia: '19 mm', peg_count_gap: '152.5 mm' },
    dimensions: { rail: 'board_width', stile: '610 mm', peg_hole: '19 mm', first_peg: '76.25 mm', lap: '30 mm', screw: '4.5 mm' },
    loose: { stile: 'board_height', peg_hole: 'peg_dia', first_peg: 'peg_count_gap' },
  },
  {
    name: 'Lease stick',
    driving: { stick_length: '460 mm', stick_width: '14 mm' },
    dimensions: { length: 'stick_length', width: 'stick_width', thickness: '5 mm', hole: '4 mm', hole_inset: '10 mm', edge: '1.5 mm' },
    loose: {},
  },
  {
    name: 'Raddle',
    driving: { raddle_length: '438 mm', section: '25.4 mm', pin_height: '37 mm' },
    dimensions: { base: '438 mm', first_pin: '12.7 mm', pin: 'pin_height', cap_groove: '6 mm', cap: '438 mm', base_width: '30 mm' },
    loose: { base: 'raddle_length', cap: 'raddle_length', first_pin: 'section' },
  },
  {
    name: 'Temple, narrowed since',
    driving: { cloth_width: '386 mm', arm_width: '28 mm', tooth: '3 mm' },
    dimensions: { left_arm: '193 mm', right_arm: 'cloth_width / 2', slide: '28 mm', slot: '6 mm', lock_hole: '5 mm', rivet: '3 mm' },
    changes: [['cloth_width', '342 mm']],
    loose: { left_arm: 'cloth_width', slide: 'arm_width' },
  },
  {
    name: 'Cloth beam bracket',
    driving: { beam_dia: '45 mm', plate: '6 mm', bolt: '8.4 mm' },
    dimensions: {
      saddle: '45 mm',
      saddle_edge: 'beam_dia + 2 * plate',
      base_hole: '8.4 mm',
      top_hole: 'bolt',
      base_length: '110 mm',
      rib: '6 mm',
      corner_round: '10 mm',
    },
    changes: [['bolt', '9 mm']],
    loose: { saddle: 'beam_dia', base_hole: 'bolt' },
  },
  {
    name: 'Ratchet cover',
    driving: { wheel_dia: '108 mm', wheel_thick: '18 mm', gap: '1.5 mm' },
    dimensions: { inner: 'wheel_dia + 2 * gap', depth: '18 mm', lip: '111 mm', screw_circle: '96 mm', screw: '3.5 mm', wall: '2 mm' },
    loose: { depth: 'wheel_thick' },
  },
  {
    name: 'Bench',
    driving: { seat_height: '540 mm', seat_length: '760 mm', leg_stock: '34 mm' },
    dimensions: {
      leg: 'seat_height - leg_stock',
      seat: 'seat_length',
      stretcher: '692 mm',
      tenon: '17 mm',
      mortise: 'leg_stock / 2',
      peg: '8 mm',
      overhang: '55 mm',
    },
    loose: { tenon: 'leg_stock' },
  },
  {
    name: 'Castle post, raised since',
    driving: { castle_height: '655 mm', post_width: '42 mm', post_stock: '24 mm' },
    dimensions: { post: 'castle_height', brace: '655 mm', foot: '42 mm', cap: '24 mm', notch: '12 mm', dowel: '10 mm', dowel_inset: '15 mm' },
    changes: [
      ['castle_height', '680 mm'],
      ['post_stock', '27 mm'],
    ],
    loose: { brace: 'castle_height', foot: 'post_width', cap: 'post_stock' },
  },
];

/** The document as it is after the changes, and the states that it had before, newest first. */
export function buildLabelled({ driving, dimensions, changes = [] }: LabelledPart): { readonly values: DocumentValues; readonly past: readonly PastValues[] } {
  const add = (document: Document, edit: Edit): Document => {
    const result = applyEdit(document, edit);
    if (!result.ok) throw new Error(result.failure.message);
    return result.value.document;
  };
  let document = createDocument('labelled', 'part', 'Labelled');
  for (const [name, text] of Object.entries(driving)) {
    document = add(document, { type: 'parameter.add', parameter: { type: 'parameter', id: `d-${name}`, name, formula: { text }, kind: 'any' } });
  }
  document = add(document, { type: 'step.add', step: { type: 'sketch', id: 's', name: 'Outline', plane: 'front' }, values: [] });
  for (const [name, text] of Object.entries(dimensions)) {
    document = add(document, {
      type: 'sketch.draw',
      sketch: 's',
      entities: [
        { type: 'point', id: `c-${name}`, sketch: 's', x: 0, y: 0 },
        { type: 'circle', id: `k-${name}`, sketch: 's', centre: `c-${name}`, radius: 5 },
      ],
      constraints: [],
      dimensions: [{ type: 'dimension', id: `m-${name}`, sketch: 's', kind: 'diameter', on: [`k-${name}`], parameter: `v-${name}`, at: [0, 0] }],
      values: [{ type: 'parameter', id: `v-${name}`, owner: 's', name, formula: { text }, kind: 'length' }],
    });
  }
  const past: PastValues[] = [];
  for (const [name, text] of changes) {
    past.unshift(readState(new DocumentValues(document)));
    document = add(document, { type: 'parameter.setFormula', id: `d-${name}`, formula: { text } });
  }
  return { values: new DocumentValues(document), past };
}

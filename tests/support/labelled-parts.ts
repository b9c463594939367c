/**
 * Parts with their loose ends labelled by hand: what a designer who knows the part would want tied, and what only looks
 * like it. Invented. `LABELLED_PARTS` were looked at when the weight of halves was set; `HELD_OUT_PARTS` were written
 * after that, and nothing was changed since.
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
  {
    name: 'Skein winder',
    driving: { skein_length: '1.5 m', arm_count_gap: '375 mm', axle_dia: '16 mm' },
    dimensions: { arm: '375 mm', hub_bore: '16 mm', hub_dia: '52 mm', tip_hole: '7 mm', post: '610 mm', foot: 'skein_length / 5' },
    loose: { arm: 'arm_count_gap', hub_bore: 'axle_dia' },
  },
  {
    name: 'Bobbin rack, made for thicker bobbins since',
    driving: { bobbin_dia: '58 mm', rows_gap: '71 mm', peg_length: '96 mm' },
    dimensions: { first_row: '71 mm', second_row: 'rows_gap * 2', peg: '96 mm', peg_hole: '6 mm', side_clearance: '29 mm', board: '240 mm' },
    changes: [['bobbin_dia', '64 mm']],
    loose: { first_row: 'rows_gap', peg: 'peg_length', side_clearance: 'bobbin_dia' },
  },
  {
    name: 'Reed hook',
    driving: { hook_length: '137 mm', steel: '0.8 mm' },
    dimensions: { blade: 'hook_length', thickness: 'steel', slot: '1.2 mm', handle: '85 mm', handle_width: '22 mm', end_round: '11 mm' },
    loose: {},
  },
  {
    name: 'Side brace',
    driving: { frame_height: '260 mm', frame_depth: '360 mm', brace_stock: '15 mm' },
    dimensions: { brace_length: '360 mm', brace_width: '38 mm', lap_depth: '7.5 mm', lap_place: 'frame_height / 2', end_cut: '45 mm', pin: '15 mm' },
    loose: { brace_length: 'frame_depth', lap_depth: 'brace_stock', pin: 'brace_stock' },
  },
  {
    name: 'Cloth beam, longer since',
    driving: { inner_width: '424 mm', beam_dia: '45 mm', journal: '24 mm' },
    dimensions: { barrel: '424 mm', journal_length: '31 mm', bore: '24 mm', apron_groove: '3.5 mm', groove_length: '424 mm', collar: '45 mm' },
    changes: [['inner_width', '504 mm']],
    loose: { barrel: 'inner_width', groove_length: 'inner_width', bore: 'journal', collar: 'beam_dia' },
  },
  {
    name: 'Pulley',
    driving: { cord_dia: '3.2 mm', pulley_dia: '63 mm', pulley_bore: '6.35 mm' },
    dimensions: { groove_radius: '1.6 mm', outer: 'pulley_dia + 2 * cord_dia', bore: '6.35 mm', hub: '18 mm', rim: '4 mm', set_screw: '3 mm' },
    loose: { groove_radius: 'cord_dia', bore: 'pulley_bore' },
  },
  {
    name: 'Tool tray',
    driving: { tray_length: '346 mm', tray_depth: '41 mm', board: '9 mm' },
    dimensions: { front: '346 mm', back: 'tray_length', end: '41 mm', bottom_groove: '9 mm', groove_inset: '6 mm', finger_hole: '25 mm' },
    loose: { front: 'tray_length', end: 'tray_depth', bottom_groove: 'board' },
  },
  {
    name: 'Breast beam, two driving values swapped since',
    driving: { beam_width: '62 mm', beam_height: '33 mm', overhang: '27 mm' },
    dimensions: { width: '62 mm', height: '33 mm', edge_round: '16.5 mm', end_mortise: '20 mm', mortise_inset: 'overhang' },
    changes: [
      ['beam_width', '66 mm'],
      ['beam_height', '36 mm'],
    ],
    loose: { width: 'beam_width', height: 'beam_height', edge_round: 'beam_height' },
  },
];

/** The document as it is after the changes, and the states that it had before, newest first. */
export const HELD_OUT_PARTS: readonly LabelledPart[] = [
  {
    name: 'Swift arm',
    driving: { arm_length: '318 mm', arm_stock: '11 mm', pin_dia: '6.2 mm' },
    dimensions: { length: 'arm_length', lap: '5.5 mm', pin_hole: '6.2 mm', tip_width: '14 mm', other_arm: '318 mm', tip_chamfer: '2 mm' },
    loose: { lap: 'arm_stock', pin_hole: 'pin_dia', other_arm: 'arm_length' },
  },
  {
    name: 'Bench leg, table lowered since',
    driving: { table_height: '735 mm', leg_width: '58 mm', foot: '20 mm' },
    dimensions: { leg: '735 mm', tenon_length: '40 mm', tenon_width: '29 mm', mortise_place: 'table_height / 3', glide: '20 mm', edge: '3 mm' },
    changes: [['table_height', '715 mm']],
    loose: { leg: 'table_height', tenon_width: 'leg_width' },
  },
  {
    name: 'Quill',
    driving: { quill_length: '103 mm', quill_dia: '13 mm', shaft: '4.8 mm' },
    dimensions: { barrel: 'quill_length', outer: '13 mm', bore: 'shaft + 0.2 mm', flange_round: '6.5 mm', groove: '1 mm', groove_place: '51.5 mm' },
    loose: { outer: 'quill_dia', flange_round: 'quill_dia', groove_place: 'quill_length' },
  },
  {
    name: 'Lamm',
    driving: { lamm_length: '472 mm', cord_gap: '36 mm' },
    dimensions: { warp_bar: 'lamm_length', first_hole: '18 mm', second_hole: 'cord_gap', hole_dia: '5 mm', pivot: '9 mm', end_round: '12 mm' },
    loose: { first_hole: 'cord_gap' },
  },
  {
    name: 'Warp beam flange, thinner boards since',
    driving: { flange_dia: '146 mm', board: '18 mm', axle: '25 mm' },
    dimensions: { outer: 'flange_dia', thick: '18 mm', axle_hole: 'axle', bolt_circle: '73 mm', bolt_hole: '5.5 mm', recess: '9 mm' },
    changes: [['board', '15 mm']],
    loose: { thick: 'board', bolt_circle: 'flange_dia', recess: 'board' },
  },
  {
    name: 'Shaft switch lever',
    driving: { lever_length: '187 mm', lever_stock: '12 mm', pivot_pin: '8 mm' },
    dimensions: { outline: 'lever_length', thick: 'lever_stock', pivot_hole: 'pivot_pin + 0.1 mm', knob_hole: '6 mm', slot: '30 mm', knob_place: '160 mm' },
    loose: {},
  },
  {
    name: 'Yarn cone stand, wider cones since',
    driving: { cone_dia: '174 mm', spike: '127 mm', base_stock: '22 mm' },
    dimensions: { base: '348 mm', spike_hole: '5 mm', spike_length: '127 mm', gap_between: 'cone_dia + 15 mm', foot: '22 mm', base_edge: '87 mm' },
    changes: [['cone_dia', '182 mm']],
    loose: { base: 'cone_dia', spike_length: 'spike', foot: 'base_stock', base_edge: 'cone_dia' },
  },
  {
    name: 'Beam crank',
    driving: { crank_throw: '92 mm', shaft_dia: '17 mm', crank_stock: '14 mm' },
    dimensions: { throw: 'crank_throw', boss: '34 mm', bore: '17 mm', handle_hole: '8 mm', thick: '14 mm', end_radius: '13 mm', length: '126 mm' },
    loose: { boss: 'shaft_dia', bore: 'shaft_dia', thick: 'crank_stock' },
  },
];

/**
 * Parts with the round numbers that most designs are made of, labelled before the search for them was run. What is labelled here is what is to be
 * listed at all, likely or not; what else is listed equals a value by chance.
 */
export const ROUND_PARTS: readonly LabelledPart[] = [
  {
    name: 'Box',
    driving: { width: '120 mm', depth: '80 mm', t: '3 mm', pitch: '20 mm' },
    dimensions: { box_w: 'width', box_d: 'depth', wall: '3 mm', hole_spacing: '20 mm', corner: '5 mm', lip: '2 mm' },
    loose: { wall: 't', hole_spacing: 'pitch' },
  },
  {
    name: 'Lid',
    driving: { width: '120 mm', t: '3 mm', play: '0.2 mm' },
    dimensions: { lid_w: '120 mm', rim: '3 mm', rim_height: '8 mm', groove: '0.2 mm', edge: '1 mm' },
    loose: { lid_w: 'width', rim: 't', groove: 'play' },
  },
  {
    name: 'Bracket',
    driving: { leg: '60 mm', plate: '6 mm', screw_dia: '5 mm' },
    dimensions: { foot_length: '60 mm', back_height: 'leg', thickness: '6 mm', hole: '5 mm', hole_inset: '12 mm', bend: '4 mm' },
    loose: { foot_length: 'leg', thickness: 'plate', hole: 'screw_dia' },
  },
  {
    name: 'Stepped shaft',
    driving: { dia: '20 mm', seat_dia: '15 mm', seat_length: '12 mm', length: '100 mm' },
    dimensions: { body: 'dia', left_seat: '15 mm', right_seat: 'seat_dia', left_length: '12 mm', overall: 'length', chamfer: '1 mm', groove: '2 mm' },
    loose: { left_seat: 'seat_dia', left_length: 'seat_length' },
  },
  {
    name: 'Pulley',
    driving: { bore: '10 mm', rim_dia: '60 mm', belt: '6 mm' },
    dimensions: { outer: 'rim_dia', hub: '2 * bore', shaft_hole: '10 mm', groove_width: '6 mm', web: '5 mm', setscrew: '4 mm' },
    loose: { shaft_hole: 'bore', groove_width: 'belt' },
  },
  {
    name: 'Drawer side',
    driving: { stock: '12 mm', height: '90 mm', bottom: '6 mm' },
    dimensions: { side_height: 'height', pin: '12 mm', groove: '6 mm', groove_up: '10 mm', tail_depth: '12 mm' },
    loose: { pin: 'stock', groove: 'bottom', tail_depth: 'stock' },
  },
  {
    name: 'Flange',
    driving: { bolt_circle: '80 mm', bolt: '8 mm', flange_thickness: '10 mm', pipe: '40 mm' },
    dimensions: { circle: '80 mm', bolt_hole: '8 mm', disc: '10 mm', opening: '40 mm', raised_face: '2 mm', fillet: '3 mm' },
    loose: { circle: 'bolt_circle', bolt_hole: 'bolt', disc: 'flange_thickness', opening: 'pipe' },
  },
  {
    name: 'Peg rail, wider gaps since',
    driving: { gap: '50 mm', peg: '15 mm', rail: '30 mm' },
    dimensions: { first: '40 mm', spacing: '40 mm', peg_hole: '15 mm', rail_height: 'rail', end: '20 mm' },
    changes: [['gap', '40 mm']],
    loose: { spacing: 'gap', peg_hole: 'peg' },
  },
  {
    name: 'Hinge leaf',
    driving: { pin_dia: '4 mm', leaf: '2 mm', knuckles: '5' },
    dimensions: { pin_hole: '4 mm', knuckle_radius: '4 mm', leaf_thickness: '2 mm', leaf_width: '25 mm', screw_hole: '3 mm' },
    loose: { pin_hole: 'pin_dia', leaf_thickness: 'leaf' },
  },
  {
    name: 'Clamp block',
    driving: { rod: '16 mm', slit: '2 mm', block: '30 mm', screw: '5 mm' },
    dimensions: { width: 'block', bore: '16 mm', saw_cut: '2 mm', screw_hole: '5 mm', head_depth: '5 mm', edge: '1 mm' },
    loose: { bore: 'rod', saw_cut: 'slit', screw_hole: 'screw' },
  },
];

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

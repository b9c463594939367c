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
import { build, parameter } from './shapes';

/** What the components stand for, by their documents' ids: the first revisions, which an import makes. */
export function loom(documents: readonly Document[]): Document {
  const component = (id: string, source: string, more: Partial<Component> = {}): Edit => {
    const document = documents.find((one) => one.id === source);
    if (!document) throw new Error(`no document ${source}`);
    return {
      type: 'component.put',
      component: { type: 'component', id, name: id.replaceAll('-', '_'), source, sourceName: document.name, policy: 'ask', revision: 1, hash: '', ...more },
    };
  };
  const at = (x: number, y = 0, z = 0): Pick<Component, 'at'> => ({ at: { origin: [x, y, z], turn: [1, 0, 0, 0] } });
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
    component('sizes', 'loom-sizes'),
    component('left-side', 'side-frame', { ...at(0), isAnchored: true }),
    component('right-side', 'side-frame', at(500)),
    component('rail', 'cross-rail', at(0, 160, 20)),
    component('beam', 'warp-beam', at(-20, 60, 180)),
    component('wheel', 'ratchet-wheel', at(500, 60, 180)),
    component('pawl', 'pawl', at(500, 130, 219)),
    drive('sizes', 'weaving-width', 'weaving_width', 'loom_width'),
    drive('sizes', 'frame-stock', 'frame_stock', 'board'),
    ...mate('right-side', 'Sides apart', 'coplanar', plane('left-side', 'side'), plane('right-side', 'side'), 1, [
      'side_distance',
      'sizes.inner_width + board',
    ]),
    ...mate('right-front', 'Sides in line', 'coplanar', plane('left-side', 'front'), plane('right-side', 'front'), 1, ['side_shift', '0 mm']),
    ...mate('right-foot', 'Sides level', 'coplanar', plane('left-side', 'top'), plane('right-side', 'top'), 1, ['side_rise', '0 mm']),
    ...mate(
      'rail-foot',
      'Rail in its mortise',
      'coplanar',
      face('left-side', 'side-body', 'openings-cut/side(mortise-bottom)'),
      face('rail', 'rail-body', 'bar/side(rail-edge-bottom)'),
      -1,
      ['rail_play', '0 mm'],
    ),
    ...mate(
      'rail-back',
      'Rail against its mortise',
      'coplanar',
      face('left-side', 'side-body', 'openings-cut/side(mortise-left)'),
      face('rail', 'rail-body', 'bar/side(rail-edge-left)'),
      -1,
      ['rail_gap', '0 mm'],
    ),
    ...mate('rail-end', 'Rail flush', 'coplanar', face('left-side', 'side-body', 'board/start'), face('rail', 'rail-body', 'bar/start'), 1, [
      'rail_stand',
      '0 mm',
    ]),
    ...mate(
      'beam-axis',
      'Beam in its bearing',
      'coaxial',
      face('left-side', 'side-body', 'openings-cut/side(bearing)'),
      face('beam', 'beam', 'turned/side(far-rim-side)'),
      1,
    ),
    ...mate(
      'beam-place',
      'Beam against the side',
      'coplanar',
      face('left-side', 'side-body', 'board/end'),
      face('beam', 'beam', 'turned/side(near-barrel-side)'),
      -1,
      ['beam_play', '0 mm'],
    ),
    ...mate('beam-turn', 'Beam turned', 'angle', plane('left-side', 'top'), plane('beam', 'top'), 1, ['beam_turn', '0 deg'], [1, 0, 0]),
    ...mate(
      'wheel-axis',
      'Wheel on the beam',
      'coaxial',
      face('beam', 'beam', 'turned/side(far-rim-side)'),
      face('wheel', 'wheel-body', 'wheel/side(bore)'),
      1,
    ),
    ...mate('wheel-place', 'Wheel beside the side', 'coplanar', face('right-side', 'side-body', 'board/end'), face('wheel', 'wheel-body', 'wheel/start'), -1, [
      'wheel_gap',
      '1 mm',
    ]),
    ...mate('wheel-turn', 'Wheel turns with the beam', 'parallel', plane('beam', 'top'), plane('wheel', 'top'), 1),
    ...mate('pawl-side', 'Pawl beside the wheel', 'coplanar', plane('wheel', 'side'), plane('pawl', 'side'), 1, ['pawl_middle', 'board / 2']),
    ...mate('pawl-front', 'Pawl behind the beam', 'tangent', plane('right-side', 'front'), face('pawl', 'pawl-body', 'blank/side(pivot-hole)'), 1, [
      'pawl_depth',
      '-(left_side.bearing_inset + 70 mm) - sizes.screw_hole / 2',
    ]),
    // A point of the pawl above a plane, but for how it is turned: its axis lies in both.
    ...mate('pawl-rise', 'Pawl above the beam', 'tangent', plane('right-side', 'top'), face('pawl', 'pawl-body', 'blank/side(pivot-hole)'), 1, [
      'pawl_height',
      'left_side.beam_height + 39 mm - sizes.screw_hole / 2',
    ]),
    ...mate('pawl-turn', 'Pawl turned', 'angle', plane('right-side', 'top'), plane('pawl', 'top'), 1, ['pawl_turn', '160.9 deg'], [1, 0, 0]),
  ]);
}

function drive(component: string, value: string, sourceName: string, text: string): Edit {
  return { type: 'drive.put', drive: { type: 'drive', id: `set-${value}`, component, path: [value], sourceName, formula: { text } } };
}

function plane(component: string, name: 'front' | 'top' | 'side'): MateReference {
  return { path: [component], plane: name };
}

function face(component: string, body: string, name: string): MateReference {
  return { path: [component], body, name };
}

function mate(
  id: string,
  name: string,
  kind: MateKind,
  first: MateReference,
  second: MateReference,
  sense: 1 | -1,
  value?: readonly [name: string, text: string],
  about?: [number, number, number],
): Edit[] {
  const [slot] = mateSlots(kind);
  const own = `mate-${id}`;
  const record: MateRecord = {
    type: 'mate',
    id: own,
    name,
    kind,
    first,
    second,
    sense,
    values: slot ? { [slot.slot]: `${own}-value` } : {},
    ...(about ? { about } : {}),
  };
  const values =
    slot && value ? [{ type: 'parameter' as const, id: `${own}-value`, owner: own, name: value[0], formula: { text: value[1] }, kind: slot.kind }] : [];
  return [{ type: 'mate.put', mate: record, values }];
}

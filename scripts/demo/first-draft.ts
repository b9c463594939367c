/** The loom as it was first drawn, with loose ends left on purpose for the user to find. */
import { createDocument, DocumentValues, type Document, type Edit } from '../../src/core/document';
import { publishValues } from '../../src/core/links';
import { build, circle, feature, parameter, place, rectangle, sketch } from './shapes';

export function firstDraft(): readonly Document[] {
  const sizes = build(createDocument('draft-sizes', 'master', 'Loom sizes'), [
    parameter('draft-width', 'weaving_width', '400 mm', 'length', { pinned: true, offered: true }),
    parameter('draft-stock', 'frame_stock', '18 mm', 'length', { pinned: true, offered: true, choices: ['12 mm', '15 mm', '18 mm', '21 mm'] }),
    parameter('draft-stock-2', 'Frame_stock', '18 mm', 'length', { offered: true, note: 'Which of the two is meant?' }),
    parameter('draft-gap', 'side_gap', '12 mm', 'length', { offered: true }),
    parameter('draft-inner', 'inner_width', 'weaving_width + 2 * side_gap', 'length', { offered: true }),
    parameter('draft-spare', 'spare_gap', '7 mm', 'length', { note: 'From a drawing that was given up.' }),
  ]);
  const published = publishValues(new DocumentValues(sizes));
  const take = (id: string, name: string): Extract<Edit, { readonly type: 'link.put' }>['takes'][number] => {
    const value = published[id];
    if (!value) throw new Error(`no value ${id}`);
    // The rail was drawn when boards were thinner: its link is behind.
    const older = id === 'draft-stock' && value.kind === 'quantity' ? { ...value, value: 150_000 } : value;
    return { type: 'take', id: `draft-rail-${id}`, link: 'draft-link', parameter: id, name, sourceName: name, value: older };
  };
  const rail = build(createDocument('draft-rail', 'part', 'Cross rail'), [
    {
      type: 'link.put',
      link: { type: 'link', id: 'draft-link', source: 'draft-sizes', sourceName: 'Loom sizes', policy: 'ask', revision: 1, hash: '' },
      takes: [take('draft-stock', 'frame_stock'), take('draft-inner', 'inner_width')],
    },
    sketch('draft-section', 'Rail section', 'side'),
    rectangle(
      'draft-section',
      'draft-edge',
      [0, 0, 36, 36],
      { width: ['section_depth', '2 * frame_stock'], height: ['section_height', 'section_depth'] },
      true,
    ),
    feature(
      { type: 'extrude', id: 'draft-bar', name: 'Rail bar', sketch: 'draft-section', operation: 'start', extent: 'forward', body: 'draft-body' },
      { depth: ['bar_length', '424 mm'] },
      { type: 'body', id: 'draft-body', name: 'Rail', material: 'Beech' },
    ),
    sketch('draft-end', 'End hole', 'side'),
    circle('draft-end', 'draft-hole', [15, 15], 3.3, ['end_hole', '6.6 mm']),
    place('draft-end', 'draft-hole-x', 'horizontal', 'draft-hole-centre', 'end_hole_across', 'section_depth / 2', [7, -8]),
    place('draft-end', 'draft-hole-y', 'vertical', 'draft-hole-centre', 'end_hole_rise', 'section_height / 2', [-8, 7]),
    feature({ type: 'extrude', id: 'draft-bore', name: 'End hole bored', sketch: 'draft-end', operation: 'remove', extent: 'through', body: 'draft-body' }),
  ]);
  return [sizes, rail];
}

/** A calculation beside the loom: how hard the warp pulls on the teeth of its ratchet. */
import { createDocument, type Document, type Edit } from '../../src/core/document';
import { build, parameter } from './shapes';

/** `sizes`: the link to the master, with its taken values. */
export function warpTension(sizes: Edit): Document {
  return build(createDocument('warp-tension', 'calc', 'Warp tension'), [
    sizes,
    text(
      'text-title',
      '# Load on the ratchet\n\nEvery thread of the warp pulls; together they turn the beam, and **one tooth** of the ratchet holds it. The fuller the beam, the longer the arm.',
    ),
    parameter('thread-pull', 'thread_pull', '0.6 N', 'force', { note: 'In one thread, as it is woven.', least: { text: '0.1 N' }, most: { text: '3 N' } }),
    parameter('warp-pull', 'warp_pull', 'thread_pull * dents', 'force', { note: 'One thread in each dent.' }),
    parameter('full-dia', 'full_dia', 'beam_dia + 50 mm', 'length', { note: 'Across the beam with its warp wound on.' }),
    parameter('torque', 'torque', 'warp_pull * full_dia / 2', 'any', { offered: true }),
    text('text-tooth', '## The tooth that holds'),
    parameter('wheel-dia', 'wheel_dia', '104 mm', 'length', { note: 'Where the pawl meets the teeth.' }),
    parameter('tooth-load', 'tooth_load', 'torque / (wheel_dia / 2)', 'force', { offered: true }),
    parameter('tooth-strength', 'tooth_strength', '250 N', 'force', { note: 'Measured on a tooth of mild steel, 6 mm thick.' }),
    parameter('reserve', 'reserve', 'tooth_strength / tooth_load', 'number', { offered: true, decimals: 2 }),
    parameter('least-width', 'least_width', '1.5 * 6 mm * tooth_load / tooth_strength', 'length', {
      offered: true,
      note: 'Of a tooth that holds with that reserve.',
    }),
    {
      type: 'guard.put',
      guard: {
        type: 'guard',
        id: 'tooth-holds',
        condition: { text: 'reserve >= 1.5' },
        message: 'The tooth has less than one and a half times the strength that it needs.',
        severity: 'warning',
      },
    },
    {
      type: 'chart.put',
      chart: {
        type: 'chart',
        id: 'chart-load',
        title: 'Load on the tooth, for three kinds of thread',
        over: 'full-dia',
        from: { text: '60 mm' },
        to: { text: '160 mm' },
        of: ['tooth-load'],
        by: { value: 'thread-pull', amounts: [{ text: '0.4 N' }, { text: '0.6 N' }, { text: '0.9 N' }] },
      },
    },
    {
      type: 'page.order',
      order: [
        'text-title',
        'tension-dents',
        'thread-pull',
        'warp-pull',
        'tension-beam-dia',
        'full-dia',
        'torque',
        'text-tooth',
        'wheel-dia',
        'tooth-load',
        'tooth-strength',
        'reserve',
        'tooth-holds',
        'least-width',
        'chart-load',
      ],
    },
  ]);
}

function text(id: string, markdown: string): Edit {
  return { type: 'paragraph.put', paragraph: { type: 'paragraph', id, text: markdown } };
}

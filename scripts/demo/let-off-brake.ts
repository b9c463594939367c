/** A calculation that a service of the workshop does: what a weighted rope round the warp beam holds. */
import { createDocument, applyEdit, DocumentValues, listQuestions, type Document, type Edit } from '../../src/core/document';
import { FUNCTIONS } from '../../calculator/functions';
import { build, parameter } from './shapes';

const BRAKE = 'rope-brake';

/** `sizes`: the link to the master, with its taken values. */
export function letOffBrake(sizes: Edit): Document {
  return answered(
    build(createDocument('let-off-brake', 'calc', 'Let-off brake'), [
      sizes,
      text(
        'brake-title',
        '# Brake of the warp beam\n\nA rope lies round the beam, with a weight at its slack end. The warp turns the beam only when it pulls harder.',
      ),
      parameter('weight', 'weight', '2.2 kg', 'mass', { note: 'On the slack end of the rope.', least: { text: '0.1 kg' }, most: { text: '5 kg' } }),
      parameter('weight-force', 'weight_force', 'weight * 9.81 m/s^2', 'force'),
      parameter('wraps', 'wraps', '1.5', 'number', { note: 'Turns of the rope round the beam.' }),
      parameter('friction', 'friction', '0.25', 'number', { note: 'Rope on ash, dry. Measured.' }),
      {
        type: 'outside.put',
        outside: {
          type: 'outside',
          id: BRAKE,
          name: 'Rope brake',
          asked: { of: 'service', service: 'Workshop', function: 'rope brake' },
          inputs: [
            { key: 'weight', kind: 'force', unit: 'N', formula: { text: 'weight_force' } },
            { key: 'wraps', kind: 'number', unit: '', formula: { text: 'wraps' } },
            { key: 'friction', kind: 'number', unit: '', formula: { text: 'friction' } },
            { key: 'drum', kind: 'length', unit: 'mm', formula: { text: 'beam_dia' } },
          ],
          outputs: [
            { key: 'holding force', kind: 'force', unit: 'N' },
            { key: 'torque', kind: 'torque', unit: 'N*m' },
          ],
        },
        outputs: [output('holding-force', 'holding_force', 'holding force', 'force', 'N'), output('brake-torque', 'brake_torque', 'torque', 'torque', 'N*m')],
      },
      text('brake-warp', '## What the warp feels'),
      parameter('full-dia', 'full_dia', 'beam_dia + 50 mm', 'length', { note: 'Across the beam with its warp wound on.' }),
      parameter('pull', 'pull_per_thread', 'brake_torque / (full_dia / 2) / dents', 'force', { offered: true }),
      {
        type: 'guard.put',
        guard: {
          type: 'guard',
          id: 'pull-is-enough',
          condition: { text: 'pull_per_thread >= 0.5 N' },
          message: 'The threads hang: more weight, or another turn of the rope.',
          severity: 'warning',
        },
      },
      {
        type: 'page.order',
        order: [
          'brake-title',
          'weight',
          'weight-force',
          'wraps',
          'friction',
          'brake-beam-dia',
          'holding-force',
          'brake-torque',
          'brake-warp',
          'brake-dents',
          'full-dia',
          'pull',
          'pull-is-enough',
        ],
      },
    ]),
  );
}

function output(id: string, name: string, key: string, kind: string, unit: string) {
  const measure = { of: 'outside' as const, what: 'answer' as const, outside: BRAKE, output: key };
  return { type: 'parameter' as const, id, owner: BRAKE, name, formula: { text: '' }, kind, displayUnit: unit, offered: true, measure };
}

/** As the service answers, so that the project opens without a question. */
function answered(document: Document): Document {
  return listQuestions(new DocumentValues(document)).reduce((now, { question }) => {
    const asked = FUNCTIONS.find(({ name }) => question.asked.of === 'service' && name === question.asked.function);
    const results = asked?.compute(Object.fromEntries(Object.entries(question.inputs).map(([key, { value }]) => [key, value])));
    if (!asked || typeof results !== 'object') throw new Error(`The service does not compute ${question.name}.`);
    const outputs = Object.fromEntries(question.outputs.map(({ key, unit }) => [key, { value: results[key] ?? NaN, unit }]));
    const applied = applyEdit(now, {
      type: 'outside.answer',
      answer: {
        type: 'answer',
        id: `answer-${question.outside}`,
        outside: question.outside,
        within: [],
        question: question.key,
        inputs: { ...question.inputs },
        outputs,
        at: '2026-11-28T09:30:00.000Z',
        version: 'workshop 1',
      },
    });
    if (!applied.ok) throw new Error(applied.failure.message);
    return applied.value.document;
  }, document);
}

function text(id: string, markdown: string): Edit {
  return { type: 'paragraph.put', paragraph: { type: 'paragraph', id, text: markdown } };
}

/** Outside calculations among values: asked, answered, held; in the document itself and in what uses it. */
import {
  applyEdit,
  DocumentValues,
  listQuestions,
  readProjectFile,
  writeProjectFile,
  type Document,
  type Edit,
  type EditOf,
  type Question,
} from '@/core/document';
import { component, driven, placeless, sourceOf, withComponents, withParameters } from '../../../tests/support/assemblies';
import { edited } from '../../../tests/support/demo';
import { heldSources, runRange, Sampler } from '../studies';
import { complete, openComplete } from '.';
import { openValues } from './instances';

const SHAFT = 'hub';

/** A service that says the diameter of a shaft for a torque in N m: d = cube root of 16 T / (pi 40 MPa). */
const diameterFor = (torque: number): number => Math.cbrt((16 * torque * 1000) / (Math.PI * 40));

const asks = (name = 'Shaft check', formula = 'force * arm'): EditOf<'outside.put'> => ({
  type: 'outside.put',
  outside: {
    type: 'outside',
    id: SHAFT,
    name,
    asked: { of: 'service', service: 'Workshop', function: 'shaft diameter' },
    inputs: [{ key: 'torque', kind: 'torque', unit: 'N*m', formula: { text: formula } }],
    outputs: [{ key: 'diameter', kind: 'length', unit: 'mm' }],
  },
  outputs: [
    {
      type: 'parameter',
      id: 'least',
      owner: SHAFT,
      name: 'least_dia',
      formula: { text: '' },
      kind: 'length',
      measure: { of: 'outside', what: 'answer', outside: SHAFT, output: 'diameter' },
    },
  ],
});

let count = 0;
/** The question with the answer of the service, kept in the document. */
function answered(document: Document, { key, outside, within, inputs }: Question, unit = 'mm'): Document {
  const outputs = { diameter: { value: diameterFor(inputs['torque']?.value ?? NaN), unit } };
  return edited(document, {
    type: 'outside.answer',
    answer: {
      type: 'answer',
      id: `answer-${count++}`,
      outside,
      within: [...within],
      question: key,
      inputs: { ...inputs },
      outputs,
      at: '2026-11-28T12:00:00.000Z',
      version: '1',
    },
  });
}

function settled(document: Document, others: readonly Document[] = []): Document {
  let now = document;
  for (let round = 0; round < 5; round++) {
    const open = listQuestions(openValues(now, sourceOf(others))).filter(({ state }) => state !== 'answered');
    if (open.length === 0) return now;
    for (const { question } of open) now = answered(now, question);
  }
  throw new Error('Questions do not end.');
}

const set = (document: Document, id: string, text: string): Document => edited(document, { type: 'parameter.setFormula', id, formula: { text } });
const shown = (document: Document, id: string, others: readonly Document[] = []) => openValues(document, sourceOf(others)).show(id);

describe.each(['part', 'master', 'calc', 'assembly'] as const)('in a %s', (kind) => {
  const blank = edited(withParameters(kind, 'host', { force: '200 N', arm: '24 mm', wall: '2 mm' }), asks());
  const host = edited(blank, {
    type: 'parameter.add',
    parameter: { type: 'parameter', id: 'bore', name: 'bore', formula: { text: 'least_dia + 2 * wall' }, kind: 'length' },
  });

  test('what is asked is the inputs in the units that were agreed, and what reads an output waits for it by name', () => {
    const [{ question, state } = { question: undefined, state: undefined }] = listQuestions(openValues(host, sourceOf([])));
    expect(state).toBe('open');
    expect(question?.inputs).toEqual({ torque: { value: 4.8, unit: 'N*m' } });
    expect(shown(host, 'least')?.diagnostics[0]?.message).toBe('Shaft check has not answered yet.');
    expect(shown(host, 'bore')?.diagnostics[0]?.message).toBe('Waiting on least_dia.');
  });

  test('an answer drives what reads it, and is held when the inputs move on: all that it reaches is told', () => {
    const fresh = settled(host);
    // 4.8 N m on 40 MPa, by hand: cube root of 611.15 = 8.486 mm.
    expect(shown(fresh, 'least')?.shown).toBe('8.486 mm');
    expect(shown(fresh, 'bore')?.shown).toBe('12.486 mm');
    expect([...openValues(fresh, sourceOf([])).sheet.listHeld()]).toEqual([]);
    const moved = set(fresh, 'host-arm', '48 mm');
    const values = openValues(moved, sourceOf([]));
    expect(values.show('bore')?.shown).toBe('12.486 mm');
    expect(['least', 'bore', 'host-wall', 'host-arm'].map((id) => values.isHeld(id))).toEqual([true, true, false, false]);
    expect(values.handOver('bore')).toMatchObject({ isHeld: true });
    expect(['bore', 'least', 'host-wall'].map((id) => heldSources(values, id))).toEqual([['least_dia'], ['least_dia'], []]);
    expect(shown(settled(moved), 'bore')?.shown).toBe('14.692 mm');
    // Back to the inputs before: the answer that is kept serves, and nothing is asked.
    expect(listQuestions(openValues(set(settled(moved), 'host-arm', '24 mm'), sourceOf([]))).map(({ state }) => state)).toEqual(['answered']);
  });

  test('an output that could not be computed anew is held though it was answered, and is not asked for again', () => {
    const [{ question } = { question: undefined }] = listQuestions(openValues(host, sourceOf([])));
    if (!question) throw new Error('No question.');
    const fresh = answered(host, question);
    const kept = Object.values(fresh.records).find((record) => record.type === 'answer');
    if (kept?.type !== 'answer') throw new Error('No answer.');
    const stored = { diameter: { value: 8, unit: 'mm', stored: 'Shaft!B2 uses SHAFTLIFE, a function that is not known here.' } };
    const saved = edited(host, { type: 'outside.answer', answer: { ...kept, outputs: stored } });
    expect(shown(saved, 'bore')?.shown).toBe('12 mm');
    expect(openValues(saved, sourceOf([])).isHeld('bore')).toBe(true);
    expect(listQuestions(openValues(saved, sourceOf([]))).map(({ state }) => state)).toEqual(['answered']);
  });

  test('a run through its inputs asks nobody, and says at which amounts what it reads is held', async () => {
    const samples = await runRange(new Sampler(settled(host), ['host-arm'], sourceOf([])), [240_000, 480_000], ['bore', 'host-wall']);
    expect(samples.map(({ held }) => held)).toEqual([[], ['bore']]);
    expect(samples.map(({ outputs }) => ((outputs['bore'] ?? NaN) / 10_000).toFixed(3))).toEqual(['12.486', '12.486']);
  });

  test('it is the same in another program: from a file, and handed on whole', () => {
    const moved = set(settled(host), 'host-arm', '48 mm');
    const file = readProjectFile(writeProjectFile({ name: 'P', documents: [moved] }));
    const [read] = file.ok ? file.value.documents : [];
    if (!read) throw new Error('The file was not read.');
    for (const values of [openValues(read, sourceOf([])), openComplete(structuredClone(complete(moved, sourceOf([]))))]) {
      expect(values.show('bore')?.shown).toBe('12.486 mm');
      expect(values.isHeld('bore')).toBe(true);
    }
  });

  test('an input with an error waits, an output that reads itself is told as a cycle, a unit that does not fit is refused', () => {
    const wrong = set(host, 'host-arm', 'nothing_there');
    expect(shown(wrong, 'least')?.diagnostics[0]?.message).toBe('Waiting on arm.');
    const round = edited(host, { ...asks('Shaft check', 'force * bore'), outputs: [] });
    expect(shown(round, 'bore')?.diagnostics[0]?.message).toMatch(/depends on itself|cycle|bore.*least_dia/);
    const [open] = listQuestions(openValues(host, sourceOf([])));
    if (!open) throw new Error('Nothing is asked.');
    expect(shown(answered(host, open.question, 'N'), 'least')?.diagnostics[0]?.message).toBe(
      'Shaft check gave diameter in N: it should be in a unit of length.',
    );
  });

  test('it is deleted with its outputs and answers, not under a formula that reads it, and undone in one', () => {
    const fresh = settled(host);
    const refused = applyEdit(fresh, { type: 'outside.remove', id: SHAFT, readers: { mode: 'refuse' } });
    expect(refused.ok ? '' : refused.failure.message).toBe('least_dia is still read by 1 formula.');
    const gone = applyEdit(fresh, { type: 'outside.remove', id: SHAFT, readers: { mode: 'numbers', numbers: { least: '8.5 mm' } } });
    if (!gone.ok) throw new Error(gone.failure.message);
    expect(Object.values(gone.value.document.records).filter(({ type }) => type === 'answer' || type === 'outside')).toEqual([]);
    expect(shown(gone.value.document, 'bore')?.shown).toBe('12.5 mm');
    expect(edited(gone.value.document, gone.value.inverse)).toEqual(fresh);
  });

  test('a renamed value is followed by its inputs', () => {
    const renamed = edited(settled(host), { type: 'value.rename', id: 'host-arm', name: 'lever' });
    expect(shown(renamed, 'bore')?.shown).toBe('12.486 mm');
    expect(openValues(renamed, sourceOf([])).isHeld('bore')).toBe(false);
  });
});

describe('in a calc sheet that is used', () => {
  const sheet = edited(withParameters('calc', 'sheet', { force: '200 N', arm: '24 mm' }), asks());
  const host = withComponents(
    withParameters('part', 'host', { hub: '1 mm', other: '1 mm' }),
    placeless(component('one', 'sheet')),
    placeless(component('two', 'sheet')),
  );
  const reading = set(set(driven(host, 'two.arm', '48 mm'), 'host-hub', 'one.least_dia'), 'host-other', 'two.least_dia');

  test('each use asks for its own inputs; the answers belong to the document that uses it', () => {
    expect(listQuestions(openValues(reading, sourceOf([sheet]))).map(({ question }) => [question.within, question.inputs['torque']?.value])).toEqual([
      [['one'], 4.8],
      [['two'], 9.6],
    ]);
    const fresh = settled(reading, [sheet]);
    expect([shown(fresh, 'host-hub', [sheet])?.shown, shown(fresh, 'host-other', [sheet])?.shown]).toEqual(['8.486 mm', '10.692 mm']);
    const moved = driven(fresh, 'two.force', '100 N');
    const values = openValues(moved, sourceOf([sheet]));
    expect(values.show('host-other')?.shown).toBe('10.692 mm');
    expect([values.isHeld('host-hub'), values.isHeld('host-other')]).toEqual([false, true]);
  });

  test('an answer that comes while the document is open reaches what reads it', () => {
    const values = openValues(reading, sourceOf([sheet]));
    let now = reading;
    for (const { question } of listQuestions(values)) {
      const after = answered(now, question);
      const patch = applyEdit(now, {
        type: 'outside.answer',
        answer: Object.values(after.records)
          .filter((one) => one.type === 'answer')
          .at(-1)!,
      });
      if (!patch.ok) throw new Error(patch.failure.message);
      now = patch.value.document;
      values.apply(now, patch.value.diff);
    }
    expect([values.show('host-hub')?.shown, values.show('host-other')?.shown]).toEqual(['8.486 mm', '10.692 mm']);
  });

  test('what the sheet was answered at home serves where its inputs are the same', () => {
    const home = settled(sheet);
    expect(listQuestions(openValues(reading, sourceOf([home]))).map(({ state }) => state)).toEqual(['answered', 'held']);
  });
});

test('whatever is edited and answered, in whatever order, the open document is as one that is opened anew', () => {
  let document = edited(withParameters('master', 'host', { force: '200 N', arm: '24 mm' }), asks());
  const values = new DocumentValues(document);
  let seed = 7;
  const random = (n: number): number => (seed = (seed * 48271) % 2147483647) % n;
  for (let i = 0; i < 400; i++) {
    const [open] = listQuestions(values);
    const edit: Edit =
      random(3) === 0 && open
        ? {
            type: 'outside.answer',
            answer: {
              type: 'answer',
              id: `r${i}`,
              outside: SHAFT,
              within: [],
              question: random(2) === 0 ? open.question.key : `older-${random(5)}`,
              inputs: {},
              outputs: random(5) === 0 ? {} : { diameter: { value: random(50), unit: random(6) === 0 ? 'kg' : 'mm' } },
              at: '2026-11-28T12:00:00.000Z',
              version: '',
            },
          }
        : random(4) === 0
          ? asks(`Check ${random(3)}`, ['force * arm', 'force * 2 mm', 'arm'][random(3)])
          : {
              type: 'parameter.setFormula',
              id: random(2) === 0 ? 'host-arm' : 'host-force',
              formula: { text: ['12 mm', '30 N', 'least_dia', '24 mm'][random(4)] ?? '' },
            };
    const once = edit.type === 'outside.put' ? { ...edit, outputs: [] } : edit;
    const result = applyEdit(document, once);
    if (!result.ok) throw new Error(result.failure.message);
    document = result.value.document;
    values.apply(document, result.value.diff);
    const anew = new DocumentValues(document);
    for (const id of ['least', 'host-arm', 'host-force']) {
      expect(values.show(id)).toEqual(anew.show(id));
      expect(values.isHeld(id)).toBe(anew.isHeld(id));
    }
  }
});

/** Steps copied with their sketches: beside the original, and into other parts, measured on the solids. */
import {
  applyEdit,
  clipSteps,
  createDocument,
  DocumentValues,
  namesOfCopies,
  pasteSteps,
  readStepClip,
  sketchesOnlyFor,
  stepsBuiltOn,
  type StepClip,
} from '@/core/document';
import type { KernelPort } from '@/core/kernel-port';
import { createKernel } from '@/kernel/create-kernel';
import { relative } from '../support/kernel-shapes';
import { build, PartBuilder } from '../support/part-builder';

let kernel: KernelPort;
beforeAll(async () => {
  kernel = await createKernel();
});

/** A board whose width reads a driving value, with a square hole. */
function board(): PartBuilder {
  return new PartBuilder()
    .value('reach', '40 mm')
    .sketch('base')
    .rectangle('base', 'reach', '30 mm')
    .step({ type: 'extrude', id: 'block', sketch: 'base', operation: 'start', extent: 'forward', body: 'b' }, { depth: '20 mm' })
    .sketch('bore')
    .rectangle('bore', 'reach / 10', '5 mm', [3, 3], [4, 5])
    .step({ type: 'extrude', id: 'cut', sketch: 'bore', operation: 'remove', extent: 'through', body: 'b' });
}

let next = 0;
function pasted(part: PartBuilder, clip: StepClip, tied: readonly string[] = [], body?: string, own: Readonly<Record<string, string>> = {}): PartBuilder {
  const formulas = new Map(Object.entries(own));
  const result = pasteSteps(part.document, clip, { newId: () => `new${next++}`, tied: new Set(tied), body, beside: 50, formulas });
  if (!result.ok) throw new Error(result.failure.message);
  return part.do(result.value.edit);
}

const clipOf = (part: PartBuilder, ...ids: string[]): StepClip => clipSteps(new DocumentValues(part.document), ids);
const problemsOf = (part: PartBuilder): string[] => build(kernel, part).steps.flatMap(({ problem }) => problem?.message ?? []);

test('a body copied within its part stands beside it, by named values, and stays tied to what drives it', () => {
  const part = board();
  pasted(part, clipOf(part, 'block', 'cut'), ['reach']);
  expect(problemsOf(part)).toEqual([]);
  const { bodies } = build(kernel, part);
  expect(bodies.map(({ name }) => name)).toEqual(['b', 'b 2']);
  const [one, two] = bodies.map(({ properties }) => properties);
  expect(two?.volume).toBeCloseTo(one?.volume ?? 0, 6);
  expect(two?.box.min[0]).toBeCloseTo(50, 6);
  part.set('reach', '60 mm');
  expect(build(kernel, part).bodies.map(({ properties }) => properties?.volume)).toEqual([0, 0].map(() => expect.closeTo(60 * 600 - 6 * 100, 6) as number));
  expect(Object.values(part.document.records).flatMap((record) => (record.type === 'parameter' ? record.name : []))).toContain('b_2_x');
});

test('a body is copied with other values: one its own, one tied, the others as in the original', () => {
  const part = board();
  const clip = clipOf(part, 'block', 'cut');
  expect(Object.fromEntries(namesOfCopies(part.document, clip))).toMatchObject({ base_w: 'base_w_2', block_depth: 'block_depth_2' });
  const copy = (text: string): PartBuilder => pasted(part, clip, ['reach'], undefined, { base_w: text, block_depth: 'block_depth' });
  copy('80 mm');
  copy('base_w_2 / 4');
  expect(problemsOf(part)).toEqual([]);
  const volumes = (): number[] => build(kernel, part).bodies.map(({ properties }) => properties?.volume ?? NaN);
  const expected = (width: number, depth: number): unknown => expect.closeTo((width * 30 - 4 * 5) * depth, 4);
  expect(volumes()).toEqual([expected(40, 20), expected(80, 20), expected(20, 20)]);
  part.set('block_depth', '25 mm');
  expect(volumes()).toEqual([expected(40, 25), expected(80, 25), expected(20, 25)]);
});

test('a wrong formula for a copy is refused with nothing done', () => {
  const part = board();
  const made = pasteSteps(part.document, clipOf(part, 'block', 'cut'), {
    newId: () => `n${next++}`,
    tied: new Set(['reach']),
    body: undefined,
    beside: 50,
    formulas: new Map([['base_w', 'x'.repeat(100_000)]]),
  });
  expect(made.ok && applyEdit(part.document, made.value.edit).ok).toBe(false);
});

test('a cut copied onto its own body is drawn beside the original', () => {
  const part = board();
  pasted(part.set('reach', '90 mm'), clipOf(part, 'cut'), ['reach'], 'b');
  expect(problemsOf(part)).toEqual([]);
  expect(relative(build(kernel, part).volume, 90 * 600 - 2 * 9 * 5 * 20)).toBeLessThan(1e-9);
});

test('copied to another part as text, outside values become the numbers that they had', () => {
  const source = board();
  const clip = readStepClip(JSON.stringify(clipOf(source, 'block', 'cut')));
  const part = new PartBuilder();
  part.document = createDocument('other', 'part', 'Other');
  if (clip) pasted(part, clip);
  expect(problemsOf(part)).toEqual([]);
  expect(relative(build(kernel, part).bodies[0]?.properties?.volume ?? 0, 40 * 600 - 4 * 100)).toBeLessThan(1e-9);
  const formulas = Object.values(part.document.records).flatMap((record) => (record.type === 'parameter' ? [[record.name, record.formula.text]] : []));
  expect(formulas).toContainEqual(['base_w', '40 mm']);
  expect(formulas).toContainEqual(['bore_w', '(40 mm) / 10']);
});

test('copied to a part that has a value of that name, it can be tied to that one', () => {
  const part = new PartBuilder();
  part.document = createDocument('other', 'part', 'Other');
  pasted(part.value('reach', '70 mm'), clipOf(board(), 'block', 'cut'), ['reach']);
  expect(relative(build(kernel, part).bodies[0]?.properties?.volume ?? 0, 70 * 600 - 7 * 100)).toBeLessThan(1e-9);
});

test('fillets and patterns are copied with what they stand on: names of faces follow', () => {
  const part = board()
    .step({ type: 'fillet', id: 'soft', edges: ['edge[block/side(base-0) | block/side(base-1)]'], body: 'b' }, { radius: '2 mm' })
    .step({ type: 'pattern', id: 'row', form: 'linear', of: ['cut'], along: 'x', spread: 'spacing', body: 'b' }, { count: '3', span: '10 mm' });
  const before = build(kernel, part).volume;
  pasted(part, clipOf(part, 'block', 'cut', 'soft', 'row'), ['reach']);
  expect(problemsOf(part)).toEqual([]);
  expect(build(kernel, part).bodies[1]?.properties?.volume).toBeCloseTo(before, 6);
});

test.each([
  [['soft'], 'soft works on edges or faces of a body; copy the step that starts that body as well.'],
  [['cut'], 'cut works on a body; there is none here yet.'],
] as const)('%j alone is not put where it has nothing to stand on', (ids, message) => {
  const part = board().step({ type: 'fillet', id: 'soft', edges: ['edge[block/side(base-0) | block/side(base-1)]'], body: 'b' }, { radius: '2 mm' });
  const empty = createDocument('other', 'part', 'Other');
  expect(pasteSteps(empty, clipOf(part, ...ids), { newId: () => 'n', tied: new Set(), body: undefined, beside: 50 })).toMatchObject({ failure: { message } });
});

test('a paste is undone as one', () => {
  const part = board();
  const before = part.document;
  const result = pasteSteps(before, clipOf(part, 'block', 'cut'), {
    newId: (() => {
      let n = 0;
      return () => `n${n++}`;
    })(),
    tied: new Set(['reach']),
    body: undefined,
    beside: 50,
  });
  const applied = result.ok ? applyEdit(before, result.value.edit) : undefined;
  const undone = applied?.ok ? applyEdit(applied.value.document, applied.value.inverse) : undefined;
  expect(undone?.ok && undone.value.document).toEqual(before);
});

test.each(['', '{}', '[]', '{"format":"steps"}', 'width\t40 mm'])('text that is no clip is left alone: %j', (text) => {
  expect(readStepClip(text)).toBeUndefined();
});

test('what is built on a step is found through bodies and sketches, and which sketches it alone uses', () => {
  const part = board();
  expect(stepsBuiltOn(part.document, ['base'])).toEqual(['block', 'cut']);
  expect(stepsBuiltOn(part.document, ['cut'])).toEqual([]);
  expect(sketchesOnlyFor(part.document, ['cut'])).toEqual(['bore']);
  part.do({ type: 'step.remove', id: 'cut', readers: { mode: 'refuse' }, sketches: true });
  expect(part.document.lists['steps']).toEqual(['base', 'block']);
});

test('a copied body keeps its material, whose density was a value where it comes from', () => {
  const source = board().value('oak_density', '0.7 g/cm^3');
  source.do({ type: 'body.put', body: { type: 'body', id: 'b', name: 'b', material: 'oak_density', density: { text: 'oak_density' } } });
  const clip = clipOf(source, 'block', 'cut');
  expect(clip.outside.map(({ name }) => name).sort()).toEqual(['oak_density', 'reach']);
  const part = new PartBuilder();
  part.document = createDocument('other', 'part', 'Other');
  pasted(part, clip);
  const [body] = build(kernel, part).bodies;
  expect(body?.massProblem).toBeUndefined();
  // 0.7 g/cm³ of 40 x 30 x 20 mm without 4 x 5 x 20.
  expect(relative(body?.mass ?? 0, 0.7e-6 * (40 * 600 - 4 * 100))).toBeLessThan(1e-9);
});

test('words in limits, tolerances, choices and notes are no ids, whatever they are called', () => {
  // The value is called like the step, as the step is called like its id.
  const part = board();
  for (const name of ['base', 'cut']) {
    part.do({ type: 'parameter.add', parameter: { type: 'parameter', id: `value-${name}`, name, formula: { text: '3 mm' }, kind: 'length' } });
  }
  const limited = {
    least: { text: 'base' },
    most: { text: 'base + 90 mm' },
    tolerance: { kind: 'symmetric', by: { text: 'cut / 10' } },
    note: 'block',
  } as const;
  part.do({ type: 'parameter.update', id: 'base_w', changes: limited });
  pasted(part, clipOf(part, 'base', 'block'), ['reach', 'base', 'cut']);
  const copy = Object.values(part.document.records).find((record) => record.type === 'parameter' && record.name === 'base_w_2');
  expect(copy).toMatchObject(limited);
});

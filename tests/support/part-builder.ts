/** Parts built by edits, a step at a time, for tests of regeneration. */
import { createDocument, DocumentValues, slotsOf, startedBodies, type Document, type Edit, type Measure, type Parameter, type Step } from '@/core/document';
import type { KernelPort } from '@/core/kernel-port';
import { Regenerator, type BodyOutcome, type Regenerated, type StepOutcome } from '@/core/steps';
import { edited } from './demo';

type Plane = Extract<Step, { readonly type: 'sketch' }>['plane'];
type Draft<T extends Step> = T extends Step ? Omit<T, 'name' | 'values' | 'suppressed'> : never;

export class PartBuilder {
  document: Document = createDocument('part', 'part', 'Part');

  do(...edits: Edit[]): this {
    this.document = edited(this.document, ...edits);
    return this;
  }

  /** A user parameter; its id is its name. */
  value(name: string, formula: string, kind = 'any'): this {
    return this.do({ type: 'parameter.add', parameter: { type: 'parameter', id: name, name, formula: { text: formula }, kind } });
  }

  set(id: string, formula: string): this {
    return this.do({ type: 'parameter.setFormula', id, formula: { text: formula } });
  }

  sketch(id: string, plane: Plane = 'top'): this {
    return this.do({ type: 'step.add', step: { type: 'sketch', id, name: id, plane }, values: [] });
  }

  /** A rectangle from a corner, its width and height named `<sketch>_w` and `<sketch>_h`; sides `<sketch>-0` below, then counter-clockwise. */
  rectangle(sketch: string, width: string, height: string, [x, y]: readonly [number, number] = [0, 0], size: readonly [number, number] = [30, 20]): this {
    const corners = [
      [x, y],
      [x + size[0], y],
      [x + size[0], y + size[1]],
      [x, y + size[1]],
    ] as const;
    const at = (i: number): string => `${sketch}-p${i % 4}`;
    const value = (suffix: string, text: string): Parameter => ({
      type: 'parameter',
      id: `${sketch}_${suffix}`,
      owner: sketch,
      name: `${sketch}_${suffix}`,
      formula: { text },
      kind: 'length',
    });
    return this.do({
      type: 'sketch.draw',
      sketch,
      entities: [
        ...corners.map(([px, py], i) => ({ type: 'point' as const, id: at(i), sketch, x: px, y: py })),
        ...corners.map((_, i) => ({ type: 'line' as const, id: `${sketch}-${i}`, sketch, start: at(i), end: at(i + 1) })),
      ],
      constraints: [
        { type: 'constraint', id: `${sketch}-fixed`, sketch, kind: 'fixed', on: [at(0)] },
        ...[0, 2].map((i) => ({ type: 'constraint' as const, id: `${sketch}-h${i}`, sketch, kind: 'horizontal' as const, on: [`${sketch}-${i}`] })),
        ...[1, 3].map((i) => ({ type: 'constraint' as const, id: `${sketch}-v${i}`, sketch, kind: 'vertical' as const, on: [`${sketch}-${i}`] })),
      ],
      dimensions: [
        { type: 'dimension', id: `${sketch}-dw`, sketch, kind: 'length', on: [`${sketch}-0`], parameter: `${sketch}_w`, at: [0, 0] },
        { type: 'dimension', id: `${sketch}-dh`, sketch, kind: 'length', on: [`${sketch}-1`], parameter: `${sketch}_h`, at: [0, 0] },
      ],
      values: [value('w', width), value('h', height)],
    });
  }

  /** A circle with its diameter named `<id>_d`, its centre fixed. */
  circle(sketch: string, id: string, diameter: string, [x, y]: readonly [number, number], radius = 5): this {
    return this.do({
      type: 'sketch.draw',
      sketch,
      entities: [
        { type: 'point', id: `${id}-c`, sketch, x, y },
        { type: 'circle', id, sketch, centre: `${id}-c`, radius },
      ],
      constraints: [{ type: 'constraint', id: `${id}-fixed`, sketch, kind: 'fixed', on: [`${id}-c`] }],
      dimensions: [{ type: 'dimension', id: `${id}-dd`, sketch, kind: 'diameter', on: [id], parameter: `${id}_d`, at: [x, y] }],
      values: [{ type: 'parameter', id: `${id}_d`, owner: sketch, name: `${id}_d`, formula: { text: diameter }, kind: 'length' }],
    });
  }

  /** An open chain through points: lines `<sketch>-0`, `<sketch>-1` ..., all held fast. */
  chain(sketch: string, ...places: readonly (readonly [number, number])[]): this {
    return this.do({
      type: 'sketch.draw',
      sketch,
      entities: [
        ...places.map(([x, y], i) => ({ type: 'point' as const, id: `${sketch}-p${i}`, sketch, x, y })),
        ...places.slice(1).map((_, i) => ({ type: 'line' as const, id: `${sketch}-${i}`, sketch, start: `${sketch}-p${i}`, end: `${sketch}-p${i + 1}` })),
      ],
      constraints: places.map((_, i) => ({ type: 'constraint', id: `${sketch}-f${i}`, sketch, kind: 'fixed', on: [`${sketch}-p${i}`] })),
      dimensions: [],
      values: [],
    });
  }

  points(sketch: string, ...places: readonly (readonly [number, number])[]): this {
    return this.do({
      type: 'sketch.draw',
      sketch,
      entities: places.map(([x, y], i) => ({ type: 'point', id: `${sketch}-at${i}`, sketch, x, y })),
      constraints: places.map((_, i) => ({ type: 'constraint', id: `${sketch}-f${i}`, sketch, kind: 'fixed', on: [`${sketch}-at${i}`] })),
      dimensions: [],
      values: [],
    });
  }

  /** A step; its values are named `<step>_<slot>`. */
  step(draft: Draft<Step>, formulas: Readonly<Record<string, string>> = {}, file?: string): this {
    const step = { ...draft, name: draft.id, values: {} } as Step;
    if (step.type === 'sketch') throw new Error('use sketch()');
    const slots = slotsOf(step);
    const values = Object.fromEntries(slots.map(({ slot }) => [slot, `${step.id}_${slot}`]));
    const [started] = startedBodies(step);
    return this.do({
      type: 'step.add',
      step: { ...step, values },
      values: slots.map(({ slot, kind, initial }) => ({
        type: 'parameter',
        id: `${step.id}_${slot}`,
        owner: step.id,
        name: `${step.id}_${slot}`,
        formula: { text: formulas[slot] ?? initial },
        kind,
      })),
      ...(started === undefined ? {} : { body: { type: 'body', id: started, name: started, material: 'Steel' } }),
      ...(file === undefined ? {} : { file: { type: 'file', id: step.type === 'import' ? step.file : '', name: 'part.step', format: 'step', content: file } }),
    });
  }

  measure(name: string, owner: string, measure: Measure): this {
    return this.do({ type: 'measure.add', parameter: { type: 'parameter', id: name, owner, name, formula: { text: '' }, kind: 'any', measure } });
  }

  /** A block with one corner in the origin, body `b`, its sketch `base`, its step `block`. */
  static block(width = '40 mm', depth = '30 mm', height = '20 mm'): PartBuilder {
    return new PartBuilder()
      .sketch('base')
      .rectangle('base', width, depth)
      .step({ type: 'extrude', id: 'block', sketch: 'base', operation: 'start', extent: 'forward', body: 'b' }, { depth: height });
  }
}

export interface Built extends Regenerated {
  readonly values: DocumentValues;
  readonly body: (id?: string) => BodyOutcome | undefined;
  readonly step: (id: string) => StepOutcome | undefined;
  readonly volume: number;
}

export function build(kernel: KernelPort, { document }: PartBuilder, regenerator = new Regenerator(kernel)): Built {
  const values = new DocumentValues(document);
  const result = regenerator.regenerate(document, values);
  const body = (id = 'b') => result.bodies.find((one) => one.id === id);
  return { ...result, values, body, step: (id) => result.steps.find((one) => one.id === id), volume: body()?.properties?.volume ?? NaN };
}

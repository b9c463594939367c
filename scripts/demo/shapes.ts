/** Small words for the edits that the demo's parts are made of. */
import { applyEdit, slotsOf, startsBody, type Body, type Component, type Document, type Edit, type Parameter, type Step } from '../../src/core/document';

export function build(document: Document, edits: readonly Edit[]): Document {
  return edits.reduce((current, edit) => {
    const result = applyEdit(current, edit);
    if (!result.ok) throw new Error(`${edit.type}: ${result.failure.message}`);
    return result.value.document;
  }, document);
}

export const parameter = (id: string, name: string, text: string, kind: string, more: Partial<Parameter> = {}): Edit => ({
  type: 'parameter.add',
  parameter: { type: 'parameter', id, name, formula: { text }, kind, ...more },
});

export const dimension = (sketch: string, id: string, name: string, text: string, kind: string): Parameter => ({
  type: 'parameter',
  id,
  owner: sketch,
  name,
  formula: { text },
  kind,
});

/** A rectangle from (x, y), its lower left corner, with its two dimensions. */
export function rectangle(
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

export const place = (
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

/** A sketch on one of the three planes, or on another. */
export const sketch = (id: string, name: string, plane: Extract<Step, { readonly type: 'sketch' }>['plane']): Edit => ({
  type: 'step.add',
  step: { type: 'sketch', id, name, plane },
  values: [],
});

/** A circle with its diameter, its centre on the origin or free to be placed. */
export function circle(
  sketchId: string,
  id: string,
  [x, y]: readonly [number, number],
  radius: number,
  [name, text]: readonly [string, string],
  isCentred = false,
): Edit {
  return {
    type: 'sketch.draw',
    sketch: sketchId,
    entities: [
      { type: 'point', id: `${id}-centre`, sketch: sketchId, x, y },
      { type: 'circle', id, sketch: sketchId, centre: `${id}-centre`, radius },
    ],
    constraints: isCentred ? [{ type: 'constraint', id: `${id}-on`, sketch: sketchId, kind: 'coincident', on: [`${id}-centre`, 'origin'] }] : [],
    dimensions: [
      { type: 'dimension', id: `${id}-dim`, sketch: sketchId, kind: 'diameter', on: [id], parameter: `${id}-dia`, at: radius < 10 ? [x + 8, y + 8] : [x, y] },
    ],
    values: [dimension(sketchId, `${id}-dia`, name, text, 'length')],
  };
}

/** A point that is free to be placed. */
export const point = (sketchId: string, id: string, [x, y]: readonly [number, number]): Edit => ({
  type: 'sketch.draw',
  sketch: sketchId,
  entities: [{ type: 'point', id, sketch: sketchId, x, y }],
  constraints: [],
  dimensions: [],
  values: [],
});

type Draft<T extends Step> = T extends { readonly values: unknown } ? Omit<T, 'values'> : never;

/** A feature with its values: by slot, the name and the formula. */
export function feature(draft: Draft<Step>, values: Readonly<Record<string, readonly [string, string]>> = {}, body?: Body): Edit {
  const bare: Step = { ...draft, values: {} };
  const slots = slotsOf(bare);
  return {
    type: 'step.add',
    step: { ...draft, values: Object.fromEntries(slots.map(({ slot }) => [slot, `${draft.id}-${slot}`])) },
    values: slots.map(({ slot, kind, label }) => {
      const given = values[slot];
      if (!given) throw new Error(`${draft.name} needs ${label}`);
      return dimension(draft.id, `${draft.id}-${slot}`, given[0], given[1], kind);
    }),
    ...(body && startsBody(bare) ? { body } : {}),
  };
}

type Corner = readonly [id: string, x: number, y: number];
type Measured = readonly [kind: 'length' | 'horizontal' | 'vertical', on: readonly string[], name: string, formula: string];

/** A closed polygon; what lies level or upright stays so. Lines are called after the corner that they start from, `<corner>-side`. */
export function polygon(sketchId: string, corners: readonly Corner[], measured: readonly Measured[], fixed: readonly (readonly [string, string])[]): Edit {
  const next = (i: number): Corner => corners[(i + 1) % corners.length] as Corner;
  const level = corners.flatMap(([id, x, y], i) => {
    const [, nx, ny] = next(i);
    const kind = y === ny ? ('horizontal' as const) : x === nx ? ('vertical' as const) : undefined;
    return kind ? [{ type: 'constraint' as const, id: `${id}-level`, sketch: sketchId, kind, on: [`${id}-side`] }] : [];
  });
  return {
    type: 'sketch.draw',
    sketch: sketchId,
    entities: [
      ...corners.map(([id, x, y]) => ({ type: 'point' as const, id, sketch: sketchId, x, y })),
      ...corners.map(([id], i) => ({ type: 'line' as const, id: `${id}-side`, sketch: sketchId, start: id, end: next(i)[0] })),
    ],
    constraints: [
      ...level,
      ...fixed.map(([point, to]) => ({ type: 'constraint' as const, id: `${point}-on`, sketch: sketchId, kind: 'coincident' as const, on: [point, to] })),
    ],
    dimensions: measured.map(([kind, on, name], i) => {
      const [, x, y] = corners.find(([id]) => on.some((other) => other.startsWith(id))) ?? ['', 0, 0];
      return {
        type: 'dimension',
        id: `${name.replaceAll('_', '-')}-dim`,
        sketch: sketchId,
        kind,
        on: [...on],
        parameter: name.replaceAll('_', '-'),
        at: [x + 8, y - 10 - 7 * i],
      };
    }),
    values: measured.map(([, , name, formula]) => dimension(sketchId, name.replaceAll('_', '-'), name, formula, 'length')),
  };
}

/** Puts components for documents, at the first revisions that an import makes. */
export function componentsOf(documents: readonly Document[]) {
  return (id: string, source: string, more: Partial<Component> = {}): Edit => {
    const document = documents.find((one) => one.id === source);
    if (!document) throw new Error(`no document ${source}`);
    return {
      type: 'component.put',
      component: { type: 'component', id, name: id.replaceAll('-', '_'), source, sourceName: document.name, policy: 'ask', revision: 1, hash: '', ...more },
    };
  };
}

/** Sets a value of a component. */
export function drive(component: string, value: string, sourceName: string, text: string): Edit {
  return { type: 'drive.put', drive: { type: 'drive', id: `set-${value}`, component, path: [value], sourceName, formula: { text } } };
}

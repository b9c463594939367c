/** Gestures as tables: what is done one after the other, and what stands then. The sketch is the real one, solved after each edit. */
import { applyEdit, findRecord, listRecords, type Edit } from '@/core/document';
import { dimensionEdit, findSnap, findUnder, type Place } from '@/core/drawing';
import { SketchBench } from '../../../tests/support/sketch-bench';
import type { BackdropCurve } from './backdrop';
import * as gestures from './sketch-gestures';
import { dimensionNow, drawNow, START, type Gesture, type SketchRoom, type SketchState } from './sketch-gestures';

/** How near counts for a click, in millimetres. */
const REACH = 1;
const EDGE: BackdropCurve = {
  from: { body: 'b', edge: 'e' },
  points: [
    [0, 60],
    [30, 60],
  ],
};

/** Plays gestures as the canvas does: makes their edits, and takes the state of those that are refused. */
class Player {
  readonly bench = new SketchBench();
  state: SketchState = START;
  behind: BackdropCurve | undefined;
  /** Titles of what was asked about or deleted. */
  readonly titles: string[] = [];
  isRefusing = false;

  get room(): SketchRoom {
    return { ...this.bench.context, gap: 8, findBehind: () => this.behind };
  }

  play(gesture: Gesture): this {
    const { state, edit, refused, change } = gesture(this.state, this.room);
    const isMade = edit === undefined || this.make(edit);
    this.state = isMade ? state : (refused ?? this.state);
    if (change) {
      this.titles.push(change.title);
      this.make(change.make({ mode: 'refuse' }));
    }
    return this;
  }

  private make(edit: Edit): boolean {
    const applied = applyEdit(this.bench.document, edit);
    if (this.isRefusing || !applied.ok) return false;
    this.bench.document = applied.value.document;
    return true;
  }

  /** A click of the pointer, with what the present tool makes of it. */
  at(...place: Place): this {
    const { shape } = this.bench;
    const draw = drawNow(this.state, shape);
    const under = findUnder(shape, place, REACH);
    const last = draw?.points.at(-1);
    if (draw) return this.play(gestures.click(findSnap(shape, place, REACH, last && draw.tool === 'line' ? { at: last.snap.at, id: last.id } : undefined)));
    if (this.state.tool === 'dimension') return this.play(gestures.pickForDimension(under, place));
    return this.state.tool === 'select' ? this.play(gestures.select(under, false)) : this.play(gestures.clickToChange(under, place));
  }

  tool(tool: gestures.SketchTool): this {
    return this.play(gestures.chooseTool(tool));
  }

  /** Enter in the box of the dimension that is asked for. */
  enter(formula: string): this {
    const asked = dimensionNow(this.state, this.room);
    if (!asked) throw new Error('no dimension is asked for');
    this.bench.edit(dimensionEdit(this.room, asked.plan, asked.at, { name: undefined, formula }));
    return this.play(gestures.closeDimension(true));
  }

  get asked(): string | undefined {
    return dimensionNow(this.state, this.room)?.plan.kind;
  }

  get curves(): string {
    return this.bench.curves().join(' ');
  }

  get dimensions(): string[] {
    return listRecords(this.bench.document, 's/constraints', 'dimension').map(({ kind, parameter }) => {
      const value = findRecord(this.bench.document, parameter, 'parameter');
      return `${kind} ${value?.formula.text ?? ''}`;
    });
  }
}

/** A board of 40 by 30 at the origin, with nothing selected. */
const board = (): Player => new Player().tool('rectangle').at(0, 0).at(40, 30).tool('select');

test('a chain of lines goes on from its end until it is ended, then the tool is', () => {
  const player = new Player().tool('line').at(10, 10).at(40, 10).at(40, 30);
  expect(player.curves).toBe('line line');
  expect(player.state).toMatchObject({ tool: 'line', draw: { points: [{ snap: { at: [40, 30] } }] } });
  const steps = [{ draw: { points: [] } }, { tool: 'select', draw: undefined }, { selected: [] }];
  for (const step of steps) expect(player.play(gestures.back).state).toMatchObject(step);
  expect(player.curves).toBe('line line');
});

test('a chain goes on from where its end is now, though a dimension moved it', () => {
  const player = new Player()
    .tool('line')
    .at(0, 0)
    .play(gestures.typeOver('5', { at: [40, 0], direction: 'horizontal' }));
  player.enter('55 mm').at(55, 20);
  const [, second] = listRecords(player.bench.document, 's/entities', 'line');
  expect(player.bench.shape.point(second?.start ?? '')).toEqual([expect.closeTo(55), expect.closeTo(0)]);
});

test('a figure asks for its sizes one after the other; Escape in a box leaves the rest', () => {
  const player = new Player().tool('rectangle').at(0, 0).at(40, 30);
  expect(player.asked).toBe('horizontal');
  player.enter('50 mm');
  expect(player.asked).toBe('vertical');
  expect(player.play(gestures.back).asked).toBeUndefined();
  expect(player.dimensions).toEqual(['horizontal 50 mm']);
  expect(player.state.tool).toBe('rectangle');
});

test('a size typed while drawing draws what is under the pointer and stands in its box', () => {
  const player = new Player()
    .tool('circle')
    .at(20, 20)
    .play(gestures.typeOver('1', { at: [27, 20] }));
  expect(player.curves).toBe('circle');
  expect([player.asked, player.state.fresh?.typed]).toEqual(['diameter', '1']);
});

test('a size typed before the first click, or on a point already clicked, draws nothing', () => {
  const before = new Player().tool('circle').play(gestures.typeOver('1', { at: [27, 20] }));
  const without = new Player()
    .tool('circle')
    .at(20, 20)
    .play(gestures.typeOver('1', { at: [20, 20] }));
  expect([before.curves, before.asked, without.curves, without.asked]).toEqual(['', undefined, '', undefined]);
});

test('a drawing that is refused asks for nothing, and the tool stays', () => {
  const player = new Player().tool('circle').at(20, 20);
  player.isRefusing = true;
  player.at(30, 20);
  expect([player.curves, player.asked, player.state.tool]).toEqual(['', undefined, 'circle']);
});

test('a tangent arc begins at an end of a curve, or says so', () => {
  const player = new Player().tool('arc-tangent').at(10, 10);
  expect(player.state).toMatchObject({ draw: { points: [] }, word: 'A tangent arc begins at the end of a line or arc.' });
});

test.each<[string, readonly [boolean, string | undefined][], readonly string[]]>([
  [
    'a click selects one',
    [
      [false, 'a'],
      [false, 'b'],
    ],
    ['b'],
  ],
  [
    'Ctrl adds',
    [
      [false, 'a'],
      [true, 'b'],
    ],
    ['a', 'b'],
  ],
  [
    'Ctrl takes away again',
    [
      [false, 'a'],
      [true, 'b'],
      [true, 'a'],
    ],
    ['b'],
  ],
  [
    'a click on nothing clears',
    [
      [false, 'a'],
      [false, undefined],
    ],
    [],
  ],
  [
    'Ctrl on nothing keeps',
    [
      [false, 'a'],
      [true, undefined],
    ],
    ['a'],
  ],
])('selecting: %s', (_, clicks, selected) => {
  const player = new Player();
  for (const [isAdding, id] of clicks) player.play(gestures.select(id, isAdding));
  expect(player.state.selected).toEqual(selected);
});

test('a double click selects what hangs together', () => {
  const player = board().tool('circle').at(100, 100).at(110, 100).tool('select');
  const [edge = ''] = player.bench.curveIds();
  expect(player.play(gestures.selectChain(edge)).state.selected).toEqual(expect.arrayContaining(player.bench.curveIds().slice(0, 4)));
  expect(player.state.selected).not.toContain(player.bench.curveIds()[4]);
});

test('another tool ends what was begun with the one before', () => {
  const player = board().tool('dimension').at(20, 0).tool('line');
  expect(player.state).toMatchObject({
    picked: [],
    pending: undefined,
    wish: undefined,
    fresh: undefined,
    word: undefined,
    draw: { tool: 'line', points: [] },
  });
});

test('options of a figure hold for the one that is begun and for the next', () => {
  const player = new Player()
    .tool('polygon')
    .play(gestures.setOptions({ sides: 8 }))
    .at(0, 0)
    .at(20, 0);
  expect(player.bench.curveIds().length).toBe(8);
  expect(player.tool('polygon').state.draw?.sides).toBe(8);
});

test('dimensions: an edge and a place, or two edges and a place', () => {
  const one = board().tool('dimension').at(20, 0).at(20, -10);
  expect(one.asked).toBe('horizontal');
  one.enter('44 mm');
  expect([one.state.picked, one.state.tool, one.dimensions]).toEqual([[], 'dimension', ['horizontal 44 mm']]);
  const two = board().tool('dimension').at(0, 15).at(40, 15);
  expect(two.state.picked).toHaveLength(2);
  expect(two.at(20, 50).asked).toBeDefined();
  expect(two.play(gestures.back).state).toMatchObject({ picked: [] });
  expect(two.play(gestures.back).asked).toBeUndefined();
});

test('an edge of a body is taken in as it is picked for a dimension', () => {
  const player = new Player().tool('dimension');
  player.behind = EDGE;
  player.at(15, 60);
  expect(player.state.picked).toHaveLength(1);
  expect(player.bench.entity(player.state.picked[0] ?? '')).toMatchObject({ type: 'line' });
});

test.each([
  ['trim', [20, 0], 'line line line'],
  ['split', [20, 0], 'line line line line line'],
] as const)('a click with %s changes the curve under it, and on nothing it does nothing', (tool, place, curves) => {
  const player = board()
    .tool(tool)
    .at(...place);
  expect([player.curves, player.titles]).toEqual([curves, [`${tool} this curve`]]);
  expect(board().tool(tool).at(200, 200).curves).toBe('line line line line');
});

test.each(['fillet', 'chamfer'] as const)('%s asks for a corner, then for its value', (tool) => {
  const player = board().tool(tool).at(20, 0);
  expect(player.state).toMatchObject({ wish: undefined, word: 'Choose a corner: a point where two lines meet.' });
  player.at(40, 30);
  expect(player.state.wish).toMatchObject({ tool, at: [expect.closeTo(40), expect.closeTo(30)] });
  expect(player.play(gestures.closeChange(false)).state).toMatchObject({ wish: undefined, tool });
});

test('offset: the chain, then the side, and nothing is selected once it is made', () => {
  const player = board().tool('offset').at(20, 0);
  expect(player.state.word).toBe('Now a place on the side where the copy goes.');
  const ids = player.state.selected;
  expect(player.at(20, 50).state.wish).toEqual({ tool: 'offset', ids, at: [20, 50] });
  expect(player.play(gestures.closeChange(true)).state).toMatchObject({ wish: undefined, selected: [], word: undefined });
});

test('mirror: curves, then a line that is not among them', () => {
  const player = new Player().tool('circle').at(20, 10).at(25, 10).tool('select').tool('mirror').at(25, 10);
  expect(player.state).toMatchObject({ selected: player.bench.curveIds(), word: 'Now the line to mirror in.' });
  player.at(0, 50);
  expect([player.curves, player.state.selected, player.state.word]).toEqual(['circle circle', [], undefined]);
});

test('repeat: curves, then an axis; the count of the copies is asked for', () => {
  const player = new Player().tool('circle').at(20, 10).at(25, 10).tool('repeat').at(25, 10).at(200, 0);
  expect(player.state.selected).toEqual([]);
  const [repeat] = listRecords(player.bench.document, 's/constraints', 'repeat');
  expect(player.state.open).toMatchObject({ id: `${repeat?.id} count`, parameter: repeat?.count, kind: 'count', sketch: 's' });
});

test('taking: what cannot be taken is said, and nothing is made', () => {
  const player = new Player().tool('take').at(5, 5);
  expect([player.state.word, player.curves]).toEqual(['Click an edge of a body, or a curve of another sketch.', '']);
});

test('a constraint holds what is selected, and the axis of a symmetry is named last whatever the order', () => {
  const player = new Player().tool('point').at(10, 10).at(-12, 11).tool('select');
  const [a = '', b = ''] = listRecords(player.bench.document, 's/entities', 'point').map(({ id }) => id);
  player.play(gestures.selectAll(['y-axis', a, b])).play(gestures.constrain('symmetric'));
  expect(player.state.selected).toEqual([]);
  expect(listRecords(player.bench.document, 's/constraints', 'constraint').at(-1)).toMatchObject({ kind: 'symmetric', on: [a, b, 'y-axis'] });
  const { shape } = player.bench;
  expect(shape.point(a)[0]).toBeCloseTo(-shape.point(b)[0], 6);
});

test('a constraint that is refused leaves the selection', () => {
  const player = board();
  player.play(gestures.selectAll(player.bench.curveIds()));
  player.isRefusing = true;
  expect(player.play(gestures.constrain('equal')).state.selected).toHaveLength(4);
});

test('construction: all of it becomes construction while some is not, then ordinary again', () => {
  const player = board();
  const [first = '', ...rest] = player.bench.curveIds();
  player.play(gestures.selectAll([first])).play(gestures.toggleConstruction);
  expect(player.curves).toBe('line line line');
  player.play(gestures.selectAll([first, ...rest])).play(gestures.toggleConstruction);
  expect(player.curves).toBe('');
  expect(player.play(gestures.toggleConstruction).curves).toBe('line line line line');
});

test('several dimensions become references in one edit', () => {
  const player = new Player().tool('rectangle').at(0, 0).at(40, 30).enter('50 mm').enter('35 mm').tool('select');
  const ids = listRecords(player.bench.document, 's/constraints', 'dimension').map(({ id }) => id);
  player.play(gestures.selectAll(ids));
  expect(gestures.toggleReference(player.state, player.room).edit).toMatchObject({ type: 'batch', edits: [{ isReference: true }, { isReference: true }] });
});

test('deleting clears the selection; nothing is deleted twice, nor an axis', () => {
  const player = board();
  const [edge = ''] = player.bench.curveIds();
  player.play(gestures.selectAll([edge])).play(gestures.removeSelected);
  expect([player.titles, player.state.selected, player.curves]).toEqual([['Delete it from the sketch'], [], 'line line line']);
  player.play(gestures.remove([edge, 'y-axis']));
  expect(player.titles).toHaveLength(1);
});

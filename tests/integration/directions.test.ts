/** Sides and directions that are kept as geometry moves: which side of a taken edge, which way a hole goes, how a sketch stands on its face. */
import type { Edit, Step, StepOf } from '@/core/document';
import type { Point3 } from '@/core/geometry';
import type { KernelPort } from '@/core/kernel-port';
import { Regenerator, senseInMesh } from '@/core/steps';
import { createKernel } from '@/kernel/create-kernel';
import { build, PartBuilder } from '../support/part-builder';
import { block, BLOCK_TOP, pickOf, place } from '../support/picked-parts';

let kernel: KernelPort;
beforeAll(async () => {
  kernel = await createKernel();
});

/** A circle at a distance from a taken line and at a height over the x axis. */
function circleBeside(
  part: PartBuilder,
  sketch: string,
  edge: string,
  [x, y]: readonly [number, number],
  line: readonly [number, number, number, number],
  sense?: 1 | -1,
): PartBuilder {
  const length = (
    id: string,
    on: readonly string[],
    kind: 'length' | 'vertical' | 'diameter',
  ): Extract<Edit, { type: 'sketch.draw' }>['dimensions'][number] => ({
    type: 'dimension',
    id: `${sketch}-${id}`,
    sketch,
    kind,
    on: [...on],
    parameter: `${sketch}_${id}`,
    at: [0, 0],
  });
  const value = (id: string, text: string) => ({
    type: 'parameter' as const,
    id: `${sketch}_${id}`,
    owner: sketch,
    name: `${sketch}_${id}`,
    formula: { text },
    kind: 'length',
  });
  const [x1, y1, x2, y2] = line;
  const end = (id: string, px: number, py: number) => ({ type: 'point' as const, id: `${sketch}-${id}`, sketch, x: px, y: py, isConstruction: true });
  return part.do({
    type: 'sketch.draw',
    sketch,
    entities: [
      end('from', x1, y1),
      end('to', x2, y2),
      {
        type: 'line',
        id: `${sketch}-taken`,
        sketch,
        start: `${sketch}-from`,
        end: `${sketch}-to`,
        isConstruction: true,
        from: { body: 'b', edge, ...(sense ? { sense } : {}) },
      },
      { type: 'point', id: `${sketch}-c`, sketch, x, y },
      { type: 'circle', id: `${sketch}-round`, sketch, centre: `${sketch}-c`, radius: 3 },
    ],
    constraints: [],
    dimensions: [
      length('off', [`${sketch}-c`, `${sketch}-taken`], 'length'),
      length('up', ['origin', `${sketch}-c`], 'vertical'),
      length('dia', [`${sketch}-round`], 'diameter'),
    ],
    values: [value('off', '8 mm'), value('up', '130 mm'), value('dia', '6 mm')],
  });
}

const outcomes = (part: PartBuilder): string[] => build(kernel, part).steps.map(({ status, problem }) => problem?.message ?? status);

/** The middle of what a step adds or takes away: from the volumes and middles of the body with and without it. */
function middleOf(part: PartBuilder, step: string): Point3 {
  const [all, rest] = [part, without(part, step)].map((each) => build(kernel, each).body()?.properties);
  if (!all || !rest) throw new Error('not built');
  const along = (i: 0 | 1 | 2): number => (all.volume * all.centre[i] - rest.volume * rest.centre[i]) / (all.volume - rest.volume);
  return [along(0), along(1), along(2)];
}

function without(part: PartBuilder, id: string): PartBuilder {
  const bare = new PartBuilder();
  bare.document = part.document;
  const step = part.document.records[id] as Step;
  return bare.do({ type: 'step.update', step: { ...step, suppressed: { text: 'yes' } }, values: [], readers: { mode: 'keep' } });
}

describe('a hole 8 mm inside the east edge of the top', () => {
  const drilled = (): PartBuilder => {
    const part = block();
    const edge = pickOf(kernel, part, 'edge', [200, 130, 20]);
    part.sketch('places', { body: 'b', face: BLOCK_TOP });
    circleBeside(part, 'places', edge, [192, 130], [200, 100, 200, 160]);
    return part.step({ type: 'extrude', id: 'hole', sketch: 'places', operation: 'remove', extent: 'through', isReversed: true, body: 'b' });
  };

  test.each([100, 150, 93, 91, 60, 30, 20, 1000])('the block is %s long', (width) => {
    const part = drilled().set('base_w', `${width} mm`);
    expect(outcomes(part)).toEqual(['done', 'done', 'done', 'done']);
    expect(middleOf(part, 'hole')[0]).toBeCloseTo(100 + width - 8, 6);
    expect(build(kernel, part).volume).toBeCloseTo(width * 60 * 20 - Math.PI * 9 * 20, 3);
  });

  test('the block goes elsewhere', () => {
    const part = drilled().set('base_horizontal', '5 mm');
    expect(middleOf(part, 'hole')[0]).toBeCloseTo(97, 6);
  });
});

describe('a pin on a sloping face', () => {
  /** A wedge: its section in the front plane, `h2` high at its right end. */
  const wedge = (): PartBuilder => {
    const part = new PartBuilder().value('h2', '25 mm').sketch('section', 'front');
    part.do({
      type: 'sketch.draw',
      sketch: 'section',
      entities: [
        ...([[100, 0], [200, 0], [200, 25], [100, 20]] as const).map(([x, y], i) => ({ type: 'point' as const, id: `s-p${i}`, sketch: 'section', x, y })), // prettier-ignore
        ...[0, 1, 2, 3].map((i) => ({ type: 'line' as const, id: `s-${i}`, sketch: 'section', start: `s-p${i}`, end: `s-p${(i + 1) % 4}` })),
      ],
      constraints: [
        ...[0, 3].map((i) => ({ type: 'constraint' as const, id: `s-f${i}`, sketch: 'section', kind: 'fixed' as const, on: [`s-p${i}`] })),
        { type: 'constraint', id: 's-h', sketch: 'section', kind: 'horizontal', on: ['s-0'] },
        { type: 'constraint', id: 's-v', sketch: 'section', kind: 'vertical', on: ['s-1'] },
      ],
      dimensions: [
        { type: 'dimension', id: 's-w', sketch: 'section', kind: 'length', on: ['s-0'], parameter: 's_w', at: [0, 0] },
        { type: 'dimension', id: 's-h2', sketch: 'section', kind: 'length', on: ['s-1'], parameter: 's_h2', at: [0, 0] },
      ],
      values: [
        { type: 'parameter', id: 's_w', owner: 'section', name: 's_w', formula: { text: '100 mm' }, kind: 'length' },
        { type: 'parameter', id: 's_h2', owner: 'section', name: 's_h2', formula: { text: 'h2' }, kind: 'length' },
      ],
    });
    return part.step(
      { type: 'extrude', id: 'block', sketch: 'section', operation: 'start', extent: 'forward', isReversed: true, body: 'b' },
      { depth: '60 mm' },
    );
  };

  /** The pin stands where the middle of the face was when it was made: it keeps to its directions, as the page writes them down. */
  const pinned = (): PartBuilder => {
    const part = wedge();
    part.sketch('pin_place', { body: 'b', face: pickOf(kernel, part, 'face', [150, 30, 22.5]) });
    keep(part, 'pin_place');
    const frame = build(kernel, part).step('pin_place')?.sketch?.frame;
    if (!frame) throw new Error('no frame');
    const at = [150, 30, 22.5].map((value, i) => value - (frame.origin[i] ?? 0));
    const along = (axis: Point3): number => axis.reduce((sum, part_, i) => sum + part_ * (at[i] ?? 0), 0);
    part.circle('pin_place', 'pin', '4 mm', [along(frame.x), along(frame.y)], 2);
    return part.step({ type: 'extrude', id: 'stud', sketch: 'pin_place', operation: 'add', extent: 'forward', body: 'b' }, { depth: '6 mm' });
  };

  test('goes with its face as that tilts, without a jump where it is level', () => {
    const part = pinned();
    let before: Point3 | undefined;
    for (const height of [25, 22, 20.1, 20.01, 20, 19.99, 19.9, 15, 5, 20, 25]) {
      part.set('h2', `${height} mm`);
      expect(outcomes(part)).toEqual(['done', 'done', 'done', 'done']);
      const [x, y] = middleOf(part, 'stud');
      // By hand: the place is laid onto the plane through the origin's foot, so it moves a little as the face tilts, never across it.
      expect(Math.abs(y - 30)).toBeLessThan(0.01);
      expect(Math.abs(x - 150)).toBeLessThan(8);
      if (before) expect(Math.hypot(x - before[0], y - before[1])).toBeLessThan(8);
      before = [x, y, 0];
    }
  });
});

/** Writes down the directions that a step reads now, as the page does when a step is built by hand. */
function keep(part: PartBuilder, id: string): PartBuilder {
  const directions = build(kernel, part).step(id)?.directions;
  const step = part.document.records[id] as Step | undefined;
  if (!step || !directions) throw new Error(`${id} has no directions`);
  return part.do({ type: 'step.update', step: { ...step, directions }, values: [], readers: { mode: 'keep' } });
}

describe('a blind hole from a base plane', () => {
  const drilled = (): PartBuilder =>
    block()
      .value('lift', '0 mm')
      .sketch('places', 'top')
      .points('places', [150, 130])
      .step({ type: 'hole', id: 'hole', sketch: 'places', form: 'simple', extent: 'blind', body: 'b' }, { diameter: '6 mm', depth: '7 mm' });
  const taken = Math.PI * 9 * 7;

  test('goes into the body, and stays so when a foot is added below elsewhere', () => {
    const part = drilled();
    expect(build(kernel, part).volume).toBeCloseTo(100 * 60 * 20 - taken, 4);
    const footed = block().sketch('foot', 'top');
    place(footed, 'foot', '110 mm', '110 mm', '10 mm', '10 mm', [110, 110, 10, 10]);
    footed
      .step({ type: 'extrude', id: 'foot_added', sketch: 'foot', operation: 'add', extent: 'forward', isReversed: true, body: 'b' }, { depth: '30 mm' })
      .sketch('places', 'top')
      .points('places', [150, 130])
      .step({ type: 'hole', id: 'hole', sketch: 'places', form: 'simple', extent: 'blind', body: 'b' }, { diameter: '6 mm', depth: '7 mm' });
    expect(build(kernel, footed).volume).toBeCloseTo(100 * 60 * 20 + 3000 - taken, 4);
    const holeStep = footed.document.records['hole'] as StepOf<'hole'>;
    footed.do({ type: 'step.update', step: { ...holeStep, isReversed: true }, values: [], readers: { mode: 'keep' } });
    expect(build(kernel, footed).volume).toBeCloseTo(100 * 60 * 20 + 3000, 4);
  });

  test('keeps to its direction when the body is shifted through its plane', () => {
    const part = new PartBuilder().value('low', '0 mm').sketch('base');
    place(part, 'base', '100 mm', '100 mm', '100 mm', '60 mm', [100, 100, 100, 60]);
    part
      .do({ type: 'step.add', step: { type: 'datum', id: 'floor', name: 'floor', from: 'top', turn: 'none', values: { offset: 'floor_offset' } }, values: [{ type: 'parameter', id: 'floor_offset', owner: 'floor', name: 'floor_offset', formula: { text: 'low' }, kind: 'length' }] }); // prettier-ignore
    part.sketch('outline', { datum: 'floor' });
    place(part, 'outline', '100 mm', '100 mm', '100 mm', '60 mm', [100, 100, 100, 60]);
    part
      .step({ type: 'extrude', id: 'block', sketch: 'outline', operation: 'start', extent: 'forward', body: 'b' }, { depth: '20 mm' })
      .sketch('places', 'top')
      .points('places', [150, 130])
      .step({ type: 'hole', id: 'hole', sketch: 'places', form: 'simple', extent: 'blind', body: 'b' }, { diameter: '6 mm', depth: '7 mm' });
    keep(part, 'hole');
    for (const low of [0, -1, -5, -10]) expect(build(kernel, part.set('low', `${low} mm`)).volume).toBeCloseTo(120_000 - taken, 4);
    // Beyond it, it meets nothing: built, and said.
    const built = build(kernel, part.set('low', '-30 mm'));
    expect(built.volume).toBeCloseTo(120_000, 4);
    expect(built.step('hole')?.warnings?.map(({ message }) => message)).toEqual([expect.stringContaining('nothing')]);
  });
});

test('copies along an edge keep their direction, whichever way the kernel runs along it', () => {
  const part = block();
  const edge = pickOf(kernel, part, 'edge', [150, 100, 20]);
  part.sketch('pin', { body: 'b', face: BLOCK_TOP }).circle('pin', 'c', '6 mm', [150, 130], 3);
  part
    .step({ type: 'extrude', id: 'pin_added', sketch: 'pin', operation: 'add', extent: 'forward', body: 'b' }, { depth: '4 mm' })
    .step(
      { type: 'pattern', id: 'row', of: ['pin_added'], form: 'linear', along: { body: 'b', edge }, spread: 'spacing', body: 'b' },
      { count: '3', span: '10 mm' },
    );
  keep(part, 'row');
  const step = part.document.records['row'] as Step;
  const [x = 0, y = 0, z = 0] = step.directions?.along ?? [];
  const centre = build(kernel, part).body()?.properties?.centre[0];
  part.do({ type: 'step.update', step: { ...step, directions: { along: [-x, -y, -z] } }, values: [], readers: { mode: 'keep' } });
  const turned = build(kernel, part).body()?.properties?.centre[0];
  const pins = 3 * Math.PI * 9 * 4;
  // By hand: three pins at 150, 160, 170 or at 150, 140, 130, on a block whose middle is at 150.
  const expected = (10 * pins) / (120_000 + pins);
  expect(Math.abs((centre ?? NaN) - 150)).toBeCloseTo(expected, 6);
  expect((centre ?? NaN) + (turned ?? NaN)).toBeCloseTo(300, 6);
});

test('a hole that is kept goes into the body from whatever plane its sketch is put on', () => {
  const part = block().sketch('places', { body: 'b', face: BLOCK_TOP }).points('places', [150, 130]);
  part.step({ type: 'hole', id: 'hole', sketch: 'places', form: 'simple', extent: 'blind', body: 'b' }, { diameter: '6 mm', depth: '7 mm' });
  keep(part, 'hole');
  const drilled = 120_000 - Math.PI * 9 * 7;
  expect(build(kernel, part).volume).toBeCloseTo(drilled, 4);
  const east = pickOf(kernel, part, 'face', [200, 130, 10]);
  const sketch = part.document.records['places'] as StepOf<'sketch'>;
  part.do({ type: 'step.update', step: { ...sketch, plane: { body: 'b', face: east } }, values: [], readers: { mode: 'keep' } });
  // On the side face: y of its frame points up, and the point that stood at (150, 130) is put where that is.
  const frame = build(kernel, part).step('places')?.sketch?.frame;
  const at = [200, 130, 10].map((value, i) => value - (frame?.origin[i] ?? 0));
  const along = (axis: Point3 = [0, 0, 0]): number => axis.reduce((sum, each, i) => sum + each * (at[i] ?? 0), 0);
  part.do({ type: 'sketch.reshape', sketch: 'places', points: { 'places-at0': [along(frame?.x), along(frame?.y)] }, radii: {} });
  expect(build(kernel, part).volume).toBeCloseTo(drilled, 4);
});

describe('a bore inside a taken edge of a body that is turned', () => {
  /** The block turned about z; the edge is taken into a sketch on the base plane, as the page takes it. */
  const turned = (): PartBuilder => {
    const part = block().value('turn', '0 deg', 'angle').step({ type: 'place', id: 'turned', body: 'b', about: 'z' }, { angle: 'turn' });
    const edge = pickOf(kernel, part, 'edge', [200, 130, 20]);
    const regenerator = new Regenerator(kernel);
    const mesh = regenerator.mesh(build(kernel, part, regenerator).body()?.key ?? '');
    const found = mesh?.edges.find(({ name }) => name === edge);
    if (!mesh || !found) throw new Error('no edge');
    const y = (i: number): number => mesh.edgePoints[3 * i + 1] ?? NaN;
    const [from, to] = [y(found.start), y(found.start + found.count - 1)];
    part.sketch('places', 'top');
    circleBeside(part, 'places', edge, [192, 130], [200, from, 200, to], senseInMesh(mesh, edge));
    return part.step({ type: 'extrude', id: 'hole', sketch: 'places', operation: 'remove', extent: 'through', body: 'b' });
  };

  /** The place of the bore, as the block sees it, with its height over the x axis set to what it is there; or that it is refused. */
  const placeAt = (angle: number): readonly number[] | 'refused' => {
    const [sin, cos] = [Math.sin((angle * Math.PI) / 180), Math.cos((angle * Math.PI) / 180)];
    const part = turned()
      .set('turn', `${angle} deg`)
      .set('places_up', `${192 * sin + 130 * cos} mm`);
    if (build(kernel, part).step('places')?.status !== 'done') return 'refused';
    const [x, y] = middleOf(part, 'hole');
    return [x * cos + y * sin, y * cos - x * sin];
  };

  test.each([0, 10, -20, 30, 75, 100, 120, -150])('by %s degrees: it stays inside', (angle) => {
    expect(placeAt(angle)).toEqual([192, 130].map((value) => expect.closeTo(value, 5) as number));
  });

  test('by half a turn: there, or said not to be; never on the other side', () => {
    for (const angle of [170, 180, 190]) {
      const place = placeAt(angle);
      if (place !== 'refused') expect(place).toEqual([192, 130].map((value) => expect.closeTo(value, 5) as number));
    }
  });
});

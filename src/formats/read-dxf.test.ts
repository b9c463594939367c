import fc from 'fast-check';
import { importCurves } from '@/core/drawing';
import { findProfiles, profileArea } from '@/core/geometry';
import { writeSketchDxf } from '@/core/interchange';
import { solveSketch } from '@/core/sketch';
import { dxfArc, dxfCircle, dxfFile, dxfLine, dxfPolyline, dxfText } from '../../tests/support/dxf-text';
import { readDxf, type ReadDrawing } from './read-dxf';

function read(text: string): ReadDrawing {
  const result = readDxf(text);
  if (!result.ok) throw new Error(result.failure);
  return result.value;
}

let n = 0;
const newId = () => `e${n++}`;

test('lines, circles and arcs, in the unit that the file names', () => {
  const { curves, unit, leftOut } = read(dxfFile([dxfLine(0, 0, 2, 0), dxfCircle(1, 1, 0.5), dxfArc(0, 0, 1, 0, 90), dxfText('rev A')], 1));
  expect(unit).toBe('inches');
  expect(leftOut).toEqual({ TEXT: 1 });
  expect(curves[0]).toMatchObject({ kind: 'line', start: [0, 0], end: [50.8, 0] });
  expect(curves[1]).toMatchObject({ kind: 'circle', centre: [25.4, 25.4], radius: 12.7 });
  expect(curves[2]?.kind === 'arc' && curves[2].end.map((v) => Number(v.toFixed(9)) + 0)).toEqual([0, 25.4]);
});

test('a polyline with bulges: half circles where the bulge is 1, either way', () => {
  // A slot 20 long between the centres of its half circles of radius 5.
  const { curves, unit } = read(dxfFile([dxfPolyline([0, -5, 0], [20, -5, 1], [20, 5, 0], [0, 5, 1])]));
  expect(unit).toBeUndefined();
  expect(findProfiles(curves).profiles.map(profileArea)[0]).toBeCloseTo(200 + 25 * Math.PI, 9);
  const { curves: hollow } = read(dxfFile([dxfPolyline([0, -5, 0], [20, -5, -1], [20, 5, 0], [0, 5, 0])]));
  expect(findProfiles(hollow).profiles.map(profileArea)[0]).toBeCloseTo(200 - 12.5 * Math.PI, 9);
});

test('what is written is read back as it was', () => {
  const { curves } = read(dxfFile([dxfPolyline([0, -5, 0], [20, -5, 1], [20, 5, 0], [0, 5, 1]), dxfCircle(0, 0, 2)]));
  const again = read(writeSketchDxf(curves)).curves;
  expect(again).toHaveLength(curves.length);
  expect(findProfiles(again).profiles.map(profileArea)[0]).toBeCloseTo(200 + 25 * Math.PI - 4 * Math.PI, 6);
});

test.each([
  ['nothing', '', /not a DXF/],
  ['words', 'hello\nworld\n', /not a DXF/],
  ['an empty drawing', dxfFile([]), /no lines, arcs, circles or polylines/],
  ['only text', dxfFile([dxfText('rev A')]), /no lines/],
  ['a file cut off in the middle', dxfFile([dxfLine(0, 0, 2, 0), dxfCircle(5, 5, 2)]).slice(0, 75), /cut off/],
  ['a circle of no size', dxfFile([dxfCircle(0, 0, 0)]), /no lines/],
  ['too many curves', dxfFile(Array.from({ length: 4100 }, (_, i) => dxfLine(i, 0, i, 1))), /more than 4000 curves/],
])('%s is refused with a word', (_, text, words) => {
  const result = readDxf(text);
  expect(result.ok).toBe(false);
  if (!result.ok) expect(result.failure).toMatch(words);
});

describe('hostile drawings', () => {
  const polyline = (lines: readonly string[]): string => {
    const pairs = lines.flatMap((code, i) => (i % 2 === 0 ? [[Number(code), lines[i + 1] ?? ''] as const] : []));
    return dxfFile([[[0, 'LWPOLYLINE'], [8, '0'], ...pairs]]);
  };
  test.each([
    ['a polyline that claims a thousand million vertices', polyline(['90', '1000000000', '70', '1', '10', '0', '20', '0', '10', '5', '20', '0'])],
    ['a polyline without its end', polyline(['90', '3', '10', '0', '20', '0']).replace(/0\nENDSEC[\s\S]*$/, '')],
    ['a bulge before any vertex', polyline(['42', '1', '10', '0', '20', '0'])],
    ['a million group codes that mean nothing', dxfFile([]).replace('ENTITIES\n', `ENTITIES\n${'999\nx\n'.repeat(1_000_000)}`)],
    ['numbers that are none', dxfFile([dxfLine(NaN, 0, Infinity, 1), dxfCircle(0, 0, 1e300)])],
  ])('%s is answered', (_, text) => {
    const result = readDxf(text);
    expect(result.ok ? result.value.curves.every(({ kind }) => kind === 'line') : result.failure).toBeTruthy();
  });

  test('whatever is cut out or put in, there is an answer, and every curve is finite', () => {
    // The reader of the package tells the console of each vertex that it leaves out.
    jest.spyOn(console, 'error').mockImplementation(() => undefined);
    const whole = dxfFile([dxfPolyline([0, -5, 0], [20, -5, 1], [20, 5, 0], [0, 5, 1]), dxfCircle(0, 0, 2), dxfArc(0, 0, 1, 0, 90), dxfLine(0, 0, 2, 0)]);
    const lines = whole.split('\n');
    const piece = fc.constantFrom('0', '10', '-1', '42', 'SECTION', 'ENDSEC', 'POLYLINE', 'VERTEX', 'SEQEND', 'LWPOLYLINE', '1e999', 'NaN', '', '__proto__');
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat({ max: lines.length - 1 }), fc.nat({ max: 3 }), fc.array(piece, { maxLength: 3 })), { minLength: 1, maxLength: 5 }),
        (changes) => {
          const changed = [...lines];
          for (const [at, dropped, added] of changes) changed.splice(at, dropped, ...added);
          const result = readDxf(changed.join('\n'));
          if (!result.ok) expect(result.failure).not.toBe('');
          else for (const curve of result.value.curves) expect(JSON.stringify(curve)).not.toContain('null');
        },
      ),
      { numRuns: 2000 },
    );
  });
});

describe('constraints are inferred on request', () => {
  const { curves } = read(dxfFile([dxfPolyline([0, -5, 0], [20, -5, 1], [20, 5, 0], [0, 5, 1]), dxfCircle(0, 0, 2), dxfCircle(20, 0, 2)]));

  test('only joined ends without it', () => {
    const edit = importCurves('sketch', curves, false, newId);
    expect(edit.constraints).toEqual([]);
    // Four corners and two centres, which the circles share with the arcs.
    expect(edit.entities.filter(({ type }) => type === 'point')).toHaveLength(6);
  });

  test('level lines, smooth joints, equal radii, the origin; nothing that says nothing new', () => {
    const edit = importCurves('sketch', curves, true, newId);
    const kinds = edit.constraints.map(({ kind }) => kind);
    expect(kinds.filter((kind) => kind === 'horizontal')).toHaveLength(2);
    expect(kinds.filter((kind) => kind === 'tangent').length).toBeGreaterThanOrEqual(2);
    expect(kinds).toEqual(expect.arrayContaining(['equal', 'coincident']));
    const solution = solveSketch({ entities: edit.entities, constraints: edit.constraints, dimensions: [] });
    expect(solution).toMatchObject({ status: 'solved', redundant: [], conflicting: [] });
    // What is left to be dimensioned: the length of the slot and two radii.
    expect(solution.degreesOfFreedom).toBe(3);
  });
});

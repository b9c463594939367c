import { listSteps, type Step } from '@/core/document';
import { plainSide } from '../../../tests/support/demo';
import { openLocally } from '../../../tests/support/local-session';
import { isPreviewOf, keepDirections, onItsGround, readsDirections } from './directions';

const onFace: Step = { type: 'sketch', id: 's', name: 'Profile A', plane: { body: 'b', face: 'x/start(c)' } };
const hole: Step = { type: 'hole', id: 'h', name: 'Hole', sketch: 's', form: 'simple', extent: 'through', body: 'b', values: {} };

test.each<[string, Step, boolean]>([
  ['a sketch on a face', onFace, true],
  ['a sketch on a plane of the document', { ...onFace, plane: 'front' }, false],
  ['a hole, which goes into the body', hole, true],
  ['an extrusion', { type: 'extrude', id: 'e', name: 'E', sketch: 's', operation: 'start', extent: 'forward', body: 'b', values: {} }, false],
])('whether a direction is read off the body: %s', (_, step, is) => {
  expect(readsDirections(step)).toBe(is);
});

test('what a preview of the same ground has read is kept, of another it is not', () => {
  const { document } = openLocally(plainSide());
  const [first] = listSteps(document);
  if (!first) throw new Error('no step');
  const result = {
    steps: [{ id: first.id, status: 'done' as const, isFromCache: false, directions: { x: [0, 1, 0] as [number, number, number] } }],
    bodies: [],
    measured: {},
    rebuilt: 0,
  };
  const preview = { document, result, pictures: [] };
  expect(keepDirections(first, preview)).toEqual({ ...first, directions: { x: [0, 1, 0] } });
  expect(keepDirections({ ...first, name: 'Renamed' }, preview).directions).toEqual({ x: [0, 1, 0] });
  const elsewhere = { ...first, plane: { body: 'b', face: 'f' } } as Step;
  expect(isPreviewOf(preview, elsewhere)).toBe(false);
  expect(keepDirections(elsewhere, preview)).toBe(elsewhere);
  expect(isPreviewOf(undefined, first)).toBe(false);
});

test('directions go with the ground that they were read off', () => {
  const kept: Step = { ...onFace, directions: { x: [1, 0, 0] } };
  expect(onItsGround(kept, { ...kept, name: 'Other' }).directions).toEqual({ x: [1, 0, 0] });
  expect(onItsGround(kept, { ...kept, plane: { body: 'b', face: 'x/end(c)' } }).directions).toBeUndefined();
});

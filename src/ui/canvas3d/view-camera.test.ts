import fc from 'fast-check';
import { Box3, Vector3 } from 'three';
import { NO_INSETS, roundLength } from './framing';
import { spacingOf } from './ground';
import { ViewCamera } from './view-camera';

const SIZE = [740, 700] as const;
const coordinate = fc.double({ min: -500, max: 500, noNaN: true });
const place = fc.tuple(coordinate, coordinate, coordinate);
/** Not along z, where a view is turned by an angle that nobody sees. */
const direction = fc.tuple(fc.double({ min: 0, max: 6.28, noNaN: true }), fc.double({ min: -1.4, max: 1.4, noNaN: true }));

function look([turn, tilt]: readonly [number, number]): Vector3 {
  return new Vector3(Math.cos(turn) * Math.cos(tilt), Math.sin(turn) * Math.cos(tilt), Math.sin(tilt));
}

function camera(isPerspective: boolean): ViewCamera {
  const view = new ViewCamera(undefined, () => undefined);
  view.resize(...SIZE);
  view.setPerspective(isPerspective);
  return view;
}

function boxOf(a: readonly number[], b: readonly number[]): Box3 {
  return new Box3().setFromPoints([a, b].map(([x = 0, y = 0, z = 0]) => new Vector3(x, y, z))).expandByScalar(1);
}

function cornersOf({ min, max }: Box3): Vector3[] {
  return [0, 1, 2, 3, 4, 5, 6, 7].map((i) => new Vector3(i & 1 ? max.x : min.x, i & 2 ? max.y : min.y, i & 4 ? max.z : min.z));
}

test('what is framed is seen whole, in the part of the picture that is free, in both projections', () => {
  const insets = fc.record({ left: fc.constantFrom(0, 300), right: fc.constantFrom(0, 160), top: fc.constantFrom(0, 130), bottom: fc.constantFrom(0, 60) });
  fc.assert(
    fc.property(place, place, direction, insets, fc.boolean(), (a, b, turn, free, isPerspective) => {
      const view = camera(isPerspective);
      const box = boxOf(a, b);
      view.setReach(box.getCenter(new Vector3()), box.getSize(new Vector3()).length() / 2);
      view.frameBox(look(turn), box, free, false);
      view.settleDepth();
      for (const corner of cornersOf(box)) {
        const depth = corner.clone().project(view.now).z;
        expect(depth).toBeGreaterThanOrEqual(-1);
        expect(depth).toBeLessThanOrEqual(1);
        const [x, y] = view.project(corner) ?? [-1, -1];
        const slack = 1e-6;
        expect(x).toBeGreaterThanOrEqual(free.left - slack);
        expect(x).toBeLessThanOrEqual(SIZE[0] - free.right + slack);
        expect(y).toBeGreaterThanOrEqual(free.top - slack);
        expect(y).toBeLessThanOrEqual(SIZE[1] - free.bottom + slack);
      }
    }),
    { numRuns: 200 },
  );
});

test('what a view is turned about stays where it was seen', () => {
  fc.assert(
    fc.property(place, place, place, direction, direction, fc.boolean(), (a, b, about, from, to, isPerspective) => {
      const view = camera(isPerspective);
      const box = boxOf(a, b);
      view.setReach(box.getCenter(new Vector3()), box.getSize(new Vector3()).length() / 2);
      view.frameBox(look(from), box, NO_INSETS, false);
      const pivot = box.clampPoint(new Vector3(...about), new Vector3());
      const before = view.project(pivot.clone());
      view.turnAbout(pivot);
      // What the controls do while the pointer is dragged: the eye goes round the target.
      const { target } = view.controls;
      const distance = view.now.position.distanceTo(target);
      view.now.position.copy(target).addScaledVector(look(to), distance);
      view.now.lookAt(target);
      view.controls.dispatchEvent({ type: 'change' });
      const after = view.project(pivot.clone());
      if (!before || !after) return;
      expect(Math.hypot(before[0] - after[0], before[1] - after[1])).toBeLessThan(0.01);
    }),
    { numRuns: 200 },
  );
});

test('a change of projection keeps what is seen in the middle, how large, and from where', () => {
  const view = camera(false);
  view.frameBox(look([1, 0.5]), boxOf([0, 0, 0], [120, 40, 60]), { ...NO_INSETS, left: 200 }, false);
  const [target, span, from] = [view.controls.target.clone(), view.span, view.direction];
  view.setPerspective(true);
  expect(view.isParallel).toBe(false);
  expect(view.span).toBeCloseTo(span, 6);
  expect(view.controls.target.distanceTo(target)).toBeLessThan(1e-9);
  expect(view.direction.distanceTo(from)).toBeLessThan(1e-9);
  view.setPerspective(false);
  expect(view.span).toBeCloseTo(span, 6);
});

test('scales are told with round lengths', () => {
  expect([0.7, 1, 19, 20, 49.9, 130, 999].map(roundLength)).toEqual([0.5, 1, 10, 20, 20, 100, 500]);
  expect([0.01, 1, 1.4, 1.5, 20].map(spacingOf)).toEqual([0.1, 10, 10, 100, 1000]);
});

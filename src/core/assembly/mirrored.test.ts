/** Sub-assemblies that stand mirrored: everything in them is the image of what it is in the original. */
import type { GeometryShape } from '../kernel-port';
import { component, sourceOf, withComponents, withParameters } from '../../../tests/support/assemblies';
import { edited } from '../../../tests/support/demo';
import { face, floor, LEVER, leverShapes, mated } from '../../../tests/support/levers';
import { makeRandom } from '../../../tests/support/random';
import { randomStance, STILL } from '../../../tests/support/random-assembly';
import { findRecord, plainId, PLANES, type Component, type Document, type MateReference, type Parameter, type Placement, type PlaneName } from '../document';
import type { Point3 } from '../geometry';
import { combine, listPlaced, openValues, reflect, toOutside, turnOver, type Stance } from '../instances';
import { listParts, placeComponents, type ShapeSource } from '.';

/** As the kernel tells shapes of a mirrored body. */
const shapes: ShapeSource = ({ key, name }) => {
  const shape = leverShapes({ name });
  const plane = PLANES.find((one) => key.includes(`"mirrored":"${one}"`));
  return shape && plane && shape.kind === 'round' ? mirroredShape(shape, plane) : shape;
};

function mirroredShape(shape: Extract<GeometryShape, { readonly kind: 'round' }>, plane: PlaneName): GeometryShape {
  const { origin, direction } = shape.axis;
  return { ...shape, axis: { origin: reflect(plane, origin), direction: reflect(plane, direction) } };
}

const xAxis = (path: string[]): MateReference => ({ path, axis: 'x' });
const put = ({ origin, turn }: Stance): Placement => ({ origin: [...origin], turn: [...turn] });

/** Something of everything that a mate or a pattern can say with a hand in it, from random places. */
function unit(seed: number): Document {
  const random = makeRandom(seed);
  const place = (reach = 60): Placement => put(randomStance(random, reach, 3));
  const repeated = (
    form: 'linear' | 'circular',
    along: { readonly axis: 'x' | 'z' } | { readonly path: string[]; readonly body: string; readonly name: string },
  ) => ({
    form,
    along: { ...along },
    values: { count: 'c', span: 's' },
  });
  const base = put(randomStance(random, 40, 3));
  const own = (id: string, pattern: ReturnType<typeof repeated>) => ({
    type: 'component.repeat' as const,
    id,
    pattern: { ...pattern, values: { count: `${id}-count`, span: `${id}-span` } },
    values: [
      { type: 'parameter' as const, id: `${id}-count`, owner: id, name: `${id}_count`, formula: { text: '3' }, kind: 'count' },
      {
        type: 'parameter' as const,
        id: `${id}-span`,
        owner: id,
        name: `${id}_span`,
        formula: { text: pattern.form === 'linear' ? '17 mm' : '50 deg' },
        kind: pattern.form === 'linear' ? 'length' : 'angle',
      },
    ] satisfies Parameter[],
  });
  let made = withComponents(
    withParameters('assembly', 'unit', {}),
    component('base', 'lever', { isAnchored: true, at: base }),
    component('arm', 'lever', { at: place() }),
    component('lid', 'lever', { at: place() }),
    component('nut', 'lever', { at: put(combine(base, { origin: [0, 0, 7], turn: [1, 0, 0, 0] })) }),
    component('one', 'lever', { at: base }),
    component('two', 'lever', { at: put(combine(base, { origin: [30, 0, 0], turn: [1, 0, 0, 0] })) }),
    component('other', 'lever', { mirrored: 'front', at: place() }),
    component('pin', 'lever', { alike: 'side', at: place() }),
    component('row', 'lever', { at: place() }),
    component('ring', 'lever', { at: place() }),
    component('about', 'lever', { at: place() }),
  );
  made = edited(made, own('row', repeated('linear', { axis: 'x' })), own('ring', repeated('circular', { axis: 'z' })));
  made = edited(made, own('about', repeated('circular', { path: ['arm'], body: 'b', name: 'tip' })));
  made = mated(made, 'arm_flat', 'coplanar', [floor(['base']), floor(['arm'])], '-4 mm');
  made = mated(made, 'arm_pin', 'coaxial', [face(['base'], 'tip'), face(['arm'], 'hub')]);
  made = mated(made, 'arm_way', 'angle', [xAxis(['base']), xAxis(['arm'])], '50 deg');
  made = mated(made, 'lid_on', 'together', [xAxis(['arm']), xAxis(['lid'])], undefined, { within: place(20) });
  made = mated(made, 'nut_screw', 'screw', [face(['base'], 'hub'), face(['nut'], 'hub')], '6 mm', {
    within: { origin: [0, 0, 7], turn: [1, 0, 0, 0] },
    turned: 0,
  });
  made = mated(made, 'nut_way', 'angle', [xAxis(['base']), xAxis(['nut'])], '100 deg');
  for (const [name, end] of [
    ['one', 'hub'],
    ['two', 'tip'],
  ] as const) {
    made = mated(made, `${name}_flat`, 'coplanar', [floor(['base']), floor([name])]);
    made = mated(made, `${name}_pin`, 'coaxial', [face(['base'], end), face([name], 'hub')]);
  }
  made = mated(made, 'geared', 'gears', [face(['one'], 'hub'), face(['two'], 'hub')], '2', {
    third: floor(['base']),
    sense: -1,
    starts: [
      [1, 0, 0, 0],
      [1, 0, 0, 0],
    ],
    turned: 0,
  });
  made = mated(made, 'one_way', 'angle', [xAxis(['base']), xAxis(['one'])], '35 deg');
  made = mated(made, 'other_on', 'together', [floor(['base']), floor(['other'])], undefined, { within: place(25) });
  made = mated(made, 'pin_flat', 'coplanar', [floor(['arm']), floor(['pin'])], '3 mm');
  made = mated(made, 'pin_in', 'coaxial', [face(['arm'], 'tip'), face(['pin'], 'tip')]);
  made = mated(made, 'pin_way', 'angle', [xAxis(['arm']), xAxis(['pin'])], '-70 deg');
  made = mated(made, 'row_flat', 'coplanar', [floor(['base']), floor(['row#2'])], '9 mm');
  made = mated(made, 'row_pin', 'coaxial', [face(['base'], 'tip'), face(['row#2'], 'hub')]);
  made = mated(made, 'row_way', 'angle', [xAxis(['base']), xAxis(['row#2'])], '20 deg');
  return made;
}

/** Where the point x of a lever stands in the part at the end of a path, where that is mirrored in its document or stands for its image. */
function levers(values: ReturnType<typeof openValues>) {
  const placement = placeComponents(values, shapes);
  return new Map(
    listPlaced(values, placement.standing).map(({ path, name, at }) => {
      let inside = values;
      for (const id of path.slice(0, -1)) inside = inside.components?.valuesOf(plainId(id)) ?? inside;
      const own: Component | undefined = findRecord(inside.document, plainId(path.at(-1) ?? ''), 'component');
      const over = inside.document.turnedOver?.components[own?.id ?? ''];
      const plane = own?.mirrored ?? (over?.isAsItIs === true ? over.in : undefined);
      return [name, (x: Point3): Point3 => toOutside(at, plane ? reflect(plane, x) : x)] as const;
    }),
  );
}

const POINTS: readonly Point3[] = [
  [0, 0, 0],
  [30, 2, 5],
  [-4, 7, 1],
];

test.each(PLANES)('everything in a sub-assembly that is mirrored in its %s plane is the image of what it is', (plane) => {
  for (let seed = 1; seed <= 8; seed++) {
    const inner = unit(seed);
    const at = put(randomStance(makeRandom(seed + 50), 90, 3));
    const host = withComponents(withParameters('assembly', 'host', {}), component('left', 'unit', { at }), component('right', 'unit', { at, mirrored: plane }));
    const values = openValues(host, sourceOf([LEVER, inner]));
    const found = levers(values);
    expect(found.size).toBe(2 * 17);
    const own = placeComponents(openValues(inner, sourceOf([LEVER])), shapes);
    expect([...own.mates].filter(([, { status }]) => status !== 'holds')).toEqual([]);
    for (const [name, where] of found) {
      if (!name.startsWith('left.')) continue;
      const image = found.get(name.replace('left.', 'right.'));
      for (const x of POINTS) {
        // Seen from the sub-assembly, which stands at the same place both times.
        const inside = toOutside(backOf(at), where(x));
        const expected = toOutside(at, reflect(plane, inside));
        const [a = NaN, b = NaN, c = NaN] = image?.(x) ?? [];
        expect(`${name} ${Math.hypot(a - expected[0], b - expected[1], c - expected[2]) < 1e-6}`).toBe(`${name} true`);
      }
    }
  }
});

function backOf({ origin, turn: [w, x, y, z] }: Stance): Stance {
  const turn = [w, -x, -y, -z] as const;
  const [a, b, c] = toOutside({ origin: [0, 0, 0], turn }, origin);
  return { origin: [-a, -b, -c], turn };
}

test('an image of an image is what it was, through any number of levels; what is alike is the part as it is', () => {
  const inner = unit(3);
  const middle = withComponents(
    withParameters('assembly', 'middle', {}),
    component('inner', 'unit', { mirrored: 'side', at: put(randomStance(makeRandom(4), 30, 2)) }),
  );
  const host = withComponents(withParameters('assembly', 'host', {}), component('plain', 'middle'), component('turned', 'middle', { mirrored: 'front' }));
  const values = openValues(host, sourceOf([LEVER, inner, middle]));
  const found = levers(values);
  for (const [name, where] of found) {
    if (!name.startsWith('plain.')) continue;
    for (const x of POINTS) {
      const [a, b] = [reflect('front', where(x)), found.get(name.replace('plain.', 'turned.'))?.(x)];
      a.forEach((value, i) => expect(b?.[i]).toBeCloseTo(value, 6));
    }
  }
  // Mirrored twice: the parts are those of the document again, all but the one that is mirrored there.
  const turned = listPlaced(values).filter(({ name }) => name.startsWith('turned.'));
  expect(turned.filter(({ isMirrored }) => isMirrored).map(({ name }) => name)).toEqual(['turned.inner.other']);
  const parts = listParts(values, sourceOf([LEVER, inner, middle]));
  expect(parts.map(({ quantity, set }) => [quantity, set])).toEqual([
    [16, 'mirrored'],
    [18, ''],
  ]);
});

test('what stands mirrored is rigid', () => {
  const host = withComponents(withParameters('assembly', 'host', {}), component('right', 'unit', { mirrored: 'side', isFlexible: true }));
  const { stances } = placeComponents(openValues(host, sourceOf([LEVER, unit(1)])), shapes);
  expect([...stances.keys()]).toEqual(['right']);
});

test('turning over twice is nothing', () => {
  const random = makeRandom(9);
  for (const outside of PLANES)
    for (const inside of PLANES) {
      const at = randomStance(random, 50, 3);
      const again = turnOver(outside, turnOver(outside, at, inside), inside);
      POINTS.forEach((x) => toOutside(again, x).forEach((value, i) => expect(value).toBeCloseTo(toOutside(at, x)[i] ?? NaN, 9)));
      POINTS.forEach((x) =>
        toOutside(turnOver(outside, at, inside), reflect(inside, x)).forEach((value, i) =>
          expect(value).toBeCloseTo(reflect(outside, toOutside(at, x))[i] ?? NaN, 9),
        ),
      );
    }
  expect(turnOver('top', STILL, 'top')).toEqual(STILL);
});

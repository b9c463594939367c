import type { Size } from '@/core/document';
import { orderSizes, type KnownSize, type SizeOrder } from './size-order';

function known(name: string, { mass, width, problems, isOld = false }: { mass?: number; width?: number; problems?: string[]; isOld?: boolean }): KnownSize {
  const size: Size = { type: 'size', id: name, name, cells: {} };
  const checked = problems && { key: '', problems, held: [], readings: {}, time: 1, ...(mass === undefined ? {} : { mass }) };
  return { size, checked, isOld, read: (id) => (id === 'width' && width !== undefined ? { value: width, shown: `${width} mm` } : undefined) };
}

const SIZES = [
  known('Size 10', { mass: 3, width: 30, problems: [] }),
  known('Size 9', { width: 10, problems: ['fillet: the radius is too large'] }),
  known('Wide', { mass: 1, problems: [], isOld: true }),
  known('Narrow', { width: 20 }),
];
const WHOLE = { find: '', filter: 'all', order: undefined, values: ['width'] } as const;
const names = (wish: Partial<Parameters<typeof orderSizes>[1]>): string[] => orderSizes(SIZES, { ...WHOLE, ...wish }).map(({ size }) => size.name);

test('sizes are found by their name, what a value comes to, and what is wrong with them', () => {
  expect(names({ find: ' WIDE ' })).toEqual(['Wide']);
  expect(names({ find: '20 mm' })).toEqual(['Narrow']);
  expect(names({ find: 'radius' })).toEqual(['Size 9']);
  expect(names({ find: 'nothing' })).toEqual([]);
});

test('and by how their check came out', () => {
  expect(names({ filter: 'wrong' })).toEqual(['Size 9']);
  expect(names({ filter: 'good' })).toEqual(['Size 10']);
  expect(names({ filter: 'old' })).toEqual(['Wide', 'Narrow']);
});

test.each<[string, SizeOrder, string[]]>([
  ['numbers in names count as numbers', { key: { by: 'name' }, isDown: false }, ['Narrow', 'Size 9', 'Size 10', 'Wide']],
  ['what has no mass comes last', { key: { by: 'mass' }, isDown: false }, ['Wide', 'Size 10', 'Size 9', 'Narrow']],
  ['downwards too', { key: { by: 'mass' }, isDown: true }, ['Size 10', 'Wide', 'Size 9', 'Narrow']],
  ['values by their amount', { key: { by: 'value', id: 'width' }, isDown: false }, ['Size 9', 'Narrow', 'Size 10', 'Wide']],
])('sizes are sorted: %s', (_, order, wanted) => {
  expect(names({ order })).toEqual(wanted);
});

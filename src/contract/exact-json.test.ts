import fc from 'fast-check';
import { readExact, writeExact } from './exact-json';

test('data comes back as it was, to the last bit of each number', () => {
  fc.assert(
    fc.property(fc.jsonValue({ noUnicodeString: false }), fc.array(fc.double()), (data, numbers) => {
      expect(readExact(writeExact({ data, numbers }))).toEqual({ data, numbers });
    }),
  );
});

test.each([-0, NaN, Infinity, -Infinity, 5e-324, 0.1 + 0.2])('%s', (number) => {
  const { back } = readExact(writeExact({ back: number })) as { back: number };
  expect(Object.is(back, number)).toBe(true);
});

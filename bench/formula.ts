import { create, all } from 'mathjs';
import { ANY_SLOT } from '../src/core/formula';
import { Sheet } from '../src/core/network';
import { MILLIMETRES } from '../src/core/units';
import { compare, type Row } from './support';

/** One compiled formula with units: the value changes, the formula is run again. */
export function benchFormula(): Row[] {
  const math = create(all ?? {}, {});
  const compiled = math.compile('2/3*length - 0.5*wall');
  const scope = { length: math.unit(120, 'mm'), wall: math.unit(3, 'mm') };
  const sheet = new Sheet(MILLIMETRES);
  for (const [name, text] of Object.entries({ length: '120 mm', wall: '3 mm', result: '2/3*length - 0.5*wall' })) {
    sheet.define(name, { kind: 'formula', name, text, slot: ANY_SLOT });
  }
  sheet.settle();
  const run = sheet.runner('result');
  return [
    compare(
      'one compiled formula with units',
      '500 x',
      {
        name: 'warpbeam',
        count: 3_000_000,
        run: (count) => {
          let sum = 0;
          for (let i = 0; i < count; i++) sum += run();
          return sum;
        },
      },
      {
        name: 'mathjs compiled, Unit values',
        count: 3_000,
        run: (count) => {
          let last: unknown;
          for (let i = 0; i < count; i++) last = compiled.evaluate(scope);
          return last;
        },
      },
    ),
  ];
}

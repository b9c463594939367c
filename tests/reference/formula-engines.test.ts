/**
 * Results of formulas against a general mathematics library (mathjs) and a spreadsheet engine
 * (HyperFormula), both from the registry, on plain numbers where the three agree on notation.
 */
import { HyperFormula } from 'hyperformula';
import { create, all } from 'mathjs';
import { evaluate } from '../support/values';

const math = create(all ?? {}, {});

const PLAIN = [
  '2 + 3*4 - 5/8',
  '(2 + 3)*4',
  '2^10 - 2^0.5',
  'sqrt(2) + cbrt(5)',
  'exp(1.5) - ln(7)',
  'log10(250)',
  'abs(-3.25) + sign(-2)',
  'min(4, 2, 9) + max(4, 2, 9)',
  'hypot(3, 4, 12)',
  'mod(17, 5)',
  'floor(2.7) + ceil(2.1) + round(2.4)',
  '1e-3 + 2.5e4',
  '-3^2 + (-3)^2',
  '10/4/5',
  'pi*2 - e',
];

const FOR_MATHJS: Readonly<Record<string, string>> = { ln: 'log' };

test.each(PLAIN)('mathjs agrees: %s', (text) => {
  const expected = math.evaluate(text.replace(/\b(ln)\b/g, (name) => FOR_MATHJS[name] ?? name)) as number;
  expect(evaluate(text).value).toBeCloseTo(expected, 12);
});

const FOR_SPREADSHEET = [
  ['2 + 3*4 - 5/8', '=2+3*4-5/8'],
  ['round(17.25) + mod(17, 5)', '=ROUND(17.25,0)+MOD(17,5)'],
  ['if(3 > 2, 10, 20)', '=IF(3>2,10,20)'],
  ['sum(1, 2, 3) + mean(4, 8)', '=SUM(1,2,3)+AVERAGE(4,8)'],
  ['atan2(1, 2)/(1 deg)', '=DEGREES(ATAN2(2,1))'],
  ['round(-2.5)', '=ROUND(-2.5,0)'],
  ['2^3^2', '=2^(3^2)'],
] as const;

test.each(FOR_SPREADSHEET)('a spreadsheet agrees: %s', (text, cell) => {
  const sheet = HyperFormula.buildFromArray([[cell]], { licenseKey: 'gpl-v3' });
  expect(evaluate(text).value).toBeCloseTo(Number(sheet.getCellValue({ sheet: 0, row: 0, col: 0 })), 9);
});

test('trigonometry agrees with mathjs in degrees, away from the exact angles', () => {
  for (let degrees = -725; degrees <= 725; degrees += 7.3) {
    for (const name of ['sin', 'cos', 'tan']) {
      const expected = math.evaluate(`${name}(${degrees} deg)`) as number;
      expect(evaluate(`${name}(${degrees < 0 ? `-${-degrees}` : degrees} deg)`).value).toBeCloseTo(expected, 9);
    }
  }
});

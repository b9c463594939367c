import { INLINED, operationCode, type OperationName } from '.';
import { evaluate, valueIn } from '../../../tests/support/values';

describe('quantities as they are typed', () => {
  test.each([
    ['25 mm', 'mm', '25'],
    ['25.4mm', 'in', '1'],
    ['.5 in', 'mm', '12.7'],
    ['1e-3 m', 'mm', '1'],
    ['3/8 in', 'mm', '9.525'],
    ['1 5/8 in', 'mm', '41.275'],
    [`6' 4 1/2"`, 'mm', '1943.1'],
    [`6'`, 'in', '72'],
    [`4"`, 'mm', '101.6'],
    [`30° 15' 36"`, 'deg', '30.26'],
    ['45.5°', 'deg', '45.5'],
    ['1 in', 'thou', '1000'],
    ['10%*200 mm', 'mm', '20'],
    ['4/cm', '/m', '400'],
    ['7.85 g/cm^3', 'kg/m^3', '7850'],
    ['2 kg*m/s^2', 'N', '2'],
    ['3 m²', 'm^2', '3'],
    ['-40 °C', '°F', '-40'],
    ['20 °C + 5 K', '°C', '25'],
    ['30 °C - 10 °C', 'K', '20'],
    ['(3*5) mm', 'mm', '15'],
    ['3000 rpm', 'rpm', '3000'],
  ])('%s', (text, unit, expected) => {
    expect(valueIn(unit, text)).toBe(expected);
  });
});

describe('arithmetic', () => {
  test.each([
    ['2 + 3*4', '14'],
    ['-2^2', '-4'],
    ['2^-1', '0.5'],
    ['2^3^2', '512'],
    ['10/2/5', '1'],
    ['8/2*3', '12'],
    ['2^3/8', '1'],
    ['= 1 + 1', '2'],
    ['mod(-7, 3)', '2'],
    ['round(2.5) + round(-2.5)', '0'],
    ['if(1 < 2, 3, 4)', '3'],
    ['if(not (1 < 2) or 2 >= 3, 3, 4)', '4'],
    ['clamp(12, 0, 10)', '10'],
    ['round(123456789.4)', '123456789'],
    ['floor(1234567.9995)', '1234567'],
    ['if(mod(123456789.95, 1) > 0.9499 and mod(123456789.95, 1) < 0.9501, 1, 0)', '1'],
    ['if(mod(-1 mm, 3 mm) == 2 mm and mod(1, -3) == -2, 1, 0)', '1'],
    ['mean(1, 2, 6)', '3'],
    ['hypot(3, 4)', '5'],
    ['cbrt(27)', '3'],
    ['π - pi', '0'],
    ['sin(30) + cos(60 deg)', '1'],
  ])('%s = %s', (text, expected) => {
    expect(valueIn('', text)).toBe(expected);
  });

  test('the area of a circle is not misread as a fraction in the exponent', () => {
    expect(valueIn('mm^2', 'pi*d^2/4', { d: '20 mm' })).toBe(valueIn('mm^2', 'pi*(d^2)/4', { d: '20 mm' }));
  });

  test.each([
    '3/5 * 120 mm == 72 mm',
    '360 deg / 24 == 15 deg',
    '7 * 12 in == 7 ft',
    '0.1 mm + 0.2 mm == 0.3 mm',
    'sin(30 deg) == 0.5',
    'tan(45 deg) == 1',
    'cos(90 deg) == 0',
    'asin(0.5) == 30 deg',
    'floor(90 mm * 7/cm) == 63',
    '"steel" == "steel"',
    '1 in == 25.4 mm',
  ])('holds exactly: %s', (text) => {
    expect(evaluate(text)).toMatchObject({ value: 1, diagnostics: [] });
  });
});

describe('bare numbers', () => {
  test.each([
    ['x + 6', 'mm', '26'],
    ['2*(x + 3)', 'mm', '46'],
    ['max(3, 5) + x', 'mm', '25'],
    ['x*3/8', 'mm', '7.5'],
    ['if(x > 10, 1, x)', 'mm', '1'],
    ['clamp(x, 0, 15)', 'mm', '15'],
  ])('%s takes the unit of the document', (text, unit, expected) => {
    expect(valueIn(unit, text, { x: '20 mm' })).toBe(expected);
  });

  test('what was adopted is reported with its place', () => {
    expect(evaluate('x + 6', { x: '20 mm' }).adopted).toMatchObject([{ span: { from: 4, to: 5 }, unit: 'mm' }]);
  });

  test('a unitless value never takes a unit', () => {
    expect(valueIn('mm', 'x + teeth', { x: '20 mm', teeth: '24' })).toBe('x is a length (mm) and teeth is a plain number: they cannot be added.');
  });

  test('the radian drops out of an arc length', () => {
    expect(Number(valueIn('mm', 'r*90 deg + 0 mm', { r: '10 mm' }))).toBeCloseTo(5 * Math.PI, 12);
  });
});

test('the literals of the inner loop are the codes of the operations', () => {
  for (const [name, code] of Object.entries(INLINED)) expect([name, operationCode(name as OperationName)]).toEqual([name, code]);
});

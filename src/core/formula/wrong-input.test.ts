/** Everything that can be mistyped: its message, its place, its first repair. */
import { applyRepair } from '../kit';
import { evaluate, sheetOf } from '../../../tests/support/values';
import { ANY_SLOT } from '.';

const DOCUMENT = {
  beam_dia: '45 mm',
  frame_stock: '18 mm',
  teeth: '24',
  h: '3 mm',
  width: '400 mm',
  wide: 'width > 100 mm',
  wood: '"ash"',
  area: 'width*beam_dia',
};

/** `message | underlined | text after the first repair`. */
function refusal(text: string): string {
  const [diagnostic] = evaluate(text, DOCUMENT).diagnostics;
  if (!diagnostic) return 'accepted';
  const [repair] = diagnostic.repairs ?? [];
  return [diagnostic.message, text.slice(diagnostic.from, diagnostic.to), repair ? applyRepair(text, repair) : ''].join(' | ');
}

test.each([
  ['', 'There is no formula yet. |  | '],
  ['bem_dia + 6', 'There is no value named bem_dia here. Did you mean beam_dia? | bem_dia | beam_dia + 6'],
  ['Beam_dia', 'There is no value named Beam_dia here. Upper and lower case count: there is beam_dia. | Beam_dia | beam_dia'],
  ['2 beam_dia', 'An operator is missing before beam_dia. |  beam_dia | 2*beam_dia'],
  ['beam_dia frame_stock', 'An operator is missing before frame_stock. |  frame_stock | beam_dia*frame_stock'],
  ['beam_dia +', 'The formula ends where a value was expected. | + | '],
  ['* beam_dia', 'A value was expected before *. | * | '],
  ['(beam_dia + 2', 'A closing bracket is missing. | ( | (beam_dia + 2)'],
  ['beam_dia + 2)', 'This closing bracket has no opening one. | ) | beam_dia + 2'],
  ['12,5', 'Decimals are written with a point: 12.5. | 12,5 | 12.5'],
  ['1,250 mm', 'Decimals are written with a point: 1.250. | 1,250 | 1.250 mm'],
  ['1-5/8 in', '1-5/8 can be read as a mixed number or as a subtraction. | 1-5/8 | 1 5/8 in'],
  [`6'-4 1/2"`, `6'-4 1/2" can be read as feet and inches or as a subtraction. | 6'-4 1/2" | 6' 4 1/2"`],
  ['1 9/8 in', 'In the mixed number 1 9/8 the fraction must be smaller than 1. | 1 9/8 | (1 + 9/8) in'],
  ['3/0 in', 'A fraction cannot have 0 below the line. | 3/0 | '],
  ['4/h', 'h is a unit and also a value of this document; 4/h can be read both ways. | /h | 4 / h'],
  ['3 kg/h', 'h is a unit and also a value of this document; 3 kg/h can be read both ways. | /h | 3 kg / h'],
  ['width/3/8 in', 'After a division, 3/8 in can be read as one fraction or as two divisions. | 3/8 in | width/(3/8 in)'],
  ['25 MM', 'MM is not a unit. Did you mean mm? | MM | 25 mm'],
  ['25 lbs', 'lbs is not a unit. Did you mean lb? | lbs | 25 lb'],
  ['1 Nm', 'Nm is not a unit. Did you mean N*m? | Nm | 1 N*m'],
  ['2pi', 'An operator is missing before pi. | pi | 2*pi'],
  ['5 constructor', 'constructor is not a unit, and no value has that name. | constructor | '],
  ['5 __proto__', '__proto__ is not a unit, and no value has that name. | __proto__ | '],
  ['5 kcal', 'kcal is not a unit, and no value has that name. | kcal | '],
  ['true', 'There is no value named true here; a condition is yes. | true | yes'],
  ['25 mm ^2', '25 mm ^2 can be read as a power of the unit or of the whole quantity. | 25 mm ^2 | 25 mm^2'],
  ['25 mm^ 2', '25 mm^ 2 can be read as a power of the unit or of the whole quantity. | 25 mm^ 2 | 25 mm^2'],
  ['1e309', 'The exponent of 1e309 lies beyond ±300. | 1e309 | '],
  ['1e999999999', 'The exponent of 1e999999999 lies beyond ±300. | 1e999999999 | '],
  ['1e-999999999 mm', 'The exponent of 1e-999999999 lies beyond ±300. | 1e-999999999 | '],
  ['9e300 km^9', 'This number is too large. | 9e300 km^9 | '],
  ['1 mm^100', 'mm^100 has a power beyond ±12: no quantity has. | mm^100 | '],
  ['(1 mm)^100', 'The unit of (1 mm)^100 would have a power beyond ±12: no quantity has. | (1 mm)^100 | '],
  ['(width^7)*width^6', 'The unit of (width^7)*width^6 would have a power beyond ±12: no quantity has. | (width^7)*width^6 | '],
  ['clamp(width, 2 mm, 1 mm)', 'The lower limit of clamp lies above the upper one, 1 mm. | 1 mm | '],
  ['width/2h', 'h is a unit and also a value of this document; after a division, 2h can be read both ways. | 2h | width/(2*h)'],
  ['width + 2h', 'width is a length (mm) and 2h is a time (s): they cannot be added. | width + 2h | width + 2*h'],
  ['3m2', 'm2 is not a unit. Did you mean m^2? | m2 | 3m^2'],
  ['12foo', 'foo is not a unit. | foo | '],
  ['1 < 2 < 3', 'Comparisons cannot be chained; write each of them and join them with and. | 1 < 2 < | 1 < 2 and 2 < 3'],
  ['beam_dia = 45 mm', 'A comparison is written with two equals signs. | = | beam_dia == 45 mm'],
  ['beam_dia × 2', '× has no meaning in a formula. Did you mean *? | × | beam_dia * 2'],
  ['beam_dia − 2', '− has no meaning in a formula. Did you mean -? | − | beam_dia - 2'],
  ['beam_dia # 2', '# has no meaning in a formula. | # | '],
  ['"ash', 'A text must end with a quotation mark. | "ash | "ash"'],
  ['+5', 'A plus sign needs something on its left. | + | 5'],
  ['beam_dia + teeth', 'beam_dia is a length (mm) and teeth is a plain number: they cannot be added. | beam_dia + teeth | '],
  ['beam_dia + area', 'beam_dia is a length (mm) and area is an area (mm²): they cannot be added. | beam_dia + area | '],
  ['beam_dia > teeth', 'beam_dia is a length (mm) and teeth is a plain number: they cannot be compared. | beam_dia > teeth | '],
  ['max(beam_dia, teeth)', 'beam_dia is a length (mm) and teeth is a plain number: they do not fit together in max. | max(beam_dia, teeth) | '],
  ['sin(teeth)', 'sin takes an angle (°); teeth is a plain number. | teeth | sin((teeth) deg)'],
  ['sin(beam_dia)', 'sin takes an angle (°); beam_dia is a length (mm). | beam_dia | '],
  ['sqrt(beam_dia)', 'The square root of a length has no unit; sqrt takes a plain number or an area. | beam_dia | '],
  ['beam_dia^0.5', 'A length to the power 0.5 has no unit. | beam_dia^0.5 | '],
  ['beam_dia^teeth', 'beam_dia is a length (mm): its exponent must be a fixed number, or the unit of the result would change with teeth. | teeth | '],
  ['2^beam_dia', 'An exponent must be a plain number; beam_dia is a length (mm). | beam_dia | '],
  [
    'floor(beam_dia)',
    'floor takes a plain number; beam_dia is a length (mm). Give it a step to round to multiples of that. | beam_dia | floor(beam_dia, 1 mm)',
  ],
  ['(beam_dia) mm', 'beam_dia is a length (mm) already. | mm | (beam_dia) '],
  ['cos', 'cos is a function; it needs its arguments in brackets. | cos | cos()'],
  ['sine(30 deg)', 'There is no function sine. Did you mean sin, asin or min? | sine | sin(30 deg)'],
  ['beam_dia(2)', 'beam_dia is a value, not a function; an operator is missing before the bracket. | beam_dia | beam_dia*(2)'],
  ['atan2(1)', 'atan2 takes 2 arguments: atan2(y, x). | atan2(1) | '],
  ['if(beam_dia, 1, 2)', 'beam_dia is a length (mm); a condition was expected here. | beam_dia | '],
  ['if(wide, 1 mm, "a")', '1 mm is a length (mm) and "a" is a text: they cannot be the two results of one if. | if(wide, 1 mm, "a") | '],
  ['wood < "oak"', 'Texts can only be compared with == and !=. | wood < "oak" | '],
  ['wood + 1', 'wood is a text and 1 is a plain number: they cannot be added. | wood + 1 | '],
  ['not beam_dia', 'beam_dia is a length (mm); a condition was expected here. | beam_dia | '],
  ['-wood', 'wood is a text: it has no negative. | -wood | '],
  ['1 mm / 0', 'Division by zero. | 0 | '],
  ['1/(teeth - 24)', 'Division by zero: (teeth - 24) is 0. | (teeth - 24) | '],
  ['sqrt(teeth - 25)', 'teeth - 25 is negative: it has no square root. | teeth - 25 | '],
  ['ln(teeth - 24)', 'teeth - 24 must be greater than 0. | teeth - 24 | '],
  ['asin(teeth)', 'teeth must lie between -1 and 1. | teeth | '],
  ['tan(90 deg)', 'The tangent of 90 deg is infinite. | 90 deg | '],
  ['exp(1000)', 'The result is too large. | exp(1000) | '],
  ['mod(5, teeth - 24)', 'Division by zero: teeth - 24 is 0. | teeth - 24 | '],
  ['beam_dia.length', 'There is no value named beam_dia.length here. Did you mean beam_dia? | beam_dia.length | beam_dia'],
  ['max()', 'max takes one argument or more: max(a, b, …). | max() | '],
  ['1 + , 2', 'A value was expected before ,. | , | '],
  ['()', 'A value is missing before this bracket. | ) | '],
])('%s', (text, expected) => {
  expect(refusal(text)).toBe(expected);
});

test('a formula of any length and depth gets an answer, not a crash', () => {
  expect(refusal('('.repeat(400) + '1' + ')'.repeat(400))).toContain('nested too deeply');
  expect(refusal(`1${'+1'.repeat(1500)}`)).toContain('at most 2000 characters');
  expect(refusal('-'.repeat(1000))).toContain('nested too deeply');
});

const MORE = [
  'beam_dia ** 2',
  'beam_dia ^',
  'width / / 2',
  'min(width,)',
  'lookup(screws, "M6", "clearance")',
  'if(wide, 1 mm)',
  'clamp(width, 1 mm)',
  'hypot(width, teeth)',
  '5 mm mm',
  '5 mm2',
  '3 in 1/2',
  "3' 4",
  'beam-dia',
  'beam dia',
  '=',
  '1e',
  '1..5',
  'width > 10 mm and beam_dia',
  'wide + 1',
  '10 °C + 5 °C',
  'round(width)',
  '%',
  'widht*2',
  'pi(2)',
];

test('further slips of the keyboard, each with its message, place and repair', () => {
  expect(MORE.map((text) => `${text}  =>  ${refusal(text)}`)).toMatchInlineSnapshot(`
   [
     "beam_dia ** 2  =>  A power is written with ^. | ** | beam_dia ^ 2",
     "beam_dia ^  =>  The formula ends where a value was expected. | ^ | ",
     "width / / 2  =>  A value was expected before /. | / | ",
     "min(width,)  =>  A value is missing before this bracket. | ) | ",
     "lookup(screws, "M6", "clearance")  =>  The first argument of lookup is the name of a table; screws is not one. | screws | ",
     "if(wide, 1 mm)  =>  if takes 3 arguments: if(condition, a, b). | if(wide, 1 mm) | ",
     "clamp(width, 1 mm)  =>  clamp takes 3 arguments: clamp(x, low, high). | clamp(width, 1 mm) | ",
     "hypot(width, teeth)  =>  width is a length (mm) and teeth is a plain number: they do not fit together in hypot. | hypot(width, teeth) | ",
     "5 mm mm  =>  An operator is missing before mm. |  mm | 5 mm*mm",
     "5 mm2  =>  mm2 is not a unit. Did you mean mm^2? | mm2 | 5 mm^2",
     "3 in 1/2  =>  An operator is missing before 1/2. |  1/2 | 3 in*1/2",
     "3' 4  =>  An operator is missing before 4. |  4 | 3' 4"",
     "beam-dia  =>  There is no value named beam here. Did you mean beam_dia? | beam | beam_dia-dia",
     "beam dia  =>  An operator is missing before dia. |  dia | beam_dia",
     "=  =>  There is no formula yet. | = | ",
     "1e  =>  An operator is missing before e. | e | 1*e",
     "1..5  =>  . cannot stand here. | . | ",
     "width > 10 mm and beam_dia  =>  beam_dia is a length (mm); a condition was expected here. | beam_dia | ",
     "wide + 1  =>  wide is yes or no and 1 is a plain number: they cannot be added. | wide + 1 | ",
     "10 °C + 5 °C  =>  To 10 °C only a difference in K can be added. | 10 °C + 5 °C | ",
     "round(width)  =>  round takes a plain number; width is a length (mm). Give it a step to round to multiples of that. | width | round(width, 1 mm)",
     "%  =>  % has no meaning in a formula. | % | ",
     "widht*2  =>  There is no value named widht here. Did you mean width or wide? | widht | width*2",
     "pi(2)  =>  pi is a value, not a function; an operator is missing before the bracket. | pi | pi*(2)",
   ]
  `);
});

describe('a value that is called like a unit', () => {
  const GEAR = { m: '3 mm', d: '60 mm', s: '2' };
  const said = (text: string): string => {
    const [diagnostic] = evaluate(text, GEAR).diagnostics;
    return diagnostic ? [diagnostic.message, ...(diagnostic.repairs ?? []).map((repair) => applyRepair(text, repair))].join(' | ') : 'accepted';
  };
  const both = (shown: string): string => `m is a unit and also a value of this document; ${shown} can be read both ways.`;

  test.each([
    ['d + 2m', `${both('2m')} | d + 2*m | d + 2 metre`],
    ['2 m', `${both('2 m')} | 2*m | 2 metre`],
    ['(2 + 1) m', `${both('(2 + 1) m')} | (2 + 1)*m | (2 + 1) metre`],
    ['d*2 m^2', `${both('2 m^2')} | d*2*m^2 | d*2 metre^2`],
    ['2 metre + d', 'accepted'],
    ['2 metres', 'accepted'],
    ['3 m/min', 'accepted'],
    ['5 s', 'accepted'],
  ])('%s', (text, expected) => {
    expect(said(text)).toBe(expected);
  });

  test('in its own formula the symbol is the unit', () => {
    const sheet = sheetOf({ m: '2 m' });
    expect(sheet.read('m')).toMatchObject({ value: 2e7, diagnostics: [] });
  });

  test('what was read as a unit is judged again when such a value is added, changes its kind, or goes', () => {
    const sheet = sheetOf({ x: '2 m' });
    const reading = () => sheet.read('x')?.diagnostics[0]?.code ?? sheet.read('x')?.value;
    const define = (text: string) => {
      sheet.define('m', { kind: 'formula', name: 'm', text, slot: ANY_SLOT });
      sheet.settle();
    };
    expect(reading()).toBe(2e7);
    define('3 mm');
    expect(reading()).toBe('ambiguous-unit');
    define('3 kg');
    expect(reading()).toBe(2e7);
    expect([sheet.listReads('x'), sheet.listReaders('m')]).toEqual([[], []]);
    define('4 mm');
    expect(reading()).toBe('ambiguous-unit');
    sheet.remove('m');
    sheet.settle();
    expect(reading()).toBe(2e7);
  });
});

describe('a branch of if that is not taken', () => {
  test.each([
    ['a number that cannot be computed', '1/0', 'if(yes, 5 mm, broken)', 50_000],
    ['a value without a type', '1 mm + 1 s', 'if(1 < 2, 5 mm, broken)', 50_000],
    ['a value without a type, on the other side', '1 mm + 1 s', 'if(1 > 2, broken, 5 mm)', 50_000],
    ['one that is taken', '1 mm + 1 s', 'if(1 < 2, broken, 5 mm)', 'Waiting on broken.'],
    ['one inside a sum', '1 mm + 1 s', 'if(1 > 2, 2*broken, 5 mm) + 1 mm', 60_000],
  ])('%s', (_, broken, text, expected) => {
    const { value, diagnostics } = evaluate(text, { broken });
    expect(diagnostics[0]?.message ?? value).toBe(expected);
  });
});

/**
 * Functions of spreadsheets as two engines compute them: the one that runs workbooks here, and HyperFormula, which is no part of the product. The same
 * cells, written to a file and read back on our side.
 */
import { gzipSync } from 'node:zlib';
import { utils, write } from '@e965/xlsx';
import { HyperFormula } from 'hyperformula';
import { computeSpreadsheet } from '@/outside';

/** Numbers to compute with in A1:A8, others in B1:B8. */
const A = [3, 1.5, 12.25, -4, 7, 0.5, 9, 2];
const B = [10, 20, 30, 40, 50, 60, 70, 80];

const FORMULAS = [
  ...['SUM(A1:A8)', 'AVERAGE(A1:A8)', 'MIN(A1:A8)', 'MAX(A1:A8)', 'COUNT(A1:A8)', 'COUNTA(A1:B8)', 'PRODUCT(A1:A3)', 'MEDIAN(A1:A8)', 'SUMSQ(A1:A8)'],
  ...['ABS(A4)', 'SQRT(A7)', 'POWER(A1,2.5)', 'EXP(A2)', 'LN(A3)', 'LOG10(A3)', 'LOG(A3,2)', 'MOD(A3,A8)', 'SIGN(A4)', 'PI()*A1'],
  ...['SIN(A1)', 'COS(A1)', 'TAN(A1)', 'ASIN(A6)', 'ACOS(A6)', 'ATAN(A1)', 'ATAN2(A1,A8)', 'SINH(A2)', 'COSH(A2)', 'TANH(A2)', 'DEGREES(A1)', 'RADIANS(B4)'],
  ...['ROUND(A3,1)', 'ROUNDUP(A3,1)', 'ROUNDDOWN(A3,1)', 'INT(A3)', 'TRUNC(A3)', 'CEILING(A3,0.5)', 'FLOOR(A3,0.5)', 'EVEN(A1)', 'ODD(A8)', 'QUOTIENT(B7,A5)'],
  ...['IF(A1>A2,A3,A4)', 'IF(AND(A1>2,A2<2),1,0)', 'IF(OR(A1<2,A2<1),1,0)', 'IF(NOT(A1>2),1,0)', 'IFERROR(1/0,A5)', 'CHOOSE(A8,A1,A3,A5)'],
  ...[
    'VLOOKUP(7,A1:B8,2,FALSE())',
    'INDEX(B1:B8,3)',
    'MATCH(9,A1:A8,0)',
    'INDEX(B1:B8,MATCH(12.25,A1:A8,0))',
    'SUMIF(A1:A8,">2",B1:B8)',
    'COUNTIF(A1:A8,">2")',
  ],
  ...['AVERAGEIF(A1:A8,">2",B1:B8)', 'SUMPRODUCT(A1:A8,B1:B8)', 'STDEV(A1:A8)', 'VAR(A1:A8)', 'LARGE(A1:A8,2)', 'SMALL(A1:A8,2)', 'FACT(A5)', 'COMBIN(B1,A1)'],
  ...['GCD(B2,B3)', 'LCM(B2,B3)', 'LEN("warp")*A1', 'VALUE("12.5")+A1', '(A1+A2)^2/A3-A4%', 'PMT(0.01,12,1000)'],
];

test(`${FORMULAS.length} formulas come out the same`, async () => {
  expect(new Set(FORMULAS.map((formula) => /^[A-Z0-9]+/.exec(formula.replace(/^\(/, ''))?.[0])).size).toBeGreaterThanOrEqual(60);
  const rows = Math.max(FORMULAS.length, A.length);
  const cells = Array.from({ length: rows }, (_, i) => [A[i] ?? null, B[i] ?? null, FORMULAS[i] === undefined ? null : `=${FORMULAS[i]}`]);
  const sheet = utils.aoa_to_sheet(cells.map(([a, b, formula]) => [a, b, typeof formula === 'string' ? { t: 'n' as const, v: 0, f: formula.slice(1) } : null]));
  const book = utils.book_new();
  utils.book_append_sheet(book, sheet, 'S');
  const content = gzipSync(write(book, { type: 'buffer', bookType: 'xlsx' }) as Buffer).toString('base64');
  const other = HyperFormula.buildFromArray(cells, { licenseKey: 'gpl-v3', smartRounding: false });
  const off: string[] = [];
  for (const [i, formula] of FORMULAS.entries()) {
    const key = `S!C${i + 1}`;
    const answer = await computeSpreadsheet({
      name: 'functions.xlsx',
      content,
      question: {
        key: 'k',
        outside: 'o',
        name: 'Functions',
        asked: { of: 'spreadsheet', file: 'f' },
        inputs: {},
        outputs: [{ key, kind: 'number', unit: '' }],
        within: [],
      },
    });
    const expected = other.getCellValue({ sheet: 0, row: i, col: 2 });
    const found = answer.ok ? answer.value.outputs[key]?.value : answer.failure.problem;
    const isSame = typeof found === 'number' && typeof expected === 'number' && Math.abs(found - expected) <= 1e-12 * Math.max(1, Math.abs(expected));
    if (!isSame) off.push(`${formula}: ${String(found)}, by the other ${String(expected)}`);
  }
  other.destroy();
  expect(off).toEqual([]);
}, 120_000);

/** The functions of the language: their signatures, for the check, for completion and for the reference page. */
import { ANGLE, PLAIN } from '../units';
import type { OperationName } from './operations';

/**
 * What a function asks of its arguments and gives back:
 * `plain` and `angle` ask for that dimension; `same` asks all arguments for one dimension; `root` divides
 * the exponents of its argument.
 */
export type FunctionRule =
  | { readonly kind: 'plain'; readonly operation: OperationName; readonly gives: 'plain' | 'angle' }
  | { readonly kind: 'angle'; readonly operation: OperationName }
  | { readonly kind: 'same'; readonly operation: OperationName; readonly gives: 'same' | 'plain' | 'angle' }
  | { readonly kind: 'fold'; readonly operation: OperationName; readonly isMean?: boolean }
  | { readonly kind: 'root'; readonly operation: OperationName; readonly degree: 2 | 3 }
  | { readonly kind: 'step'; readonly operation: OperationName }
  | { readonly kind: 'if' | 'clamp' | 'lookup' | 'interp' };

export interface FormulaFunction {
  readonly name: string;
  readonly signature: string;
  readonly summary: string;
  readonly least: number;
  readonly most: number;
  readonly rule: FunctionRule;
}

const one = (name: string, summary: string, rule: FunctionRule, argument = 'x'): FormulaFunction => ({
  name,
  signature: `${name}(${argument})`,
  summary,
  least: 1,
  most: 1,
  rule,
});
const many = (name: string, summary: string, rule: FunctionRule): FormulaFunction => ({
  name,
  signature: `${name}(a, b, …)`,
  summary,
  least: 1,
  most: 50,
  rule,
});
const two = (name: string, args: string, summary: string, rule: FunctionRule): FormulaFunction => ({
  name,
  signature: `${name}(${args})`,
  summary,
  least: 2,
  most: 2,
  rule,
});
const step = (name: 'floor' | 'ceil' | 'round', summary: string): FormulaFunction => ({
  name,
  signature: `${name}(x) or ${name}(x, step)`,
  summary,
  least: 1,
  most: 2,
  rule: { kind: 'step', operation: name },
});

const LIST: readonly FormulaFunction[] = [
  one('sin', 'Sine of an angle', { kind: 'angle', operation: 'sin' }, 'angle'),
  one('cos', 'Cosine of an angle', { kind: 'angle', operation: 'cos' }, 'angle'),
  one('tan', 'Tangent of an angle', { kind: 'angle', operation: 'tan' }, 'angle'),
  one('asin', 'Angle of that sine, from -90° to 90°', { kind: 'plain', operation: 'asin', gives: 'angle' }),
  one('acos', 'Angle of that cosine, from 0° to 180°', { kind: 'plain', operation: 'acos', gives: 'angle' }),
  one('atan', 'Angle of that tangent, from -90° to 90°', { kind: 'plain', operation: 'atan', gives: 'angle' }),
  two('atan2', 'y, x', 'Direction of the point (x, y), from -180° to 180°', { kind: 'same', operation: 'atan2', gives: 'angle' }),
  one('sqrt', 'Square root; of an area, a length', { kind: 'root', operation: 'sqrt', degree: 2 }),
  one('cbrt', 'Cube root; of a volume, a length', { kind: 'root', operation: 'cbrt', degree: 3 }),
  many('hypot', 'Square root of the sum of squares', { kind: 'fold', operation: 'hypot' }),
  one('abs', 'Size without the sign', { kind: 'same', operation: 'abs', gives: 'same' }),
  one('sign', '-1, 0 or 1', { kind: 'same', operation: 'sign', gives: 'plain' }),
  many('min', 'The smallest of them', { kind: 'fold', operation: 'min' }),
  many('max', 'The largest of them', { kind: 'fold', operation: 'max' }),
  many('sum', 'All of them added', { kind: 'fold', operation: 'add' }),
  many('mean', 'Their arithmetic mean', { kind: 'fold', operation: 'add', isMean: true }),
  step('floor', 'The whole number, or whole multiple of the step, at or below'),
  step('ceil', 'The whole number, or whole multiple of the step, at or above'),
  step('round', 'The nearest whole number, or multiple of the step; halves away from 0'),
  two('mod', 'a, b', 'What is left of a after whole multiples of b; sign of b', { kind: 'same', operation: 'mod', gives: 'same' }),
  one('exp', 'e to the power x', { kind: 'plain', operation: 'exp', gives: 'plain' }),
  one('ln', 'Natural logarithm', { kind: 'plain', operation: 'ln', gives: 'plain' }),
  one('log10', 'Decimal logarithm', { kind: 'plain', operation: 'log10', gives: 'plain' }),
  { name: 'if', signature: 'if(condition, a, b)', summary: 'a when the condition holds, else b', least: 3, most: 3, rule: { kind: 'if' } },
  { name: 'clamp', signature: 'clamp(x, low, high)', summary: 'x, held between low and high', least: 3, most: 3, rule: { kind: 'clamp' } },
  {
    name: 'lookup',
    signature: 'lookup(table, key, "column")',
    summary: 'The cell of that column in the row of the key',
    least: 3,
    most: 3,
    rule: { kind: 'lookup' },
  },
  {
    name: 'interp',
    signature: 'interp(table, x, "column")',
    summary: 'The column interpolated linearly between the keys around x',
    least: 3,
    most: 3,
    rule: { kind: 'interp' },
  },
];

const byName = new Map(LIST.map((entry) => [entry.name, entry]));

export function findFunction(name: string): FormulaFunction | undefined {
  return byName.get(name);
}

export function listFunctions(): readonly FormulaFunction[] {
  return LIST;
}

/** Names with a fixed meaning: numbers and yes/no. */
export const CONSTANTS: ReadonlyMap<string, { readonly value: number; readonly isYesNo: boolean }> = new Map([
  ['pi', { value: Math.PI, isYesNo: false }],
  ['π', { value: Math.PI, isYesNo: false }],
  ['e', { value: Math.E, isYesNo: false }],
  ['yes', { value: 1, isYesNo: true }],
  ['no', { value: 0, isYesNo: true }],
]);

const WORDS = new Set(['and', 'or', 'not']);

/** Whether the language claims that name: `a function`, `a constant`, `a word of the formula language`. */
export function describeReserved(name: string): string | undefined {
  if (byName.has(name)) return 'a function';
  if (CONSTANTS.has(name)) return 'a constant';
  return WORDS.has(name) ? 'a word of the formula language' : undefined;
}

export const RULE_DIMENSIONS = { plain: PLAIN, angle: ANGLE } as const;

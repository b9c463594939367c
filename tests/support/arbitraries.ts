import fc from 'fast-check';

/** Names that values of a generated document can have. */
export const NAMES = ['a', 'b', 'c', 'd', 'e1', 'f', 'g', 'L', 'Länge', 'x_2'] as const;

/** Formula texts over some names: right ones, wrong ones, literals, and plain nonsense. */
export function formulaText(names: readonly string[] = NAMES): fc.Arbitrary<string> {
  const name = fc.constantFrom(...names);
  const literal = fc.constantFrom('1', '2.5', '3/8', '12 mm', '1 5/8 in', '45 deg', `6' 4"`, '10%', '4/cm', '"ash"', 'yes', '0', '0 mm', '1e-3 m');
  const leaf = fc.oneof({ weight: 3, arbitrary: name }, { weight: 3, arbitrary: literal });
  const { tree } = fc.letrec<{ tree: string }>((tie) => ({
    tree: fc.oneof(
      { depthSize: 'small', withCrossShrink: true },
      leaf,
      fc.tuple(tie('tree'), fc.constantFrom('+', '-', '*', '/', ' + ', ' * '), tie('tree')).map(([l, o, r]) => `${l}${o}${r}`),
      fc.tuple(tie('tree'), tie('tree')).map(([l, r]) => `(${l} + ${r})`),
      fc.tuple(fc.constantFrom('max', 'min', 'sum', 'hypot'), tie('tree'), tie('tree')).map(([f, l, r]) => `${f}(${l}, ${r})`),
      tie('tree').map((t) => `if(${t} > 1 mm, ${t}, 2 mm)`),
      tie('tree').map((t) => `-${t}`),
      tie('tree').map((t) => `sqrt(${t})`),
    ),
  }));
  return fc.oneof({ weight: 8, arbitrary: tree }, { weight: 1, arbitrary: fc.string({ maxLength: 12 }) });
}

/** Formulas that are lengths, of every operation there is: right as to units, though they may divide by zero or take a root of what is negative. */
export function lengthFormula(names: readonly string[]): fc.Arbitrary<string> {
  const leaf = fc.oneof({ weight: 4, arbitrary: fc.constantFrom(...names) }, { weight: 2, arbitrary: fc.constantFrom('12 mm', '1 5/8 in', '0 mm', '-3 cm') });
  const number = fc.constantFrom('2', '0.35', '1/3', '-1.5', '0', '7');
  const { tree } = fc.letrec<{ tree: string }>((tie) => {
    const [one, other] = [tie('tree'), tie('tree')];
    const joined = (join: (a: string, b: string) => string): fc.Arbitrary<string> => fc.tuple(one, other).map(([a, b]) => join(a, b));
    const scaled = (scale: (a: string, n: string) => string): fc.Arbitrary<string> => fc.tuple(one, number).map(([a, n]) => scale(a, n));
    return {
      tree: fc.oneof(
        { depthSize: 'small', withCrossShrink: true },
        { weight: 3, arbitrary: leaf },
        { weight: 2, arbitrary: fc.tuple(one, fc.constantFrom('+', '-'), other).map(([a, o, b]) => `(${a} ${o} ${b})`) },
        scaled((a, n) => `${a} * (${n})`),
        scaled((a, n) => `(${n}) * ${a}`),
        scaled((a, n) => `${a} / (${n})`),
        joined((a, b) => `(${a} * ${b} / (${a} + 1 mm))`),
        joined((a, b) => `sqrt(${a} * ${b})`),
        joined((a, b) => `(${a} / ${b}) * 1 mm`),
        joined((a, b) => `((${a}) / 1 cm) ^ 2 * ${b}`),
        joined((a, b) => `if(${a} < ${b}, ${a}, 2 mm)`),
        joined((a, b) => `if(${a} >= ${b} or not (${a} == 12 mm), ${b}, 1 in)`),
        fc.tuple(fc.constantFrom('min', 'max', 'hypot', 'mod', 'sum', 'mean'), one, other).map(([f, a, b]) => `${f}(${a}, ${b})`),
        fc.tuple(one, other).map(([a, b]) => `clamp(${a}, 1 mm, ${b})`),
        fc.tuple(fc.constantFrom('floor', 'ceil', 'round', 'exp', 'ln', 'log10', 'cbrt', 'sign'), one).map(([f, a]) => `${f}((${a}) / 1 cm) * 1 mm`),
        fc.tuple(fc.constantFrom('sin', 'cos', 'tan'), one).map(([f, a]) => `${f}((${a}) / 1 mm * 1 deg) * 10 mm`),
        fc.tuple(fc.constantFrom('asin', 'acos', 'atan'), one).map(([f, a]) => `${f}((${a}) / 1 m) / 1 deg * 1 mm`),
        joined((a, b) => `atan2(${a}, ${b}) / 1 deg * 1 mm`),
        one.map((a) => `-(${a})`),
        one.map((a) => `abs(${a})`),
      ),
    };
  });
  return tree;
}

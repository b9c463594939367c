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

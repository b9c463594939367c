/**
 * One scalar equation `measure(x) = target` over a few unknowns, scaled so that its residual is a length in
 * millimetres. Sides and senses (which way a dimension points, on which side a tangent lies) are fixed
 * when the equation is made, from the shape at the start: that keeps the solve on its branch.
 */
export interface Equation {
  /** Id of the constraint or dimension that it comes from. */
  readonly source: string;
  /** Indices of the unknowns and constants that it reads, without repeats. */
  readonly variables: readonly number[];
  readonly measure: (x: Float64Array) => number;
  /** Writes the derivative by each of `variables`, in their order, at `out[at]` and on. */
  readonly differentiate: (x: Float64Array, out: Float64Array, at: number) => void;
  target: number;
  /** Millimetres of residual for one unit of the dimension's own value: 1 but for angles. */
  readonly scale: number;
}

/** Reads an unknown; every index given to an equation exists. */
export function at(x: Float64Array, index: number): number {
  return x[index] as number;
}

/**
 * An equation from a measure over possibly repeated variables (a line that shares a point with another):
 * derivatives of equal variables add up.
 */
export function makeEquation(
  source: string,
  variables: readonly number[],
  measure: (x: Float64Array) => number,
  differentiate: (x: Float64Array, out: Float64Array, at: number) => void,
  target = 0,
  scale = 1,
): Equation {
  const unique = [...new Set(variables)];
  if (unique.length === variables.length) return { source, variables, measure, differentiate, target, scale };
  const slots = variables.map((variable) => unique.indexOf(variable));
  const scratch = new Float64Array(variables.length);
  return {
    source,
    variables: unique,
    measure,
    differentiate: (x, out, start) => {
      differentiate(x, scratch, 0);
      for (let i = 0; i < unique.length; i++) out[start + i] = 0;
      for (let i = 0; i < slots.length; i++) {
        const slot = start + (slots[i] as number);
        out[slot] = (out[slot] as number) + (scratch[i] as number);
      }
    },
    target,
    scale,
  };
}

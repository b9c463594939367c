/** Throws when the program itself is wrong. Never for what a user can cause. */
export function invariant(condition: boolean, message: () => string): asserts condition {
  if (!condition) throw new Error(`Bug: ${message()}`);
}

/** Marks the branch that an exhaustive switch cannot reach. */
export function assertNever(value: never): never {
  throw new Error(`Bug: unexpected case ${JSON.stringify(value)}`);
}

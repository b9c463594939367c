/** Whether two plain JSON values are equal; the order of object keys does not count. */
export function sameData(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (Array.isArray(a) !== Array.isArray(b)) return false;
  const [keysA, keysB] = [Object.keys(a), Object.keys(b)];
  if (keysA.length !== keysB.length) return false;
  const [left, right] = [new Map(Object.entries(a)), new Map(Object.entries(b))];
  return keysA.every((key) => right.has(key) && sameData(left.get(key), right.get(key)));
}

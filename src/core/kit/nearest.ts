/**
 * Closest names for a mistyped one, best first.
 *
 * Damerau-Levenshtein distance (optimal string alignment), where a difference of case alone counts as
 * half a mistake, and so does what is still to be typed of a name that is begun; a candidate is kept within 0.4 of the longer length
 * plus one, and within three fifths of it.
 */
export function findNearest(input: string, candidates: Iterable<string>, limit = 3): string[] {
  const scored: { name: string; distance: number }[] = [];
  for (const name of candidates) {
    const longer = Math.max(input.length, name.length);
    const allowed = Math.min(Math.floor(0.4 * longer) + 1, 0.6 * longer);
    const [typed, whole] = [input.toLowerCase(), name.toLowerCase()];
    const isBegun = typed.length > 1 && whole.startsWith(typed);
    if (!isBegun && Math.abs(input.length - name.length) > allowed) continue;
    const distance = isBegun ? 0.5 : editDistance(typed, whole);
    if (distance <= allowed) scored.push({ name, distance });
  }
  scored.sort((a, b) => a.distance - b.distance || (a.name < b.name ? -1 : 1));
  return scored.slice(0, limit).map((entry) => entry.name);
}

/** ` Did you mean rail or reel?`; empty where nothing is near. */
export function nameNearest(input: string, candidates: Iterable<string>): string {
  const near = findNearest(input, candidates);
  return near.length === 0 ? '' : ` Did you mean ${near.join(' or ')}?`;
}

function editDistance(a: string, b: string): number {
  let beforePrevious = new Array<number>(b.length + 1).fill(0);
  let previous = Array.from({ length: b.length + 1 }, (_, j) => j);
  for (let i = 1; i <= a.length; i++) {
    const row = [i];
    for (let j = 1; j <= b.length; j++) {
      const cost = a[i - 1] === b[j - 1] ? 0 : 1;
      let best = Math.min(at(row, j - 1) + 1, at(previous, j) + 1, at(previous, j - 1) + cost);
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]) {
        best = Math.min(best, at(beforePrevious, j - 2) + 1);
      }
      row.push(best);
    }
    beforePrevious = previous;
    previous = row;
  }
  return at(previous, b.length);
}

function at(row: readonly number[], index: number): number {
  return row[index] ?? Number.POSITIVE_INFINITY;
}

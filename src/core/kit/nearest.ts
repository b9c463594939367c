/**
 * Closest names for a mistyped one, best first.
 *
 * Damerau-Levenshtein distance (optimal string alignment), where a difference of case alone counts as
 * half a mistake, and so does what is still to be typed of a name that is begun; a candidate is kept within 0.4 of the longer length
 * plus one, and within three fifths of it.
 */
export function findNearest(input: string, candidates: Iterable<string>, limit = 3): string[] {
  const scored: { name: string; distance: number }[] = [];
  const typed = input.toLowerCase();
  const letters = lettersOf(typed);
  for (const name of candidates) {
    const longer = Math.max(input.length, name.length);
    const allowed = Math.min(Math.floor(0.4 * longer) + 1, 0.6 * longer);
    const whole = name.toLowerCase();
    const isBegun = typed.length > 1 && whole.startsWith(typed);
    if (!isBegun && Math.abs(typed.length - whole.length) > allowed) continue;
    // Each letter that only one of them has is a mistake of its own.
    const others = lettersOf(whole);
    if (!isBegun && Math.max(countBits(letters & ~others), countBits(others & ~letters)) > allowed) continue;
    const distance = isBegun ? 0.5 : editDistance(typed, whole, allowed);
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

/** A bit for each letter that occurs, several letters to a bit: a bit that is missing is a letter that is missing. */
function lettersOf(text: string): number {
  let letters = 0;
  for (let i = 0; i < text.length; i++) letters |= 1 << (text.charCodeAt(i) & 31);
  return letters;
}

function countBits(bits: number): number {
  let count = 0;
  for (let rest = bits; rest !== 0; rest &= rest - 1) count++;
  return count;
}

/** The distance, or something beyond `allowed` where it is more than that. */
function editDistance(a: string, b: string, allowed: number): number {
  let beforePrevious: number[] = [];
  let previous = Array.from({ length: b.length + 1 }, (_, j) => j);
  let row: number[] = [];
  for (let i = 1; i <= a.length; i++) {
    const letter = a.charCodeAt(i - 1);
    let left = i;
    let least = i;
    row[0] = i;
    for (let j = 1; j <= b.length; j++) {
      const isSame = letter === b.charCodeAt(j - 1);
      let best = Math.min(left + 1, at(previous, j) + 1, at(previous, j - 1) + (isSame ? 0 : 1));
      if (i > 1 && j > 1 && letter === b.charCodeAt(j - 2) && a.charCodeAt(i - 2) === b.charCodeAt(j - 1)) {
        best = Math.min(best, at(beforePrevious, j - 2) + 1);
      }
      row[j] = best;
      left = best;
      if (best < least) least = best;
    }
    // Two swapped letters reach over one row, at a mistake.
    if (least > allowed + 1) return least;
    [beforePrevious, previous, row] = [previous, row, beforePrevious];
  }
  return at(previous, b.length);
}

function at(row: readonly number[], index: number): number {
  return row[index] ?? Number.POSITIVE_INFINITY;
}

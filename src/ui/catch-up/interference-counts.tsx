'use client';

/** How many pairs stand in one another in each of two states: `Interference: now 1, then none.` */
export function InterferenceCounts({ counts, sides }: { counts: readonly [number, number]; sides: readonly [string, string] }) {
  return (
    <span className={`mr-3 ${counts[1] === 0 ? 'text-moss' : 'text-walnut-soft'}`}>
      Interference: {sides.map((side, i) => `${side} ${counts[i] || 'none'}`).join(', ')}.
    </span>
  );
}

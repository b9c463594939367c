/** What stands in one another in an assembly, as it was built when its latest revision was saved. */
import type { DocumentCard } from '@/contract';

/** Pairs of parts; 0 where none was found, or nobody has looked yet. */
export function interferences({ bodies }: Pick<DocumentCard, 'bodies'>): number {
  return bodies.reduce((sum, { interfering = 0 }) => sum + interfering, 0);
}

export function interferenceWords(pairs: number): string {
  return `${pairs} interference${pairs === 1 ? '' : 's'}`;
}

/** What is wrong in a document, in words for lists of documents. */
import type { DocumentCard } from '@/contract';

/** Pairs of parts that stand in one another, as they were when its latest revision was saved; 0 where none was found, or nobody has looked yet. */
export function interferences({ bodies }: Pick<DocumentCard, 'bodies'>): number {
  return bodies.reduce((sum, { interfering = 0 }) => sum + interfering, 0);
}

export function interferenceWords(pairs: number): string {
  return `${pairs} interference${pairs === 1 ? '' : 's'}`;
}

export function brokenGuardWords(guards: number): string {
  return `${guards} guard${guards === 1 ? '' : 's'} broken`;
}

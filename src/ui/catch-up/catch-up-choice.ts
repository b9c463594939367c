/** Which documents of a preview are brought up to date, and why the others are left. */
import type { CatchUpPreviewReply, PlannedDocumentReply } from '@/contract';

/** What somebody decided about a document: to take it whatever stands against it, or to leave it, and why. */
export type Decision = { readonly kind: 'take' } | { readonly kind: 'leave'; readonly reason: string };

export interface Left {
  readonly reason: string;
  /** It takes from a document that is left: there is nothing to decide. */
  readonly isForced: boolean;
}

/** What stands against bringing a document up to date unseen. `stepProblem` is what its geometry would fail of. */
export function findObjection(entry: PlannedDocumentReply, stepProblem: string | undefined): string | undefined {
  if (entry.unsavedEdits > 0) return `It has ${entry.unsavedEdits} edit${entry.unsavedEdits === 1 ? '' : 's'} since its last revision.`;
  const [failure] = entry.failures;
  if (failure) return `${failure.name} would fail: ${failure.message}`;
  if (stepProblem !== undefined) return stepProblem;
  const guard = entry.guards.find(({ severity }) => severity === 'error');
  return guard && `A guard would be broken: ${guard.message}`;
}

/** The documents that are left: by decision, by objection, and because they take from one that is left. */
export function findLeft(
  { documents }: Pick<CatchUpPreviewReply, 'documents'>,
  decisions: ReadonlyMap<string, Decision>,
  stepProblems: ReadonlyMap<string, string>,
): ReadonlyMap<string, Left> {
  const left = new Map<string, Left>();
  for (const entry of documents) {
    const decision = decisions.get(entry.id);
    const reason = decision?.kind === 'leave' ? decision.reason : decision ? undefined : findObjection(entry, stepProblems.get(entry.id));
    if (reason !== undefined) left.set(entry.id, { reason, isForced: false });
  }
  // Documents may stand in a ring: repeated until nothing more is left.
  for (let before = -1; before !== left.size;) {
    before = left.size;
    for (const { id, sources } of documents) {
      const source = left.has(id) ? undefined : documents.find((other) => sources.includes(other.id) && left.has(other.id));
      if (source) left.set(id, { reason: `It takes from ${source.name}, which is skipped.`, isForced: true });
    }
  }
  return left;
}

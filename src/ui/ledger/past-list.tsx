'use client';
import { FailedLine } from '../design/states';
import { useSession } from '../state/context';
import { describeAuthor } from '../state/identity';
import { QUERIES } from '../state/queries';
import { useLoaded } from '../state/use-loaded';

/** What a value was in earlier revisions, with who saved them; only those in which it was another. */
export function PastList({ id }: { id: string }) {
  const session = useSession();
  const { loaded, reload } = useLoaded(QUERIES.valueHistory(session.id, id));
  if (loaded.state === 'failed') return <FailedLine message={loaded.failure.message} onRetry={reload} />;
  if (loaded.state === 'loading') return <p className="text-walnut-soft">Looking…</p>;
  const past = loaded.value.changes;
  if (past.length === 0) return <p>It is in no revision yet.</p>;
  return (
    <ul>
      {past.map(({ revision, author, at, shown, formula }) => (
        <li key={revision} className="flex gap-2 border-b border-rule/50 py-0.5">
          <span className="text-walnut-soft">revision {revision}</span>
          <span className="font-mono">
            {shown === undefined ? 'not there' : `${shown}${formula === undefined || formula === shown ? '' : `  (${formula})`}`}
          </span>
          <span className="flex-1" />
          <span className="text-walnut-soft" title={at}>
            {describeAuthor(author)}, {new Date(at).toLocaleDateString()}
          </span>
        </li>
      ))}
    </ul>
  );
}

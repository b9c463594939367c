'use client';
import { useEffect, useState } from 'react';
import type { ValueHistoryReply } from '@/contract';
import { api } from '../state/api';
import { useSession } from '../state/context';
import { describeAuthor } from '../state/identity';

/** What a value was in earlier revisions, with who saved them; only those in which it was another. */
export function PastList({ id }: { id: string }) {
  const session = useSession();
  const [past, setPast] = useState<ValueHistoryReply['changes']>();
  const [problem, setProblem] = useState<string>();
  useEffect(() => {
    // The history of revisions is the server's.
    let isGone = false;
    void api.listValueHistory(session.id, id).then((reply) => {
      if (isGone) return;
      if (reply.ok) setPast(reply.value.changes);
      else setProblem(reply.failure.message);
    });
    return () => {
      isGone = true;
    };
  }, [session, id]);
  if (problem !== undefined) return <p className="text-madder">{problem}</p>;
  if (!past) return <p className="text-walnut-soft">Looking…</p>;
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

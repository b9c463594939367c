'use client';
import { Popover } from 'radix-ui';
import { useEffect, useState } from 'react';
import type { ValueDifference } from '@/core/document';
import { Button } from '../design/button';
import { api } from '../state/api';
import { useSession } from '../state/context';

interface Past {
  readonly revision: number;
  readonly author: string;
  readonly at: string;
  readonly value: ValueDifference['after'];
}

/** What a value was in earlier revisions, with who saved them; only those in which it was another. */
export function ValueHistory({ id }: { id: string }) {
  const [isOpen, setOpen] = useState(false);
  return (
    <Popover.Root open={isOpen} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <Button tone="quiet">Over revisions…</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="end" side="top" className="z-50 w-96 rounded-box border border-rule bg-sheet p-3 shadow-box" aria-label="Over revisions">
          {isOpen && <PastList id={id} />}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function PastList({ id }: { id: string }) {
  const session = useSession();
  const [past, setPast] = useState<readonly Past[]>();
  const [problem, setProblem] = useState<string>();
  useEffect(() => {
    // The history of revisions is the server's.
    let isGone = false;
    void api.listRevisions(session.id).then((reply) => {
      if (isGone) return;
      if (!reply.ok) {
        setProblem(reply.failure.message);
        return;
      }
      setPast(
        reply.value.revisions.flatMap(({ number, author, at, differs }) => {
          const found = differs.find((difference) => difference.id === id);
          return found ? [{ revision: number, author, at, value: found.after }] : [];
        }),
      );
    });
    return () => {
      isGone = true;
    };
  }, [session, id]);
  if (problem !== undefined) return <p className="text-madder">{problem}</p>;
  if (!past) return <p className="text-walnut-soft">Looking…</p>;
  if (past.length === 0) return <p>It was the same in every revision that is listed.</p>;
  return (
    <ul>
      {past.map(({ revision, author, at, value }) => (
        <li key={revision} className="flex gap-2 border-b border-rule/50 py-0.5">
          <span className="text-walnut-soft">revision {revision}</span>
          <span className="font-mono">
            {value ? `${value.shown}${value.formula === undefined || value.formula === value.shown ? '' : `  (${value.formula})`}` : 'not there'}
          </span>
          <span className="flex-1" />
          <span className="text-walnut-soft" title={at}>
            {author}
          </span>
        </li>
      ))}
    </ul>
  );
}

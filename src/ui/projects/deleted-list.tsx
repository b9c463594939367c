'use client';
import { useState } from 'react';
import type { DeletedCard } from '@/contract';
import type { Result } from '@/core/kit';
import { Button } from '../design/button';
import type { ApiFailure } from '../state/api';

interface DeletedListProps {
  readonly cards: readonly DeletedCard[];
  readonly onRestore: (id: string) => Promise<Result<unknown, ApiFailure>>;
  readonly onChanged: () => void;
}

/** What was deleted and can still be restored; nothing where there is none. */
export function DeletedList({ cards, onRestore, onChanged }: DeletedListProps) {
  const [problem, setProblem] = useState<string>();
  if (cards.length === 0) return null;
  const restore = async (id: string): Promise<void> => {
    const reply = await onRestore(id);
    setProblem(reply.ok ? undefined : reply.failure.message);
    onChanged();
  };
  return (
    <details className="mt-6">
      <summary className="cursor-pointer text-walnut-soft">Deleted: {cards.length}</summary>
      {problem !== undefined && (
        <p role="alert" className="text-madder">
          {problem}
        </p>
      )}
      <ul>
        {cards.map(({ id, name, until }) => (
          <li key={id} className="flex items-center gap-3 py-1">
            <span>{name}</span>
            <span className="text-walnut-soft">kept until {new Date(until).toLocaleDateString()}</span>
            <Button onClick={() => void restore(id)}>Restore</Button>
          </li>
        ))}
      </ul>
    </details>
  );
}

'use client';
import { useState } from 'react';
import { TaskDialog, TaskVerbs } from '../design/task-dialog';
import type { ApiFailure } from '../state/api';
import type { Result } from '@/core/kit';

interface DeleteDialogProps {
  readonly name: string;
  /** What else it concerns, in sentences. */
  readonly words: readonly string[];
  readonly onDelete: () => Promise<Result<unknown, ApiFailure>>;
  readonly onClose: () => void;
}

/** Asks before a document or a project is deleted, with a word on who takes from it. */
export function DeleteDialog({ name, words, onDelete, onClose }: DeleteDialogProps) {
  const [problem, setProblem] = useState<string>();
  const [isWorking, setWorking] = useState(false);
  const run = async (): Promise<void> => {
    setWorking(true);
    const reply = await onDelete();
    setWorking(false);
    if (reply.ok) onClose();
    else setProblem(reply.failure.message);
  };
  return (
    <TaskDialog title={`Delete ${name}?`} description="It is kept for thirty days and can be restored until then." onClose={onClose}>
      {words.map((word) => (
        <p key={word}>{word}</p>
      ))}
      {problem !== undefined && (
        <p role="alert" className="text-madder">
          {problem}
        </p>
      )}
      <TaskVerbs label="Delete" isDisabled={isWorking} onAccept={() => void run()} />
    </TaskDialog>
  );
}

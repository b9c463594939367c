'use client';
import { useState } from 'react';

interface RenamableTitleProps {
  readonly name: string;
  readonly className: string;
  /** Gives the words for a refusal, or undefined when it was taken. */
  readonly onRename: (name: string) => Promise<string | undefined> | string | undefined;
}

/** A heading that is pressed to be given another name: Enter takes it, Escape leaves it as it was. */
export function RenamableTitle({ name, className, onRename }: RenamableTitleProps) {
  const [typed, setTyped] = useState<string>();
  const [problem, setProblem] = useState<string>();
  const end = (): void => {
    setTyped(undefined);
    setProblem(undefined);
  };
  const accept = async (text: string): Promise<void> => {
    if (text.trim() === '' || text.trim() === name) {
      end();
      return;
    }
    const refusal = await onRename(text.trim());
    if (refusal === undefined) end();
    else setProblem(refusal);
  };
  if (typed === undefined) {
    return (
      <h1 className={`truncate ${className}`}>
        <button
          type="button"
          className="max-w-full cursor-text truncate rounded-box text-left font-semibold decoration-rule decoration-dotted underline-offset-4 hover:underline"
          title={`${name}: press to rename`}
          onClick={() => setTyped(name)}
        >
          {name}
        </button>
      </h1>
    );
  }
  return (
    <span className="relative">
      <input
        aria-label="Name"
        aria-invalid={problem !== undefined}
        autoFocus // oxlint-disable-line jsx-a11y/no-autofocus -- it was opened to type into
        maxLength={120}
        className={`h-8 w-64 rounded-box border border-indigo bg-sheet px-1.5 ${className}`}
        value={typed}
        onFocus={(event) => event.target.select()}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={() => void accept(typed)}
        onKeyDown={(event) => {
          if (event.key === 'Enter') void accept(typed);
          if (event.key === 'Escape') end();
        }}
      />
      {problem !== undefined && (
        <span
          role="alert"
          className="absolute top-full left-0 z-40 mt-1 rounded-box border border-rule bg-sheet px-2 py-1 text-sm whitespace-nowrap text-madder"
        >
          {problem}
        </span>
      )}
    </span>
  );
}

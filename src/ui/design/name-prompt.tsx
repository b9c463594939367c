'use client';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { Button } from './button';

interface NamePromptProps {
  readonly label: string;
  /** Gives the words for a refusal, or undefined when it was taken. */
  readonly onAccept: (name: string) => Promise<string | undefined>;
}

/** A button that asks for one name. */
export function NamePrompt({ label, onAccept }: NamePromptProps) {
  const [isOpen, setOpen] = useState(false);
  const [problem, setProblem] = useState<string>();
  return (
    <Popover.Root
      open={isOpen}
      onOpenChange={(open) => {
        setOpen(open);
        setProblem(undefined);
      }}
    >
      <Popover.Trigger asChild>
        <Button>{label}</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="end" sideOffset={4} className="z-50 rounded-box border border-rule bg-sheet p-3 shadow-box" aria-label={label}>
          <form
            className="flex gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              const name = new FormData(event.currentTarget).get('name');
              void onAccept(typeof name === 'string' ? name : '').then((refusal) => {
                setProblem(refusal);
                if (refusal === undefined) setOpen(false);
              });
            }}
          >
            <input name="name" aria-label="Name" required maxLength={120} className="h-7 w-56 rounded-box border border-rule bg-sheet px-1.5" />
            <Button tone="strong" type="submit">
              Create
            </Button>
          </form>
          {problem !== undefined && <p className="mt-1 text-madder">{problem}</p>}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

'use client';
import { Popover } from 'radix-ui';
import { useRef, useState, type ReactNode } from 'react';
import { Button } from './button';

interface NamePromptProps {
  readonly label: string;
  /** Gives the words for a refusal, or undefined when it was taken. */
  readonly onAccept: (name: string, form: FormData) => Promise<string | undefined>;
  /** Further fields of the form, above the name. */
  readonly children?: ReactNode;
}

/** A button that asks for a name. */
export function NamePrompt({ label, onAccept, children }: NamePromptProps) {
  const [isOpen, setOpen] = useState(false);
  const [problem, setProblem] = useState<string>();
  const name = useRef<HTMLInputElement>(null);
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
        <Popover.Content
          align="end"
          sideOffset={4}
          className="z-50 rounded-box border border-rule bg-sheet p-3 shadow-box"
          aria-label={label}
          onOpenAutoFocus={(event) => {
            // The name is typed at once, whatever stands above it.
            event.preventDefault();
            name.current?.focus();
          }}
        >
          <form
            onSubmit={(event) => {
              event.preventDefault();
              const form = new FormData(event.currentTarget);
              const name = form.get('name');
              void onAccept(typeof name === 'string' ? name : '', form).then((refusal) => {
                setProblem(refusal);
                if (refusal === undefined) setOpen(false);
              });
            }}
          >
            {children}
            <div className="flex gap-2">
              <input
                ref={name}
                name="name"
                aria-label="Name"
                placeholder="Name"
                required
                maxLength={120}
                className="h-7 min-w-56 flex-1 rounded-box border border-rule bg-sheet px-1.5"
              />
              <Button tone="strong" type="submit">
                Create
              </Button>
            </div>
          </form>
          {problem !== undefined && <p className="mt-1 text-madder">{problem}</p>}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

'use client';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { BoxButton } from './box-button';
import { Button, buttonLook } from './button';
import { boxes } from './floating';

interface NamePromptProps {
  readonly label: string;
  /** Gives the words for a refusal, or undefined when it was taken. */
  readonly onAccept: (name: string, form: FormData) => Promise<string | undefined>;
  /** Further fields of the form, above the name. */
  readonly children?: ReactNode;
}

/** A button that asks for a name. */
export function NamePrompt({ label, onAccept, children }: NamePromptProps) {
  const name = useRef<HTMLInputElement>(null);
  // The name is typed as soon as the button is pressed.
  useEffect(() => boxes.fetchAhead(), []);
  return (
    <BoxButton
      label={label}
      align="end"
      sideOffset={4}
      button={{ children: label, className: buttonLook() }}
      onOpenAutoFocus={(event) => {
        // The name is typed at once, whatever stands above it.
        event.preventDefault();
        name.current?.focus();
      }}
    >
      {(close) => (
        <NameForm field={name} onAccept={onAccept} onDone={close}>
          {children}
        </NameForm>
      )}
    </BoxButton>
  );
}

interface NameFormProps extends Pick<NamePromptProps, 'onAccept' | 'children'> {
  readonly field: React.RefObject<HTMLInputElement | null>;
  readonly onDone: () => void;
}

function NameForm({ field, onAccept, onDone, children }: NameFormProps) {
  const [problem, setProblem] = useState<string>();
  return (
    <>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          const form = new FormData(event.currentTarget);
          const name = form.get('name');
          void onAccept(typeof name === 'string' ? name : '', form).then((refusal) => {
            setProblem(refusal);
            if (refusal === undefined) onDone();
          });
        }}
      >
        {children}
        <div className="flex gap-2">
          <input
            ref={field}
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
    </>
  );
}

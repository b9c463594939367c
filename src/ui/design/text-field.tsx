'use client';
import { useState } from 'react';

interface TextFieldProps {
  readonly label: string;
  readonly value: string;
  readonly hint?: string;
  readonly check?: (text: string) => string | undefined;
  /** How a text will be taken; it is told while it is typed where that is not as it stands. */
  readonly readAs?: ((text: string) => string) | undefined;
  readonly onAccept: (text: string) => void;
}

/** A one-line box that hands its text over on Enter or when it is left, if it changed and is right. It keeps the focus. */
export function TextField({ label, value, hint = '', check, readAs, onAccept }: TextFieldProps) {
  const [typed, setTyped] = useState<string>();
  const accept = (input: HTMLInputElement): void => {
    if (typed === undefined) return;
    const text = typed.trim();
    const problem = check?.(text);
    input.setCustomValidity(problem ?? '');
    if (problem !== undefined) {
      input.reportValidity();
      return;
    }
    setTyped(undefined);
    if (text !== value) onAccept(text);
  };
  const reading = typed === undefined || typed.trim() === '' ? undefined : readAs?.(typed.trim());
  return (
    <span className="relative w-full min-w-0">
      <input
        aria-label={label}
        className="h-7 w-full min-w-0 rounded-box border border-rule bg-sheet px-1.5"
        value={typed ?? value}
        placeholder={hint}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={(event) => accept(event.target)}
        onKeyDown={(event) => {
          if (event.key === 'Enter') accept(event.currentTarget);
          if (event.key !== 'Escape' || typed === undefined) return;
          // Escape takes back what is typed; the next one goes on to what stands around.
          event.preventDefault();
          event.currentTarget.setCustomValidity('');
          setTyped(undefined);
        }}
      />
      {reading !== undefined && reading !== typed?.trim() && (
        <span
          role="status"
          className="absolute bottom-full left-0 z-40 mb-1 rounded-box border border-rule bg-sheet px-1.5 font-mono text-xs whitespace-nowrap shadow-box"
        >
          {reading}
        </span>
      )}
    </span>
  );
}

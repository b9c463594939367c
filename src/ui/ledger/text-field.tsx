'use client';

interface TextFieldProps {
  readonly label: string;
  readonly value: string;
  readonly hint?: string;
  readonly check?: (text: string) => string | undefined;
  readonly onAccept: (text: string) => void;
}

/** A one-line box that hands its text over on Enter or when it is left, if it changed and is right. */
export function TextField({ label, value, hint = '', check, onAccept }: TextFieldProps) {
  const accept = (input: HTMLInputElement): void => {
    const text = input.value.trim();
    const problem = check?.(text);
    input.setCustomValidity(problem ?? '');
    if (problem !== undefined) input.reportValidity();
    else if (text !== value) onAccept(text);
  };
  return (
    <input
      aria-label={label}
      className="h-7 w-full min-w-0 rounded-box border border-rule bg-sheet px-1.5"
      defaultValue={value}
      placeholder={hint}
      onBlur={(event) => accept(event.target)}
      onKeyDown={(event) => {
        if (event.key === 'Enter') accept(event.currentTarget);
        if (event.key === 'Escape') event.currentTarget.value = value;
      }}
    />
  );
}

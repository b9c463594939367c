'use client';

/** A box in a table that hands its text over on Enter or when it is left, if it changed and is right. */
export function Cell({
  label,
  text,
  hint,
  problemOf,
  onAccept,
}: {
  label: string;
  text: string;
  /** What counts while it is empty. */
  hint?: string;
  problemOf: (text: string) => string | undefined;
  onAccept: (text: string) => void;
}) {
  const accept = (input: HTMLInputElement): void => {
    const next = input.value.trim();
    const problem = next === text ? undefined : problemOf(next);
    input.setCustomValidity(problem ?? '');
    if (problem !== undefined) input.reportValidity();
    else if (next !== text) onAccept(next);
  };
  return (
    <input
      aria-label={label}
      defaultValue={text}
      {...(hint === undefined ? {} : { placeholder: hint })}
      className="h-6 max-w-72 min-w-28 rounded-box [field-sizing:content] bg-transparent px-1 font-mono hover:bg-flax"
      onBlur={(event) => accept(event.target)}
      onKeyDown={(event) => {
        if (event.key === 'Enter') accept(event.currentTarget);
      }}
    />
  );
}

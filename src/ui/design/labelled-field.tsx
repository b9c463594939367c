'use client';
import type { ComponentProps } from 'react';
import { TextField } from './text-field';

/** A short text box under its label. */
export function LabelledField({ label, ...rest }: ComponentProps<typeof TextField>) {
  return (
    <span className="mb-2 w-28">
      <span className="text-walnut-soft">{label}</span>
      <TextField label={label} {...rest} />
    </span>
  );
}

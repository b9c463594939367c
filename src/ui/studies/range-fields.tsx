'use client';
import { TextField } from '../design/text-field';

export interface Ends {
  readonly from: string;
  readonly to: string;
}

/** From what to what a value is run, under its name. */
export function RangeFields({ name, range, onChange }: { name: string; range: Ends; onChange: (range: Ends) => void }) {
  return (
    <span className="mb-2">
      <span className="block max-w-56 truncate text-walnut-soft">{name}, from and to</span>
      <span className="flex gap-1">
        {(['from', 'to'] as const).map((end) => (
          <span key={end} className="w-27">
            <TextField label={`${name} ${end}`} value={range[end]} onAccept={(text) => onChange({ ...range, [end]: text })} />
          </span>
        ))}
      </span>
    </span>
  );
}

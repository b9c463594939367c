'use client';

/** One of a few, all in sight. */
export function Choice<T extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: T;
  options: Readonly<Partial<Record<T, string>>>;
  onChange: (value: T) => void;
}) {
  return (
    <fieldset className="mb-2 min-w-0">
      <legend className="text-walnut-soft">{label}</legend>
      <div className="flex flex-wrap gap-x-3">
        {(Object.entries(options) as [T, string][]).map(([option, words]) => (
          <label key={option} className="flex items-center gap-1">
            <input type="radio" name={label} checked={value === option} onChange={() => onChange(option)} />
            {words}
          </label>
        ))}
      </div>
    </fieldset>
  );
}

export function Flag({ label, isSet, onChange }: { label: string; isSet: boolean; onChange: (isSet: boolean) => void }) {
  return (
    <label className="mb-1 flex items-center gap-1.5">
      <input type="checkbox" checked={isSet} onChange={(event) => onChange(event.target.checked)} />
      {label}
    </label>
  );
}

/** One of many. */
export function Select({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string;
  options: Readonly<Record<string, string>>;
  onChange: (value: string) => void;
}) {
  return (
    <label className="mb-2 block">
      <span className="text-walnut-soft">{label}</span>
      <select
        aria-label={label}
        className="h-7 w-full rounded-box border border-rule bg-sheet px-1"
        value={value}
        onChange={(event) => onChange(event.target.value)}
      >
        {!Object.hasOwn(options, value) && <option value={value}>none</option>}
        {Object.entries(options).map(([option, words]) => (
          <option key={option} value={option}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}

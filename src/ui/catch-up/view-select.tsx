'use client';

interface ViewSelectProps<V extends string> {
  readonly views: Readonly<Record<V, string>>;
  readonly value: V;
  readonly onChange: (view: V) => void;
}

/** Which of two states a preview shows, and how. */
export function ViewSelect<V extends string>({ views, value, onChange }: ViewSelectProps<V>) {
  return (
    <label>
      Show{' '}
      <select className="rounded-box border border-rule bg-sheet" value={value} onChange={(event) => onChange(event.target.value as V)}>
        {Object.entries<string>(views).map(([key, label]) => (
          <option key={key} value={key}>
            {label}
          </option>
        ))}
      </select>
    </label>
  );
}

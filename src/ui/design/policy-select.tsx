'use client';
import type { Link } from '@/core/document';

/** What happens when a taken value changes at its source. */
const POLICIES: Readonly<Record<Link['policy'], string>> = {
  follow: 'follow: take it at once',
  ask: 'ask: show it, and wait',
  hold: 'hold: stay where it is',
};

interface PolicySelectProps {
  readonly label: string;
  readonly policy: Link['policy'];
  readonly onChange: (policy: Link['policy']) => void;
}

export function PolicySelect({ label, policy, onChange }: PolicySelectProps) {
  return (
    <label className="flex items-center gap-1.5">
      <span className="text-walnut-soft">{label}</span>
      <select className="h-7 rounded-box border border-rule bg-sheet" value={policy} onChange={(event) => onChange(event.target.value as Link['policy'])}>
        {Object.entries(POLICIES).map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}

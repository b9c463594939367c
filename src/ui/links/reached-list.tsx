'use client';
import Link from 'next/link';
import type { ReachedDocument } from '@/contract';

/** Values by document, each leading to its row. */
export function ReachedList({ label, documents }: { label: string; documents: readonly ReachedDocument[] }) {
  return (
    <ul aria-label={label}>
      {documents.map(({ id, name, values, steps }) => (
        <li key={id}>
          <Link href={`/documents/${id}`} className="font-semibold underline decoration-rule underline-offset-4">
            {name}
          </Link>{' '}
          <span className="font-mono text-[13px]">
            {values.map((value, i) => (
              <span key={value.id}>
                {i > 0 && ', '}
                <Link href={`/documents/${id}#${encodeURIComponent(value.id)}`} className="hover:underline">
                  {value.name}
                </Link>
              </span>
            ))}
          </span>
          {steps.length > 0 && <span className="text-walnut-soft"> in {steps.map((step) => step.name).join(', ')}</span>}
        </li>
      ))}
    </ul>
  );
}

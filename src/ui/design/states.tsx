import type { ReactNode } from 'react';
import { Button } from './button';

/** What a page shows instead of its content: something to do first, or what went wrong and what is safe. */
export function Notice({ title, children, tone = 'plain' }: { title: string; children?: ReactNode; tone?: 'plain' | 'error' }) {
  return (
    <div
      role={tone === 'error' ? 'alert' : 'status'}
      className={`m-6 max-w-xl rounded-box border p-4 ${tone === 'error' ? 'border-madder bg-madder-wash' : 'border-rule bg-sheet'}`}
    >
      <h2 className="mb-1 text-base font-semibold">{title}</h2>
      {children}
    </div>
  );
}

/** What could not be loaded, why, and the way to try once more. */
export function FailedToLoad({ title, message, onRetry }: { title: string; message: string; onRetry: () => void }) {
  return (
    <Notice title={title} tone="error">
      <p className="mb-3">{message}</p>
      <Button onClick={onRetry}>Try again</Button>
    </Notice>
  );
}

/** The same in one line, where there is no room for more. */
export function FailedLine({ message, onRetry }: { message: string; onRetry: () => void }) {
  return (
    <p role="alert" className="text-madder">
      {message}{' '}
      <button type="button" className="underline" onClick={onRetry}>
        Try again
      </button>
    </p>
  );
}

/** By classes: the policy of a page allows no style attributes in what the server writes. */
const WIDTHS = ['w-[90%]', 'w-[77%]', 'w-[64%]', 'w-[51%]', 'w-[78%]', 'w-[65%]'];

export function Skeleton({ rows = 6 }: { rows?: number }) {
  return (
    <div role="status" aria-label="Loading" className="space-y-2 p-4">
      {Array.from({ length: rows }, (_, i) => (
        <div key={i} className={`h-7 rounded-box bg-flax ${WIDTHS[i % WIDTHS.length] ?? ''}`} />
      ))}
    </div>
  );
}

'use client';
import type { DocumentCard } from '@/contract';
import { FailedLine } from '../design/states';
import { QUERIES } from '../state/queries';
import { useLoaded } from '../state/use-loaded';

/** A document of the map, or one value of it. */
export interface ReachWish {
  readonly document?: string;
  readonly value?: string;
}

interface ReachFilterProps {
  readonly documents: readonly DocumentCard[];
  readonly wish: ReachWish;
  readonly onWish: (wish: ReachWish) => void;
}

/** Chooses a document, and one of its values: what does it reach? */
export function ReachFilter({ documents, wish, onWish }: ReachFilterProps) {
  const { document, value } = wish;
  const { loaded, reload } = useLoaded(document === undefined ? undefined : QUERIES.offers(document));
  const values = loaded.state === 'ready' ? loaded.value.values : undefined;
  return (
    <>
      <label className="flex items-center gap-2">
        <span className="text-walnut-soft">What does</span>
        <select
          aria-label="Document"
          className="h-7 max-w-60 rounded-box border border-rule bg-sheet"
          value={document ?? ''}
          onChange={(event) => onWish(event.target.value === '' ? {} : { document: event.target.value })}
        >
          <option value="">every document</option>
          {documents.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <label className="flex items-center gap-2">
        <span className="sr-only">Value</span>
        <select
          aria-label="Value"
          className="h-7 max-w-60 rounded-box border border-rule bg-sheet"
          disabled={!values}
          value={value ?? ''}
          onChange={(event) => onWish({ ...(document === undefined ? {} : { document }), ...(event.target.value === '' ? {} : { value: event.target.value }) })}
        >
          <option value="">as a whole</option>
          {values?.map(({ id, name, shown }) => (
            <option key={id} value={id}>
              {name} = {shown}
            </option>
          ))}
        </select>
        <span className="text-walnut-soft">reach?</span>
      </label>
      {loaded.state === 'failed' && <FailedLine message={loaded.failure.message} onRetry={reload} />}
    </>
  );
}

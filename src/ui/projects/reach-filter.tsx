'use client';
import { useEffect, useState } from 'react';
import type { DocumentCard, OfferedValue } from '@/contract';
import { api } from '../state/api';

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
  const [loaded, setLoaded] = useState<{ readonly of: string; readonly values: readonly OfferedValue[] }>();
  useEffect(() => {
    // The values of a document are the server's to tell.
    if (document === undefined) return undefined;
    let isGone = false;
    void api.listOffers(document).then((reply) => {
      if (!isGone && reply.ok) setLoaded({ of: document, values: reply.value.values });
    });
    return () => {
      isGone = true;
    };
  }, [document]);
  const values = loaded?.of === document ? loaded?.values : undefined;
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
    </>
  );
}

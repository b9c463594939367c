'use client';
import { useEffect, useState } from 'react';
import { findRecord, listRecords, mateOwners } from '@/core/document';
import { Button } from '../design/button';
import { useSession, useSessionState } from '../state/context';
import { fittingPairs, pickOf, type FittingPair } from './fitting-pairs';
import type { MatePick } from '../state/drafts';

/** Holes of other components that a shaft of the selected one goes into, or the other way round: one press picks both. */
export function FittingOffers({ component, onPick }: { readonly component: string; readonly onPick: (first: MatePick, second: MatePick) => void }) {
  const session = useSession();
  const document = useSessionState((state) => state.document);
  const [pairs, setPairs] = useState<readonly FittingPair[]>([]);
  useEffect(() => {
    let isOpen = true;
    const mated = listRecords(document, 'mates', 'mate').map(mateOwners);
    const isMated = (one: string, other: string): boolean => mated.some((owners) => owners.includes(one) && owners.includes(other));
    void session.geometry.assembly?.cylinders().then((found) => {
      if (isOpen && found) setPairs(fittingPairs(found, component, isMated));
    });
    return () => {
      isOpen = false;
    };
  }, [session, component, document]);
  if (pairs.length === 0) return null;
  const name = findRecord(document, component, 'component')?.name ?? '';
  return (
    <fieldset className="mb-2">
      <legend className="text-walnut-soft">Round faces that fit {name}</legend>
      <ul>
        {pairs.map((pair) => {
          const [first, second] = [pickOf(session, pair.first), pickOf(session, pair.second)];
          const other = findRecord(document, pair.first.path[0] ?? '', 'component')?.name ?? '';
          if (!first || !second) return null;
          return (
            <li key={`${first.words} ${second.words}`}>
              <Button tone="quiet" className="h-6 w-full truncate text-left" title={`${second.words} on ${first.words}`} onClick={() => onPick(first, second)}>
                ⌀ {diameter(pair.second)} in {other}, ⌀ {diameter(pair.first)}
              </Button>
            </li>
          );
        })}
      </ul>
    </fieldset>
  );
}

function diameter({ shape }: FittingPair['first']): string {
  return `${Math.round(shape.radius * 2000) / 1000} mm`;
}

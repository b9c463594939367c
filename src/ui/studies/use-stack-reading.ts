'use client';
/** How a stack is read: kept with its value in the document; of a linked value, for as long as the dialog is open. */
import { useState } from 'react';
import { findRecord, type ContributorReading, type StackReading } from '@/core/document';
import { useSession } from '../state/context';

/** What becomes another; undefined for what is left to its default. */
type Changes<T> = { readonly [K in keyof T]?: T[K] | undefined };

export interface StackReader {
  readonly reading: StackReading;
  readonly change: (changes: Changes<StackReading>) => void;
  readonly changeOne: (contributor: string, changes: Changes<ContributorReading>) => void;
}

export function useStackReading(value: string): StackReader {
  const session = useSession();
  const [loose, setLoose] = useState<StackReading>({});
  const own = findRecord(session.document, value, 'parameter');
  const reading = own ? (own.stack ?? {}) : loose;
  const change = (changes: Changes<StackReading>): void => {
    const next = merged(reading, changes);
    if (own) session.edit({ type: 'parameter.update', id: own.id, changes: { stack: Object.keys(next).length === 0 ? null : next } });
    else setLoose(next);
  };
  return {
    reading,
    change,
    changeOne: (contributor, changes) => {
      const { [contributor]: one = {}, ...others } = reading.contributors ?? {};
      const next = merged(one, changes);
      const contributors = Object.keys(next).length === 0 ? others : { ...others, [contributor]: next };
      change({ contributors: Object.keys(contributors).length === 0 ? undefined : contributors });
    },
  };
}

function merged<T extends object>(before: T, changes: Changes<T>): T {
  return Object.fromEntries(Object.entries({ ...before, ...changes }).filter(([, value]) => value !== undefined)) as T;
}

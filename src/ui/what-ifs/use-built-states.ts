'use client';
import { useEffect, useRef, useState } from 'react';
import { hasShape, type Document } from '@/core/document';
import type { RegenerationClient } from '@/workers/client';
import { useSession } from '../state/context';
import { drawPicture } from '@/workers/small-picture';
import { keyOfState } from '../state/document-key';
import { clientBeside } from '../state/page-workers';
import { checkState, type CheckedState } from '../sizes/check-sizes';
import { writePicture } from '../sizes/write-picture';

export interface BuiltState extends Pick<CheckedState, 'mass' | 'volume' | 'problems'> {
  readonly picture: string | undefined;
  /** What its values come to with what was measured on it; undefined where it could not be built. */
  readonly values: CheckedState['values'];
}

/** Builds states of a document beside the page, each once; by {@link keyOfState}, as far as they are built. Nothing for documents without a shape. */
export function useBuiltStates(documents: readonly Document[]): ReadonlyMap<string, BuiltState> {
  const session = useSession();
  const [built, setBuilt] = useState<ReadonlyMap<string, BuiltState>>(new Map());
  const client = useRef<RegenerationClient>(undefined);
  const wanted = useRef<readonly Document[]>([]);
  const isBusy = useRef(false);
  useEffect(() => () => client.current?.close(), []);
  useEffect(() => {
    wanted.current = documents.filter(hasShape);
    const known = new Set<string>(built.keys());
    const build = async (): Promise<void> => {
      isBusy.current = true;
      for (;;) {
        // What is wanted may be another by the time that one is done.
        const next = wanted.current.find((document) => !known.has(keyOfState(document)));
        if (!next) break;
        client.current ??= clientBeside('picture', session.id);
        const found = await checkState(client.current, next, session.snapshots);
        if (!found) break;
        const { mass, volume, problems, values, drawn } = found;
        const picture = drawPicture(drawn);
        known.add(keyOfState(next));
        const state: BuiltState = {
          ...(mass === undefined ? {} : { mass }),
          ...(volume === undefined ? {} : { volume }),
          problems,
          values,
          picture: picture && writePicture(picture),
        };
        // What stands in no column any more is let go of: each holds all values of a document.
        const shown = new Set(wanted.current.map(keyOfState));
        setBuilt((before) => new Map([...before].filter(([key]) => shown.has(key))).set(keyOfState(next), state));
      }
      isBusy.current = false;
    };
    if (!isBusy.current) void build();
  }, [documents, built, session]);
  return built;
}

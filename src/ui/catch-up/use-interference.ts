'use client';
import { useEffect, useState } from 'react';
import type { CatchUpPreviewReply } from '@/contract';
import { standsOf, type PreviewWorkshop } from './preview-workshop';

/** How many pairs of parts stand in one another. */
export interface InterferenceChange {
  readonly now: number;
  readonly then: number;
}

/** By id of an assembly of a preview, as each is built: what stands in one another in it, now and then. */
export function useInterference(preview: CatchUpPreviewReply | undefined, workshop: PreviewWorkshop | undefined): ReadonlyMap<string, InterferenceChange> {
  const [found, setFound] = useState<{ readonly of: unknown; readonly changes: ReadonlyMap<string, InterferenceChange> }>();
  useEffect(() => {
    // Built in a worker, after what is looked at.
    if (!workshop || !preview) return undefined;
    let isGone = false;
    for (const entry of preview.documents) {
      if (entry.kind !== 'assembly') continue;
      void workshop.compareAssembly(entry, standsOf(preview)).then((built) => {
        if (isGone || !built) return;
        const change = { now: built.before.open.length, then: built.after.open.length };
        setFound((known) => ({ of: preview, changes: new Map(known?.of === preview ? known.changes : []).set(entry.id, change) }));
      });
    }
    return () => {
      isGone = true;
    };
  }, [preview, workshop]);
  return found !== undefined && found.of === preview ? found.changes : NONE;
}

const NONE: ReadonlyMap<string, InterferenceChange> = new Map();

'use client';
import { useEffect, useState } from 'react';
import type { CatchUpPreviewReply } from '@/contract';
import type { Result } from '@/core/kit';
import type { ApiFailure } from '../state/api';
import { completePreview } from './preview-workshop';

export interface Plan {
  /** Undefined until it is known. */
  readonly preview: CatchUpPreviewReply | undefined;
  readonly failure: ApiFailure | undefined;
  /** What only geometry can tell is being built. */
  readonly isMeasuring: boolean;
}

/** A plan of the server: values at once, then what only geometry can tell. `read` stays the same function for the same plan. */
export function usePlan(read: (isMeasured: boolean) => Promise<Result<CatchUpPreviewReply, ApiFailure>>): Plan {
  const [plan, setPlan] = useState<Plan>({ preview: undefined, failure: undefined, isMeasuring: false });
  useEffect(() => {
    // It comes from the server.
    let isGone = false;
    const tell = (changes: Partial<Plan>): void => {
      if (!isGone) setPlan((before) => ({ ...before, ...changes }));
    };
    void (async () => {
      const first = await read(false);
      tell(first.ok ? { preview: completePreview(first.value), failure: undefined } : { failure: first.failure });
      if (isGone || !first.ok || !first.value.documents.some(({ isProvisional }) => isProvisional)) return;
      tell({ isMeasuring: true });
      const measured = await read(true);
      tell({ isMeasuring: false, ...(measured.ok ? { preview: completePreview(measured.value) } : {}) });
    })();
    return () => {
      isGone = true;
    };
  }, [read]);
  return plan;
}

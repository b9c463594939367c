'use client';
import { useCallback, useRef, useState } from 'react';
import type { WhatIf } from '@/core/document';
import { sameData } from '@/core/kit';
import { api, type ApiFailure } from '../state/api';
import { QUERIES } from '../state/queries';
import { useLoaded } from '../state/use-loaded';

export interface WhatIfs {
  /** Undefined until they are known. */
  readonly all: readonly WhatIf[] | undefined;
  /** Why they are not known. */
  readonly notRead: ApiFailure | undefined;
  /** Why a change is known in this page only. */
  readonly notKept: string | undefined;
  readonly put: (whatIf: WhatIf) => void;
  readonly remove: (id: string) => void;
  readonly read: () => void;
}

/** The what-ifs of a document: shown as they are changed, and kept at the server one change after another. */
export function useWhatIfs(document: string): WhatIfs {
  const { loaded, reload, replace } = useLoaded(QUERIES.whatIfs(document));
  const [notKept, setNotKept] = useState<string>();
  const sending = useRef<Promise<void>>(Promise.resolve());
  const waiting = useRef(0);

  const send = useCallback(
    (change: Parameters<typeof api.changeWhatIf>[1], applied: (known: readonly WhatIf[]) => readonly WhatIf[]) => {
      replace((known) => ({ whatIfs: applied(known?.whatIfs ?? []) }));
      waiting.current++;
      // In their order; what the server has counts once nothing is on its way.
      sending.current = sending.current.then(async () => {
        const reply = await api.changeWhatIf(document, change);
        waiting.current--;
        setNotKept(reply.ok ? undefined : `Not saved at the server: ${reply.failure.message}`);
        if (reply.ok && waiting.current === 0) replace((known) => (sameData(known?.whatIfs, reply.value.whatIfs) && known ? known : reply.value));
      });
    },
    [document, replace],
  );
  return {
    all: loaded.state === 'ready' ? loaded.value.whatIfs : loaded.state === 'failed' ? loaded.last?.whatIfs : undefined,
    notRead: loaded.state === 'failed' ? loaded.failure : undefined,
    notKept,
    put: useCallback(
      (whatIf: WhatIf) =>
        send({ put: whatIf }, (known) =>
          known.some(({ id }) => id === whatIf.id) ? known.map((one) => (one.id === whatIf.id ? whatIf : one)) : [...known, whatIf],
        ),
      [send],
    ),
    remove: useCallback((id: string) => send({ remove: id }, (known) => known.filter((one) => one.id !== id)), [send]),
    read: reload,
  };
}

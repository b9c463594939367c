'use client';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { WhatIf } from '@/core/document';
import { sameData } from '@/core/kit';
import { api, type ApiFailure } from '../state/api';

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
  const [all, setAll] = useState<readonly WhatIf[]>();
  const [notRead, setNotRead] = useState<ApiFailure>();
  const [notKept, setNotKept] = useState<string>();
  const [attempt, setAttempt] = useState(0);
  const sending = useRef<Promise<void>>(Promise.resolve());
  const waiting = useRef(0);
  useEffect(() => {
    // They are the server's.
    let isGone = false;
    void api.readWhatIfs(document).then((reply) => {
      if (isGone) return;
      setNotRead(reply.ok ? undefined : reply.failure);
      if (reply.ok) setAll(reply.value.whatIfs);
    });
    return () => {
      isGone = true;
    };
  }, [document, attempt]);

  const send = useCallback(
    (change: Parameters<typeof api.changeWhatIf>[1]) => {
      waiting.current++;
      // In their order; what the server has counts once nothing is on its way.
      sending.current = sending.current.then(async () => {
        const reply = await api.changeWhatIf(document, change);
        waiting.current--;
        setNotKept(reply.ok ? undefined : `Not saved at the server: ${reply.failure.message}`);
        if (reply.ok && waiting.current === 0) setAll((known) => (sameData(known, reply.value.whatIfs) ? known : reply.value.whatIfs));
      });
    },
    [document],
  );
  const put = useCallback(
    (whatIf: WhatIf) => {
      setAll((known = []) => (known.some(({ id }) => id === whatIf.id) ? known.map((one) => (one.id === whatIf.id ? whatIf : one)) : [...known, whatIf]));
      send({ put: whatIf });
    },
    [send],
  );
  const remove = useCallback(
    (id: string) => {
      setAll((known = []) => known.filter((one) => one.id !== id));
      send({ remove: id });
    },
    [send],
  );
  return { all, notRead, notKept, put, remove, read: () => setAttempt(attempt + 1) };
}

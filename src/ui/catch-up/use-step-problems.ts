'use client';
import { useEffect, useMemo, useState } from 'react';
import type { PlannedDocumentReply } from '@/contract';
import type { ComparedReply } from '@/workers/client';
import { PreviewWorkshop } from './preview-workshop';

/** Builds the parts of a preview one after the other, and tells those with steps that are built now and would fail then. */
export function useStepProblems(documents: readonly PlannedDocumentReply[] | undefined) {
  const [workshop, setWorkshop] = useState<PreviewWorkshop>();
  const [found, setFound] = useState<{ readonly of: unknown; readonly problems: ReadonlyMap<string, string | undefined> }>();
  const parts = useMemo(() => documents?.filter(({ kind }) => kind === 'part') ?? [], [documents]);

  useEffect(() => {
    // The worker lives as long as the preview.
    const started = new PreviewWorkshop();
    setWorkshop(started);
    return () => started.close();
  }, []);
  useEffect(() => {
    if (!workshop) return undefined;
    let isGone = false;
    for (const { id, before, after } of parts) {
      void workshop.compare(before, after, 'outcomes').then((reply) => {
        if (isGone) return;
        const problem = reply && problemOf(reply);
        setFound((known) => ({ of: parts, problems: new Map(known?.of === parts ? known.problems : []).set(id, problem) }));
      });
    }
    return () => {
      isGone = true;
    };
  }, [workshop, parts]);

  const checked = found?.of === parts ? found.problems : undefined;
  const problems = useMemo(() => new Map([...(checked ?? [])].flatMap(([id, problem]) => (problem === undefined ? [] : [[id, problem] as const]))), [checked]);
  return { problems, built: checked?.size ?? 0, parts: parts.length, workshop };
}

function problemOf({ before, after }: ComparedReply): string | undefined {
  const wasBuilt = new Set(before.steps.flatMap(({ id, status }) => (status === 'done' ? id : [])));
  const failing = after.steps.find(({ id, status }) => status === 'failed' && wasBuilt.has(id));
  return failing && (failing.problem?.message ?? 'A step would fail.');
}

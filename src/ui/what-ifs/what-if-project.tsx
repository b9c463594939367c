'use client';
/** The documents that take from this one, as they would be with a what-if of it: values, solids, what fails. Nothing is changed. */
import { useCallback, useState } from 'react';
import type { WhatIf } from '@/core/document';
import { PlannedDocument, PlannedList } from '../catch-up/planned-documents';
import { usePlan } from '../catch-up/use-plan';
import { useInterference } from '../catch-up/use-interference';
import { useStepProblems } from '../catch-up/use-step-problems';
import { FailedToLoad, Notice, Skeleton } from '../design/states';
import { api } from '../state/api';
import { useSession } from '../state/context';

const NOBODY = new Map<string, never>();

export function WhatIfProject({ whatIf }: { whatIf: WhatIf }) {
  const session = useSession();
  const [chosen, setChosen] = useState<string>();
  const [attempt, setAttempt] = useState(0);
  const read = useCallback(
    (isMeasured: boolean) => api.previewWhatIf(session.id, { whatIf, isMeasured }),
    // oxlint-disable-next-line react/exhaustive-deps -- another attempt reads once more
    [session, whatIf, attempt],
  );
  const { preview, failure, isMeasuring } = usePlan(read);
  const { problems, built, parts, workshop } = useStepProblems(preview?.documents);
  const interference = useInterference(preview, workshop);
  const shown = preview?.documents.find(({ id }) => id === chosen) ?? preview?.documents[0];
  const failing = new Set([...problems.keys(), ...(preview?.documents.flatMap(({ id, failures }) => (failures.length > 0 ? id : [])) ?? [])]).size;

  if (failure) return <FailedToLoad title="The project cannot be shown" message={failure.message} onRetry={() => setAttempt(attempt + 1)} />;
  if (!preview) return <Skeleton />;
  if (preview.cycle.length > 0) {
    return (
      <Notice title="A value would depend on itself across documents" tone="error">
        {[...preview.cycle, preview.cycle[0]].join(' → ')}.
      </Notice>
    );
  }
  if (!shown) return <Notice title={`No document would change with ${whatIf.name}`} />;
  return (
    <div className="flex h-full flex-col">
      <p role="status" className="border-b border-rule px-4 py-1 text-walnut-soft">
        {preview.documents.length} document{preview.documents.length === 1 ? '' : 's'} would change{failing > 0 ? `, ${failing} with errors` : ''}. Nothing is
        changed.
        {isMeasuring && ' Values that are measured on the geometry are being built anew…'}
        {built < parts && ` Geometry of ${built} of ${parts} parts is checked.`}
      </p>
      <div className="flex min-h-0 flex-1">
        <PlannedList documents={preview.documents} left={NOBODY} problems={problems} interference={interference} shown={shown.id} onShow={setChosen} />
        <div className="min-w-0 flex-1 overflow-y-auto p-4">
          <PlannedDocument key={shown.id} entry={shown} left={undefined} stepProblem={problems.get(shown.id)} workshop={workshop} preview={preview} />
        </div>
      </div>
    </div>
  );
}

'use client';
import { useCallback, useMemo, useState } from 'react';
import { Button } from '../design/button';
import { ModalPage } from '../design/modal-page';
import { Notice, Skeleton } from '../design/states';
import { api, type ApiFailure } from '../state/api';
import { thisAuthor } from '../state/identity';
import { findLeft, type Decision } from './catch-up-choice';
import { PlannedDocument, PlannedList } from './planned-documents';
import { useInterference } from './use-interference';
import { usePlan } from './use-plan';
import { useStepProblems } from './use-step-problems';

interface CatchUpDialogProps {
  readonly project: string;
  /** Only this document and what it takes from; the whole project without. */
  readonly document?: string | undefined;
  /** All documents that take from it instead. */
  readonly isBranch?: boolean;
  readonly onClose: () => void;
}

/** What catching up would change, value by value and solid over solid; then all of it, or nothing. */
export function CatchUpDialog({ project, document, isBranch = false, onClose }: CatchUpDialogProps) {
  const read = useCallback((isMeasured: boolean) => api.previewCatchUp(project, { document, isBranch, isMeasured }), [project, document, isBranch]);
  const { preview, failure: notRead, isMeasuring } = usePlan(read);
  const [notDone, setNotDone] = useState<ApiFailure>();
  const failure = notDone ?? notRead;
  const [decisions, setDecisions] = useState<ReadonlyMap<string, Decision>>(new Map());
  const [chosen, setChosen] = useState<string>();
  const [isCommitting, setCommitting] = useState(false);

  const { problems, built, parts, workshop } = useStepProblems(preview?.documents);
  const interference = useInterference(preview, workshop);
  const left = useMemo(() => (preview ? findLeft(preview, decisions, problems) : new Map<string, never>()), [preview, decisions, problems]);
  const taken = preview?.documents.filter((entry) => !left.has(entry.id)) ?? [];
  const shown = preview?.documents.find(({ id }) => id === chosen) ?? preview?.documents[0];

  const commit = async (): Promise<void> => {
    setCommitting(true);
    const reply = await api.commitCatchUp(project, {
      documents: taken.map(({ id, seq }) => ({ id, seq })),
      left: [...left].map(([id, { reason }]) => ({ id, reason: reason.slice(0, 500) })),
      author: thisAuthor(),
    });
    setCommitting(false);
    if (reply.ok) onClose();
    else setNotDone(reply.failure);
  };

  return (
    <ModalPage
      title="Catch up: what would change"
      onClose={onClose}
      actions={
        <Button tone="strong" disabled={taken.length === 0 || isCommitting || isMeasuring} onClick={() => void commit()}>
          Catch up {taken.length === 1 ? taken[0]?.name : `${taken.length} documents`}
        </Button>
      }
    >
      <div className="flex h-full flex-col">
        {failure && (
          <Notice title="Nothing was changed" tone="error">
            {failure.message}
          </Notice>
        )}
        {!preview && !failure && <Skeleton />}
        {preview?.cycle.length ? (
          <Notice title="A value would depend on itself across documents" tone="error">
            {[...preview.cycle, preview.cycle[0]].join(' → ')}. Change one of these formulas; nothing was changed.
          </Notice>
        ) : null}
        {preview?.documents.length === 0 && <Notice title="Everything is up to date" />}
        {preview && shown && (
          <>
            <p role="status" className="border-b border-rule px-4 py-1 text-walnut-soft">
              {taken.length} of {preview.documents.length} documents take what is new, in one change set.
              {isMeasuring && ' Values that are measured on the geometry are being built anew…'}
              {built < parts && ` Geometry of ${built} of ${parts} parts is checked.`}
              {preview.left.map(({ id, name, reason }) => (
                <span key={id} className="ml-2 text-weld">
                  {name} does not follow by itself: {reason}
                </span>
              ))}
            </p>
            <div className="flex min-h-0 flex-1">
              <PlannedList
                documents={preview.documents}
                left={left}
                problems={problems}
                interference={interference}
                shown={shown.id}
                onShow={setChosen}
                onDecide={(id, decision) => setDecisions((known) => new Map(known).set(id, decision))}
              />
              <div className="min-w-0 flex-1 overflow-y-auto p-4">
                <PlannedDocument
                  key={shown.id}
                  entry={shown}
                  left={left.get(shown.id)}
                  stepProblem={problems.get(shown.id)}
                  workshop={workshop}
                  preview={preview}
                />
              </div>
            </div>
          </>
        )}
      </div>
    </ModalPage>
  );
}

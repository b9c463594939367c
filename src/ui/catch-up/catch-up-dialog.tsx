'use client';
import { useEffect, useState } from 'react';
import type { CatchUpPreviewReply, PlannedDocumentReply } from '@/contract';
import { Button } from '../design/button';
import { ModalPage } from '../design/modal-page';
import { Notice, Skeleton } from '../design/states';
import { api, type ApiFailure } from '../state/api';
import { thisAuthor } from '../state/identity';
import { SolidPreview } from './solid-preview';

interface CatchUpDialogProps {
  readonly project: string;
  /** Only this document; the whole project without. */
  readonly document?: string;
  readonly onClose: () => void;
}

/** What catching up would change, value by value and solid over solid; then all of it, or nothing. */
export function CatchUpDialog({ project, document, onClose }: CatchUpDialogProps) {
  const [preview, setPreview] = useState<CatchUpPreviewReply>();
  const [failure, setFailure] = useState<ApiFailure>();
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [isCommitting, setCommitting] = useState(false);

  useEffect(() => {
    // The plan is the server's.
    void api.previewCatchUp(project, document).then((reply) => {
      if (!reply.ok) {
        setFailure(reply.failure);
        return;
      }
      setPreview(reply.value);
      // A document with somebody's unsaved edits is not published for them unless they say so.
      setLeft(new Set(reply.value.documents.filter((entry) => entry.unsavedEdits > 0).map((entry) => entry.id)));
    });
  }, [project, document]);

  const taken = preview?.documents.filter((entry) => !left.has(entry.id)) ?? [];
  const commit = async (): Promise<void> => {
    setCommitting(true);
    const reply = await api.commitCatchUp(project, { documents: taken.map(({ id, seq }) => ({ id, seq })), author: thisAuthor() });
    setCommitting(false);
    if (reply.ok) onClose();
    else setFailure(reply.failure);
  };

  return (
    <ModalPage
      title="Catch up: what would change"
      onClose={onClose}
      actions={
        <Button tone="strong" disabled={taken.length === 0 || isCommitting} onClick={() => void commit()}>
          Catch up {taken.length === 1 ? taken[0]?.name : `${taken.length} documents`}
        </Button>
      }
    >
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
      <div className="p-4">
        {preview?.documents.map((entry) => (
          <PlannedDocument
            key={entry.id}
            entry={entry}
            isLeft={left.has(entry.id)}
            onToggle={() => {
              const next = new Set(left);
              if (!next.delete(entry.id)) next.add(entry.id);
              setLeft(next);
            }}
          />
        ))}
      </div>
    </ModalPage>
  );
}

function PlannedDocument({ entry, isLeft, onToggle }: { entry: PlannedDocumentReply; isLeft: boolean; onToggle: () => void }) {
  return (
    <section aria-label={entry.name} className={`mb-4 rounded-box border border-rule bg-sheet ${isLeft ? 'opacity-60' : ''}`}>
      <header className="flex items-center gap-3 border-b border-rule px-3 py-1.5">
        <label className="flex items-center gap-2 font-semibold">
          <input type="checkbox" checked={!isLeft} onChange={onToggle} />
          {entry.name}
        </label>
        <span className="text-walnut-soft">{entry.changes.length} values change</span>
        {entry.unsavedEdits > 0 && <span className="text-weld">has {entry.unsavedEdits} unsaved edits, which would become part of the new revision</span>}
        {entry.failures.length > 0 && <span className="text-madder">{entry.failures.length} would fail</span>}
      </header>
      <div className="flex">
        <table className="w-1/2 self-start">
          <thead>
            <tr className="text-left text-walnut-soft">
              <th className="px-3 py-1 font-semibold">Value</th>
              <th className="px-3 py-1 text-right font-semibold">Now</th>
              <th className="px-3 py-1 text-right font-semibold">Then</th>
            </tr>
          </thead>
          <tbody>
            {entry.changes.map((change) => (
              <tr key={change.id} className="border-t border-rule/50">
                <td className={`px-3 py-0.5 ${change.isTaken ? 'value-linked' : ''}`}>{change.name}</td>
                <td className="px-3 py-0.5 text-right font-mono tabular-nums text-madder">{change.before}</td>
                <td className="px-3 py-0.5 text-right font-mono tabular-nums text-indigo">{change.after || 'error'}</td>
              </tr>
            ))}
            {entry.failures.map((problem) => (
              <tr key={`failed ${problem.id}`} className="border-t border-rule/50 text-madder">
                <td className="px-3 py-0.5">{problem.name}</td>
                <td colSpan={2} className="px-3 py-0.5">
                  {problem.message}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {entry.kind === 'part' && (
          <div className="w-1/2 border-l border-rule">
            <SolidPreview name={entry.name} before={entry.before} after={entry.after} />
          </div>
        )}
      </div>
    </section>
  );
}

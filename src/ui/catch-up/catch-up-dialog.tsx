'use client';
import { Dialog } from 'radix-ui';
import { useEffect, useMemo, useState } from 'react';
import type { CatchUpPreviewReply, PlannedDocumentReply } from '@/contract';
import { RegenerationClient, type RegenerationReply } from '@/workers/client';
import { startBrowserWorker } from '@/workers/start-browser';
import { Canvas3d } from '../canvas3d/canvas3d';
import type { ShownBody } from '../canvas3d/viewport';
import { Button } from '../design/button';
import { Notice, Skeleton } from '../design/states';
import { api, type ApiFailure } from '../state/api';
import { thisAuthor } from '../state/identity';

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
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-50 bg-walnut/30" />
        <Dialog.Content className="fixed inset-6 z-50 flex flex-col rounded-box border border-rule bg-linen shadow-box" aria-describedby={undefined}>
          <header className="flex items-center gap-3 border-b border-rule bg-flax px-4 py-2">
            <Dialog.Title className="text-base font-semibold">Catch up: what would change</Dialog.Title>
            <span className="flex-1" />
            <Dialog.Close asChild>
              <Button>Leave it as it is</Button>
            </Dialog.Close>
            <Button tone="strong" disabled={taken.length === 0 || isCommitting} onClick={() => void commit()}>
              Catch up {taken.length === 1 ? taken[0]?.name : `${taken.length} documents`}
            </Button>
          </header>
          {failure && (
            <Notice title="Nothing was changed" tone="error">
              {failure.message}
            </Notice>
          )}
          {!preview && !failure && <Skeleton />}
          {preview?.cycle.length ? (
            <Notice title="A value would depend on itself across documents" tone="error">
              {preview.cycle.join(' → ')}
            </Notice>
          ) : null}
          {preview?.documents.length === 0 && <Notice title="Everything is up to date" />}
          <div className="min-h-0 flex-1 overflow-y-auto p-4">
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
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
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
        {entry.kind === 'part' && <SolidPreview entry={entry} />}
      </div>
    </section>
  );
}

/** Both solids over one another, with volume and mass before and after. */
function SolidPreview({ entry }: { entry: PlannedDocumentReply }) {
  const [replies, setReplies] = useState<readonly (RegenerationReply | undefined)[]>();
  const [shown, setShown] = useState<'before' | 'after' | 'both'>('both');

  useEffect(() => {
    // The solids are built in a worker of their own, which ends with the preview.
    const client = new RegenerationClient(startBrowserWorker);
    void (async () => {
      const before = await client.regenerate(entry.before, []);
      const after = await client.regenerate(entry.after, []);
      setReplies([before.ok ? before.value : undefined, after.ok ? after.value : undefined]);
    })();
    return () => client.close();
  }, [entry]);

  const bodies = useMemo((): ShownBody[] => {
    const [before, after] = replies ?? [];
    const of = (reply: RegenerationReply | undefined, look: ShownBody['look']): ShownBody[] =>
      Object.entries(reply?.meshes ?? {}).map(([key, mesh]) => ({ key: `${look} ${key}`, mesh, look }));
    return [...(shown === 'after' ? [] : of(before, shown === 'before' ? 'solid' : 'before')), ...(shown === 'before' ? [] : of(after, 'after'))];
  }, [replies, shown]);

  const [before, after] = (replies ?? []).map((reply) => reply?.result.bodies[0]);
  return (
    <div className="w-1/2 border-l border-rule">
      <div className="h-72">
        {replies ? <Canvas3d isSmall bodies={bodies} description={`Solids of ${entry.name} before and after`} /> : <Skeleton rows={4} />}
      </div>
      <div className="flex items-center gap-3 border-t border-rule px-3 py-1 font-mono text-[13px] tabular-nums">
        <span className="text-madder">{massOf(before)}</span>
        <span className="text-indigo">{massOf(after)}</span>
        <span className="flex-1" />
        <label className="font-sans">
          Show{' '}
          <select className="rounded-box border border-rule bg-sheet" value={shown} onChange={(event) => setShown(event.target.value as typeof shown)}>
            <option value="both">both</option>
            <option value="before">now</option>
            <option value="after">then</option>
          </select>
        </label>
      </div>
    </div>
  );
}

function massOf(body: { readonly properties?: { readonly volume: number }; readonly mass?: number } | undefined): string {
  if (!body?.properties) return 'not built';
  return `${(body.properties.volume / 1000).toFixed(1)} cm³ ${body.mass?.toFixed(3) ?? '?'} kg`;
}

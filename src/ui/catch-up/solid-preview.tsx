'use client';
import { useEffect, useMemo, useState } from 'react';
import type { Document } from '@/core/document';
import { RegenerationClient, type RegenerationReply } from '@/workers/client';
import { startBrowserWorker } from '@/workers/start-browser';
import { Canvas3d } from '../canvas3d/canvas3d';
import type { ShownBody } from '../canvas3d/shown-body';
import { Skeleton } from '../design/states';

/** Both solids over one another, with volume and mass before and after. */
export function SolidPreview({ name, before: documentBefore, after: documentAfter }: { name: string; before: Document; after: Document }) {
  const [replies, setReplies] = useState<readonly (RegenerationReply | undefined)[]>();
  const [shown, setShown] = useState<'before' | 'after' | 'both'>('both');

  useEffect(() => {
    // The solids are built in a worker of their own, which ends with the preview.
    const client = new RegenerationClient(startBrowserWorker);
    void (async () => {
      const before = await client.regenerate(documentBefore, []);
      const after = await client.regenerate(documentAfter, []);
      setReplies([before.ok ? before.value : undefined, after.ok ? after.value : undefined]);
    })();
    return () => client.close();
  }, [documentBefore, documentAfter]);

  const bodies = useMemo((): ShownBody[] => {
    const [before, after] = replies ?? [];
    const of = (reply: RegenerationReply | undefined, look: ShownBody['look']): ShownBody[] =>
      Object.entries(reply?.meshes ?? {}).map(([key, mesh]) => ({ key: `${look} ${key}`, mesh, look }));
    return [...(shown === 'after' ? [] : of(before, shown === 'before' ? 'solid' : 'before')), ...(shown === 'before' ? [] : of(after, 'after'))];
  }, [replies, shown]);

  const [before, after] = (replies ?? []).map((reply) => reply?.result.bodies[0]);
  return (
    <div>
      <div className="h-72">{replies ? <Canvas3d isSmall bodies={bodies} description={`Solids of ${name} before and after`} /> : <Skeleton rows={4} />}</div>
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

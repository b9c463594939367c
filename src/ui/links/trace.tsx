'use client';
import { useEffect, useState } from 'react';
import type { ReachReply } from '@/contract';
import { heldSources } from '@/core/studies';
import { DrivenInside, SourcesInside } from './reached-inside';
import { api } from '../state/api';
import { useSession, useSessionState } from '../state/context';
import { ReachedList } from './reached-list';

/** Everything that a value comes from and that it drives, in all documents of the project; each name leads there. */
export function TraceLists({ id }: { id: string }) {
  const session = useSession();
  const project = useSessionState((state) => state.project.id);
  const pending = useSessionState((state) => state.pending);
  const [reach, setReach] = useState<ReachReply>();
  const [problem, setProblem] = useState<string>();
  useEffect(() => {
    // What is in other documents is the server's to tell.
    let isGone = false;
    void api.readReach(project, session.id, id).then((reply) => {
      if (isGone) return;
      if (reply.ok) setReach(reply.value);
      else setProblem(reply.failure.message);
    });
    return () => {
      isGone = true;
    };
  }, [project, session, id, pending]);
  if (problem !== undefined) return <p className="text-madder">{problem}</p>;
  if (!reach) return <p className="text-walnut-soft">Looking…</p>;
  const held = heldSources(session.values, id);
  return (
    <>
      {held.length > 0 && <p className="mb-2 text-weld">Held: it rests on {held.join(', ')}, not computed for the present inputs.</p>}
      <h3 className="font-semibold text-walnut-soft">Comes from</h3>
      {reach.reads.length === 0 ? <p className="mb-2">nothing else</p> : <ReachedList label="Comes from" documents={reach.reads} />}
      <SourcesInside id={id} />
      <h3 className="mt-2 font-semibold text-walnut-soft">Drives</h3>
      {reach.drives.length === 0 ? <p>nothing</p> : <ReachedList label="Drives" documents={reach.drives} />}
      <DrivenInside id={id} />
    </>
  );
}

'use client';
import { heldSources } from '@/core/studies';
import { DrivenInside, SourcesInside } from './reached-inside';
import { FailedLine } from '../design/states';
import { useSession, useSessionState } from '../state/context';
import { QUERIES } from '../state/queries';
import { useLoaded } from '../state/use-loaded';
import { ReachedList } from './reached-list';

/** Everything that a value comes from and that it drives, in all documents of the project; each name leads there. */
export function TraceLists({ id }: { id: string }) {
  const session = useSession();
  const project = useSessionState((state) => state.project.id);
  const { loaded, reload } = useLoaded(QUERIES.reach(project, session.id, id));
  if (loaded.state === 'failed') return <FailedLine message={loaded.failure.message} onRetry={reload} />;
  if (loaded.state === 'loading') return <p className="text-walnut-soft">Looking…</p>;
  const reach = loaded.value;
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

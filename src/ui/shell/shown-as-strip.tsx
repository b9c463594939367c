'use client';
import { Button } from '../design/button';
import { useSession, useSessionState, useWorkspaceStore } from '../state/context';

/** Says that the document is shown as it is not, and leads back. */
export function ShownAsStrip() {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const shownAs = useSessionState((state) => state.shownAs);
  if (!shownAs) return null;
  return (
    <section aria-label="Shown as" className="flex shrink-0 items-center gap-4 border-b border-weld bg-weld-wash px-3 py-1">
      <p role="status" className="min-w-0 flex-1">
        <strong className="mr-2 font-semibold">Shown {shownAs.title}.</strong>
        {shownAs.words.join(' ')} Nothing is changed. An edit ends it.
      </p>
      {shownAs.isWhatIf && (
        <Button className="shrink-0" onClick={() => workspace.setState({ task: { kind: 'what-ifs' } })}>
          Back to the what-ifs
        </Button>
      )}
      <Button className="shrink-0" onClick={() => session.endTrial(false)}>
        Show as it is
      </Button>
    </section>
  );
}

'use client';
import { useRouter } from 'next/navigation';
import { useEffect } from 'react';
import { Button } from '../design/button';
import { useSession, useSessionState, useWorkspace } from '../state/context';
import { endGuide, guideProgress, useGuideProgress } from './guide-progress';
import { formulasNow, GUIDE_STEPS } from './guide-steps';

/** What is to be done next in the guided first design. It waits for what is really done. */
export function GuideStrip() {
  const session = useSession();
  const router = useRouter();
  const { part, at, before } = useGuideProgress();
  const document = useSessionState((state) => state.document);
  const version = useSessionState((state) => state.version);
  const bodies = useSessionState((state) => state.pictures.filter(({ isStale }) => !isStale).length);
  const showsLooseEnds = useWorkspace((state) => state.showsLooseEnds);
  const isHere = part === session.id;
  const step = GUIDE_STEPS[at];
  useEffect(() => {
    if (!isHere || !step) return;
    const readsOf = (id: string): readonly string[] => session.values.sheet.listReads(id);
    // One that somebody did before it was asked for is done as well.
    if (step.isDone({ document, readsOf, bodies, before, showsLooseEnds })) guideProgress.setState({ at: at + 1, before: formulasNow(document) });
    // Values are one object that is kept up to date in place: the version tells when.
  }, [isHere, step, session, document, version, bodies, before, showsLooseEnds, at]);
  if (!isHere) return null;
  return (
    <section aria-label="Guided first design" className="flex shrink-0 items-center gap-4 border-b border-rule bg-indigo-wash px-3 py-2">
      {step ? (
        <>
          <span className="shrink-0 font-mono text-[13px] text-walnut-soft tabular-nums">
            {at + 1} of {GUIDE_STEPS.length}
          </span>
          <p role="status" className="min-w-0 flex-1">
            <strong className="mr-2 font-semibold">{step.title}.</strong>
            {step.words}
          </p>
          <Button tone="quiet" onClick={() => guideProgress.setState({ at: at + 1, before: formulasNow(document) })}>
            Skip
          </Button>
          <Button tone="quiet" onClick={endGuide}>
            End the guide
          </Button>
        </>
      ) : (
        <>
          <p role="status" className="min-w-0 flex-1">
            <strong className="mr-2 font-semibold">Done.</strong>
            The part follows its values and the master. Save a revision when you want to keep this state, or look at a whole loom in the example project.
          </p>
          <Button
            tone="strong"
            onClick={() => {
              endGuide();
              router.push('/');
            }}
          >
            Go to the projects
          </Button>
          <Button tone="quiet" onClick={endGuide}>
            Close
          </Button>
        </>
      )}
    </section>
  );
}

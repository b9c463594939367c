'use client';
import { withPlane } from '@/core/document';
import { Button } from '../design/button';
import { useSession, useWorkspaceStore } from '../state/context';
import type { DocumentSession } from '../state/document-session';
import { newId } from '../state/identity';
import type { WorkspaceStore } from '../state/workspace';
import { beginStep } from './add-step';
import { PLANE_WORDS, planeOfId } from './planes-to-choose';
import { newDraft, stepEdit } from './step-draft';

/** What an empty part begins with: a plane to draw in, here or in the picture. */
export function StartDrawing() {
  const session = useSession();
  const workspace = useWorkspaceStore();
  return (
    <section
      aria-label="Start drawing"
      data-over="top"
      className="absolute inset-x-0 top-4 mx-auto w-fit max-w-[calc(100%-1rem)] rounded-box border border-rule bg-sheet p-4 shadow-box"
    >
      <h2 className="mb-2 text-base font-semibold">Where do you want to draw?</h2>
      <p className="mb-3 text-walnut-soft">Click a plane in the picture, or choose one here.</p>
      <div className="flex flex-wrap gap-2">
        {Object.entries(PLANE_WORDS).map(([plane, words]) => (
          <Button key={plane} onClick={() => drawIn(session, workspace, plane)}>
            {words}
          </Button>
        ))}
        <Button tone="quiet" onClick={() => beginStep(session, workspace, 'from-part')}>
          Start from a part
        </Button>
        <Button tone="quiet" onClick={() => beginStep(session, workspace, 'import')}>
          Import a STEP file
        </Button>
      </div>
    </section>
  );
}

/** Makes a sketch in a plane and opens it. */
export function drawIn(session: DocumentSession, workspace: WorkspaceStore, plane: string): void {
  const draft = newDraft(session.document, 'sketch', { builtTo: session.store.getState().builtTo });
  const step = withPlane(draft.step, planeOfId(plane));
  const failure = session.edit(stepEdit(session.document, { ...draft, step }, newId, session.store.getState().project.material));
  if (failure) {
    session.notify(failure.message);
    return;
  }
  workspace.setState({ draft: undefined, picking: undefined, sketch: step.id, selected: step.id });
  // The sketch opens with the next drawing of the page.
  requestAnimationFrame(() => document.querySelector<HTMLElement>('[role="application"]')?.focus());
}

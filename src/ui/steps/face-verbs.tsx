'use client';
import { describeGeometry, findRecord, findStep, sketchesOf } from '@/core/document';
import { Button } from '../design/button';
import { WHOLE_LEDGER } from '../state/ledger-view';
import { useSession, useSessionState, useWorkspaceStore } from '../state/context';
import { draftOf, newDraft } from './step-draft';

/** What can be done with the face that was clicked. */
export function FaceVerbs({ body, face, onDone }: { body: string; face: string; onDone: () => void }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const document = useSessionState((state) => state.document);
  // The step that a copy is of, for its sketch; the outermost for changing it.
  const origin = findStep(document, face.replace(/^.*:/, '').split('/')[0] ?? '');
  const step = findStep(document, face.split('/')[0] ?? '');
  const [sketch] = origin ? sketchesOf(origin) : [];
  const bodyName = findRecord(document, body, 'body')?.name;
  const sketchName = findStep(document, sketch ?? '')?.name;
  return (
    <div role="group" aria-label="Picked face" className="w-60 rounded-box border border-rule bg-sheet py-1 shadow-box">
      <header className="flex items-center gap-1 pr-1 pl-2.5">
        <span className="min-w-0 flex-1 truncate font-semibold" title={describeGeometry(document, face)}>
          {describeGeometry(document, face)}
        </span>
        <Button tone="quiet" className="h-6 px-1" aria-label="Clear the selection" onClick={onDone}>
          ×
        </Button>
      </header>
      <div className="grid">
        {sketch !== undefined && (
          <Button tone="quiet" className="h-6 truncate text-left" onClick={() => workspace.setState({ sketch, selected: sketch })}>
            Open {sketchName}
          </Button>
        )}
        {step && (
          <Button
            tone="quiet"
            className="h-6 truncate text-left"
            onClick={() => workspace.setState({ draft: draftOf(session.document, step), selected: step.id })}
          >
            Change {step.name}
          </Button>
        )}
        <Button tone="quiet" className="h-6 truncate text-left" onClick={() => workspace.setState({ view: { ...WHOLE_LEDGER, body } })}>
          Values of {bodyName}
        </Button>
        <Button
          tone="quiet"
          className="h-6 truncate text-left"
          onClick={() => {
            const draft = newDraft(session.document, 'sketch', { builtTo: session.store.getState().builtTo });
            workspace.setState({ draft: draft.step.type === 'sketch' ? { ...draft, step: { ...draft.step, plane: { body, face } } } : draft });
          }}
        >
          Sketch on it
        </Button>
      </div>
    </div>
  );
}

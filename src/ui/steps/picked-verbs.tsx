'use client';
import { describeGeometry, findRecord, findStep, listIds, sketchesOf, type Document } from '@/core/document';
import { facesOfName } from '@/core/kernel-port';
import { Button } from '../design/button';
import { WHOLE_LEDGER } from '../state/ledger-view';
import { useSession, useSessionState, useWorkspaceStore } from '../state/context';
import type { DocumentSession } from '../state/document-session';
import { WHOLE_BODY } from '../state/shown-body';
import type { WorkspaceStore } from '../state/workspace';
import { draftOf, newDraft } from './step-draft';

interface Verb {
  readonly label: string;
  readonly run: () => void;
}

/** The step that a face, an edge or a corner comes from: of several, the last. */
export function stepOfGeometry(document: Document, name: string): string | undefined {
  const steps = listIds(document, 'steps');
  const places = facesOfName(name).map(({ whole }) => steps.indexOf(whole.split('/')[0] ?? ''));
  return steps[Math.max(-1, ...places)];
}

/** What can be done with the face, the edge or the body that was clicked. */
export function PickedVerbs({ body, name, onDone }: { body: string; name: string; onDone: () => void }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const document = useSessionState((state) => state.document);
  const bodyName = findRecord(document, body, 'body')?.name ?? '';
  const isBody = name === WHOLE_BODY;
  const words = isBody ? bodyName : describeGeometry(document, name);
  const verbs = isBody ? bodyVerbs(document, workspace, body) : geometryVerbs(session, workspace, body, name);
  return (
    <div
      role="group"
      aria-label={`Picked ${isBody ? 'body' : name.startsWith('edge[') ? 'edge' : 'face'}`}
      className="w-60 rounded-box border border-rule bg-sheet py-1 shadow-box"
    >
      <header className="flex items-center gap-1 pr-1 pl-2.5">
        <span className="min-w-0 flex-1 truncate font-semibold" title={words}>
          {words}
        </span>
        <Button tone="quiet" className="h-6 px-1" aria-label="Clear the selection" onClick={onDone}>
          ×
        </Button>
      </header>
      <div className="grid">
        {[...verbs, { label: `Values of ${bodyName}`, run: () => workspace.setState({ view: { ...WHOLE_LEDGER, body } }) }].map(({ label, run }) => (
          <Button key={label} tone="quiet" className="h-6 truncate text-left" onClick={run}>
            {label}
          </Button>
        ))}
      </div>
    </div>
  );
}

function bodyVerbs(document: Document, workspace: WorkspaceStore, body: string): Verb[] {
  const others = listIds(document, 'bodies').filter((other) => other !== body);
  if (others.length === 0) return [];
  return [
    { label: 'Hide', run: () => workspace.setState(({ hidden }) => ({ hidden: new Set([...hidden, body]) })) },
    { label: 'Show only this', run: () => workspace.setState({ hidden: new Set(others) }) },
  ];
}

function geometryVerbs(session: DocumentSession, workspace: WorkspaceStore, body: string, name: string): Verb[] {
  const { document } = session;
  const { builtTo } = session.store.getState();
  const step = findStep(document, stepOfGeometry(document, name) ?? '');
  const change = step ? [{ label: `Change ${step.name}`, run: () => workspace.setState({ draft: draftOf(document, step), selected: step.id }) }] : [];
  if (name.startsWith('edge[')) {
    const dress = (type: 'fillet' | 'chamfer'): void => {
      const draft = newDraft(document, type, { builtTo });
      workspace.setState({ draft: 'edges' in draft.step ? { ...draft, step: { ...draft.step, edges: [name], body } } : draft });
    };
    return [{ label: 'Fillet', run: () => dress('fillet') }, { label: 'Chamfer', run: () => dress('chamfer') }, ...change];
  }
  // The step that a copy is of has the sketch.
  const origin = findStep(document, name.replace(/^.*:/, '').split('/')[0] ?? '');
  const [sketch] = origin ? sketchesOf(origin) : [];
  const sketchName = findStep(document, sketch ?? '')?.name;
  const drawOn = (): void => {
    const draft = newDraft(document, 'sketch', { builtTo });
    workspace.setState({ draft: draft.step.type === 'sketch' ? { ...draft, step: { ...draft.step, plane: { body, face: name } } } : draft });
  };
  return [
    ...(sketch === undefined ? [] : [{ label: `Open ${sketchName}`, run: () => workspace.setState({ sketch, selected: sketch }) }]),
    ...change,
    { label: 'Sketch on it', run: drawOn },
  ];
}

'use client';
/** Which part a step starts from, and which body of it. */
import { useEffect, useRef, useState } from 'react';
import { findRecord, listRecords, takenNames, type Body, type Component, type Document, type StepOf } from '@/core/document';
import { Button } from '../design/button';
import { FailedToLoad, Skeleton } from '../design/states';
import { goToRow } from '../ledger/go-to-row';
import { QUERIES } from '../state/queries';
import { useLoaded } from '../state/use-loaded';
import { api } from '../state/api';
import { useSession, useSessionState, useWorkspaceStore } from '../state/context';
import { freeName } from '../state/free-name';
import { newId } from '../state/identity';
import { Select } from '../design/fields';
import type { FormProps } from './kinds/form';

type Props = Pick<FormProps<StepOf<'from-part'>>, 'draft' | 'step' | 'onChange' | 'onPart'>;

export function FromPartFields({ draft, step, onChange, onPart }: Props) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const component = useSessionState(({ document }) => draft.part?.component ?? findRecord(document, step.component, 'component'));
  const source = useSessionState(({ values }) => values.components?.valuesOf(step.component)?.document);
  const snapshot = draft.part ? session.snapshots.snapshot(draft.part.component.source, draft.part.component.revision) : source;
  return (
    <>
      {draft.isNew ? (
        <PartChoice chosen={draft.part?.component} onPart={onPart} />
      ) : (
        <p className="mb-2">
          <span className="text-walnut-soft">Part</span>
          <br />
          {component?.sourceName ?? 'The part is no longer used here'}
          {component && `, revision ${component.revision}`}
        </p>
      )}
      {snapshot && (
        <BodyChoice snapshot={snapshot} value={step.of} onChange={(of) => (draft.part ? onPart(draft.part.component, of) : onChange({ ...step, of: of.id }))} />
      )}
      {!draft.isNew && component && (
        <Button
          className="mb-2"
          onClick={() => {
            session.geometry.preview(undefined);
            workspace.setState({ draft: undefined, picking: undefined });
            goToRow(workspace, component.id);
          }}
        >
          Set its values…
        </Button>
      )}
      {draft.part && <p className="mb-2 text-walnut-soft">You can set its values once it is built.</p>}
    </>
  );
}

/** The parts of the project; the one that is chosen is read at its latest revision. */
function PartChoice({ chosen, onPart }: { chosen: Component | undefined; onPart: Props['onPart'] }) {
  const session = useSession();
  const project = useSessionState((state) => state.project.id);
  const { loaded, reload } = useLoaded(QUERIES.project(project));
  const [problem, setProblem] = useState<string>();
  const field = useRef<HTMLDivElement>(null);
  const isReady = loaded.state === 'ready';
  useEffect(() => {
    // The panel was opened to choose.
    if (isReady) field.current?.querySelector('select')?.focus();
  }, [isReady]);
  if (loaded.state === 'loading') return <Skeleton rows={2} />;
  if (loaded.state === 'failed') return <FailedToLoad title="The project cannot be shown" message={loaded.failure.message} onRetry={reload} />;
  const parts = loaded.value.documents.filter(({ id, kind }) => kind === 'part' && id !== session.id);
  if (parts.length === 0) return <p className="mb-2 text-walnut-soft">There is no other part in this project yet.</p>;
  const choose = async (id: string): Promise<void> => {
    const part = parts.find((one) => one.id === id);
    if (!part) return;
    const reply = await api.readRevision(id, part.revision);
    if (!reply.ok) {
      setProblem(`${part.name}: ${reply.failure.message}`);
      return;
    }
    const { document, hash } = reply.value;
    const [body] = listRecords(document, 'bodies', 'body');
    setProblem(body ? undefined : `${document.name} has no body at revision ${part.revision}.`);
    if (!body) return;
    session.addSnapshot({ source: id, revision: part.revision }, document);
    const name = freeName(document.name, takenNames(session.document));
    onPart({ type: 'component', id: chosen?.id ?? newId(), name, source: id, sourceName: document.name, policy: 'ask', revision: part.revision, hash }, body);
  };
  return (
    <div ref={field}>
      <Select
        label="Part"
        value={chosen?.source ?? ''}
        options={Object.fromEntries(parts.map(({ id, name, unsavedEdits }) => [id, unsavedEdits > 0 ? `${name} (as last saved)` : name]))}
        onChange={(id) => void choose(id)}
      />
      {problem !== undefined && (
        <p role="alert" className="mb-2 text-madder">
          {problem}
        </p>
      )}
    </div>
  );
}

function BodyChoice({ snapshot, value, onChange }: { snapshot: Document; value: string; onChange: (body: Body) => void }) {
  const bodies = listRecords(snapshot, 'bodies', 'body');
  return (
    <Select
      label="Body"
      value={value}
      options={Object.fromEntries(bodies.map(({ id, name }) => [id, name]))}
      onChange={(id) => {
        const body = bodies.find((one) => one.id === id);
        if (body) onChange(body);
      }}
    />
  );
}

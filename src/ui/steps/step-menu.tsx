'use client';
import { useState } from 'react';
import { bodyOf, listIds, startsBody, type Step } from '@/core/document';
import { Menu } from '../design/menu';
import { MenuItems } from '../design/menu-items';
import { useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';
import type { DocumentSession } from '../state/document-session';
import { copyBody, copySteps, deleteSteps, moveStep } from '../state/step-verbs';

/** Rename, move, suppress, delete: the verbs of a step that are not always at hand. */
export function StepMenu({ step, session }: { step: Step; session: DocumentSession }) {
  const workspace = useWorkspaceStore();
  const [isRenaming, setRenaming] = useState(false);
  const isLastBuilt = useSessionState((state) => state.builtTo === step.id);
  const order = listIds(session.document, 'steps');
  const place = order.indexOf(step.id);
  const marked = useWorkspace((state) => state.marked);
  const all = marked.has(step.id) ? order.filter((id) => marked.has(id)) : [step.id];
  const suppress = (): void => {
    const { suppressed, ...rest } = step;
    session.edit({ type: 'step.update', step: suppressed ? rest : { ...step, suppressed: { text: 'yes' } }, values: [] });
  };
  if (isRenaming) return <StepName step={step} session={session} onDone={() => setRenaming(false)} />;
  return (
    <Menu align="end" button={{ children: '…', className: 'h-6 rounded-box px-1.5 hover:bg-flax-deep', 'aria-label': `More for ${step.name}` }}>
      {(parts) => (
        <MenuItems
          of={parts}
          groups={[
            [
              { label: 'Rename', run: () => setRenaming(true) },
              { label: 'Move up', keys: 'Alt ↑', isOff: place <= 0, run: () => void moveStep(session, workspace, step.id, -1) },
              { label: 'Move down', keys: 'Alt ↓', isOff: place >= order.length - 1, run: () => void moveStep(session, workspace, step.id, 1) },
            ],
            [
              { label: step.suppressed ? 'Do not suppress' : 'Suppress', run: suppress },
              { label: isLastBuilt ? 'Build all steps' : 'Build to here', run: () => session.geometry.buildTo(isLastBuilt ? undefined : step.id) },
            ],
            [
              { label: all.length > 1 ? `Copy ${all.length} steps` : 'Copy', keys: 'Ctrl C', run: () => copySteps(session, all) },
              ...(startsBody(step) ? [{ label: 'Copy the body with its steps…', run: () => copyBody(session, workspace, bodyOf(step) ?? '') }] : []),
              { label: all.length > 1 ? `Delete ${all.length} steps` : 'Delete', keys: 'Delete', run: () => deleteSteps(session, workspace, all) },
            ],
          ]}
        />
      )}
    </Menu>
  );
}

function StepName({ step, session, onDone }: { step: Step; session: DocumentSession; onDone: () => void }) {
  return (
    <input
      autoFocus // oxlint-disable-line jsx-a11y/no-autofocus -- opened by the user to type into
      aria-label={`Name of ${step.name}`}
      defaultValue={step.name}
      className="w-40 rounded-box border border-indigo bg-sheet px-1"
      onFocus={(event) => event.target.select()}
      onBlur={onDone}
      onKeyDown={(event) => {
        if (event.key === 'Escape') onDone();
        if (event.key === 'Enter' && !session.edit({ type: 'step.rename', id: step.id, name: event.currentTarget.value })) onDone();
      }}
    />
  );
}

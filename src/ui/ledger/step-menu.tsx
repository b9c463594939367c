'use client';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { listIds, type Step } from '@/core/document';
import { useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';
import type { DocumentSession } from '../state/document-session';
import { copySteps, deleteSteps, moveStep } from '../state/step-verbs';

/** Rename, move, suppress, delete: the verbs of a step that are not always at hand. */
export function StepMenu({ step, session }: { step: Step; session: DocumentSession }) {
  const workspace = useWorkspaceStore();
  const [isRenaming, setRenaming] = useState(false);
  const isLastBuilt = useSessionState((state) => state.builtTo === step.id);
  const order = listIds(session.document, 'steps');
  const place = order.indexOf(step.id);
  const marked = useWorkspace((state) => state.marked);
  const all = marked.has(step.id) ? order.filter((id) => marked.has(id)) : [step.id];
  if (isRenaming) return <StepName step={step} session={session} onDone={() => setRenaming(false)} />;
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="h-6 rounded-box px-1.5 hover:bg-flax-deep" aria-label={`More for ${step.name}`}>
        …
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" className="z-50 min-w-40 rounded-box border border-rule bg-sheet py-1 shadow-box">
          <Item onSelect={() => setRenaming(true)}>Rename</Item>
          <Item disabled={place <= 0} onSelect={() => void moveStep(session, workspace, step.id, -1)}>
            Move up
          </Item>
          <Item disabled={place >= order.length - 1} onSelect={() => void moveStep(session, workspace, step.id, 1)}>
            Move down
          </Item>
          <Item
            onSelect={() => {
              const { suppressed, ...rest } = step;
              session.edit({ type: 'step.update', step: suppressed ? rest : { ...step, suppressed: { text: 'yes' } }, values: [] });
            }}
          >
            {step.suppressed ? 'Do not suppress' : 'Suppress'}
          </Item>
          <Item onSelect={() => session.geometry.buildTo(isLastBuilt ? undefined : step.id)}>{isLastBuilt ? 'Build all steps' : 'Build to here'}</Item>
          <Item onSelect={() => copySteps(session, all)}>{all.length > 1 ? `Copy ${all.length} steps` : 'Copy'}</Item>
          <Item onSelect={() => deleteSteps(session, workspace, all)}>{all.length > 1 ? `Delete ${all.length} steps` : 'Delete'}</Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function Item({ children, ...rest }: { children: string; disabled?: boolean; onSelect: () => void }) {
  return (
    <DropdownMenu.Item className="cursor-default px-3 py-1 outline-none data-[disabled]:opacity-45 data-[highlighted]:bg-indigo-wash" {...rest}>
      {children}
    </DropdownMenu.Item>
  );
}

function StepName({ step, session, onDone }: { step: Step; session: DocumentSession; onDone: () => void }) {
  return (
    <input
      autoFocus // eslint-disable-line jsx-a11y/no-autofocus -- opened by the user to type into
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

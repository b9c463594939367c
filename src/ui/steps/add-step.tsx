'use client';
import { useRef } from 'react';
import { listRecords, type Document, type StepType } from '@/core/document';
import { useSession, useSessionState, useWorkspaceStore } from '../state/context';
import { beginPaste } from '../state/step-verbs';
import type { DocumentSession } from '../state/document-session';
import type { WorkspaceStore } from '../state/workspace';
import { StepIcon } from '../design/kind-icons';
import { Menu } from '../design/menu';
import { STEP_OFFERS, type StepOffer } from './kinds';
import { newDraft } from './step-draft';

function isOfUse(document: Document, needs: StepOffer['needs']): boolean {
  const bodies = listRecords(document, 'bodies', 'body').length;
  switch (needs) {
    case 'nothing':
      return true;
    case 'sketch':
      return listRecords(document, 'steps', 'sketch').length > 0;
    case 'sketches':
      return listRecords(document, 'steps', 'sketch').length > 1;
    case 'body':
      return bodies > 0;
    case 'bodies':
      return bodies > 1;
  }
}

/** Begins a step: its panel opens over the solid. */
export function beginStep(session: DocumentSession, workspace: WorkspaceStore, type: StepType, sketch?: string): void {
  const { builtTo } = session.store.getState();
  workspace.setState({
    draft: newDraft(session.document, type, { sketch, builtTo }),
    isMeasuring: false,
    showsMeasure: false,
    sketch: undefined,
    picking: undefined,
  });
}

/** Adds a step where the build stands: at the end of the build history, or behind the step that it is built to. */
export function AddStep() {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const document = useSessionState((state) => state.document);
  /** What was chosen: it is done once the menu has let go of the focus. */
  const chosen = useRef<() => void>(undefined);
  if (document.kind !== 'part') return null;
  return (
    <div className="flex h-9 items-center pl-7">
      <Menu
        align="start"
        button={{ children: 'Add a step', className: 'h-6 rounded-box border border-rule bg-sheet px-2.5 leading-5 hover:bg-flax' }}
        className="z-50 max-h-[var(--radix-dropdown-menu-content-available-height)] w-104 columns-2 gap-0 overflow-y-auto rounded-box border border-rule bg-sheet py-1 shadow-box"
        onCloseAutoFocus={(event) => {
          const run = chosen.current;
          chosen.current = undefined;
          if (!run) return;
          // The panel of the new step has the focus.
          event.preventDefault();
          run();
        }}
      >
        {({ Group, Item }) => (
          <>
            {STEP_OFFERS.map((group, at) => (
              <Group key={group[0]?.type} className={`break-inside-avoid ${at > 0 ? 'border-t border-rule py-1' : 'pb-1'}`}>
                {group.map(({ type, label, needs }) => (
                  <Item
                    key={type}
                    disabled={!isOfUse(document, needs)}
                    className="cursor-default px-3 py-1 outline-none data-[disabled]:opacity-45 data-[highlighted]:bg-indigo-wash"
                    onSelect={() => {
                      chosen.current = () => beginStep(session, workspace, type);
                    }}
                  >
                    <StepIcon type={type} />
                    {label}
                  </Item>
                ))}
              </Group>
            ))}
            <Group className="break-inside-avoid border-t border-rule py-1">
              <Item
                disabled={!isOfUse(document, 'sketch')}
                className="cursor-default px-3 py-1 outline-none data-[disabled]:opacity-45 data-[highlighted]:bg-indigo-wash"
                onSelect={() => {
                  chosen.current = () =>
                    workspace.setState({ isMeasuring: true, showsMeasure: false, draft: undefined, sketch: undefined, picking: undefined });
                }}
              >
                Measured value
              </Item>
              <Item
                className="cursor-default px-3 py-1 outline-none data-[highlighted]:bg-indigo-wash"
                onSelect={() => {
                  chosen.current = () => beginPaste(session, workspace);
                }}
              >
                Paste steps
              </Item>
            </Group>
          </>
        )}
      </Menu>
    </div>
  );
}

'use client';
import { Dialog } from 'radix-ui';
import { findAny, isStep, textOfGoal, type Readers } from '@/core/document';
import { TaskDialog } from '../design/task-dialog';
import { Button } from '../design/button';
import { useSession, useWorkspace, useWorkspaceStore } from '../state/context';
import type { DocumentSession } from '../state/document-session';

/** Asks what becomes of formulas that read what is to be deleted. Nothing is deleted before the answer. */
export function RemovalDialog() {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const removal = useWorkspace((state) => state.removal);
  if (!removal) return null;
  const close = (): void => {
    workspace.setState({ removal: undefined });
  };
  const go = (readers: Readers): void => {
    session.edit(removal.makeEdit(readers));
    close();
  };
  const { numbers } = removal;
  const count = `${removal.readers.length} formula${removal.readers.length === 1 ? '' : 's'}`;
  return (
    <TaskDialog
      title={removal.title}
      description={
        <>
          {count} read{removal.readers.length === 1 ? 's' : ''} what would go. What becomes of {removal.readers.length === 1 ? 'it' : 'them'}?
        </>
      }
      onClose={close}
    >
      <ul className="my-3 max-h-48 overflow-y-auto rounded-box border border-rule bg-linen px-2 py-1">
        {removal.readers.map((id) => (
          <li key={id} className="truncate font-mono text-[13px]">
            {describe(session, id)}
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap gap-2">
        {removal.canKeep && <Button onClick={() => go({ mode: 'keep' })}>Keep the values as user parameters</Button>}
        {numbers && <Button onClick={() => go(numbers)}>Replace it with its number in the formulas</Button>}
        <span className="flex-1" />
        <Dialog.Close asChild>
          <Button tone="strong">Delete nothing</Button>
        </Dialog.Close>
      </div>
      {!removal.canKeep && !numbers && (
        <p className="mt-2 text-madder">A value that is read has an error, so there is no number to put in its place. Change the formulas first.</p>
      )}
    </TaskDialog>
  );
}

function describe(session: DocumentSession, id: string): string {
  const record = findAny(session.document, id);
  switch (record?.type) {
    case 'parameter':
      return `${record.name} = ${record.formula.text}`;
    case 'guard':
      return `guard ${record.condition.text}`;
    case 'goal':
      return `goal ${textOfGoal(record)}`;
    default:
      return record && isStep(record) ? `${record.name}, suppressed when ${record.suppressed?.text ?? ''}` : id;
  }
}

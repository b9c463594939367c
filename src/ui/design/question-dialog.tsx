'use client';
import { Dialog } from 'radix-ui';
import { useWorkspace, useWorkspaceStore } from '../state/context';
import { Button } from './button';

/** Asks before something is done that the user may not expect. Nothing is done without an answer. */
export function QuestionDialog() {
  const workspace = useWorkspaceStore();
  const question = useWorkspace((state) => state.question);
  if (!question) return null;
  const close = (): void => workspace.setState({ question: undefined });
  return (
    <Dialog.Root open onOpenChange={(open) => !open && close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-50 bg-walnut/30" />
        <Dialog.Content className="fixed top-32 left-1/2 z-50 w-[34rem] -translate-x-1/2 rounded-box border border-rule bg-sheet p-4 shadow-box">
          <Dialog.Title className="text-base font-semibold">{question.title}</Dialog.Title>
          <Dialog.Description className="mt-1">{question.words}</Dialog.Description>
          <ul className="my-3 max-h-48 overflow-y-auto rounded-box border border-rule bg-linen px-2 py-1">
            {question.lines.map((line, i) => (
              <li key={i}>{line}</li>
            ))}
          </ul>
          <div className="flex flex-wrap gap-2">
            {question.answers.map(({ label, run }) => (
              <Button
                key={label}
                onClick={() => {
                  close();
                  run();
                }}
              >
                {label}
              </Button>
            ))}
            <span className="flex-1" />
            <Dialog.Close asChild>
              <Button tone="strong">Leave it</Button>
            </Dialog.Close>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

'use client';
import { Dialog } from 'radix-ui';
import { useWorkspace, useWorkspaceStore } from '../state/context';
import { TaskDialog } from '../design/task-dialog';
import { Button } from '../design/button';

/** Asks before something is done that the user may not expect. Nothing is done without an answer. */
export function QuestionDialog() {
  const workspace = useWorkspaceStore();
  const question = useWorkspace((state) => state.question);
  if (!question) return null;
  const close = (): void => workspace.setState({ question: undefined });
  return (
    <TaskDialog title={question.title} description={question.words} onClose={close}>
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
          <Button tone="strong">Cancel</Button>
        </Dialog.Close>
      </div>
    </TaskDialog>
  );
}

'use client';
import { Dialog } from 'radix-ui';
import { Button } from './button';

interface TaskDialogProps {
  readonly title: string;
  readonly description: React.ReactNode;
  /** Closed without a choice: nothing was done. */
  readonly onClose: () => void;
  readonly width?: keyof typeof WIDTHS;
  readonly children: React.ReactNode;
}

const WIDTHS = { narrow: 'w-[34rem]', wide: 'w-[46rem]', widest: 'w-[60rem] max-w-[95vw]' } as const;

/** The frame of everything that asks before it does something. */
export function TaskDialog({ title, description, onClose, width = 'narrow', children }: TaskDialogProps) {
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-50 bg-walnut/30" />
        <Dialog.Content
          className={`fixed top-20 left-1/2 z-50 flex max-h-[80vh] -translate-x-1/2 flex-col overflow-y-auto rounded-box border border-rule bg-sheet p-4 shadow-box ${WIDTHS[width]}`}
        >
          <Dialog.Title className="text-base font-semibold">{title}</Dialog.Title>
          <Dialog.Description className="mt-1 mb-3">{description}</Dialog.Description>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

interface TaskVerbsProps {
  /** What is done. */
  readonly label: string;
  readonly isDisabled?: boolean;
  readonly onAccept: () => void;
}

/** How a task ends: done, or cancelled. */
export function TaskVerbs({ label, isDisabled = false, onAccept }: TaskVerbsProps) {
  return (
    <div className="mt-3 flex gap-2">
      <Button tone="strong" disabled={isDisabled} onClick={onAccept}>
        {label}
      </Button>
      <Dialog.Close asChild>
        <Button>Cancel</Button>
      </Dialog.Close>
    </div>
  );
}

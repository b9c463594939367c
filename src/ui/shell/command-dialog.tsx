'use client';
import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';
import { COMMAND_BOX } from './command-field';

interface CommandDialogProps {
  readonly onOpen: (isOpen: boolean) => void;
  /** Called when it has closed: what has the focus then is not its own affair. */
  readonly onClosed: () => void;
  readonly children: ReactNode;
}

/** The box of the commands, over the page. */
export function CommandDialog({ onOpen, onClosed, children }: CommandDialogProps) {
  return (
    <Dialog.Root open onOpenChange={onOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-50 bg-walnut/20" />
        <Dialog.Content
          aria-describedby={undefined}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            onClosed();
          }}
          className={COMMAND_BOX}
        >
          <Dialog.Title className="sr-only">Find or do</Dialog.Title>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

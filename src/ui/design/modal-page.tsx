'use client';
import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';
import { Button } from './button';

interface ModalPageProps {
  readonly title: string;
  readonly onClose: () => void;
  /** Word for leaving without doing anything. */
  readonly leave?: string;
  /** The verbs, at the right of the head. */
  readonly actions?: ReactNode;
  readonly children: ReactNode;
}

/** The first Escape takes back what is being typed into a cell, as everywhere; the next one leaves. */
function takeBackTyped(event: KeyboardEvent): void {
  const box = document.activeElement;
  if (!(box instanceof HTMLInputElement) || box.value === box.defaultValue) return;
  box.value = box.defaultValue;
  event.preventDefault();
}

/** A task that takes the whole page for a while; Escape leaves it. */
export function ModalPage({ title, onClose, leave = 'Cancel', actions, children }: ModalPageProps) {
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-50 bg-walnut/30" />
        <Dialog.Content
          className="fixed inset-6 z-50 flex flex-col rounded-box border border-rule bg-linen shadow-box"
          aria-describedby={undefined}
          onEscapeKeyDown={takeBackTyped}
        >
          <header className="flex items-center gap-3 border-b border-rule bg-flax px-4 py-2">
            <Dialog.Title className="text-base font-semibold">{title}</Dialog.Title>
            <span className="flex-1" />
            <Dialog.Close asChild>
              <Button>{leave}</Button>
            </Dialog.Close>
            {actions}
          </header>
          <div className="min-h-0 flex-1 overflow-y-auto">{children}</div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

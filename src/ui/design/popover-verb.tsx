'use client';
import { Popover } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { Button } from './button';

interface PopoverVerbProps {
  /** On the button; dots at its end say that more is asked or told. */
  readonly label: string;
  /** What opens, for those who do not see it. */
  readonly title: string;
  readonly className: string;
  /** Made when it opens. */
  readonly children: (close: () => void) => ReactNode;
}

/** A quiet button with something that opens over the page. */
export function PopoverVerb({ label, title, className, children }: PopoverVerbProps) {
  const [isOpen, setOpen] = useState(false);
  return (
    <Popover.Root open={isOpen} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <Button tone="quiet">{label}</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          side="top"
          collisionPadding={8}
          className={`z-50 max-h-[60vh] overflow-y-auto rounded-box border border-rule bg-sheet p-3 shadow-box ${className}`}
          aria-label={title}
        >
          {isOpen && children(() => setOpen(false))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

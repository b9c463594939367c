'use client';
import type { ButtonHTMLAttributes, ReactNode } from 'react';
import type { Popover } from 'radix-ui';
import { boxes, useFloating } from './floating';

interface BoxButtonProps extends Pick<Popover.PopoverContentProps, 'align' | 'sideOffset' | 'onOpenAutoFocus'> {
  readonly button: Pick<ButtonHTMLAttributes<HTMLButtonElement>, 'children' | 'className' | 'aria-label' | 'title'>;
  /** What the box is called. */
  readonly label: string;
  readonly width?: string;
  /** What stands in the box, made when it is open; `close` closes it. */
  readonly children: (close: () => void) => ReactNode;
}

/** A button that opens a box beside it, with fields of its own; Escape or a press elsewhere closes it. */
export function BoxButton({ button, label, width = '', children, ...place }: BoxButtonProps) {
  const { parts, isOpen, setOpen } = useFloating(boxes);
  if (!parts)
    return (
      <button type="button" aria-haspopup="dialog" aria-expanded={isOpen} data-state="closed" {...button} {...boxes.foresee} onClick={() => setOpen(true)} />
    );
  const { Root, Trigger, Portal, Content } = parts.Popover;
  return (
    <Root open={isOpen} onOpenChange={setOpen}>
      <Trigger {...button} />
      <Portal>
        <Content className={`z-50 rounded-box border border-rule bg-sheet p-3 shadow-box ${width}`} aria-label={label} {...place}>
          {isOpen && children(() => setOpen(false))}
        </Content>
      </Portal>
    </Root>
  );
}

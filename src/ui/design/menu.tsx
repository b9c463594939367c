'use client';
import type { DropdownMenu } from 'radix-ui';
import { useRef, type ButtonHTMLAttributes, type ReactNode } from 'react';
import { menus, useFloating } from './floating';
import { MENU } from './menu-items';

export type MenuParts = typeof DropdownMenu;

interface MenuProps extends Pick<DropdownMenu.DropdownMenuContentProps, 'align' | 'side' | 'sideOffset' | 'onCloseAutoFocus'> {
  readonly button: Pick<ButtonHTMLAttributes<HTMLButtonElement>, 'children' | 'className' | 'aria-label' | 'disabled'>;
  readonly className?: string;
  /** Its lines, made when it is open, from the parts of a menu. */
  readonly children: (parts: MenuParts) => ReactNode;
}

/** In a menu that is opened by keys the first line is lit, and the next Enter chooses it. */
export function focusFirstLine(menu: HTMLElement): void {
  menu.querySelector<HTMLElement>('[role^="menuitem"]:not([data-disabled])')?.focus();
}

const OPENING_KEYS: ReadonlySet<string> = new Set(['Enter', ' ', 'ArrowDown']);

/** A button that opens a menu: by a press, Enter, the space bar or ↓. It is a plain one until then. */
export function Menu({ button, className = MENU, children, ...place }: MenuProps) {
  const { parts, isOpen, setOpen } = useFloating(menus);
  /** Opened by keys for the first time: its first line is to have the focus, as at any later time. */
  const isByKeys = useRef(false);
  const openByKeys = (): void => {
    isByKeys.current = true;
    setOpen(true);
  };
  if (!parts)
    return (
      <button
        type="button"
        aria-haspopup="menu"
        aria-expanded={isOpen}
        data-state="closed"
        {...button}
        {...menus.foresee}
        onPointerDown={(event) => {
          if (event.button !== 0 || event.ctrlKey) return;
          // The focus is the menu's.
          event.preventDefault();
          setOpen(true);
        }}
        onKeyDown={(event) => {
          if (!OPENING_KEYS.has(event.key)) return;
          event.preventDefault();
          openByKeys();
        }}
        // Tools that assist press it without a pointer.
        onClick={(event) => event.detail === 0 && openByKeys()}
      />
    );
  const { Root, Trigger, Portal, Content } = parts.DropdownMenu;
  return (
    <Root open={isOpen} onOpenChange={setOpen}>
      <Trigger {...button} />
      <Portal>
        <Content
          className={className}
          {...place}
          onFocus={(event) => {
            if (!isByKeys.current || event.target !== event.currentTarget) return;
            isByKeys.current = false;
            focusFirstLine(event.currentTarget);
          }}
        >
          {isOpen && children(parts.DropdownMenu)}
        </Content>
      </Portal>
    </Root>
  );
}

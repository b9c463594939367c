'use client';
import { Menu } from './menu';
import { MENU, MenuItems, type MenuItem } from './menu-items';

interface VerbMenuProps {
  readonly label: string;
  /** What is read out where the label is a sign. */
  readonly name?: string;
  readonly groups: readonly (readonly MenuItem[])[];
  readonly isOff?: boolean;
}

/** A button that opens a list of choices. */
export function VerbMenu({ label, name, groups, isOff = false }: VerbMenuProps) {
  return (
    <Menu
      align="start"
      className={`${MENU} max-h-80 overflow-y-auto`}
      button={{
        children: label,
        disabled: isOff,
        ...(name === undefined ? {} : { 'aria-label': name }),
        className: 'h-7 shrink-0 rounded-box px-2.5 whitespace-nowrap hover:bg-flax-deep disabled:opacity-45',
      }}
    >
      {(parts) => <MenuItems of={parts} groups={groups} />}
    </Menu>
  );
}

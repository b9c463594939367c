'use client';
import { Fragment } from 'react';
import type { DropdownMenu } from 'radix-ui';

export const MENU = 'z-50 min-w-44 rounded-box border border-rule bg-sheet py-1 shadow-box';

export interface MenuItem {
  readonly label: string;
  readonly keys?: string;
  readonly isOff?: boolean;
  readonly run: () => void;
}

interface MenuItemsProps {
  /** The parts of the menu that they are in. */
  readonly of: Pick<typeof DropdownMenu, 'Item' | 'Separator'>;
  readonly groups: readonly (readonly MenuItem[])[];
}

/** The lines of a menu in groups, each with the keys that do the same. */
export function MenuItems({ of: { Item, Separator }, groups }: MenuItemsProps) {
  return groups.map((group, at) => (
    <Fragment key={at}>
      {at > 0 && <Separator className="my-1 border-t border-rule" />}
      {group.map(({ label, keys, isOff, run }) => (
        <Item
          key={label}
          className="flex cursor-default items-center gap-6 px-3 py-1 outline-none data-[disabled]:opacity-45 data-[highlighted]:bg-indigo-wash"
          disabled={isOff === true}
          onSelect={run}
        >
          <span className="flex-1">{label}</span>
          {keys !== undefined && (
            <span aria-hidden className="text-xs text-walnut-soft">
              {keys}
            </span>
          )}
        </Item>
      ))}
    </Fragment>
  ));
}

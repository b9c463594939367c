/** The field above the commands, the same before and after these are loaded. */
export const COMMAND_HINT = 'A value, a step or a command';
export const COMMAND_FIELD = 'h-10 w-full border-b border-rule bg-transparent px-3 outline-none';

export const COMMAND_BOX = 'fixed top-24 left-1/2 z-50 w-[32rem] -translate-x-1/2 rounded-box border border-rule bg-sheet shadow-box';

/** The one that takes the other's place takes the focus, too. */
export function focusOn(field: HTMLInputElement | null): void {
  field?.focus();
}

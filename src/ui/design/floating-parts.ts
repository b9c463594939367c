/** What draws menus and boxes over the page. Loaded with the first that is opened, or when the page rests: no page shows one at once. */
export { DropdownMenu, Popover } from 'radix-ui';

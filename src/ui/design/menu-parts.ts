/** What draws menus. Loaded with the first that is opened, or when the page rests: no page shows one at once. */
export { DropdownMenu } from 'radix-ui';

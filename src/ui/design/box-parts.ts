/** The same of boxes over the page. */
export { Popover } from 'radix-ui';

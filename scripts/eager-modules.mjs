/**
 * Has the browser compile the modules of a chunk while it reads it. They are functions that the bundler calls when they are first asked for, which is at once
 * for nearly all; left as they are, a browser reads each of them twice, the second time while the page waits: 0.6 of 1.6 seconds of the main thread for the demo's
 * side frame. Put in parentheses, a function is taken for one that is called at once, and is compiled where it is read first (so V8 does; others as well, from memory).
 */
import { parse } from 'acorn';

const CHUNK = '(globalThis.TURBOPACK||';

/**
 * The text of a chunk, with its modules in parentheses; any other script as it is.
 * @param {string} text
 * @returns {string}
 */
export function compileModulesEarly(text) {
  if (!text.startsWith(CHUNK)) return text;
  const [statement] = parse(text, { ecmaVersion: 'latest' }).body;
  const [entries] = statement?.expression?.arguments ?? [];
  const modules = (entries?.elements ?? []).filter(({ type }) => type === 'ArrowFunctionExpression' || type === 'FunctionExpression');
  let from = 0;
  const parts = modules.flatMap(({ start, end }) => {
    const before = text.slice(from, start);
    from = end;
    return [before, '(', text.slice(start, end), ')'];
  });
  return [...parts, text.slice(from)].join('');
}

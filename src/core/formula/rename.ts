/**
 * Formula text with names exchanged, everything else kept as typed: spacing, case, spelling of numbers.
 * All names are exchanged in one go, so that two renames cannot cross.
 */
import { parseFormula } from './parse';
import { collectNames, fullName } from './syntax';

/** A text that does not parse is returned as it is: there is nothing in it that is a name for certain. */
export function renameInFormula(text: string, newNameOf: (name: string) => string | undefined): string {
  const parsed = parseFormula(text);
  if (!parsed.ok) return text;
  let result = '';
  let copied = 0;
  for (const { name, from } of collectNames(parsed.node)) {
    const renamed = newNameOf(name);
    if (renamed === undefined) continue;
    const to = from + (NAME.exec(text.slice(from))?.[0].length ?? 0);
    result += text.slice(copied, from) + renamed;
    copied = to;
  }
  return result + text.slice(copied);
}

/** The same for whole paths of names: `rail.length` in the place of `rail.span`. */
export function renamePathsInFormula(text: string, newPathOf: (path: string) => string | undefined): string {
  const parsed = parseFormula(text);
  if (!parsed.ok) return text;
  let result = '';
  let copied = 0;
  for (const node of collectNames(parsed.node)) {
    const renamed = node.member === undefined ? undefined : newPathOf(fullName(node));
    if (renamed === undefined) continue;
    result += text.slice(copied, node.from) + renamed;
    copied = node.to;
  }
  return result + text.slice(copied);
}

/** As typed: its length can differ from that of the normalised name. */
const NAME = /^[\p{L}_][\p{L}\p{Nd}\p{M}_]*/u;

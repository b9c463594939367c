/** What a lost face, edge or corner may be now: names that have most in common with its own. */

import { facesIn, facesOfName, plainCap, readEdge, sortOf } from '../kernel-port';

/** The names most like a lost one, the likeliest first; none that has little in common. */
export function likelyGeometry(lost: string, names: Iterable<string>, most = 3): string[] {
  const wanted = tokensOf(lost);
  const sort = sortOf(lost);
  const scored = [...new Set(names)].flatMap((name) => {
    if (sortOf(name) !== sort || name === lost) return [];
    const score = likeness(wanted, tokensOf(name));
    return score >= LEAST ? [{ name, score }] : [];
  });
  return scored
    .sort((a, b) => b.score - a.score || a.name.localeCompare(b.name, 'en', { numeric: true }))
    .slice(0, most)
    .map(({ name }) => name);
}

/** Whether a name finds something among others: itself, a piece of it, or the whole that it is a piece of. */
export function isFound(name: string, names: Iterable<string>): boolean {
  const wanted = wordsOf(name);
  const sort = sortOf(name);
  const answers = (other: string): boolean => {
    const sides = wordsOf(other);
    return sortOf(other) === sort && sides.length === wanted.length && sides.every((side, i) => side.some((one) => wanted[i]?.includes(one)));
  };
  for (const other of names) if (other === name || answers(other)) return true;
  return false;
}

/** The names that a face answers to; for an edge or a corner, those of all its faces. */
function wordsOf(name: string): string[][] {
  return facesOfName(name).map(({ whole }) => facesIn(whole).map(plainCap));
}

/** Shared parts of all parts: less than this is chance. */
const LEAST = 0.25;

/** A face as the step that made it, what it is there, and what it comes from; an edge or a corner as those of its faces. */
function tokensOf(name: string): string[] {
  const tokens = facesOfName(name).flatMap(({ whole: answered, told }) => {
    const [whole = ''] = facesIn(answered);
    const [, step = '', part = '', about = ''] = /^(.*?)\/([a-z]+)(?:\((.*)\))?$/.exec(whole) ?? ['', whole];
    return [step, `${step}/${part}`, `${step}/${part}(${about})`, ...told];
  });
  return [...tokens, ...(readEdge(name)?.ends.told ?? [])];
}

/** Size of what both have over what either has, each counted as often as it stands there. */
function likeness(a: readonly string[], b: readonly string[]): number {
  const rest = [...b];
  let shared = 0;
  for (const token of a) {
    const at = rest.indexOf(token);
    if (at < 0) continue;
    rest.splice(at, 1);
    shared++;
  }
  return shared / (a.length + b.length - shared);
}

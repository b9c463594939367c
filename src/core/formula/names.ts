/** Names of values: what a designer may call one, and what is said when it cannot be. */
import type { Diagnostic } from '../kit';
import { isUnitWord } from '../units';
import { describeReserved } from './functions';

export type NameCode = 'name-empty' | 'name-space' | 'name-start' | 'name-character' | 'name-reserved' | 'name-taken' | 'name-too-long';

const MAX_NAME_LENGTH = 80;

/**
 * Why `name` cannot be given, or undefined if it can. `isTaken` tells the names of the document. Repairs
 * replace the whole name.
 */
export function checkName(name: string, isTaken: (name: string) => boolean): Diagnostic<NameCode> | undefined {
  const to = name.length;
  const offer = (wanted: string) => {
    const text = freeName(wanted, isTaken);
    return { repairs: [{ label: text, from: 0, to, text }] };
  };
  if (name === '') return { code: 'name-empty', message: 'A value needs a name.', from: 0, to };
  if (to > MAX_NAME_LENGTH) return { code: 'name-too-long', message: `A name has at most ${MAX_NAME_LENGTH} characters.`, from: MAX_NAME_LENGTH, to };
  if (/\s/.test(name)) {
    return { code: 'name-space', message: 'A name has no spaces; _ stands for them.', from: 0, to, ...offer(name.trim().replace(/\s+/g, '_')) };
  }
  if (!/^[\p{L}_]/u.test(name)) {
    return { code: 'name-start', message: 'A name starts with a letter or _.', from: 0, to: 1, ...offer(`_${name}`) };
  }
  const odd = /[^\p{L}\p{Nd}\p{M}_]/u.exec(name);
  if (odd) {
    return {
      code: 'name-character',
      message: `A name consists of letters, digits and _; ${odd[0]} is not one of them.`,
      from: odd.index,
      to: odd.index + odd[0].length,
      ...offer(name.replace(/[^\p{L}\p{Nd}\p{M}_]+/gu, '_')),
    };
  }
  const reserved = describeReserved(name) ?? (isUnitWord(name) ? 'a unit' : undefined);
  if (reserved !== undefined) {
    return { code: 'name-reserved', message: `${name} is ${reserved}; a value needs another name.`, from: 0, to, ...offer(`${name}_`) };
  }
  if (isTaken(name)) {
    return { code: 'name-taken', message: `There is a value named ${name} here already.`, from: 0, to, ...offer(name) };
  }
  return undefined;
}

/** `base` if it is free, else the first of `base_2`, `base_3` … that is. */
export function freeName(base: string, isTaken: (name: string) => boolean): string {
  if (!isTaken(base)) return base;
  const stem = base.replace(/_\d+$/, '');
  for (let n = 2; ; n++) {
    const name = `${stem}_${n}`;
    if (!isTaken(name)) return name;
  }
}

/** The next automatic name of a dimension: `side_outline_a`, … `_z`, `_aa`. */
export function automaticName(owner: string, isTaken: (name: string) => boolean): string {
  const stem = owner
    .normalize('NFC')
    .toLowerCase()
    .replace(/[^\p{L}\p{Nd}\p{M}]+/gu, '_')
    .replace(/^_+|_+$/g, '');
  const start = /^[\p{L}_]/u.test(stem) ? stem : `_${stem}`;
  for (let n = 0; ; n++) {
    const name = `${start}_${letters(n)}`;
    if (!isTaken(name)) return name;
  }
}

/** `a` … `z`, `aa`, `ab` … for 0, 1, …; `A` … with {@link automaticLetter}. */
function letters(n: number): string {
  const head = n >= 26 ? letters(Math.floor(n / 26) - 1) : '';
  return head + String.fromCharCode(97 + (n % 26));
}

/** `A`, `B` … `Z`, `AA` …: the letter of an automatically named sketch. */
export function automaticLetter(n: number): string {
  return letters(n).toUpperCase();
}

/**
 * Texts of the program. Words that must not come back on screen: riddles, translations, and words of our own where every application has one. And the
 * guide speaks the words of the screens: each one in bold is a text of the program, and each picture and page is there.
 */
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { PROGRAM_TEXTS } from './texts';

const BANNED: readonly (readonly [pattern: RegExp, instead: string])[] = [
  [/\bLeave it\b/i, 'Cancel, Keep or Skip'],
  [/\bTake it\b/, 'Accept'],
  [/\bMake it\b/, 'Create'],
  [/\bkeep \/ leave\b/i, 'Keep / Discard'],
  [/\bNo value is so\b/i, 'No value matches.'],
  [/\bof that name\b/i, 'No match.'],
  [/\bhow grave\b/i, 'Severity'],
  [/\blet the geometry go on\b/i, 'Resume'],
  [/\bcatch up it\b/i, 'Catch up this and all that depends on it'],
  [/\bwhat takes from it\b/i, 'all that depends on it'],
  [/\bnot to be had\b/i, 'not available'],
  [/\bused up\b/i, 'used by'],
  [/\bbring(s)? in\b/i, 'Import'],
  [/\bleft behind\b/i, 'skipped'],
  [/(?<!\bthere )\bis no (amount|kind|part|value|number|unit|name|choice|formula)\b/i, 'is not a …'],
  [/(?<!\bthere )\bis none\b/i, 'is not one'],
  [/\bcalled so\b/i, 'of that name'],
  [/\bon purpose\b/i, 'dismissed'],
  [/\bthe present (numbers?|values?)\b/i, 'the current …'],
  [/\bfor good and all\b|\bbeyond all\b/i, 'plain words'],
  [/\bdismiss with\b/i, 'Dismiss'],
  [/\btidings\b|\bthereupon\b|\bwhereby\b|\bhitherto\b/i, 'plain words'],
];

describe('plain words', () => {
  const texts = PROGRAM_TEXTS.filter(({ text }) => text.includes(' '));

  test('the texts of the program are found', () => {
    expect(texts.length).toBeGreaterThan(1000);
    expect(texts.some(({ text }) => text.startsWith('Select a value to see where it comes from'))).toBe(true);
  });

  test.each(BANNED)('no text has %s', (pattern) => {
    expect(texts.filter(({ text }) => pattern.test(text)).map(({ file, text }) => `${file}: ${text}`)).toEqual([]);
  });

  test('a menu or button that was chosen says what it does with a verb that every application uses', () => {
    const odd = /^(Let go|Have it|Give back|Put back|Throw away|Do without|Look anew)\b/;
    expect(texts.filter(({ text }) => odd.test(text))).toEqual([]);
  });
});

describe('the guide', () => {
  const GUIDE = path.join(process.cwd(), 'docs/guide');
  const pages = readdirSync(GUIDE).filter((file) => file.endsWith('.md'));
  const known = new Set(PROGRAM_TEXTS.flatMap(({ text }) => [text, text.replace(/…$/, ''), text.split(' {')[0] ?? text]));

  test.each(pages)('%s', (page) => {
    const text = readFileSync(path.join(GUIDE, page), 'utf8');
    const bold = [...text.matchAll(/\*\*([^*]+)\*\*/g)].map(([, words = '']) => words);
    const isSaid = (words: string): boolean => known.has(words) || PROGRAM_TEXTS.some((one) => one.text.startsWith(`${words} `));
    expect(bold.filter((words) => !isSaid(words))).toEqual([]);
    expect(isSaid('Weave everything')).toBe(false);
    const links = [...text.matchAll(/\]\(([^)]+)\)/g)].map(([, target = '']) => path.join(GUIDE, target));
    expect(links.filter((target) => !existsSync(target))).toEqual([]);
  });

  test('there is a page for each part of the work, listed in its order', () => {
    const listed = [...readFileSync(path.join(GUIDE, 'README.md'), 'utf8').matchAll(/\]\((\d\d-[^)]+)\)/g)].map(([, file]) => file);
    expect(listed).toEqual(pages.filter((file) => /^\d\d-/.test(file)).sort());
    expect(listed).toHaveLength(12);
  });
});

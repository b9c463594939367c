/** The guide speaks the words of the screens: each one in bold is a text of the program, and each picture and page is there. */
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { PROGRAM_TEXTS } from './texts';

const GUIDE = path.join(process.cwd(), 'docs/guide');
const pages = readdirSync(GUIDE).filter((file) => file.endsWith('.md'));
/** Kinds of documents stand in the names of the buttons that make them. */
const MADE_OF_KINDS = new Set(['New master', 'New part', 'New assembly', 'New calc sheet']);
const known = new Set(PROGRAM_TEXTS.flatMap(({ text }) => [text, text.replace(/…$/, ''), text.split(' {')[0] ?? text]));

test.each(pages)('%s', (page) => {
  const text = readFileSync(path.join(GUIDE, page), 'utf8');
  const bold = [...text.matchAll(/\*\*([^*]+)\*\*/g)].map(([, words = '']) => words);
  const isSaid = (words: string): boolean => known.has(words) || MADE_OF_KINDS.has(words) || PROGRAM_TEXTS.some((one) => one.text.startsWith(`${words} `));
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

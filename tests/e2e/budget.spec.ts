/** How much code a page loads when it is opened for the first time: before it is shown, and until it rests, before anything is done in it. */
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { expect, test, type Browser } from '@playwright/test';
import { importDemo } from './support';

/** Kilobytes of JavaScript as they are sent, without workers and the kernel: until the document is shown, and all. */
interface Budget {
  readonly shown: number;
  readonly all: number;
}
const BUDGET = JSON.parse(readFileSync(path.join(import.meta.dirname, 'budget.json'), 'utf8')) as Record<'projects' | 'master' | 'part', Budget>;

interface Loaded extends Budget {
  readonly has3d: boolean;
  /** Chunks whose modules the browser would read twice (`scripts/eager-modules.mjs`). */
  readonly readTwice: readonly string[];
}

async function load(browser: Browser, address: string, heading: string): Promise<Loaded> {
  const context = await browser.newContext();
  const page = await context.newPage();
  const scripts = (): Promise<{ name: string; size: number; at: number }[]> =>
    page.evaluate(() =>
      performance
        .getEntriesByType('resource')
        .filter((entry): entry is PerformanceResourceTiming => entry instanceof PerformanceResourceTiming && entry.initiatorType === 'script')
        .map(({ name, encodedBodySize, startTime }) => ({ name, size: encodedBodySize, at: startTime })),
    );
  await page.goto(address);
  await page.getByRole('heading', { level: 1, name: heading, exact: true }).waitFor();
  // All is loaded when nothing more has come for a while; a page that is open keeps a connection and is never idle.
  let loaded = await scripts();
  for (let quiet = 0; quiet < 4; quiet++) {
    await page.waitForTimeout(500);
    const now = await scripts();
    if (now.length > loaded.length) quiet = -1;
    loaded = now;
  }
  // Lists say nothing of when they are shown: all that they load counts.
  const shownAt = await page.evaluate(() => performance.getEntriesByName('shown')[0]?.startTime ?? Infinity);
  const kilobytes = (until: number): number => loaded.reduce((sum, { size, at }) => sum + (at < until ? size : 0), 0) / 1000;
  const texts = await Promise.all(loaded.map(async ({ name }) => (await page.request.get(name)).text()));
  await context.close();
  const readTwice = texts.flatMap((text) => /^\(globalThis\.TURBOPACK.{0,120}?:void 0,(?:\d+,)+(?:[\w$]+|\([\w$,]*\))=>/s.exec(text)?.[0] ?? []);
  return { shown: kilobytes(shownAt), all: kilobytes(Infinity), has3d: texts.some((text) => text.includes('WebGLRenderer')), readTwice };
}

test('pages keep to their budget of code, and masters and lists load none of the 3D picture', async ({ browser, page }) => {
  await page.goto(await importDemo(page, 'Budget'));
  const addressOf = async (name: string): Promise<string> => (await page.getByRole('link', { name, exact: true }).getAttribute('href')) ?? '';
  const [master, part] = [await addressOf('Loom sizes'), await addressOf('Side frame')];
  const loaded = {
    projects: await load(browser, '/', 'Warpbeam'),
    master: await load(browser, master, 'Loom sizes'),
    part: await load(browser, part, 'Side frame'),
  };
  for (const name of ['projects', 'master', 'part'] as const) {
    const { shown, all } = loaded[name];
    expect(shown, name).toBeGreaterThan(100);
    expect(loaded[name].readTwice, name).toEqual([]);
    expect(shown, `${name}, until it is shown`).toBeLessThan(BUDGET[name].shown);
    expect(all, `${name}, until it rests`).toBeLessThan(BUDGET[name].all);
  }
  expect([loaded.projects.has3d, loaded.master.has3d, loaded.part.has3d]).toEqual([false, false, true]);
});

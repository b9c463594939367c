/**
 * A ledger of 1,000 rows in the browser: an edit that drives 900 of them, from the key to the next frame, and scrolling.
 * Against a bare script that writes as many texts into the rows in sight (what the browser itself takes to draw them,
 * in software here), and against the same with 50 rows, in the same run. Needs a running server:
 * `BENCH_URL=http://127.0.0.1:4173` after `npm run demo`.
 */
import { chromium, type Page } from '@playwright/test';
import { CHROMIUM } from '../scripts/find-chromium.mjs';
import { createDocument, writeProjectFile, type Edit } from '../src/core/document';
import { edited } from '../tests/support/demo';
import { median, type Row } from './support';

const EDITS = 9;

function ledgerOf(rows: number): string {
  const add = (id: string, text: string): Edit => ({
    type: 'parameter.add',
    parameter: { type: 'parameter', id, name: id, formula: { text }, kind: 'length' },
  });
  const values = Array.from({ length: rows - 1 }, (_, i) => add(`v${i}`, i % 10 === 9 ? `${i} mm` : `base + ${i} mm`));
  const document = edited(createDocument(`bench-${rows}-${Date.now()}`, 'master', `${rows} rows`), add('base', '100 mm'), ...values);
  return writeProjectFile({ name: `Bench, ${rows} rows`, documents: [document] });
}

async function open(page: Page, url: string, rows: number): Promise<void> {
  const reply = await page.request.post(`${url}/api/projects`, { data: ledgerOf(rows), headers: { 'Content-Type': 'text/plain', Origin: url } });
  const { id } = (await reply.json()) as { id: string };
  await page.goto(`${url}/projects/${id}`);
  await page.getByRole('link', { name: `${rows} rows`, exact: true }).click();
  await page.locator('[data-row="base"]').waitFor();
  await page.waitForTimeout(2500);
}

interface EditTimes {
  /** Milliseconds that the page works on Enter: its handlers, which draw the rows too. */
  readonly work: number;
  /** From Enter until the new values have been painted. */
  readonly edit: number;
  /** From a key until as many texts have been painted that a script writes. */
  readonly bare: number;
}

/** Medians; an edit and the bare script take turns. */
async function timeEdits(page: Page): Promise<EditTimes> {
  const times: Record<keyof EditTimes, number[]> = { work: [], edit: [], bare: [] };
  const read = async (name: 'worked' | 'took'): Promise<number> => Number(await page.locator('body').getAttribute(`data-${name}`));
  await page.evaluate(() => {
    new PerformanceObserver((list) => {
      for (const entry of list.getEntriesByName('keydown')) {
        const { processingStart, processingEnd } = entry as PerformanceEventTiming;
        const known = Number(document.body.getAttribute('data-worked') ?? 0);
        document.body.setAttribute('data-worked', `${Math.max(known, processingEnd - processingStart)}`);
      }
    }).observe({ type: 'event', durationThreshold: 16 } as PerformanceObserverInit);
  });
  for (let i = 0; i <= EDITS; i++) {
    await page.locator('[data-row="base"]').dblclick();
    await page.keyboard.press('Control+a');
    await page.keyboard.type(`${200 + i} mm`);
    await pressAndTime(page, 'Enter', false);
    if (i > 0) times.edit.push(await read('took'));
    if (i > 0) times.work.push(await read('worked'));
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await pressAndTime(page, 'Shift', true);
    if (i > 0) times.bare.push(await read('took'));
  }
  return { work: median(times.work), edit: median(times.edit), bare: median(times.bare) };
}

/** Presses a key and waits until what it did is long over; `data-took` has the milliseconds until it was painted. */
async function pressAndTime(page: Page, key: string, writes: boolean): Promise<void> {
  await page.waitForTimeout(150);
  await page.evaluate((isBare) => {
    document.body.setAttribute('data-worked', '0');
    window.addEventListener(
      'keydown',
      () => {
        const start = performance.now();
        // A text node of each row gets another text, and the app its own back with the next edit.
        for (const cell of isBare ? document.querySelectorAll('[data-row] > [role="cell"]:first-child') : []) {
          if (cell.firstChild) cell.firstChild.nodeValue = `${Math.round(start * 100) / 100} mm`;
        }
        requestAnimationFrame(() => setTimeout(() => document.body.setAttribute('data-took', `${performance.now() - start}`)));
      },
      { once: true, capture: true },
    );
  }, writes);
  await page.keyboard.press(key);
  await page.waitForTimeout(1200);
}

/** Milliseconds a frame while the list is scrolled from top to bottom; at the median. */
function timeScroll(page: Page): Promise<number> {
  return page.evaluate(async () => {
    const list = document.querySelector('[role="grid"]')?.parentElement;
    const times: number[] = [];
    // No functions with names here: the loader marks them with a helper that the page does not have.
    let before = await new Promise<number>((done) => requestAnimationFrame(done));
    for (let i = 0; i < 90; i++) {
      list?.scrollBy(0, 250);
      const now = await new Promise<number>((done) => requestAnimationFrame(done));
      times.push(now - before);
      before = now;
    }
    return times.sort((a, b) => a - b)[45] ?? NaN;
  });
}

export async function benchLedger(): Promise<Row[]> {
  const url = process.env['BENCH_URL'];
  if (url === undefined) {
    return [{ what: 'ledger of 1,000 rows', ours: 'not run: no BENCH_URL', baseline: '', ratio: NaN, reach: 'a frame' }];
  }
  const browser = await chromium.launch({
    executablePath: CHROMIUM,
    args: ['--disable-dev-shm-usage'],
    chromiumSandbox: false,
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const found: (EditTimes & { readonly scroll: number })[] = [];
  for (const rows of [50, 1000]) {
    await open(page, url, rows);
    found.push({ ...(await timeEdits(page)), scroll: await timeScroll(page) });
  }
  await browser.close();
  const [small, large] = found;
  if (!small || !large) return [];
  const row = (what: string, ours: number, baseline: number, against: string, reach: string): Row => ({
    what,
    ours: `${ours.toFixed(1)} ms`,
    baseline: `${against} ${baseline.toFixed(1)} ms`,
    ratio: baseline / ours,
    reach,
  });
  return [
    row('ledger of 1,000 rows: an edit that drives 900, from the key until it is painted', large.edit, large.bare, 'a bare script', 'a frame (16.7 ms) more'),
    row('the same', large.edit, small.edit, '50 rows', 'as 50 rows'),
    row('work of the page on it', large.work, small.work, '50 rows', 'a frame'),
    row('the same scrolled, a frame', large.scroll, small.scroll, '50 rows', 'a frame'),
  ];
}

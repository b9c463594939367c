import { readFileSync } from 'node:fs';
import { test as base, expect, type BrowserContext, type Locator, type Page } from '@playwright/test';
import type axe from 'axe-core';

/** What one journey may leave behind in the browser; its copies of scripts stay. */
const LEFT_BEHIND = 'cookies,local_storage,indexeddb,cache_storage,service_workers,file_systems';

/** Closes all pages and forgets what they kept, so that the next journey begins as in a new browser. */
async function forget(context: BrowserContext, origin: string): Promise<void> {
  const blank = await context.newPage();
  for (const page of context.pages()) if (page !== blank) await page.close();
  await context.unrouteAll();
  await context.setOffline(false);
  await context.clearPermissions();
  const client = await context.newCDPSession(blank);
  await client.send('Storage.clearDataForOrigin', { origin, storageTypes: LEFT_BEHIND });
  await blank.close();
}

/** Journeys of one line share a browser profile: scripts and the kernel are compiled once, not for each of them. */
export const test = base.extend<object, { profile: BrowserContext }>({
  profile: [
    async ({ browser }, run, { project }) => {
      const { baseURL, viewport, contextOptions } = project.use;
      const profile = await browser.newContext({ ...contextOptions, viewport: viewport ?? null, ...(baseURL === undefined ? {} : { baseURL }) });
      // Without a graphics card the shade costs as much as the rest of the picture: the journey that is about it turns it on.
      await profile.addInitScript(() => {
        if (localStorage.getItem('warpbeam-view') === null) localStorage.setItem('warpbeam-view', '{"state":{"showsShade":false},"version":0}');
      });
      await run(profile);
      await profile.close();
    },
    { scope: 'worker' },
  ],
  context: async ({ profile, baseURL }, run) => {
    await run(profile);
    await forget(profile, new URL(baseURL ?? '').origin);
  },
});

export { expect };

/** Console errors and page errors of a page: a journey ends by expecting none. */
export function watchConsole(page: Page): string[] {
  const problems: string[] = [];
  page.on('console', (message) => {
    if (message.type() === 'error') problems.push(message.text());
  });
  page.on('pageerror', (error) => problems.push(error.message));
  return problems;
}

/** The row of a value in the ledger. */
export function row(page: Page, name: string): Locator {
  return page.getByRole('row', { name: new RegExp(`^${name} `) }).first();
}

/** Types a formula into the box of a value and accepts it. */
export async function setFormula(page: Page, name: string, formula: string): Promise<void> {
  await row(page, name).dblclick();
  const box = page.getByRole('textbox', { name: `Formula of ${name}` });
  await box.fill(formula);
  await box.press('Enter');
  await expect(box).toBeHidden();
}

type FiledDocument = { records: Record<string, { type: string; formula?: { text: string } }>; lists: Record<string, string[]> };

/** The wheel as thick as the frame, whatever is calculated. */
function withoutCalculation(document: FiledDocument): void {
  document.records = Object.fromEntries(Object.entries(document.records).filter(([, { type }]) => type !== 'component' && type !== 'drive'));
  document.lists = Object.fromEntries(Object.entries(document.lists).filter(([key]) => key !== 'components' && !key.endsWith('/drives')));
  for (const record of Object.values(document.records)) if (record.formula?.text.includes('tension.')) record.formula = { text: 'frame_stock' };
}

/** The demo with a side frame that is a board with its openings alone, so that journeys know its volume. */
function plainProject(text: string, name: string): string {
  const file = JSON.parse(text) as {
    name: string;
    documents: (FiledDocument & { id: string; kind: string; records: Record<string, { sketch?: string; owner?: string }> })[];
  };
  const extra = new Set(['corners', 'screw-place', 'screw-hole', 'screw-row', 'pawl-slot', 'pawl-slot-cut']);
  // Journeys of parts and masters are told without assemblies and calculations.
  file.documents = file.documents.filter(({ kind }) => kind !== 'assembly' && kind !== 'calc');
  for (const document of file.documents) {
    if (document.id === 'ratchet-wheel') withoutCalculation(document);
    if (document.id !== 'side-frame') continue;
    const isExtra = (id: string | undefined): boolean => extra.has(id ?? '');
    document.records = Object.fromEntries(
      Object.entries(document.records).filter(([id, { sketch, owner }]) => !isExtra(id) && !isExtra(sketch) && !isExtra(owner)),
    );
    document.lists = Object.fromEntries(
      Object.entries(document.lists).flatMap(([key, ids]) => (isExtra(key.split('/')[0]) ? [] : [[key, ids.filter((id) => !isExtra(id))]])),
    );
  }
  return JSON.stringify({ ...file, name });
}

/** A project of its own from the demo file, so that a journey does not disturb another; whole, or plain parts alone. Gives its address. */
export async function importDemo(page: Page, name: string, isWhole = false): Promise<string> {
  const demo = readFileSync('demo/table-loom.json', 'utf8');
  const text = isWhole ? JSON.stringify({ ...(JSON.parse(demo) as object), name }) : plainProject(demo, name);
  const origin = test.info().project.use.baseURL ?? '';
  const reply = await page.request.post('/api/projects', { data: text, headers: { 'Content-Type': 'text/plain', Origin: origin } });
  expect(reply.ok()).toBe(true);
  const { id } = (await reply.json()) as { id: string };
  return `/projects/${id}`;
}

export async function expectRegenerated(page: Page): Promise<void> {
  await expect(page.locator('footer')).toContainText(/^regenerated/, { timeout: 60_000 });
}

/** Opens a document of the demo project by clicking as a user would. */
export async function openDocument(page: Page, name: string): Promise<void> {
  await page.goto('/');
  await page
    .getByRole('link', { name: /Table loom/ })
    .first()
    .click();
  await page.getByRole('link', { name, exact: true }).click();
  await expect(page.getByRole('heading', { level: 1, name })).toBeVisible();
}

declare global {
  interface Window {
    readonly axe: typeof axe;
  }
}

const AXE = readFileSync('node_modules/axe-core/axe.min.js', 'utf8');

/** No violation of WCAG A and AA that axe can find: on the page, or in the dialog that is in front of it. */
export async function expectAccessible(page: Page): Promise<void> {
  await page.evaluate(AXE);
  const violations = await page.evaluate(async () => {
    // What is behind a modal dialog is hidden from everybody.
    const isModal = document.querySelector('[data-aria-hidden="true"]') !== null;
    const dialogs = isModal ? Array.from(document.querySelectorAll('[role="dialog"], [role="alertdialog"]')) : [];
    const inFront = dialogs.findLast((dialog) => dialog.closest('[aria-hidden="true"]') === null);
    const found = await window.axe.run(inFront ?? document, {
      resultTypes: ['violations'],
      runOnly: { type: 'tag', values: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa'] },
    });
    return found.violations.map(({ id, nodes }) => `${id}: ${nodes.map((node) => node.html.slice(0, 160)).join(' | ')}`);
  });
  expect(violations).toEqual([]);
}

/** Opens a document of a project at its own address, as from a bookmark; the way there by clicks is that of `openDocument`. */
export async function openIn(page: Page, project: string, name: string): Promise<void> {
  const { documents } = (await (await page.request.get(`/api${project}`)).json()) as { documents: { id: string; name: string }[] };
  const document = documents.find((one) => one.name === name);
  if (document === undefined) throw new Error(`No document is called ${name}.`);
  await page.goto(`/documents/${document.id}`);
  await expect(page.getByRole('heading', { level: 1, name })).toBeVisible();
}

export async function saveRevision(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Save revision' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'Saved.' })).toBeVisible();
}

/** Presses a key until something has the focus, as somebody without a mouse does; fails where it is never reached. */
export async function pressUntilFocused(page: Page, target: Locator, key = 'Tab', most = 60): Promise<void> {
  for (let i = 0; i < most; i++) {
    if (await target.evaluate((element) => element === document.activeElement)) return;
    await page.keyboard.press(key);
  }
  await expect(target).toBeFocused();
}

/** Runs a command by its name, with Ctrl K. */
export async function command(page: Page, name: string): Promise<void> {
  await page.keyboard.press('Control+k');
  await expect(page.getByRole('combobox', { name: 'Commands and values' })).toBeFocused();
  await page.keyboard.type(name);
  await expect(page.getByRole('option', { name, exact: true })).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press('Enter');
}

/** A verb of a value, from the menu that a right click on its row opens. */
export async function valueVerb(page: Page, name: string, verb: string): Promise<void> {
  await row(page, name).click({ button: 'right' });
  await page.getByRole('menu').getByRole('menuitem', { name: verb, exact: true }).click();
}

/** Presses a key so many times. */
export async function press(page: Page, key: string, times: number): Promise<void> {
  for (let i = 0; i < times; i++) await page.keyboard.press(key);
}

/** Everything that the ledger is for, with the mouse: keys write texts alone. */
import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { expect, expectAccessible, importDemo, openIn, row, test, valueVerb, watchConsole } from './support';

async function openMaster(page: Page, name: string): Promise<string> {
  const project = await importDemo(page, name);
  await openIn(page, project, 'Loom sizes');
  await expect(row(page, 'weaving_width')).toBeVisible();
  return project;
}

/** A verb beside a box that is typed into. */
async function soft(page: Page, verb: string): Promise<void> {
  await page.getByRole('button', { name: verb, exact: true }).click();
}

test('a value is made, read as what it is, named, limited, pinned and offered', async ({ page }) => {
  const problems = watchConsole(page);
  await openMaster(page, 'By mouse: kinds');
  await page.getByRole('button', { name: 'Add a value' }).click();
  await page.keyboard.type('boards = 4');
  await expect(page.getByText('taken as a length')).toBeVisible();
  await soft(page, 'a count');
  await expect(page.getByText('= 4', { exact: true })).toBeVisible();
  await soft(page, 'accept');
  await expect(row(page, 'boards')).toBeVisible();
  await expect(page.getByLabel('What it is')).toHaveValue('count');

  const panel = page.getByRole('complementary', { name: 'Selected value' });
  await panel.getByRole('textbox', { name: 'Note' }).click();
  await page.keyboard.type('of the lid');
  await panel.getByRole('textbox', { name: 'Most' }).click();
  await page.keyboard.type('6');
  await panel.getByRole('checkbox', { name: 'pinned' }).click();
  await panel.getByRole('checkbox', { name: 'offered' }).click();
  await expect(page.getByRole('list', { name: 'Shortlist' }).getByRole('button', { name: 'boards 4' })).toBeVisible();
  await expect(panel.getByRole('textbox', { name: 'Most' })).toHaveValue('6');
  await expect(panel.getByRole('textbox', { name: 'Note' })).toHaveValue('of the lid');

  await test.step('what is typed elsewhere is not lost by opening another box', async () => {
    await row(page, 'beam_dia').dblclick();
    await page.keyboard.type('46 mm');
    await page.getByRole('searchbox', { name: 'Search values' }).click();
    await row(page, 'side_gap').dblclick();
    await expect(page.getByText('Another value is being typed', { exact: false })).toBeVisible();
    await page.getByRole('textbox', { name: 'Formula of beam_dia' }).click();
    await soft(page, 'cancel');
    await expect(row(page, 'beam_dia')).toContainText('45 mm');
  });

  await test.step('a name is completed, and one of another row is clicked into the formula', async () => {
    await row(page, 'boards').dblclick();
    await page.keyboard.type('tee');
    await page.getByRole('option', { name: /^teeth/ }).click();
    await page.keyboard.type(' - ');
    await row(page, 'dents').click();
    await page.keyboard.type(' + 1');
    await expect(page.getByRole('textbox', { name: 'Formula of boards' })).toHaveText('teeth - dents + 1');
    await soft(page, 'cancel');
    await expect(row(page, 'boards')).toContainText('4');
  });

  await test.step('a wrong name is repaired by its button', async () => {
    await row(page, 'side_gap').dblclick();
    await page.keyboard.type('bam_dia / 3');
    await page.getByRole('button', { name: 'beam_dia', exact: true }).click();
    await soft(page, 'accept');
    await expect(row(page, 'side_gap')).toContainText('15 mm');
    await page.getByRole('button', { name: 'Undo' }).click();
  });
  await expectAccessible(page);
  expect(problems).toEqual([]);
});

test('rows are marked, filled, pinned, copied, dragged; found by search, filter, order and shortlist', async ({ page, context }) => {
  const problems = watchConsole(page);
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await openMaster(page, 'By mouse: rows');
  await row(page, 'side_gap').click();
  await row(page, 'inner_width').click({ modifiers: ['Shift'] });
  const marked = page.getByRole('toolbar', { name: 'Marked values' });
  await marked.getByRole('button', { name: 'Fill down from side_gap' }).click();
  await expect(row(page, 'inner_width')).toContainText('12 mm');
  await page.getByRole('button', { name: 'Undo' }).click();
  await marked.getByRole('button', { name: 'Pin' }).click();
  await expect(page.getByRole('list', { name: 'Shortlist' })).toContainText('inner_width');
  await marked.getByRole('button', { name: 'Copy 2 rows' }).click();
  const copied = await page.evaluate(() => navigator.clipboard.readText());
  expect(copied.split('\n').map((line) => line.split('\t')[0])).toEqual(expect.arrayContaining(['name', 'side_gap', 'inner_width']));
  await expectAccessible(page);
  await marked.getByRole('button', { name: 'Mark none' }).click();
  await expect(marked).toHaveCount(0);

  await valueVerb(page, 'frame_height', 'Move up');
  await expect(page.getByRole('row').nth(1)).toContainText('frame_height');
  await page.getByLabel('Order of values').selectOption('by name');
  await expect(page.getByRole('row').first()).toContainText('beam_dia');
  await page.getByLabel('Which values').selectOption('plain numbers');
  await expect(row(page, 'inner_width')).toHaveCount(0);
  await page.getByRole('button', { name: 'All', exact: true }).click();
  await page
    .getByRole('list', { name: 'Shortlist' })
    .getByRole('button', { name: /^inner_width/ })
    .click();
  await expect(row(page, 'inner_width')).toHaveAttribute('aria-selected', 'true');
  expect(problems).toEqual([]);
});

test('a value is renamed on its name, explained, rewritten, followed along its threads, deleted', async ({ page }) => {
  const problems = watchConsole(page);
  await openMaster(page, 'By mouse: relations');
  await row(page, 'side_gap').getByText('side_gap').dblclick();
  await page.keyboard.type('gap');
  // Leaving the box keeps a name that may be had.
  await page.getByRole('searchbox', { name: 'Search values' }).click();
  await expect(row(page, 'inner_width')).toContainText('weaving_width + 2 * gap');

  await row(page, 'inner_width').click();
  const panel = page.getByRole('complementary', { name: 'Selected value' });
  await expect(panel).toContainText('inner_width = weaving_width + 2 * gap = 400 mm + 2 * 12 mm = 424 mm');
  await panel.getByRole('button', { name: 'gap', exact: true }).click();
  await expect(row(page, 'gap')).toHaveAttribute('aria-selected', 'true');

  await valueVerb(page, 'inner_width', 'Over revisions…');
  await expect(page.getByRole('dialog', { name: 'Over revisions' })).toContainText('revision 1');
  await row(page, 'inner_width').click();
  await valueVerb(page, 'inner_width', 'Trace…');
  const trace = page.getByRole('dialog', { name: 'Trace across documents' });
  await expect(trace.getByRole('list', { name: 'Comes from' })).toContainText('gap');
  await row(page, 'inner_width').click();

  await valueVerb(page, 'gap', 'Rewrite…');
  const form = page.getByRole('dialog', { name: 'Rewrite formulas' });
  await form.getByLabel('Read instead').selectOption('bearing_clearance');
  await expect(form.getByRole('list', { name: 'Formulas that change' })).toContainText('weaving_width + 2 * bearing_clearance');
  await expectAccessible(page);
  await form.getByRole('button', { name: 'Rewrite' }).click();
  await expect(row(page, 'inner_width')).toContainText('400.8 mm');
  await page.getByRole('button', { name: 'Undo' }).click();

  await valueVerb(page, 'gap', 'Delete');
  await page.getByRole('dialog', { name: 'Delete gap' }).getByRole('button', { name: 'Replace it with its number in the formulas' }).click();
  await expect(row(page, 'gap')).toHaveCount(0);
  await expect(row(page, 'inner_width')).toContainText('424 mm');
  expect(problems).toEqual([]);
});

test('guards, goals, loose ends, and files, with the mouse', async ({ page, context }) => {
  const problems = watchConsole(page);
  await openMaster(page, 'By mouse: trust');
  await page.getByRole('button', { name: 'Add a guard' }).click();
  await page.keyboard.type('side_gap >= 14 mm');
  await page.getByLabel('Words for when it does not hold').click();
  await page.keyboard.type('The heddles rub.');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  const guard = page.getByRole('button', { name: 'broken side_gap >= 14 mm The heddles rub.' });
  await expect(guard).toBeVisible();
  await guard.click();
  await page.getByLabel('Severity').selectOption('warning');
  await page.getByRole('button', { name: 'Delete', exact: true }).click();
  await expect(page.locator('footer')).toContainText('guards 0 broken');

  await page.getByRole('button', { name: 'Add a goal' }).click();
  await page.keyboard.type('inner_width');
  await page.getByRole('textbox', { name: 'Wanted' }).click();
  await page.keyboard.type('500 mm');
  for (const name of ['weaving_width', 'side_gap']) {
    await page.getByRole('button', { name: 'Add a value…' }).click();
    await page.getByRole('menuitem', { name, exact: true }).click();
  }
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.locator('footer')).toContainText('1 goal not met');
  await page.getByRole('button', { name: 'Reach goals…' }).click();
  await page.getByRole('button', { name: 'Find', exact: true }).click();
  await expect(page.getByText(/^Found in \d+ trials\.$/)).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Use these values' }).click();
  await expect(page.getByRole('button', { name: /^met inner_width = 500 mm/ })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(row(page, 'weaving_width')).toContainText('400 mm');

  await page.getByRole('button', { name: 'Add a value' }).click();
  await page.keyboard.type('spare = 33 mm');
  await soft(page, 'accept');
  await page.getByRole('button', { name: /^loose ends/ }).click();
  const panel = page.getByRole('complementary', { name: 'Loose ends' });
  const unused = panel.getByRole('listitem').filter({ hasText: 'spare is read by nothing.' });
  await unused.getByRole('button', { name: 'Delete' }).click();
  await expect(unused).toHaveCount(0);
  await expect(row(page, 'spare')).toHaveCount(0);
  await panel.getByRole('button', { name: 'Close' }).click();

  await page.getByRole('button', { name: 'Files' }).click();
  const [book] = await Promise.all([page.waitForEvent('download'), page.getByRole('menuitem', { name: 'XLSX of the ledger' }).click()]);
  const bytes = readFileSync(await book.path());
  expect(bytes.subarray(0, 2).toString()).toBe('PK');
  await page.getByRole('button', { name: 'Files' }).click();
  await page.getByRole('menuitem', { name: 'Values from a spreadsheet' }).click();
  await page.getByLabel('CSV or XLSX file').setInputFiles({ name: 'values.xlsx', mimeType: 'application/octet-stream', buffer: bytes });
  await expect(page.getByText('0 changes, 0 to repair')).toBeVisible();
  await page.getByRole('button', { name: 'Cancel' }).click();

  await page.getByRole('button', { name: 'Files' }).click();
  const opened = context.waitForEvent('page');
  await page.getByRole('menuitem', { name: 'Report to print, or as PDF' }).click();
  await expect((await opened).getByRole('heading', { level: 1, name: 'Loom sizes' })).toBeVisible();
  expect(problems).toEqual([]);
});

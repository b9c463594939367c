/** The ledger: found, marked, pasted, filled, handed to spreadsheets and back; loose ends found and tied. */
import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { expect, expectAccessible, expectRegenerated, importDemo, openIn, row, setFormula, test, watchConsole } from './support';

async function paste(page: Page, text: string): Promise<void> {
  await page.evaluate((plain) => {
    const data = new DataTransfer();
    data.setData('text/plain', plain);
    document.activeElement?.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
  }, text);
}

test('values are found, sorted, marked, filled down, pasted from a spreadsheet and taken back, by keys', async ({ page }) => {
  const problems = watchConsole(page);
  await openIn(page, await importDemo(page, 'Ledger'), 'Loom sizes');
  await expect(row(page, 'weaving_width')).toBeVisible();

  await test.step('searched and filtered to a flat list', async () => {
    await page.getByRole('searchbox', { name: 'Search values' }).fill('gap');
    await expect(page.getByText('2 values', { exact: true })).toBeVisible();
    await expect(row(page, 'side_gap')).toBeVisible();
    await page.getByRole('searchbox', { name: 'Search values' }).press('Escape');
    await page.getByLabel('Which values').selectOption('formulas');
    await expect(row(page, 'frame_depth')).toBeVisible();
    await expect(row(page, 'frame_stock')).toHaveCount(0);
    await expectAccessible(page);
    await page.getByRole('button', { name: 'All', exact: true }).click();
  });

  await test.step('rows of a spreadsheet are previewed, then taken over as one edit', async () => {
    await row(page, 'side_gap').focus();
    await paste(page, 'name\tformula\tnote\nside_gap\t14 mm\ttighter\nshawl_gap\tside_gap * 2\t');
    const dialog = page.getByRole('dialog', { name: 'Values from a spreadsheet' });
    await expect(dialog.getByRole('row', { name: /side_gap formula 12 mm 14 mm/ })).toBeVisible();
    await expect(dialog.getByRole('row', { name: /shawl_gap new/ })).toBeVisible();
    await expectAccessible(page);
    await dialog.getByRole('button', { name: 'Take over' }).click();
    await expect(row(page, 'shawl_gap')).toContainText('28 mm');
    await expect(row(page, 'inner_width')).toContainText('428 mm');
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(row(page, 'shawl_gap')).toHaveCount(0);
    await expect(row(page, 'side_gap')).toContainText('12 mm');
    await page.getByRole('button', { name: 'Redo' }).click();
  });

  await test.step('a wrong cell is told by its place, and nothing is taken', async () => {
    await row(page, 'side_gap').focus();
    await paste(page, 'side_gap\t14 kg\nbeam_dia\t50 mm');
    const dialog = page.getByRole('dialog', { name: 'Values from a spreadsheet' });
    await expect(dialog.getByRole('row', { name: /row 1 formula/ })).toBeVisible();
    await expect(dialog.getByRole('button', { name: 'Take over' })).toBeDisabled();
    await dialog.getByRole('button', { name: 'Cancel' }).click();
    await expect(row(page, 'beam_dia')).toContainText('45 mm');
  });

  await test.step('marked with Shift and the arrows, filled down, moved', async () => {
    await row(page, 'frame_height').focus();
    await page.keyboard.press('Alt+ArrowUp');
    const names = page.locator('[role="row"][data-row] [role="cell"]:nth-child(2)');
    await expect.poll(async () => (await names.allInnerTexts()).slice(0, 3)).toEqual(['weaving_width', 'frame_height', 'frame_stock']);
    await row(page, 'side_gap').focus();
    await page.keyboard.press('Shift+ArrowDown');
    await page.keyboard.press('Control+d');
    await expect(row(page, 'inner_width')).toContainText('14 mm');
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(row(page, 'inner_width')).toContainText('428 mm');
  });

  await test.step('CSV and XLSX go out; the CSV comes back with nothing to change', async () => {
    await page.getByRole('button', { name: 'Files' }).click();
    const [csv] = await Promise.all([page.waitForEvent('download'), page.getByRole('menuitem', { name: 'CSV of the ledger' }).click()]);
    const text = readFileSync(await csv.path(), 'utf8');
    expect(text).toContain('inner_width,weaving_width + 2 * side_gap,428 mm');
    await page.getByRole('button', { name: 'Files' }).click();
    const [book] = await Promise.all([page.waitForEvent('download'), page.getByRole('menuitem', { name: 'XLSX of the ledger' }).click()]);
    expect(book.suggestedFilename()).toBe('Loom sizes values.xlsx');
    await page.getByRole('button', { name: 'Files' }).click();
    await page.getByRole('menuitem', { name: 'Values from a spreadsheet' }).click();
    await page
      .getByLabel('CSV or XLSX file')
      .setInputFiles({ name: 'back.csv', mimeType: 'text/csv', buffer: Buffer.from(text.replace('14 mm,14 mm', '16 mm,14 mm')) });
    await expect(page.getByRole('row', { name: /side_gap formula 14 mm 16 mm/ })).toBeVisible();
    await expect(page.getByText('1 change, 0 to repair')).toBeVisible();
    await page.getByRole('button', { name: 'Take over' }).click();
    await expect(row(page, 'side_gap')).toContainText('16 mm');
  });
  expect(problems).toEqual([]);
});

test('the loose ends of the first draft are found and repaired', async ({ page }) => {
  const problems = watchConsole(page);
  await page.goto('/');
  await page.getByRole('link', { name: /Loom, first draft/ }).click();
  await expect(page.getByRole('row', { name: /Cross rail/ })).toContainText('1 behind');
  await page.getByRole('link', { name: 'Cross rail', exact: true }).click();
  await expectRegenerated(page);

  await test.step('the rail that was typed as a number is tied to the value that it equals', async () => {
    await page.getByRole('button', { name: /^loose ends/ }).click();
    const panel = page.getByRole('complementary', { name: 'Loose ends' });
    await expect(panel.getByText('bar_length = 424 mm is equal to inner_width, and not tied to it.')).toBeVisible();
    await expectAccessible(page);
    await panel.getByRole('button', { name: 'Tie to inner_width' }).click();
    await expect(row(page, 'bar_length')).toContainText('inner_width');
    await expect(panel.getByText(/^bar_length/)).toHaveCount(0);
  });

  await test.step('a number that stayed behind is found by what it was', async () => {
    await setFormula(page, 'end_hole', '8.4 mm');
    await page.getByRole('button', { name: 'Add a value' }).click();
    const box = page.getByRole('textbox', { name: 'New value: name = formula' });
    await box.fill('screw_hole = 8.4 mm');
    await box.press('Enter');
    await setFormula(page, 'screw_hole', '9 mm');
    const panel = page.getByRole('complementary', { name: 'Loose ends' });
    await expect(panel.getByText('end_hole = 8.4 mm was equal to screw_hole and stayed behind when that changed.')).toBeVisible();
  });

  await test.step('in the master: an unused value and two names that differ in a capital; one is left, with the reason', async () => {
    await openMaster(page);
    await page.getByRole('button', { name: /^loose ends/ }).click();
    const panel = page.getByRole('complementary', { name: 'Loose ends' });
    await expect(panel.getByText('Frame_stock and frame_stock differ only in capitals or underscores.')).toBeVisible();
    const unused = panel.getByRole('listitem').filter({ hasText: 'spare_gap is read by nothing.' });
    await unused.getByRole('button', { name: 'Dismiss…' }).click();
    await page.getByLabel('Why it may stay').fill('kept for the second loom');
    await page.getByLabel('Why it may stay').press('Enter');
    await expect(unused).toHaveCount(0);
    await panel.getByText('1 dismissed').click();
    await expect(panel.getByText('spare_gap: kept for the second loom')).toBeVisible();
  });
  expect(problems).toEqual([]);
});

async function openMaster(page: Page): Promise<void> {
  await page.getByRole('link', { name: 'Loom, first draft' }).click();
  await page.getByRole('link', { name: 'Loom sizes', exact: true }).click();
  await expect(row(page, 'weaving_width')).toBeVisible();
}

test('formulas are rewritten around a value, every one shown before', async ({ page }) => {
  const problems = watchConsole(page);
  await openIn(page, await importDemo(page, 'Rewriting'), 'Loom sizes');
  await row(page, 'inner_width').click();
  await page.getByRole('button', { name: 'Rewrite…' }).click();
  await page.getByRole('radio', { name: 'a part of it made a value' }).check();
  await page.getByLabel('Part', { exact: true }).selectOption('2 * side_gap');
  await page.getByLabel('Name of the new value').fill('both_gaps');
  await expect(page.getByText('weaving_width + both_gaps')).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Rewrite', exact: true }).click();
  await expect(row(page, 'both_gaps')).toContainText('24 mm');
  await expect(row(page, 'inner_width')).toContainText('weaving_width + both_gaps');

  await row(page, 'both_gaps').click();
  await page.getByRole('button', { name: 'Rewrite…' }).click();
  await page.getByRole('radio', { name: 'its formula in its place' }).check();
  await page.getByRole('button', { name: 'Rewrite', exact: true }).click();
  await expect(row(page, 'both_gaps')).toHaveCount(0);
  await expect(row(page, 'inner_width')).toContainText('weaving_width + (2 * side_gap)');
  expect(problems).toEqual([]);
});

test('the map shows what takes from what, and leads there', async ({ page }) => {
  const problems = watchConsole(page);
  await page.goto(await importDemo(page, 'Takers and sources'));
  await page.getByRole('button', { name: 'Map' }).click();
  const map = page.getByRole('region', { name: 'Map of the project' });
  await expect(map.getByRole('button', { name: /Side frame part, takes 6/ })).toBeVisible();
  await map.getByRole('button', { name: /^Reed/ }).click();
  await expectAccessible(page);
  await page.getByRole('link', { name: 'Reed', exact: true }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Reed' })).toBeVisible();
  expect(problems).toEqual([]);
});

test('a value has a tolerance, its class is looked up, and both stand in the report that is printed', async ({ page, context }) => {
  const problems = watchConsole(page);
  await openIn(page, await importDemo(page, 'Tolerances'), 'Loom sizes');
  await row(page, 'beam_dia').click();
  const panel = page.getByRole('complementary', { name: 'Selected value' });
  await panel.getByRole('textbox', { name: 'Tolerance' }).fill('q6');
  await page.keyboard.press('Enter');
  await expect(panel.getByRole('textbox', { name: 'Tolerance' })).toHaveJSProperty(
    'validationMessage',
    'A tolerance is written ±0.1, +0.2/-0.1, 44.9..45.1 or as a class such as H7.',
  );
  await panel.getByRole('textbox', { name: 'Tolerance' }).fill('h7');
  await page.keyboard.press('Enter');
  await expect(panel).toContainText('44.975 mm to 45 mm');
  await expect(row(page, 'beam_dia')).toContainText('h7');
  await row(page, 'side_gap').click();
  await panel.getByRole('textbox', { name: 'Tolerance' }).fill('+bearing_clearance/-0.1');
  await page.keyboard.press('Enter');
  await expect(panel).toContainText('11.9 mm to 12.4 mm');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Files' }).click();
  const opened = context.waitForEvent('page');
  await page.getByRole('menuitem', { name: 'Report to print, or as PDF' }).click();
  const report = await opened;
  await expect(report.getByRole('heading', { level: 1, name: 'Loom sizes' })).toBeVisible();
  await expect(report.getByRole('row', { name: /beam_dia 45 mm/ })).toContainText('h7 44.975 mm to 45 mm');
  await expect(report.getByText('Lookup table screws')).toBeVisible();
  await expectAccessible(report);
  const pdf = await report.pdf({ format: 'A4' });
  expect(pdf.subarray(0, 5).toString()).toBe('%PDF-');
  expect(problems).toEqual([]);
});

test('a rename is shown before it is made; the values of a body are found; rows are dragged into order', async ({ page }) => {
  const problems = watchConsole(page);
  const project = await importDemo(page, 'Names');
  await openIn(page, project, 'Loom sizes');
  await row(page, 'weaving_width').focus();
  await page.keyboard.press('Shift+F2');
  await page.keyboard.type('weave');
  await expect(page.getByText('inner_width = weave + 2 * side_gap')).toBeVisible();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('teeth');
  await expect(page.getByText('There is a value named teeth here already.')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(row(page, 'weaving_width')).toBeVisible();
  await row(page, 'frame_height').getByText('frame_height').dragTo(row(page, 'weaving_width').getByText('weaving_width'));
  await expect(page.getByRole('row').first()).toContainText('frame_height');
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('row').first()).toContainText('weaving_width');

  await row(page, 'weaving_width').click();
  await page.getByRole('button', { name: 'Trace…' }).click();
  await expect(page.getByRole('list', { name: 'Drives' })).toContainText('rail_length');
  await page.getByRole('list', { name: 'Drives' }).getByRole('link', { name: 'rail_length' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Cross rail' })).toBeVisible();
  await expect(row(page, 'rail_length')).toHaveAttribute('aria-selected', 'true');
  await page.getByRole('button', { name: /^Rail: / }).click();
  await page.getByRole('button', { name: 'Find the values that drive it' }).click();
  await expect(page.getByRole('button', { name: /^Rail/ }).filter({ hasText: 'show the values of all bodies' })).toBeVisible();
  await page.getByRole('button', { name: 'All', exact: true }).click();
  await page.getByLabel('Order of values').selectOption('by body');
  await expect(page.getByRole('grid').getByText('Rail', { exact: true })).toBeVisible();
  await expectAccessible(page);
  expect(problems).toEqual([]);
});

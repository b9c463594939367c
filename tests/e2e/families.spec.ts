/** Sizes, range runs and calc sheets as a designer uses them. */
import type { Page } from '@playwright/test';
import { expect, expectAccessible, expectRegenerated, importDemo, openIn, row, test } from './support';

const TYPING = { delay: 40 };

async function runThrough(page: Page, value: string): Promise<void> {
  await row(page, value).first().click();
  await page.keyboard.press('Shift+F10');
  await page.getByRole('menuitem', { name: 'Run through a range…' }).click();
}

test('a part gets sizes, is looked at and used in one, checked in all; a value is run through a range and found for a mass', async ({ page }) => {
  const project = await importDemo(page, 'Families: sizes', true);
  await openIn(page, project, 'Pawl');
  await expectRegenerated(page);

  await test.step('a row for each size, with formulas that are judged', async () => {
    await row(page, 'pawl_reach').click();
    const sizes = page.getByRole('region', { name: 'Sizes' });
    await sizes.getByRole('button', { name: 'Add a size' }).click();
    const name = sizes.getByRole('textbox', { name: 'Name of the size Size 1' });
    await name.click();
    await page.keyboard.press('Control+a');
    await page.keyboard.type('Long', TYPING);
    await page.keyboard.press('Enter');
    const cell = sizes.getByRole('textbox', { name: 'pawl_reach of Long' });
    await cell.click();
    await page.keyboard.press('Control+a');
    await page.keyboard.type('9 * heel_radius', TYPING);
    await page.keyboard.press('Enter');
    await expect(sizes).toContainText('90 mm');
    await expectAccessible(page);
    await sizes.getByRole('button', { name: 'Show Long' }).click();
    await expect(sizes).toContainText('Nothing is changed');
    await expect(row(page, 'pawl_reach').first()).toContainText('90 mm');
    await sizes.getByRole('button', { name: 'Back' }).first().click();
    await expect(row(page, 'pawl_reach').first()).toContainText('60 mm');
    await sizes.getByRole('button', { name: 'Use Long' }).click();
    await expect(row(page, 'pawl_reach').first()).toContainText('9 * heel_radius');
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(row(page, 'pawl_reach').first()).toContainText('60 mm');
  });

  await test.step('the table of sizes: pasted, checked, sorted, compared; what was found is kept, and said to be old', async () => {
    await page.context().grantPermissions(['clipboard-read', 'clipboard-write'], { origin: new URL(page.url()).origin });
    await page.evaluate(() => navigator.clipboard.writeText('size\tpawl_reach\nShort\t45 mm\nTiny\t1 mm'));
    await page.getByRole('button', { name: 'Table of sizes' }).click();
    const room = page.getByRole('dialog', { name: 'Sizes of Pawl' });
    await room.getByRole('button', { name: 'Files…' }).click();
    await page.getByRole('menuitem', { name: 'Paste a table…' }).click();
    const preview = page.getByRole('dialog', { name: 'Sizes from a spreadsheet' });
    await expect(preview).toContainText('4 changes');
    await expectAccessible(page);
    await preview.getByRole('button', { name: 'Take over' }).click();
    await room.getByRole('button', { name: 'Check all sizes' }).click();
    await expect(room.getByRole('row', { name: /Short/ })).toContainText(/0\.\d{3} kg.*good/, { timeout: 60_000 });
    await expect(room.getByRole('img', { name: 'Short' })).toBeVisible();
    await expect(room.getByRole('row', { name: /Tiny/ })).not.toContainText('not checked', { timeout: 60_000 });
    await room.getByRole('button', { name: 'mass' }).click();
    await expect(room.getByRole('columnheader', { name: 'mass' })).toHaveAttribute('aria-sort', 'ascending');
    await expectAccessible(page);
    await room.getByRole('combobox', { name: 'Which sizes are listed' }).selectOption('Without problems');
    await room.getByRole('checkbox', { name: 'Tick Long' }).check();
    await room.getByRole('checkbox', { name: 'Tick Short' }).check();
    await expect(room.getByRole('checkbox', { name: 'Tick Tiny' })).toBeHidden();
    await room.getByRole('button', { name: 'Compare', exact: true }).click();
    const beside = room.getByRole('region', { name: 'Long beside Short' });
    await expect(beside.getByRole('row', { name: /pawl_reach/ })).toContainText('90 mm45 mm');
    await expect(beside).toContainText(/removed \d+\.\d cm³/, { timeout: 60_000 });
    await room.getByRole('button', { name: 'Close the comparison' }).click();
    await room.getByRole('button', { name: 'Files…' }).click();
    await page.getByRole('menuitem', { name: 'Files of all sizes…' }).click();
    const files = page.getByRole('dialog', { name: 'Files of all sizes' });
    await files.getByRole('textbox', { name: 'Name of each file' }).fill('{size} {pawl_reach}');
    await expect(files.getByRole('list', { name: 'Files' })).toContainText('Short 45 mm.step');
    await expectAccessible(page);
    await files.getByRole('button', { name: 'Cancel' }).click();
    await room.getByRole('combobox', { name: 'Which sizes are listed' }).selectOption('All sizes');
    await room.getByRole('textbox', { name: 'pawl_reach of Short' }).fill('46 mm');
    await page.keyboard.press('Tab');
    await expect(room.getByRole('row', { name: /Short/ })).toContainText('changed since');
    await expect(room.getByRole('row', { name: /Long/ })).not.toContainText('changed since');
    await room.getByRole('button', { name: 'Close', exact: true }).click();
    await page.reload();
    await expectRegenerated(page);
    await page.keyboard.press('Control+k');
    await page.keyboard.type('Table of sizes');
    await page.keyboard.press('Enter');
    await expect(room.getByRole('row', { name: /Short/ })).toContainText('changed since');
    await expect(room.getByRole('row', { name: /Long/ })).toContainText(/kg.*good/);
    await room.getByRole('button', { name: 'Check 1 new or changed' }).click();
    await expect(room.getByRole('row', { name: /Short/ })).not.toContainText('changed since', { timeout: 60_000 });
    await room.getByRole('button', { name: 'Close', exact: true }).click();
  });

  await test.step('the mass over a range, and the reach that weighs 0.1 kg', async () => {
    await runThrough(page, 'pawl_reach');
    const dialog = page.getByRole('dialog', { name: 'Run pawl_reach through a range' });
    await dialog.getByRole('combobox', { name: 'Look at' }).selectOption({ label: 'mass' });
    await dialog.getByRole('button', { name: 'Run', exact: true }).click();
    await expect(dialog).toContainText('Nothing is wrong from 30 mm to 90 mm.', { timeout: 60_000 });
    await expect(dialog.getByRole('img', { name: 'mass over pawl_reach' })).toBeVisible();
    await dialog.getByRole('button', { name: 'Show the solids' }).click();
    await expect(dialog.getByRole('list', { name: 'Solids along the range' }).getByRole('button')).toHaveCount(7, { timeout: 60_000 });
    await dialog.getByRole('button', { name: 'Allow 30 mm to 90 mm only' }).click();
    await expect(dialog).toContainText('pawl_reach may be 30 mm to 90 mm from now on.');
    await expectAccessible(page);
    await dialog.getByRole('textbox', { name: 'What mass is to be' }).click();
    await page.keyboard.type('0.1 kg', TYPING);
    await page.keyboard.press('Enter');
    await expect(dialog).toContainText(/pawl_reach = 77\.\d+ mm: mass is 0\.1 kg/, { timeout: 60_000 });
    await dialog.getByRole('button', { name: 'Run at the server' }).click();
    await expect(dialog.getByRole('region', { name: 'Runs at the server' })).toContainText('At the server: 30 mm to 90 mm, 21 samples, done', {
      timeout: 60_000,
    });
    await dialog.getByRole('button', { name: 'Show the run from 30 mm to 90 mm' }).click();
    await expect(dialog).toContainText('Nothing is wrong from 30 mm to 90 mm.');
    await dialog.getByRole('button', { name: 'Delete the run from 30 mm to 90 mm' }).click();
    await expect(dialog.getByRole('region', { name: 'Runs at the server' })).toBeHidden();
    // Showing a run forgets what was found.
    await dialog.getByRole('button', { name: 'Find', exact: true }).click();
    await dialog.getByRole('button', { name: 'Use 78 mm' }).click();
    await expect(row(page, 'pawl_reach').first()).toContainText(/^78 mm/);
  });
});

test('a calc sheet is written, and what it comes to is read by an assembly that sets it', async ({ page }) => {
  const project = await importDemo(page, 'Families: calculation', true);
  await openIn(page, project, 'Warp tension');
  const sheet = page.getByRole('region', { name: 'Calculation' });
  await expect(sheet).toContainText('tooth_load=torque / (wheel_dia / 2)=4.56 N*m / (104 mm / 2)=87.692 N');
  await expect(sheet.getByRole('img', { name: 'Load on the tooth, for three kinds of thread' })).toBeVisible();
  await expectAccessible(page);
  await sheet.getByRole('button', { name: 'Add a text' }).click();
  await page.keyboard.type('## Checked by hand', TYPING);
  await page.keyboard.press('Control+Enter');
  await expect(sheet.getByRole('heading', { name: 'Checked by hand' })).toBeVisible();
  await row(page, 'thread_pull').click();
  await page.keyboard.type('1.2 N', TYPING);
  await page.keyboard.press('Enter');
  await expect(sheet).toContainText('does not hold');
  await page.getByRole('button', { name: 'Undo' }).click();

  await openIn(page, project, 'Loom');
  await expect(row(page, 'tooth_load')).toContainText('87.692 N');
  await row(page, 'loom_width').click();
  await page.keyboard.type('600 mm', TYPING);
  await page.keyboard.press('Enter');
  // Through the master that is set from here, and the calculation that takes from it.
  await expect(row(page, 'tooth_load')).toContainText('131.538 N');
});

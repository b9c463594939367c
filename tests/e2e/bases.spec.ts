/** A part that starts from another one, and a body with other values beside its original, as a designer makes them. Volumes by hand. */
import { expect, expectAccessible, expectRegenerated, importDemo, openIn, row, saveRevision, setFormula, test } from './support';

const TYPING = { delay: 40 };

/** A rail of 36 by 36 mm with a bore of 6.6 mm along it, in cubic centimetres. */
const rail = (length: number, side = 36, bore = 6.6): string => ((side * 36 - (Math.PI * bore ** 2) / 4) * (length / 1000)).toFixed(1);

test('a part starts from another with its own length, reads its mass, and follows it when it is saved', async ({ page }) => {
  const project = await importDemo(page, 'Bases: from a part');
  await page.goto(project);
  await page.getByRole('button', { name: 'New document' }).click();
  await page.keyboard.type('Long rail', TYPING);
  await page.keyboard.press('Enter');
  const footer = page.locator('footer');

  await test.step('the body is seen before it is built', async () => {
    await page.getByRole('button', { name: 'Start from a part' }).click();
    const panel = page.getByRole('form', { name: 'New body of another part' });
    await expect(panel).toContainText('Choose a part.');
    await expect(panel.getByRole('combobox', { name: 'Part' })).toBeFocused();
    await panel.getByRole('combobox', { name: 'Part' }).selectOption({ label: 'Cross rail' });
    await expect(panel.getByRole('textbox', { name: 'Name of the step' })).toHaveValue('Body of Cross rail');
    await expectAccessible(page);
    await panel.getByRole('button', { name: 'Build' }).click();
    await expectRegenerated(page);
    await expect(footer).toContainText(`${rail(460)} cm³`);
  });

  await test.step('a value of it is set from here, and its mass is read', async () => {
    const values = page.getByRole('region', { name: 'Values of the component' });
    await values.getByRole('button', { name: 'Set rail_length from here' }).click();
    await page.keyboard.type('500 mm', TYPING);
    await page.keyboard.press('Enter');
    await expect(footer).toContainText(`${rail(500)} cm³`);
    await expectAccessible(page);
    await page.getByRole('button', { name: 'Add a value' }).click();
    await page.keyboard.type('pair = 2 * cross_rail.mass', TYPING);
    await page.keyboard.press('Enter');
    await expect(row(page, 'pair')).toContainText(/\d kg/);
    await saveRevision(page);
  });

  await test.step('the other part is saved with a wider bore: this one is behind, and catches up with a preview', async () => {
    await openIn(page, project, 'Cross rail');
    await setFormula(page, 'end_hole', '10 mm');
    await expectRegenerated(page);
    await saveRevision(page);
    await openIn(page, project, 'Long rail');
    await expectRegenerated(page);
    await expect(footer).toContainText(`${rail(500)} cm³`);
    await page
      .getByRole('button', { name: /behind/ })
      .first()
      .click();
    const dialog = page.getByRole('dialog');
    await expect(dialog).toContainText('Long rail');
    await dialog.getByRole('button', { name: 'Catch up', exact: false }).last().click();
    await expect(footer).toContainText(`${rail(500, 36, 10)} cm³`, { timeout: 60_000 });
  });

  await test.step('the step goes with what it started from, and comes back', async () => {
    await page.getByRole('row', { name: /^Body of Cross rail/ }).click();
    await setFormula(page, 'pair', '1 kg');
    await page.getByRole('row', { name: /^Body of Cross rail/ }).click();
    await page.keyboard.press('Delete');
    await expect(page.getByRole('row', { name: /^cross_rail / })).toHaveCount(0);
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(page.getByRole('row', { name: /^cross_rail / })).toBeVisible();
  });
});

test('a body is copied with other values: one typed, one tied, the others as in the original', async ({ page }) => {
  await openIn(page, await importDemo(page, 'Bases: copies'), 'Cross rail');
  await expectRegenerated(page);
  const footer = page.locator('footer');
  await page.getByRole('button', { name: 'More for Rail bar' }).click();
  await page.getByRole('menuitem', { name: 'Copy the body with its steps…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Paste steps' });
  await dialog.getByRole('textbox', { name: 'Formula of bar_length_2' }).click();
  await page.keyboard.type('rail_length / 2', TYPING);
  await dialog.getByRole('checkbox', { name: 'Tie section_height_2 to section_height' }).check();
  await expectAccessible(page);
  await dialog.getByRole('button', { name: 'Put them in' }).click();
  await expectRegenerated(page);
  await expect(row(page, 'bar_length_2')).toContainText('230 mm');
  await expect(row(page, 'section_height_2')).toContainText('section_height');
  await expect(footer).toContainText(`${rail(460)} cm³`);
  await expect(footer).toContainText(`${rail(230)} cm³`);
});

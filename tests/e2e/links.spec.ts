import type { Page } from '@playwright/test';
import { expect, expectAccessible, importDemo, openIn, row, saveRevision, setFormula, test, valueVerb, watchConsole } from './support';

let project = '';

test.beforeEach(async ({ page }, info) => {
  project = await importDemo(page, `Loom for ${info.title.slice(0, 60)}`);
});

const open = (page: Page, name: string): Promise<void> => openIn(page, project, name);

test('values of another document are picked, offered on the way, given local names, and followed', async ({ page }) => {
  const problems = watchConsole(page);
  await open(page, 'Side frame');
  await page.getByRole('button', { name: 'Link values' }).click();
  const dialog = page.getByRole('dialog', { name: 'Link values' });
  await dialog.getByRole('button', { name: /Cross rail/ }).click();
  await dialog.getByRole('searchbox').fill('end_hole');
  await dialog.getByRole('checkbox', { name: 'Take end_hole', exact: true }).check();
  await dialog.getByRole('searchbox').fill('stock');
  await dialog.getByRole('checkbox', { name: 'Take frame_stock' }).check();
  await expect(dialog.getByRole('alert')).toContainText('There is a value named frame_stock here already.');
  await expect(dialog.getByRole('button', { name: 'Offer 1 and link 2' })).toBeDisabled();
  await dialog.getByRole('button', { name: 'Use rail_frame_stock' }).click();
  await expectAccessible(page);
  await dialog.getByRole('button', { name: 'Offer 1 and link 2' }).click();
  await expect(row(page, 'end_hole')).toContainText('Cross rail');
  await expect(row(page, 'rail_frame_stock')).toContainText('18 mm');
  await setFormula(page, 'bearing_inset', '10 * end_hole');
  await expect(row(page, 'bearing_inset')).toContainText('66 mm');
  await saveRevision(page);

  await open(page, 'Cross rail');
  await setFormula(page, 'end_hole', '7 mm');
  await saveRevision(page);
  await open(page, 'Side frame');
  await page.getByRole('button', { name: '1 behind: preview' }).click();
  await expect(page.getByRole('dialog').getByRole('row', { name: /end_hole 6.6 mm 7 mm/ })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('dialog').getByRole('button', { name: 'Catch up Side frame' }).click();
  await expect(row(page, 'bearing_inset')).toContainText('70 mm');
  expect(problems).toEqual([]);
});

test('a value that is read is deleted only with a word on what becomes of its readers', async ({ page }) => {
  await open(page, 'Side frame');
  await valueVerb(page, 'frame_stock', 'Unlink');
  const question = page.getByRole('dialog', { name: 'Stop taking frame_stock from Loom sizes' });
  await expect(question).toContainText('stock = frame_stock');
  await expectAccessible(page);
  await question.getByRole('button', { name: 'Delete nothing' }).click();
  await expect(row(page, 'frame_stock')).toContainText('Loom sizes');

  await valueVerb(page, 'frame_stock', 'Unlink');
  await question.getByRole('button', { name: 'Keep the values as user parameters' }).click();
  await expect(row(page, 'frame_stock')).not.toContainText('Loom sizes');
  await expect(row(page, 'rail_section')).toContainText('2 * frame_stock');

  await valueVerb(page, 'rail_section', 'Delete');
  await page.getByRole('button', { name: 'Replace it with its number in the formulas' }).click();
  await expect(row(page, 'mortise_depth')).toContainText('36 mm');
  await page.keyboard.press('Control+z');
  await expect(row(page, 'mortise_depth')).toContainText('rail_section');
});

test('revisions are listed with what they changed, compared, named, and restored', async ({ page }) => {
  await open(page, 'Loom sizes');
  await setFormula(page, 'weaving_width', '480 mm');
  await saveRevision(page);
  await setFormula(page, 'side_gap', '14 mm');
  await page.getByRole('button', { name: 'History' }).click();
  const dialog = page.getByRole('dialog', { name: 'History of Loom sizes' });
  const second = dialog.getByRole('listitem').filter({ hasText: 'Revision 2' });
  await expect(second).toContainText('weaving_width 400 mm → 480 mm');
  // What the newest one changed is there at once.
  await expect(dialog.getByRole('row', { name: /weaving_width 400 mm 480 mm/ })).toBeVisible();
  await second.getByRole('button', { name: 'Name it' }).click();
  await page.getByRole('textbox', { name: 'Name of revision 2' }).fill('For the wide loom');
  await page.keyboard.press('Enter');
  await expect(second).toContainText('For the wide loom');
  await second.getByRole('button', { name: 'Compare with now' }).click();
  await expect(dialog.getByRole('row', { name: /side_gap 12 mm 14 mm/ })).toBeVisible();
  await expectAccessible(page);
  await dialog.getByRole('listitem').filter({ hasText: 'Revision 1' }).getByRole('button', { name: 'Restore' }).click();
  await expect(dialog.getByText('Revision 1 is restored, as a new revision.')).toBeVisible();
  await dialog.getByRole('button', { name: 'Close' }).click();
  await expect(row(page, 'weaving_width')).toContainText('400 mm');
  await expect(page.getByText('revision 3')).toBeVisible();
});

test('guards and lookup tables are made, read, and mended on screen', async ({ page }) => {
  const problems = watchConsole(page);
  await open(page, 'Loom sizes');
  const guards = page.getByRole('region', { name: 'Guards' });
  await guards.getByRole('button', { name: 'Add a guard' }).click();
  await page.getByRole('textbox', { name: 'Words for when it does not hold' }).fill('The teeth would be too small.');
  await page.getByRole('textbox', { name: 'Condition that must hold' }).fill('teeth <= 20');
  await page.keyboard.press('Enter');
  await expect(guards.getByRole('button', { name: /broken teeth <= 20 The teeth would be too small/ })).toBeVisible();
  await expect(page.locator('footer')).toContainText('guards 1 broken');
  await setFormula(page, 'teeth', '18');
  await expect(page.locator('footer')).toContainText('guards 0 broken');

  const tables = page.getByRole('region', { name: 'Lookup tables' });
  await tables.getByRole('button', { name: 'Add a lookup table' }).click();
  await tables.getByRole('textbox', { name: 'sizes, row 1, width' }).fill('25 mm');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Add a value' }).click();
  await page.keyboard.type('small_width = lookup(sizes, "small", "width")');
  await page.keyboard.press('Enter');
  await expect(row(page, 'small_width')).toContainText('25 mm');
  await tables.getByRole('textbox', { name: 'sizes, row 1, width' }).fill('25 deg');
  await page.keyboard.press('Enter');
  await expect(row(page, 'small_width')).toContainText('25 mm');
  await tables.getByRole('button', { name: 'Delete the table' }).nth(1).click();
  await expect(page.getByText('sizes is still read by 1 formula; change those first.')).toBeVisible();
  await expectAccessible(page);
  expect(problems).toEqual([]);
});

test('threads lead to what is out of sight', async ({ page }) => {
  await page.setViewportSize({ width: 1280, height: 560 });
  await open(page, 'Side frame');
  await row(page, 'rail_section').click();
  // The panel of the value takes room from the rows: what is out of sight is told once it stands.
  await expect(page.getByRole('textbox', { name: 'Note', exact: true })).toBeVisible();
  const count = page.getByRole('button', { name: /driven below/ });
  await expect(count).toBeVisible();
  await count.click();
  await expect(row(page, 'mortise_depth')).toBeInViewport();
  await expect(row(page, 'mortise_depth')).toHaveAttribute('aria-selected', 'true');
  await row(page, 'bearing_rise').scrollIntoViewIfNeeded();
  await page.locator('[data-row]').last().scrollIntoViewIfNeeded();
  await expect(page.getByRole('button', { name: '1 read above' })).toBeVisible();
});

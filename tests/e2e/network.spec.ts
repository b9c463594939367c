/** The network of documents: one edit, and every document follows. */
import type { Page } from '@playwright/test';
import { expect, expectAccessible, expectRegenerated, importDemo, openIn, row, saveRevision, setFormula, test, valueVerb, watchConsole } from './support';

let project = '';

test.beforeEach(async ({ page }, info) => {
  project = await importDemo(page, `Loom for ${info.title.slice(0, 60)}`);
});

const open = (page: Page, name: string): Promise<void> => openIn(page, project, name);

test('in one minute: the width is changed, previewed over all documents, caught up, and the parts are regenerated', async ({ page }) => {
  const problems = watchConsole(page);
  await open(page, 'Loom sizes');
  await setFormula(page, 'weaving_width', '480 mm');
  await page.getByRole('button', { name: 'Save revision' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'Behind now' })).toContainText('Warp beam (2)');

  await page.goto(project);
  await page.getByRole('button', { name: 'Catch up 4 documents' }).click();
  const preview = page.getByRole('dialog');
  const list = preview.getByRole('list', { name: 'Documents' });
  await expect(list.getByRole('listitem')).toHaveCount(4);
  await list.getByRole('button', { name: /Cross rail/ }).click();
  await expect(preview.getByRole('row', { name: 'inner_width 424 mm 504 mm' })).toBeVisible();
  await expect(preview.getByText('added 100.9 cm³')).toBeVisible({ timeout: 60_000 });
  await preview.getByRole('combobox', { name: 'Show' }).selectOption('split by a slider');
  await preview.getByRole('slider', { name: 'Where now ends and then begins' }).press('ArrowRight');
  await expectAccessible(page);
  await preview.getByRole('button', { name: 'Catch up 4 documents' }).click();
  await expect(preview).toBeHidden();
  await expect(page.getByText('behind')).toHaveCount(0);

  await page.getByRole('link', { name: 'Cross rail', exact: true }).click();
  await expectRegenerated(page);
  await expect(page.locator('footer')).toContainText('681.4 cm³');
  await expect(row(page, 'rail_length')).toContainText('540 mm');
  expect(problems).toEqual([]);
});

test('documents are left behind with a reason, with what takes from them; a change set is listed and undone as a whole', async ({ page }) => {
  const problems = watchConsole(page);
  await open(page, 'Cross rail');
  await setFormula(page, 'end_hole', '7 mm');
  await open(page, 'Loom sizes');
  await setFormula(page, 'weaving_width', '480 mm');
  await saveRevision(page);
  await page.goto(project);
  await page.getByRole('button', { name: 'Catch up 4 documents' }).click();
  const preview = page.getByRole('dialog');
  // Somebody is at work there: not published for them.
  await expect(preview.getByRole('checkbox', { name: 'Bring Cross rail up to date' })).not.toBeChecked();
  await expect(preview.getByRole('textbox', { name: 'Why Cross rail is skipped' })).toHaveValue('It has 1 edit since its last revision.');
  await preview.getByRole('checkbox', { name: 'Bring Reed up to date' }).uncheck();
  await preview.getByRole('textbox', { name: 'Why Reed is skipped' }).fill('The reed is ordered already.');
  await preview.getByRole('textbox', { name: 'Why Reed is skipped' }).press('Tab');
  await preview.getByRole('button', { name: 'Catch up 2 documents' }).click();
  await expect(preview).toBeHidden();

  await page.getByRole('button', { name: 'Change sets' }).click();
  const sets = page.getByRole('region', { name: 'Change sets' });
  await expect(sets).toContainText('Reed was skipped: The reed is ordered already.');
  await sets.getByRole('button', { name: 'What it changed' }).click();
  await expect(sets).toContainText('frame_depth 360 mm → 432 mm');
  await expectAccessible(page);
  await sets.getByRole('button', { name: 'Undo it as a whole' }).click();
  await expect(sets.getByRole('status')).toHaveText(/Undone in 2 documents, as a new change set\. Behind now: 4\./);
  await expect(sets.getByRole('listitem').filter({ hasText: 'Undone: Caught up' })).toBeVisible();
  await open(page, 'Side frame');
  await expect(row(page, 'frame_depth')).toContainText('360 mm');
  expect(problems).toEqual([]);
});

test('a link that follows is up to date when its source is saved, and an open page hears of it', async ({ page, context }) => {
  const problems = watchConsole(page);
  await open(page, 'Cross rail');
  await row(page, 'inner_width').click();
  await page.getByRole('combobox', { name: 'When it changes there' }).selectOption('follow: take it at once');
  await saveRevision(page);
  const other = await context.newPage();
  await open(other, 'Loom sizes');
  await setFormula(other, 'weaving_width', '440 mm');
  await other.getByRole('button', { name: 'Save revision' }).click();
  await expect(other.getByRole('status').filter({ hasText: 'Followed at once: Cross rail' })).toBeVisible({ timeout: 60_000 });
  // The page beside it, without being touched.
  await expect(row(page, 'inner_width')).toContainText('464 mm');
  await expect(row(page, 'rail_length')).toContainText('500 mm');
  expect(problems).toEqual([]);
});

test('everybody who has an affected document open is told, with what changed', async ({ page, context }) => {
  await open(page, 'Reed');
  const other = await context.newPage();
  await open(other, 'Loom sizes');
  await setFormula(other, 'weaving_width', '500 mm');
  await saveRevision(other);
  await expect(page.getByText(/At its source \w+ is .* now/)).toBeVisible();
  await expect(page.getByRole('button', { name: '2 behind: preview' })).toBeVisible();
  // The pawl takes nothing that changed.
  await open(other, 'Pawl');
  await expect(other.getByRole('button', { name: /behind: preview/ })).toHaveCount(0);
});

test('the map tells what one value reaches, and catches up from there', async ({ page }) => {
  const problems = watchConsole(page);
  await open(page, 'Loom sizes');
  await setFormula(page, 'weaving_width', '460 mm');
  await saveRevision(page);
  await page.goto(project);
  await page.getByRole('button', { name: 'Map', exact: true }).click();
  await page.getByRole('combobox', { name: 'Document' }).selectOption('Loom sizes');
  const beam = await page.getByRole('option', { name: /^beam_dia = 45 mm/, includeHidden: true }).getAttribute('value');
  await page.getByRole('combobox', { name: 'Value' }).selectOption(beam);
  const reached = page.getByRole('list', { name: 'What it reaches' });
  await expect(reached).toContainText('Warp beam');
  await expect(reached).not.toContainText('Reed');
  await expectAccessible(page);
  await page.getByRole('combobox', { name: 'Document' }).selectOption('Reed');
  await page.getByRole('button', { name: 'Catch up this one' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Catch up Reed' }).click();
  await expect(page.getByRole('dialog')).toBeHidden();
  await page.getByRole('combobox', { name: 'Document' }).selectOption('Loom sizes');
  await page.getByRole('button', { name: 'Catch up this and all that take from it' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Catch up 3 documents' }).click();
  await expect(page.getByRole('dialog')).toBeHidden();
  await expect(page.getByText('behind', { exact: false }).filter({ hasText: /^\d+ behind/ })).toHaveCount(0);
  expect(problems).toEqual([]);
});

test('a value of another document is picked while a formula is typed, and the link is made', async ({ page }) => {
  const problems = watchConsole(page);
  await open(page, 'Pawl');
  await page.waitForLoadState('networkidle');
  await page.getByRole('button', { name: 'Add a value' }).click();
  await page.keyboard.type('reach = 2 * side_g');
  const choice = page.getByRole('option', { name: /side_gap.*links Loom sizes/ });
  await expect(choice).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByText('side_gap is linked from Loom sizes.')).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(row(page, 'reach')).toContainText('24 mm');
  await expect(row(page, 'side_gap')).toContainText('Loom sizes');
  expect(problems).toEqual([]);
});

test('values are handed over from their source; what is taken elsewhere is not deleted unseen', async ({ page }) => {
  const problems = watchConsole(page);
  await open(page, 'Loom sizes');
  await valueVerb(page, 'dents', 'Hand over…');
  const dialog = page.getByRole('dialog', { name: 'Hand over dents' });
  await dialog.getByRole('checkbox', { name: /Cross rail/ }).check();
  await dialog.getByRole('textbox', { name: 'Name of dents in Cross rail' }).fill('end_hole');
  await dialog.getByRole('button', { name: 'Link in 1 document' }).click();
  await expect(dialog.getByText('There is a value named end_hole here already.')).toBeVisible();
  await dialog.getByRole('button', { name: 'Use end_hole_2' }).click();
  await expectAccessible(page);
  await dialog.getByRole('button', { name: 'Link in 1 document' }).click();
  await expect(dialog).toBeHidden();
  await expect(row(page, 'dents')).toContainText('Cross rail');

  await valueVerb(page, 'dents', 'Delete');
  await expect(page.getByRole('dialog')).toContainText('dents: taken by');
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(row(page, 'dents')).toBeVisible();
  await open(page, 'Cross rail');
  await expect(row(page, 'end_hole_2')).toContainText('160');
  expect(problems).toEqual([]);
});

test('a link is pointed at another document, matched by name; lookup tables are linked', async ({ page }) => {
  const problems = watchConsole(page);
  await open(page, 'Side frame');
  await row(page, 'frame_stock').click();
  await page.getByRole('button', { name: 'The link…' }).click();
  await page.getByRole('menuitem', { name: 'Take from another document' }).click();
  const dialog = page.getByRole('dialog', { name: 'Take the values of Loom sizes from another document' });
  await dialog.getByRole('button', { name: /Cross rail/ }).click();
  await expect(dialog.getByRole('combobox', { name: 'Value for frame_stock' })).toHaveValue(/./);
  await expect(dialog).toContainText('have no value of the same name there');
  await expectAccessible(page);
  await dialog.getByRole('button', { name: /^Take \d of \d from there/ }).click();
  await expect(row(page, 'frame_stock')).toContainText('Cross rail');
  await expect(row(page, 'frame_depth')).toContainText('Loom sizes');
  await page.keyboard.press('Control+z');
  await expect(row(page, 'frame_stock')).toContainText('Loom sizes');

  await page.getByRole('button', { name: 'Link values' }).click();
  await page.getByRole('dialog', { name: 'Link values' }).getByRole('checkbox', { name: 'Take screws' }).check();
  await page.getByRole('button', { name: /^Link \d values/ }).click();
  await expect(row(page, 'screws')).toContainText('Loom sizes');
  await page.getByRole('button', { name: 'Add a value' }).click();
  await page.keyboard.type('m8 = lookup(screws, "M8", "clearance")');
  await page.keyboard.press('Enter');
  await expect(row(page, 'm8')).toContainText('9 mm');
  expect(problems).toEqual([]);
});

test('by keys alone: a value is changed and saved, its takers are looked at, one is left, the rest caught up, and all of it undone', async ({ page }) => {
  const problems = watchConsole(page);
  await open(page, 'Loom sizes');
  await row(page, 'frame_stock').focus();
  await page.keyboard.press('F2');
  await page.keyboard.type('21 mm');
  await page.keyboard.press('Enter');
  await expect(row(page, 'frame_stock')).toContainText('21 mm');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('save revision');
  await page.keyboard.press('Enter');
  await expect(page.getByText('revision 2')).toBeVisible();

  await page.goto(project);
  await page.getByRole('button', { name: /^Catch up 5 documents/ }).focus();
  await page.keyboard.press('Enter');
  const preview = page.getByRole('dialog');
  await expect(preview.getByRole('checkbox', { name: 'Bring Pawl up to date' })).toBeVisible();
  await tabTo(page, 'Bring Pawl up to date');
  await page.keyboard.press('Space');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Tab');
  await expect(page.getByRole('textbox', { name: 'Why Pawl is skipped' })).toBeFocused();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('The pawls are cut.');
  await page.keyboard.press('Shift+Tab');
  await preview.getByRole('button', { name: 'Catch up 4 documents' }).focus();
  await page.keyboard.press('Enter');
  await expect(preview).toBeHidden();

  await page.getByRole('button', { name: 'Change sets' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText('Pawl was skipped: The pawls are cut.')).toBeVisible();
  await page.getByRole('button', { name: 'Undo it as a whole' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText(/Undone in 4 documents/)).toBeVisible();
  expect(problems).toEqual([]);
});

/** Presses Tab until what has that label has the focus. */
async function tabTo(page: Page, label: string): Promise<void> {
  for (let i = 0; i < 60; i++) {
    await page.keyboard.press('Tab');
    if ((await page.evaluate(() => document.activeElement?.getAttribute('aria-label'))) === label) return;
  }
  throw new Error(`${label} is not reached by Tab`);
}

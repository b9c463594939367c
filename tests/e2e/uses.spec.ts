/** A part calculates with a calc sheet: its inputs come from the part, its result drives a dimension, in one regeneration. */
import { expect, expectAccessible, expectRegenerated, importDemo, openIn, row, saveRevision, test, watchConsole } from './support';

const TYPING = { delay: 40 };

test('a part sets inputs of a calc sheet, reads its result, builds with it, and is told when the calc sheet was saved anew', async ({ page }) => {
  const problems = watchConsole(page);
  const project = await importDemo(page, 'Uses of calc sheets', true);
  await openIn(page, project, 'Pawl');
  await expectRegenerated(page);
  const use = page.getByRole('complementary', { name: 'Calculation' });

  await test.step('it is chosen, and its inputs are set', async () => {
    await page.getByRole('button', { name: 'Use a calc sheet' }).click();
    const dialog = page.getByRole('dialog', { name: 'Use a calc sheet' });
    await dialog.getByText('Warp tension').click();
    await dialog.getByRole('button', { name: 'Use the calc sheet' }).click();
    await expect(use).toContainText('Results, read as warp_tension.');
    await expectAccessible(page);
    await use.getByRole('button', { name: 'Set wheel_dia from here' }).click();
    await page.keyboard.type('2 * frame_stock', TYPING);
    await page.keyboard.press('Enter');
    await expect(row(page, 'wheel_dia')).toContainText('36 mm');
    // 4.56 N m on an arm of 18 mm.
    await expect(use).toContainText('253.333 N');
  });

  await test.step('its result is read, and a step is built with it', async () => {
    await use.getByRole('button', { name: 'Read warp_tension.least_width here' }).click();
    await page.keyboard.press('Enter');
    await expect(row(page, 'least_width')).toContainText('9.12 mm');
    await page.keyboard.press('Escape');
    await row(page, 'pawl_stock').click();
    await page.keyboard.press('F2');
    await page.keyboard.press('Control+a');
    await page.keyboard.type('2 * warp_tension.least_width', TYPING);
    await page.keyboard.press('Enter');
    await expect(row(page, 'pawl_stock')).toContainText('18.24 mm');
    await expectRegenerated(page);
  });

  await test.step('the calc sheet is saved with another formula: the part is behind, and catches up', async () => {
    await saveRevision(page);
    await openIn(page, project, 'Warp tension');
    await row(page, 'tooth_strength').dblclick();
    await page.keyboard.press('Control+a');
    await page.keyboard.type('125 N', TYPING);
    await page.keyboard.press('Enter');
    await saveRevision(page);
    await openIn(page, project, 'Pawl');
    await expect(row(page, 'least_width')).toContainText('9.12 mm');
    await page.getByRole('button', { name: /behind/ }).click();
    const preview = page.getByRole('dialog');
    await expect(preview).toContainText('revision 2');
    await expect(preview).toContainText('36.48 mm');
    await preview.getByRole('button', { name: /^Catch up/ }).click();
    await expect(row(page, 'least_width')).toContainText('18.24 mm');
    await expectRegenerated(page);
  });
  expect(problems).toEqual([]);
});

test('a calculation from the shelf is used straight from a part; a project and its part are renamed by a press', async ({ page }) => {
  const problems = watchConsole(page);
  const project = await importDemo(page, 'Shelf and names');
  await page.goto(project);

  await test.step('tables are taken into the project', async () => {
    await page.getByRole('button', { name: 'From the shelf' }).click();
    const shelf = page.getByRole('dialog', { name: 'From the shelf' });
    await shelf.getByRole('textbox', { name: 'Search' }).click();
    await page.keyboard.type('thread', TYPING);
    await shelf.getByText('Threads and holes').click();
    await expectAccessible(page);
    await shelf.getByRole('button', { name: 'Take the document' }).click();
    await expect(page.getByRole('link', { name: 'Threads and holes', exact: true })).toBeVisible();
  });

  await test.step('the project has another name', async () => {
    await page.getByRole('heading', { level: 1 }).getByRole('button').click();
    await page.keyboard.type('Loom and lathe', TYPING);
    await page.keyboard.press('Enter');
    await expect(page.getByRole('heading', { level: 1, name: 'Loom and lathe', exact: true })).toBeVisible();
  });

  await test.step('a spring is calculated in a part', async () => {
    await openIn(page, project, 'Pawl');
    await page.getByRole('button', { name: 'Use a calc sheet' }).click();
    const dialog = page.getByRole('dialog', { name: 'Use a calc sheet' });
    await dialog.getByText('Compression spring').click();
    await dialog.getByRole('button', { name: 'Use the calc sheet' }).click();
    const use = page.getByRole('complementary', { name: 'Calculation' });
    // 79.3 GPa on 2 mm of wire in 8 coils of 16 mm: 4.84 N/mm.
    await expect(use).toContainText('4.84 N/mm');
    await page.getByRole('heading', { level: 1 }).getByRole('button').click();
    await page.keyboard.type('Sprung pawl', TYPING);
    await page.keyboard.press('Enter');
    await expect(page.getByRole('heading', { level: 1, name: 'Sprung pawl', exact: true })).toBeVisible();
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(page.getByRole('heading', { level: 1, name: 'Pawl', exact: true })).toBeVisible();
  });
  expect(problems).toEqual([]);
});

test('a part is copied with another value, and opens at once; what is wrong is told in the dialog', async ({ page }) => {
  const problems = watchConsole(page);
  const project = await importDemo(page, 'Copies of documents');
  await page.goto(project);
  await page.getByRole('button', { name: 'Copy Warp beam' }).click();
  const dialog = page.getByRole('dialog', { name: 'Copy Warp beam' });
  await expect(dialog.getByRole('textbox', { name: 'Name' })).toHaveValue('Warp beam 2');
  await expectAccessible(page);
  const pitch = dialog.getByRole('textbox', { name: 'tie_pitch' });
  await pitch.click();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('40 furlongs of it', TYPING);
  await dialog.getByRole('button', { name: 'Copy', exact: true }).click();
  await expect(dialog.getByRole('alert')).toContainText('tie_pitch');
  await pitch.click();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('40 mm', TYPING);
  await dialog.getByRole('button', { name: 'Copy', exact: true }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Warp beam 2', exact: true })).toBeVisible();
  await expect(row(page, 'tie_pitch')).toContainText('40 mm');
  await expectRegenerated(page);
  // The refused one is told to the console by the browser itself.
  expect(problems.filter((problem) => !problem.includes('400'))).toEqual([]);
});

import { expect, expectAccessible, expectRegenerated, openDocument, row, setFormula, test, watchConsole } from './support';

test('a new value by keyboard alone: a mistyped name, its reason, its repair', async ({ page }) => {
  const problems = watchConsole(page);
  await openDocument(page, 'Loom sizes');
  await page.getByRole('button', { name: 'Add a value' }).focus();
  await page.keyboard.press('Enter');
  await page.keyboard.type('rail_gap = beam_dai / 2 + 6');
  await expect(page.getByText('There is no value named beam_dai here. Did you mean beam_dia', { exact: false })).toBeVisible();
  await page.keyboard.press('Alt+Enter');
  await expect(page.getByText('= 28.5 mm')).toBeVisible();
  await expect(page.getByText('read as beam_dia / 2 + 6 mm')).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(row(page, 'rail_gap')).toContainText('28.5 mm');
  await row(page, 'rail_gap').focus();
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('F2');
  const box = page.getByRole('textbox', { name: 'Formula of rail_gap' });
  await expect(box).toBeFocused();
  await box.fill('beam_dia + teeth');
  await expect(page.getByText('beam_dia is a length (mm) and teeth is a plain number: they cannot be added.')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await expect(row(page, 'rail_gap')).toContainText('28.5 mm');
  await page.keyboard.press('Control+z');
  await expect(row(page, 'rail_gap')).toHaveCount(0);
  expect(problems).toEqual([]);
});

test('a formula that is wrong is kept, told, and makes its readers wait', async ({ page }) => {
  await openDocument(page, 'Loom sizes');
  await setFormula(page, 'bearing_clearance', 'beam_dia / (teeth - 24)');
  await expect(row(page, 'bearing_clearance')).toContainText('Division by zero: (teeth - 24) is 0.');
  await expect(row(page, 'bearing_dia')).toContainText('Waiting on bearing_clearance.');
  await expect(page.locator('footer')).toContainText('2 in error');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(row(page, 'bearing_dia')).toContainText('45.4 mm');
});

test('an edit in one tab is seen in another; renaming there, the formula here follows', async ({ page, context }) => {
  await openDocument(page, 'Loom sizes');
  const other = await context.newPage();
  await openDocument(other, 'Loom sizes');
  await setFormula(page, 'side_gap', '14 mm');
  await expect(row(other, 'side_gap')).toContainText('14 mm');
  await row(other, 'side_gap').focus();
  await other.keyboard.press('Shift+Enter');
  await other.getByRole('textbox', { name: 'Name of side_gap' }).fill('gap');
  await other.keyboard.press('Enter');
  await expect(row(page, 'inner_width')).toContainText('weaving_width + 2 * gap');
  await other.keyboard.press('Control+z');
  await expect(row(page, 'inner_width')).toContainText('weaving_width + 2 * side_gap');
});

test('without the server edits are kept, said so, and sent when it is back', async ({ page }) => {
  await openDocument(page, 'Loom sizes');
  await page.route('**/edits', (route) => route.abort());
  await setFormula(page, 'frame_height', '280 mm');
  await expect(page.getByText('The server does not answer. 1 edit is kept in this browser')).toBeVisible();
  await expect(row(page, 'frame_height')).toContainText('280 mm');
  await page.unroute('**/edits');
  await expect(page.getByText('The server does not answer.')).toBeHidden({ timeout: 15_000 });
  await page.reload();
  await expect(row(page, 'frame_height')).toContainText('280 mm');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(row(page, 'frame_height')).toContainText('260 mm');
});

test('a broken project file is refused with the place of the fault', async ({ page }) => {
  await page.goto('/');
  const file = {
    name: 'broken.json',
    mimeType: 'application/json',
    buffer: Buffer.from('{"format":"warpbeam-project","version":1,"name":"x","documents":[{"schema":1}]}'),
  };
  await page.getByLabel('Project file').setInputFiles(file);
  await expect(page.getByRole('alert').filter({ hasText: 'The file was not imported' })).toContainText('documents[0]');
  await expect(page.getByRole('link', { name: /Table loom/ })).toBeVisible();
});

test('every screen passes the accessibility check, by day and by night', async ({ page }) => {
  for (const theme of ['light', 'night']) {
    await page.goto('/');
    await page.evaluate((name) => localStorage.setItem('warpbeam-theme', name), theme);
    await page.reload();
    await expect(page.getByRole('link', { name: /Table loom/ })).toBeVisible();
    await expectAccessible(page);
    await page.getByRole('link', { name: /Table loom/ }).click();
    await expect(page.getByRole('row', { name: /^Side frame/ })).toBeVisible();
    await expectAccessible(page);
    await openDocument(page, 'Loom sizes');
    await row(page, 'bearing_dia').click();
    await expectAccessible(page);
    await openDocument(page, 'Side frame');
    await expectRegenerated(page);
    await expectAccessible(page);
    await page.locator('[data-row="outline"]').getByRole('button', { name: 'Open', exact: true }).click();
    await expect(page.getByRole('toolbar', { name: 'Sketch' })).toBeVisible();
    await expectAccessible(page);
  }
});

test('the formula reference opens from a value box, and shows what its examples give', async ({ page }) => {
  const problems = watchConsole(page);
  await openDocument(page, 'Loom sizes');
  await row(page, 'beam_dia').dblclick();
  await page.keyboard.type('1 5/8 in');
  await page.getByRole('button', { name: 'formulas', exact: true }).click();
  const reference = page.getByRole('complementary', { name: 'Formulas' });
  await expect(reference.getByText('the root of an area is a length')).toBeVisible();
  await expect(reference.getByText('1.625 in')).toBeVisible();
  await expectAccessible(page);
  // The box goes on taking what is typed.
  await page.keyboard.type(' / 2');
  await expect(page.getByRole('textbox', { name: 'Formula of beam_dia' })).toHaveText('1 5/8 in / 2');
  await reference.getByRole('button', { name: 'Close' }).click();
  await page.goto('/formulas');
  await expect(page.getByRole('heading', { level: 1, name: 'Formulas' })).toBeVisible();
  await expectAccessible(page);
  expect(problems).toEqual([]);
});

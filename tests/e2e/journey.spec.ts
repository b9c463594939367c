import { expect, expectRegenerated, openDocument, row, setFormula, test, watchConsole } from './support';

test('a master value regenerates a linked part, and a sketch is changed by name', async ({ page }) => {
  const problems = watchConsole(page);

  await test.step('change the master and save it', async () => {
    await openDocument(page, 'Loom sizes');
    await setFormula(page, 'weaving_width', '480 mm');
    await expect(row(page, 'frame_depth')).toContainText('432 mm');
    await page.getByRole('button', { name: 'Save revision' }).click();
    await expect(page.getByText(/Behind now: .*Side frame \(1\)/)).toBeVisible();
  });

  await test.step('the part is behind: preview, then catch up', async () => {
    await page.getByRole('link', { name: 'Table loom' }).click();
    // The row of the assembly names the part as well.
    await expect(page.getByRole('row', { name: /^Side frame/ })).toContainText('1 behind');
    await page.getByRole('link', { name: 'Side frame', exact: true }).click();
    await expectRegenerated(page);
    await expect(page.locator('footer')).toContainText('1623.1 cm³');
    await page.getByRole('button', { name: '1 behind: preview' }).click();
    const preview = page.getByRole('dialog');
    await expect(preview.getByRole('row', { name: /frame_depth 360 mm 432 mm/ })).toBeVisible();
    await expect(preview.getByText('1960.1 cm³')).toBeVisible({ timeout: 60_000 });
    await preview.getByRole('button', { name: 'Catch up Side frame' }).click();
    await expect(row(page, 'depth')).toContainText('432 mm');
    await expect(page.locator('footer')).toContainText('1960.1 cm³', { timeout: 60_000 });
  });

  await test.step('draw a hole, dimension it by name; the body is cut at once', async () => {
    await page.locator('[data-row="openings"]').getByRole('button', { name: 'Open', exact: true }).click();
    const canvas = page.getByRole('application');
    await expect(canvas.locator('svg')).toBeVisible();
    const box = await canvas.boundingBox();
    if (!box) throw new Error('no canvas');
    await page.keyboard.press('c');
    await page.mouse.click(box.x + 480, box.y + 330);
    await page.mouse.move(box.x + 505, box.y + 330);
    await page.mouse.click(box.x + 505, box.y + 330);
    await expect(page.locator('footer')).toContainText('3 degrees of freedom left');
    const value = page.getByRole('textbox', { name: 'Value of the new dimension' });
    await expect(value).toBeFocused();
    await page.keyboard.type('bearing_dia');
    await expect(page.getByText('= 45.4 mm')).toBeVisible();
    await page.keyboard.press('Enter');
    await expect(row(page, 'side_openings_b')).toContainText('45.4 mm');
    await expect(page.locator('footer')).toContainText('2 degrees of freedom left');
    await expect(page.locator('footer')).toContainText('1930.9 cm³', { timeout: 30_000 });
  });

  await test.step('name a dimension in its value box, by a formula with another dimension picked', async () => {
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: /Dimension side_openings_a/ }).dblclick();
    const value = page.getByRole('textbox', { name: 'Value of side_openings_a' });
    await value.fill('rail_gap = 21 mm');
    await value.press('Enter');
    await expect(row(page, 'rail_gap')).toContainText('21 mm');
    await page.getByRole('button', { name: /Dimension bearing_inset/ }).dblclick();
    const inset = page.getByRole('textbox', { name: 'Value of bearing_inset' });
    await inset.fill('2 * ');
    await page.getByRole('button', { name: /Dimension rail_gap/ }).click();
    await expect(inset).toHaveText('2 * rail_gap');
    await inset.press('Escape');
    await expect(inset).toBeHidden();
  });

  await test.step('undo the naming, reload: everything is as it was left', async () => {
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(row(page, 'side_openings_a')).toContainText('18 mm');
    await page.getByRole('button', { name: /^Close Side openings/ }).click();
    await page.reload();
    await expectRegenerated(page);
    await expect(row(page, 'side_openings_a')).toContainText('18 mm');
    await expect(row(page, 'side_openings_b')).toContainText('45.4 mm');
    await expect(page.locator('footer')).toContainText('1930.9 cm³');
    await page.getByRole('button', { name: 'Redo' }).click();
    await expect(row(page, 'rail_gap')).toContainText('21 mm');
  });

  expect(problems).toEqual([]);
});

test('a new sketch removed through the body makes a hole', async ({ page }) => {
  const problems = watchConsole(page);
  await openDocument(page, 'Cross rail');
  await expectRegenerated(page);
  await page.getByRole('button', { name: 'Add a step' }).click();
  await page.getByRole('menuitem', { name: 'Sketch' }).click();
  await page.getByRole('button', { name: 'Draw' }).click();
  await expect(page.getByRole('application').locator('svg')).toBeVisible();
  const box = await page.getByRole('application').boundingBox();
  if (!box) throw new Error('no canvas');
  await page.getByRole('button', { name: 'Rectangle' }).click();
  // The rail lies along x, in the middle of the canvas.
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.click(x + 40, y - 10);
  await page.mouse.move(x + 90, y + 12);
  await page.mouse.click(x + 90, y + 12);
  await page.getByRole('button', { name: 'Extrude', exact: true }).click();
  await page.getByRole('button', { name: 'Build' }).click();
  await expect(page.getByText('Profile A removed')).toBeVisible();
  await expectRegenerated(page);
  await expect(page.locator('footer')).not.toContainText('580.4 cm³');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.locator('footer')).toContainText('580.4 cm³', { timeout: 30_000 });
  expect(problems).toEqual([]);
});

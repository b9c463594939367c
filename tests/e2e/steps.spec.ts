import type { Page } from '@playwright/test';
import { expect, expectAccessible, expectRegenerated, importDemo, openDocument, openIn, row, saveRevision, setFormula, test, watchConsole } from './support';

const footer = (page: Page) => page.locator('footer');

async function addStep(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name: 'Add a step' }).click();
  await page.getByRole('menuitem', { name, exact: true }).click();
}

test('a fillet, a shell and a pattern on a board: picked, named, previewed, told when they do not fit, changed', async ({ page }) => {
  const problems = watchConsole(page);
  await openIn(page, await importDemo(page, 'Steps'), 'Side frame');
  await expectRegenerated(page);
  await expect(footer(page)).toContainText('1632.3 cm³', { timeout: 60_000 });

  await test.step('a radius that does not fit is told with the most that does, before anything is built', async () => {
    await addStep(page, 'Fillet');
    await page.getByLabel('Edges from a list').selectOption({ label: 'edge between end of Side board and side 1 of Side board' });
    await page.getByRole('textbox', { name: 'Radius' }).fill('ease = 30 mm');
    await expect(page.getByRole('status').filter({ hasText: 'does not fit; the most that fits is about 17.9 mm' })).toBeVisible({ timeout: 60_000 });
    await expectAccessible(page);
    await page.getByRole('textbox', { name: 'Radius' }).fill('ease = 6 mm');
    await expect(page.getByRole('status').filter({ hasText: 'does not fit' })).toBeHidden({ timeout: 60_000 });
    await page.getByRole('button', { name: 'Build' }).click();
    await expect(row(page, 'ease')).toContainText('6 mm');
    // 36 (1 - pi/4) mm² along 360 mm less than before.
    await expect(footer(page)).toContainText('1629.6 cm³', { timeout: 60_000 });
  });

  await test.step('it is changed in the same panel, and undone', async () => {
    const step = page.getByRole('row').filter({ hasText: 'Side rounded' });
    await step.getByRole('button', { name: 'Change' }).click();
    await page.getByRole('textbox', { name: 'Radius' }).fill('10 mm');
    await page.getByRole('button', { name: 'Change', exact: true }).last().click();
    await expect(row(page, 'ease')).toContainText('10 mm');
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(row(page, 'ease')).toContainText('6 mm');
  });

  await test.step('the volume is measured after it, and drives a value', async () => {
    await addStep(page, 'Measured value');
    await page.getByRole('textbox', { name: 'Name' }).fill('board_mass');
    await page.getByLabel('What').selectOption('mass');
    await page.getByRole('button', { name: 'Add', exact: true }).click();
    await expect(row(page, 'board_mass')).toContainText('1.173 kg', { timeout: 60_000 });
  });

  await test.step('what it would drive before it is told as a cycle', async () => {
    await setFormula(page, 'rail_section', '36 mm * board_mass / (1 kg)');
    await expect(row(page, 'rail_section')).toContainText('This value depends on itself');
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(row(page, 'rail_section')).toContainText('36 mm');
  });
  expect(problems).toEqual([]);
});

test('a ratchet wheel from empty: disc, bore, one notch, repeated by the number of teeth', async ({ page }) => {
  const problems = watchConsole(page);
  await page.goto(await importDemo(page, 'Wheel'));
  await page.getByRole('button', { name: 'New document' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('Wheel from empty');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Add a value' }).click();
  await page.getByRole('textbox', { name: /New value/ }).fill('teeth = 12');
  await page.keyboard.press('Enter');
  await page.getByLabel('What it is').selectOption('count');

  const drawCircle = async (name: string, dia: string, [x, y]: readonly [number, number], label: string): Promise<void> => {
    await page.keyboard.press('c');
    await page.keyboard.press('Home');
    for (let i = 0; i < x; i++) await page.keyboard.press('ArrowRight');
    await page.keyboard.press('Space');
    for (let i = 0; i < y; i++) await page.keyboard.press('ArrowUp');
    await page.keyboard.press('Space');
    await page.keyboard.type(`${name} = ${dia}`);
    await page.keyboard.press('Enter');
    await expect(row(page, name)).toContainText(label);
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');
  };

  await test.step('the blank', async () => {
    await addStep(page, 'Sketch');
    await page.getByRole('button', { name: 'Draw' }).click();
    await expect(page.getByRole('application').locator('svg')).toBeVisible();
    await drawCircle('wheel_dia', '80 mm', [0, 12], '80 mm');
    await drawCircle('bore', 'wheel_dia / 4', [0, 4], '20 mm');
    await page.getByRole('button', { name: 'Extrude', exact: true }).click();
    await page.getByRole('textbox', { name: 'Depth', exact: true }).fill('wheel_stock = 10 mm');
    await page.keyboard.press('Enter');
    // pi (40² - 10²) 10 mm³.
    await expect(footer(page)).toContainText('47.1 cm³', { timeout: 60_000 });
  });

  await test.step('one notch, and the rest by a pattern', async () => {
    await addStep(page, 'Sketch');
    await page.getByRole('button', { name: 'Draw' }).click();
    await expect(page.getByRole('application').locator('svg')).toBeVisible();
    await drawCircle('notch', '6 mm', [10, 2], '6 mm');
    await page.getByRole('button', { name: 'Extrude', exact: true }).click();
    await page.getByRole('button', { name: 'Build' }).click();
    await expect(page.getByText('Profile B removed')).toBeVisible();
    await addStep(page, 'Pattern');
    await page.getByRole('checkbox', { name: 'Profile B removed' }).check();
    await page.getByRole('radio', { name: 'circular' }).check();
    await page.getByLabel('About', { exact: true }).selectOption('y');
    await page.getByRole('textbox', { name: 'Count' }).fill('notches = teeth');
    await page.getByRole('textbox', { name: 'Angle between' }).fill('360 deg / teeth');
    await page.getByRole('button', { name: 'Build' }).click();
    await expect(row(page, 'notches')).toContainText('12');
  });

  await test.step('teeth over their range: no step fails', async () => {
    for (const teeth of ['5', '16', '8']) {
      await setFormula(page, 'teeth', teeth);
      await expect(row(page, 'notches')).toContainText(teeth);
      await expectRegenerated(page);
      await expect(page.getByText('failed', { exact: true })).toHaveCount(0);
    }
  });
  expect(problems).toEqual([]);
});

test('holes at the points of a sketch, sized for a thread; built to an earlier step and back; a picture', async ({ page }) => {
  const problems = watchConsole(page);
  await openIn(page, await importDemo(page, 'Holes'), 'Cross rail');
  await expect(footer(page)).toContainText('580.4 cm³', { timeout: 60_000 });
  await addStep(page, 'Sketch');
  await page.getByLabel('Plane', { exact: true }).selectOption('front');
  await page.getByRole('button', { name: 'Draw' }).click();
  const canvas = page.getByRole('application');
  await expect(canvas.locator('svg')).toBeVisible();
  await page.getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Point', exact: true }).click();
  const box = await canvas.boundingBox();
  if (!box) throw new Error('no canvas');
  await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
  await page.getByRole('button', { name: /^Close Profile A/ }).click();
  await addStep(page, 'Hole');
  await page.getByLabel('Diameter for a thread').selectOption({ label: 'M8 clearance, 9 mm' });
  await page.getByRole('button', { name: 'Build' }).click();
  await expect(page.getByText('Profile A drilled')).toBeVisible();
  // pi 4.5² along 36 mm less, but for what the bore of 6.6 mm along the rail had taken already.
  await expect(footer(page)).toContainText('578.4 cm³', { timeout: 60_000 });

  await page.getByRole('button', { name: 'More for Rail bar' }).click();
  await page.getByRole('menuitem', { name: 'Build to here' }).click();
  await expect(footer(page)).toContainText('596.2 cm³', { timeout: 60_000 });
  await page.getByRole('button', { name: 'More for Rail bar' }).click();
  await page.getByRole('menuitem', { name: 'Build all steps' }).click();
  await expect(footer(page)).toContainText('578.4 cm³', { timeout: 60_000 });

  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'View', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Save as PNG' }).click();
  expect((await download).suggestedFilename()).toBe('view.png');
  expect(problems).toEqual([]);
});

test('the largest part of the demo is built', async ({ page }) => {
  const problems = watchConsole(page);
  await openDocument(page, 'Reed');
  await expect(footer(page)).toContainText('78.6 cm³', { timeout: 90_000 });
  await expect(page.getByText('failed', { exact: true })).toHaveCount(0);
  expect(problems).toEqual([]);
});

test('the ratchet wheel follows its master to the end of its range: no step fails', async ({ page }) => {
  const problems = watchConsole(page);
  const project = await importDemo(page, 'Ranges');
  await openIn(page, project, 'Loom sizes');
  await setFormula(page, 'beam_dia', '60 mm');
  await setFormula(page, 'frame_stock', '21 mm');
  await setFormula(page, 'teeth', '48');
  await saveRevision(page);
  await openIn(page, project, 'Ratchet wheel');
  await expectRegenerated(page);
  await page.getByRole('button', { name: /behind: preview/ }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Catch up Ratchet wheel' }).click();
  await expect(row(page, 'beam_dia')).toContainText('60 mm');
  await expect(row(page, 'teeth')).toContainText('48');
  await expectRegenerated(page);
  await expect(page.getByText('failed', { exact: true })).toHaveCount(0);
  expect(problems).toEqual([]);
});

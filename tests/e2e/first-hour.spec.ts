/** What somebody meets who has never seen the program: the first page, the guide, empty documents, the picture. */
import { expect, test, type Page } from '@playwright/test';
import { expectAccessible, expectRegenerated, importDemo, openIn, row, watchConsole } from './support';

const TYPING = { delay: 25 };
const guide = (page: Page) => page.getByRole('region', { name: 'Guided first design' });

async function expectStep(page: Page, number: number): Promise<void> {
  await expect(guide(page)).toContainText(`${number} of 10`, { timeout: 30_000 });
}

test('the guided first design is done by mouse and typing, each step when it was really done', async ({ page }) => {
  test.setTimeout(180_000);
  const problems = watchConsole(page);
  await page.goto('/');
  await expectAccessible(page);
  await page.getByRole('button', { name: /^Guided first design/ }).click();
  await expectStep(page, 1);
  await expect(page.getByRole('heading', { name: 'Where do you want to draw?' })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Add a value' }).click();
  await page.keyboard.type('stick_length = 240 mm', TYPING);
  await page.keyboard.press('Enter');
  await expectStep(page, 2);
  await page.keyboard.type('stick_width = stick_length / 10', TYPING);
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await expectStep(page, 3);
  await page.getByRole('button', { name: 'Top (x, y)' }).click();
  const canvas = page.getByRole('application');
  await expect(canvas.locator('svg')).toBeVisible();
  await page.getByRole('button', { name: 'Rectangle', exact: true }).click();
  const box = await canvas.boundingBox();
  if (!box) throw new Error('no canvas');
  await page.mouse.click(box.x + 180, box.y + 420);
  await page.mouse.move(box.x + 400, box.y + 350);
  await page.mouse.click(box.x + 480, box.y + 320);
  await expectStep(page, 4);
  await page.keyboard.type('length = stick_length', TYPING);
  await page.keyboard.press('Enter');
  await expectStep(page, 5);
  await page.keyboard.type('width = stick_width', TYPING);
  await page.keyboard.press('Enter');
  await expectStep(page, 6);
  await page.getByRole('button', { name: 'Extrude', exact: true }).click();
  await page.getByRole('textbox', { name: 'Depth', exact: true }).click();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('thickness = 9.5 mm', TYPING);
  await page.getByRole('button', { name: 'Build', exact: true }).click();
  await expectStep(page, 7);
  // 240 * 24 * 9.5 mm^3.
  await expect(page.locator('footer')).toContainText('54.7 cm³', { timeout: 60_000 });
  await row(page, 'stick_length').click();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Control+a');
  await page.keyboard.type('300 mm', TYPING);
  await page.keyboard.press('Enter');
  await expectStep(page, 8);
  await expect(page.locator('footer')).toContainText('85.5 cm³', { timeout: 60_000 });
  await page.getByRole('button', { name: 'Link values' }).click();
  const dialog = page.getByRole('dialog', { name: 'Link values' });
  await dialog.getByRole('button', { name: 'Tick these 2' }).click();
  await dialog.getByRole('button', { name: 'Link 2 values' }).click();
  await expectStep(page, 9);
  await page.getByRole('button', { name: /^loose ends/ }).click();
  await expectStep(page, 10);
  const end = page.getByRole('complementary', { name: 'Loose ends' }).getByRole('listitem').filter({ hasText: 'thickness' });
  await end.getByRole('button', { name: /^Tie/ }).first().click();
  await expect(guide(page)).toContainText('Done.');
  await expect(row(page, 'thickness')).toContainText('lath_stock');
  await expectAccessible(page);
  await guide(page).getByRole('button', { name: 'Go to the projects' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Warpbeam' })).toBeVisible();
  await expect(page.getByRole('link', { name: /First design/ }).first()).toBeVisible();
  expect(problems).toEqual([]);
});

test('an empty master asks for its first value, and values are named one after the other', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: /^Start with sizes/ }).click();
  await page.getByRole('button', { name: 'tooth_pitch = 15 deg' }).click();
  await expect(page.getByRole('textbox', { name: /New value/ })).toBeFocused();
  await page.keyboard.press('Enter');
  await page.keyboard.type('teeth = 360 deg / tooth_pitch', TYPING);
  await page.keyboard.press('Enter');
  await page.keyboard.press('Enter');
  await expect(row(page, 'teeth')).toContainText('24');
  await expect(row(page, 'tooth_pitch')).toContainText('15°');
  await expect(page.getByRole('textbox', { name: /New value/ })).toHaveCount(0);
  await page.keyboard.press('F1');
  const keys = page.getByRole('dialog', { name: 'Keys' });
  await keys.getByRole('searchbox').fill('fill down');
  await expect(keys.getByText('Ctrl D')).toBeVisible();
  await expectAccessible(page);
});

test('a plane is clicked in the picture, and what is pointed at is named', async ({ page }) => {
  const problems = watchConsole(page);
  await page.goto('/');
  await page.getByRole('button', { name: /^Start with a part/ }).click();
  await expect(page.getByText('Top (x, y)').last()).toBeVisible();
  const picture = page.getByRole('img', { name: /^The solid/ });
  const empty = await picture.boundingBox();
  if (!empty) throw new Error('no picture');
  // Near its right corner, the top plane is before the others.
  await page.mouse.click(empty.x + 0.8 * empty.width, empty.y + 0.565 * empty.height);
  await expect(page.getByRole('application')).toBeFocused();
  await expect(page.getByRole('toolbar', { name: 'Sketch' })).toBeVisible();

  await openIn(page, await importDemo(page, 'First hour: picture'), 'Side frame');
  await expectRegenerated(page);
  const box = await picture.boundingBox();
  if (!box) throw new Error('no picture');
  const middle = [box.x + 0.55 * box.width, box.y + 0.55 * box.height] as const;
  await page.mouse.move(middle[0] - 5, middle[1]);
  await page.mouse.move(...middle);
  await expect(page.getByText('end of Side board', { exact: true })).toBeVisible();
  await page.mouse.click(...middle);
  await expect(page.getByRole('group', { name: 'Picked face' })).toContainText('Open Side outline');
  await page.keyboard.down('Alt');
  await page.mouse.click(...middle);
  await page.keyboard.up('Alt');
  const behind = page.getByRole('list', { name: 'Behind the pointer' });
  await expect(behind.getByRole('button')).toHaveText([/end of Side board/, /start of Side board/]);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Measure', exact: true }).click();
  const measure = page.getByRole('region', { name: 'Measure' });
  await expect(measure).toContainText('Click a face or an edge.');
  // The picture has moved aside: the board is looked for where it is now.
  await page.mouse.click(box.x + 0.7 * box.width, box.y + 0.55 * box.height);
  await expect(measure.getByRole('button', { name: 'Pin area' })).toBeVisible({ timeout: 20_000 });
  await measure.getByRole('button', { name: 'Pin area' }).click();
  await expect(measure.getByRole('list', { name: 'Pinned readings' })).toContainText('mm²');
  await expectAccessible(page);
  await measure.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('button', { name: 'View', exact: true }).click();
  await page.getByRole('menuitemcheckbox', { name: 'Ground lines' }).click();
  await page.getByRole('button', { name: 'Look along z' }).click();
  await expectAccessible(page);
  expect(problems).toEqual([]);
});

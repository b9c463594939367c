import { expect, test, type Page } from '@playwright/test';

/** Fails a journey on any console error or page error, whatever else it checks. */
function watchConsole(page: Page): string[] {
  const problems: string[] = [];
  page.on('console', (message) => {
    if (message.type() === 'error') problems.push(message.text());
  });
  page.on('pageerror', (error) => problems.push(error.message));
  return problems;
}

const row = (page: Page, name: string) => page.getByRole('row', { name: new RegExp(`^${name} `) });

async function setFormula(page: Page, name: string, formula: string): Promise<void> {
  await row(page, name).first().dblclick();
  const box = page.getByRole('textbox', { name: `Formula of ${name}` });
  await box.fill(formula);
  await page.waitForTimeout(100);
  await box.press('Enter');
}

const regenerated = (page: Page) => expect(page.locator('footer')).toContainText('regenerated', { timeout: 60_000 });

test('a master value regenerates a linked part', async ({ page }) => {
  const problems = watchConsole(page);
  await page.goto('/');
  await page.getByRole('link', { name: /Table loom/ }).click();
  await page.getByRole('link', { name: 'Loom sizes' }).click();
  await setFormula(page, 'weaving_width', '480 mm');
  await expect(row(page, 'frame_depth')).toContainText('432 mm');
  await page.getByRole('button', { name: 'Save revision' }).click();
  await expect(page.getByText('Behind now: Cross rail (1), Side frame (1).').or(page.getByText('Behind now: Side frame (1), Cross rail (1).'))).toBeVisible();

  await page.getByRole('link', { name: 'Table loom' }).click();
  await page.getByRole('link', { name: 'Side frame' }).click();
  await regenerated(page);
  await expect(page.locator('footer')).toContainText('1632.3 cm³');
  await page.getByRole('button', { name: '1 behind: preview' }).click();
  const preview = page.getByRole('dialog');
  await expect(preview.getByRole('row', { name: /frame_depth 360 mm 432 mm/ })).toBeVisible();
  await preview.getByRole('button', { name: 'Catch up Side frame' }).click();
  await expect(row(page, 'depth')).toContainText('432 mm');
  await expect(page.locator('footer')).toContainText('1969.3 cm³', { timeout: 60_000 });

  await page.reload();
  await regenerated(page);
  await expect(row(page, 'depth')).toContainText('432 mm');
  await expect(page.locator('footer')).toContainText('1969.3 cm³');
  expect(problems).toEqual([]);
});

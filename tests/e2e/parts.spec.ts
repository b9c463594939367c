/** Parts as a whole: values on the solid, files in and out, copies, deletions, what is lost and found. */
import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { expect, expectAccessible, expectRegenerated, importDemo, row, setFormula, test, watchConsole } from './support';

const footer = (page: Page) => page.locator('footer');
const step = (page: Page, name: string) => page.locator('[data-row]').filter({ has: page.getByText(name, { exact: true }) });

async function openPart(page: Page, project: string, name: string): Promise<void> {
  await page.goto(await importDemo(page, project));
  await page.getByRole('link', { name, exact: true }).click();
  await expectRegenerated(page);
}

test('values of a step are read and changed on the solid; the picture is cut open; dragging a value is one edit', async ({ page }) => {
  const problems = watchConsole(page);
  await openPart(page, 'On the solid', 'Warp beam');
  await expect(footer(page)).toContainText('1185.8 cm³', { timeout: 60_000 });

  await test.step('a chamfer is changed where it is', async () => {
    await step(page, 'Beam ends chamfered')
      .getByRole('button', { name: /Beam ends chamfered/ })
      .nth(1)
      .click();
    const label = page.getByRole('button', { name: 'end_chamfer, 2 mm' });
    await label.focus();
    await page.keyboard.press('Enter');
    const box = page.getByRole('textbox', { name: 'Value of end_chamfer' });
    await box.fill('5 mm');
    await box.press('Enter');
    await expect(row(page, 'end_chamfer')).toContainText('5 mm');
    await expect(page.getByRole('button', { name: 'end_chamfer, 5 mm' })).toBeFocused();
  });

  await test.step('a value is dragged: the solid follows, Escape takes it back, letting go keeps it as one edit', async () => {
    // The panel of the selected value opens once, and the row is brought above it.
    await row(page, 'end_chamfer').click();
    await expect(page.getByRole('separator', { name: 'Height of the panel' })).toBeVisible();
    const value = row(page, 'end_chamfer').getByRole('cell').first();
    const box = await value.boundingBox();
    const [x, y] = [(box?.x ?? 0) + 20, (box?.y ?? 0) + 10];
    const drag = async (pixels: number): Promise<void> => {
      await page.mouse.move(x, y);
      await page.mouse.down();
      await page.mouse.move(x + pixels / 2, y, { steps: 4 });
      await page.mouse.move(x + pixels, y, { steps: 4 });
    };
    await drag(24);
    await expect(row(page, 'end_chamfer')).toContainText('9 mm');
    await page.keyboard.press('Escape');
    await page.mouse.up();
    await expect(row(page, 'end_chamfer')).toContainText('5 mm');
    await drag(-18);
    await page.mouse.up();
    await expect(row(page, 'end_chamfer')).toContainText('2 mm');
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(row(page, 'end_chamfer')).toContainText('5 mm');
  });

  await test.step('a section is placed by keys', async () => {
    await page.getByRole('button', { name: 'Section' }).click();
    await page.getByLabel('Plane of the section').selectOption('across z');
    await page.getByLabel('Place of the section').press('ArrowRight');
    await expectAccessible(page);
    await page.getByRole('button', { name: 'Whole' }).click();
    await expect(page.getByLabel('Place of the section')).toBeHidden();
  });

  await test.step('contact shade is laid over the picture, and taken away', async () => {
    const canvas = page.locator('[data-picture] canvas');
    const toggle = async (): Promise<void> => {
      await page.getByRole('button', { name: 'View', exact: true }).click();
      await page.getByRole('menuitemcheckbox', { name: 'Contact shade' }).click();
      await expect(page.getByRole('menu')).toBeHidden();
    };
    // The button of the menu has the focus from now on, and is seen to have it.
    await toggle();
    await toggle();
    let plain = await canvas.screenshot();
    await expect
      .poll(async () => {
        const before = plain;
        plain = await canvas.screenshot();
        return plain.equals(before);
      })
      .toBe(true);
    const isPlain = async (): Promise<boolean> => (await canvas.screenshot()).equals(plain);
    await toggle();
    await expect.poll(isPlain).toBe(false);
    await toggle();
    await expect.poll(isPlain).toBe(true);
  });

  await test.step('geometry is paused, and goes on', async () => {
    await page.getByRole('button', { name: 'Pause' }).click();
    await setFormula(page, 'end_chamfer', '1 mm');
    await expect(footer(page)).toContainText('geometry paused');
    const before = await footer(page).innerText();
    await page.getByRole('button', { name: 'Resume' }).click();
    await expectRegenerated(page);
    await expect.poll(() => footer(page).innerText()).not.toBe(before);
  });
  expect(problems).toEqual([]);
});

test('a body has its own density, by name; it goes out as STEP and comes in again', async ({ page }) => {
  const problems = watchConsole(page);
  await openPart(page, 'Files', 'Cross rail');
  await expect(footer(page)).toContainText('kg', { timeout: 60_000 });

  await test.step('a named density is what the rail is made of', async () => {
    await page.getByRole('button', { name: 'Add a value' }).click();
    const box = page.getByRole('textbox', { name: 'New value: name = formula' });
    await box.fill('wet_ash = 0.8 g/cm^3');
    await box.press('Enter');
    await page.getByRole('button', { name: /^Rail: / }).click();
    await page.getByLabel('Material', { exact: true }).selectOption('value wet_ash');
    await expect(page.getByText(/^Mass 0\.464/)).toBeVisible({ timeout: 30_000 });
    await expectAccessible(page);
    await page.keyboard.press('Escape');
    await setFormula(page, 'wet_ash', '0.4 g/cm^3');
    await expect(footer(page)).toContainText('0.232 kg', { timeout: 30_000 });
  });

  let file = '';
  await test.step('exported as STEP, with its name', async () => {
    await page.getByRole('button', { name: 'Files' }).click();
    const [download] = await Promise.all([page.waitForEvent('download', { timeout: 90_000 }), page.getByRole('menuitem', { name: /^STEP/ }).click()]);
    expect(download.suggestedFilename()).toBe('Cross rail.step');
    file = await download.path();
    expect(readFileSync(file, 'utf8')).toContain("PRODUCT('Rail'");
  });

  await test.step('brought in as a body of another part', async () => {
    await page.getByRole('button', { name: 'Add a step' }).click();
    await page.getByRole('menuitem', { name: 'Body from a STEP file' }).click();
    await page.getByLabel('STEP file').setInputFiles({ name: 'notes.step', mimeType: 'text/plain', buffer: Buffer.from('no step') });
    await expect(page.getByRole('alert').filter({ hasText: 'notes.step is not a STEP file.' })).toBeVisible();
    await page.getByLabel('STEP file').setInputFiles({ name: 'bought rail.step', mimeType: 'application/step', buffer: readFileSync(file) });
    await expect(page.getByRole('textbox', { name: 'Name of the step' })).toHaveValue('bought rail');
    const sent = page.waitForResponse((reply) => reply.url().endsWith('/edits') && reply.request().method() === 'POST');
    await page.getByRole('button', { name: 'Build' }).click();
    await expect(footer(page)).toContainText('Body 1 580.4 cm³', { timeout: 60_000 });
    expect((await sent).ok()).toBe(true);
  });

  await test.step('the file is fetched when the part is opened again, and taken back with its step', async () => {
    const fetched = page.waitForResponse(/\/api\/files\/[0-9a-f]{64}$/);
    await page.reload();
    expect((await fetched).headers()['cache-control']).toContain('immutable');
    await expect(footer(page)).toContainText('Body 1 580.4 cm³', { timeout: 60_000 });
    await page.keyboard.press('Control+z');
    await expect(footer(page)).not.toContainText('Body 1', { timeout: 60_000 });
  });
  expect(problems).toEqual([]);
});

test('steps are copied beside and into another part; deleted with their sketch; moved only with a word', async ({ page }) => {
  const problems = watchConsole(page);
  await openPart(page, 'Copies', 'Side frame');
  await expect(footer(page)).toContainText('1632.3 cm³', { timeout: 60_000 });

  await test.step('board and openings, marked together, stand beside as a body of their own', async () => {
    await step(page, 'Side board')
      .getByRole('button', { name: /Side board/ })
      .nth(1)
      .click({ modifiers: ['Control'] });
    await step(page, 'Side openings cut')
      .getByRole('button', { name: /Side openings cut/ })
      .nth(1)
      .click({ modifiers: ['Control'] });
    await page.getByRole('button', { name: 'More for Side board' }).click();
    await page.getByRole('menuitem', { name: 'Copy 2 steps' }).click();
    await page.getByRole('button', { name: 'Add a step' }).click();
    await page.getByRole('menuitem', { name: 'Paste steps' }).click();
    const dialog = page.getByRole('dialog', { name: 'Paste steps' });
    await expect(dialog.getByText('frame_depth')).toBeVisible();
    await expectAccessible(page);
    await dialog.getByRole('button', { name: 'Put them in' }).click();
    await expect(footer(page)).toContainText('Side 2 1632.3 cm³', { timeout: 60_000 });
    await expect(row(page, 'side_2_x')).toContainText('28 mm');
  });

  await test.step('into another part they come with the numbers that they had', async () => {
    await page.getByRole('link', { name: 'Copies' }).click();
    await page.getByRole('link', { name: 'Pawl', exact: true }).click();
    await expectRegenerated(page);
    await page.getByRole('button', { name: 'Add a step' }).click();
    await page.getByRole('menuitem', { name: 'Paste steps' }).click();
    await expect(page.getByText('is not here: becomes 360 mm')).toBeVisible();
    await page.getByRole('button', { name: 'Put them in' }).click();
    await expect(footer(page)).toContainText('Side 1632.3 cm³', { timeout: 60_000 });
  });

  await test.step('a step goes with the sketch that was made for it alone, and comes back by undo', async () => {
    await page.getByRole('button', { name: 'More for Side openings cut' }).click();
    await page.getByRole('menuitem', { name: 'Delete' }).click();
    const dialog = page.getByRole('dialog', { name: 'Delete Side openings cut' });
    await expect(dialog.getByText('sketch Side openings')).toBeVisible();
    await dialog.getByRole('button', { name: 'Delete with its sketch' }).click();
    await expect(page.getByRole('button', { name: 'More for Side openings', exact: true })).toBeHidden();
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(page.getByRole('button', { name: 'More for Side openings', exact: true })).toBeVisible();
  });
  expect(problems).toEqual([]);
});

test('a fillet whose edge is gone names it, and offers what is most like it', async ({ page }) => {
  const problems = watchConsole(page);
  await openPart(page, 'Lost', 'Side frame');
  await expect(footer(page)).toContainText('1632.3 cm³', { timeout: 60_000 });
  await page.getByRole('button', { name: 'Add a step' }).click();
  await page.getByRole('menuitem', { name: 'Fillet' }).click();
  const edges = page.getByLabel('Edges from a list');
  const words =
    (await edges.locator('option').allInnerTexts()).find((text) => text.includes('end of Side board') && text.includes('of Side openings cut')) ?? '';
  await edges.selectOption({ label: words });
  await page.getByRole('textbox', { name: 'Radius' }).fill('ease = 1 mm');
  await page.getByRole('button', { name: 'Build' }).click();
  await expect(row(page, 'ease')).toContainText('1 mm');
  await expectRegenerated(page);

  await test.step('without the openings there is no such edge; the last good picture stays', async () => {
    await page.getByRole('button', { name: 'More for Side openings cut' }).click();
    await page.getByRole('menuitem', { name: 'Suppress', exact: true }).click();
    await expect(step(page, 'Side rounded')).toContainText('An edge that it was made on is no longer there', { timeout: 30_000 });
    await expect(footer(page)).toContainText('Side not built');
  });

  await test.step('the likeliest edges are offered, and one click repairs it', async () => {
    await step(page, 'Side rounded').getByRole('button', { name: 'Change' }).click();
    await expect(page.getByText('Lost. Perhaps it is now:')).toBeVisible({ timeout: 30_000 });
    await expectAccessible(page);
    await page
      .getByRole('form', { name: 'Change fillet' })
      .getByRole('button', { name: /^edge between end of Side board and/ })
      .first()
      .click();
    await page.getByRole('button', { name: 'Change', exact: true }).last().click();
    // What the change would break is foreseen first; then the form closes.
    await expect(page.getByRole('form', { name: 'Change fillet' })).toBeHidden({ timeout: 30_000 });
    await expect(footer(page)).toContainText(/Side 16\d\d\.\d cm³/, { timeout: 30_000 });
  });
  expect(problems).toEqual([]);
});

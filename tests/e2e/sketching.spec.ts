import type { Page } from '@playwright/test';
import { dxfCircle, dxfFile, dxfPolyline } from '../support/dxf-text';
import { command, expect, expectAccessible, expectRegenerated, importDemo, openIn, press, row, setFormula, test, watchConsole } from './support';

/** Opens a new part with an empty sketch; gives how places in the sketch plane, in pixels from its origin, are on the page. */
async function openEmptySketch(page: Page, name: string): Promise<(x: number, y: number) => readonly [number, number]> {
  await page.goto(await importDemo(page, `Sketching: ${name}`));
  await page.getByRole('button', { name: 'New document' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill(name);
  await page.keyboard.press('Enter');
  await page.getByRole('region', { name: 'Start drawing' }).getByRole('button', { name: 'Front (x, z)' }).click();
  const canvas = page.getByRole('application');
  await expect(canvas).toBeFocused();
  await expect(canvas.locator('svg')).toBeVisible();
  const box = await canvas.boundingBox();
  if (!box) throw new Error('no canvas');
  return (x, y) => [box.x + box.width / 2 + x, box.y + box.height / 2 - y];
}

async function click(page: Page, at: readonly [number, number]): Promise<void> {
  await page.mouse.move(...at);
  await page.mouse.click(...at);
}

const footer = (page: Page) => page.locator('footer');

test('the pawl: a slot with a pivot and a tip, every value named while it is drawn, driven over its range', async ({ page }) => {
  const problems = watchConsole(page);
  const at = await openEmptySketch(page, 'Latch');

  await test.step('draw the slot and name its values in one go', async () => {
    await page.keyboard.press('s');
    await click(page, at(0, 0));
    await click(page, at(160, 40));
    await click(page, at(80, 40));
    await expect(page.getByRole('textbox', { name: 'Value of the new dimension' })).toBeFocused();
    await page.keyboard.type('reach = 60 mm');
    await page.keyboard.press('Enter');
    await page.keyboard.type('nose = 10 mm');
    await page.keyboard.press('Tab');
    await expect(row(page, 'reach')).toContainText('60 mm');
    await expect(row(page, 'nose')).toContainText('10 mm');
    await expect(footer(page)).toContainText('1 degree of freedom left');
  });

  await test.step('what is free moves when asked', async () => {
    await page.getByRole('button', { name: /1 degree of freedom left/ }).click();
    await page.getByRole('application').focus();
  });

  await test.step('the tip is put level with the pivot', async () => {
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');
    const centres = page.locator('circle[data-entity]');
    await expect(centres.first()).toBeVisible();
    await centres.nth(0).click({ force: true });
    await centres.nth(1).click({ force: true, modifiers: ['Shift'] });
    await page.getByRole('button', { name: 'horizontal', exact: true }).click();
    await expect(footer(page)).toContainText('fully constrained');
  });

  await test.step('the pivot hole is a clearance over its screw', async () => {
    await page.getByRole('application').focus();
    await page.keyboard.press('c');
    await click(page, at(0, 0));
    await click(page, at(14, 0));
    await page.keyboard.type('pivot = nose / 2 + 0.4 mm');
    await page.keyboard.press('Enter');
    await expect(row(page, 'pivot')).toContainText('5.4 mm');
    await expect(footer(page)).toContainText('fully constrained');
    await expectAccessible(page);
  });

  await test.step('the picture follows the driving value over its range', async () => {
    for (const reach of ['30 mm', '90 mm', '25 mm', '120 mm', '60 mm']) {
      await setFormula(page, 'reach', reach);
      await expect(page.getByRole('button', { name: `Dimension reach, ${reach}` })).toBeVisible();
      await expect(footer(page)).toContainText('regenerated');
      await expect(footer(page)).toContainText('fully constrained');
    }
  });

  await test.step('it is saved as a drawing', async () => {
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: 'More of the sketch' }).click();
    await page.getByRole('menuitem', { name: 'Save as DXF' }).click();
    expect((await download).suggestedFilename()).toBe('Profile A.dxf');
  });

  await test.step('and it makes a solid', async () => {
    await page.getByRole('button', { name: 'Extrude', exact: true }).click();
    await page.getByRole('textbox', { name: 'Depth', exact: true }).fill('pawl_stock = 8 mm');
    await page.keyboard.press('Enter');
    // (60 * 20 + pi * 10^2 - pi * 2.7^2) * 8 mm^3.
    await expect(footer(page)).toContainText('11.9 cm³', { timeout: 60_000 });
  });
  expect(problems).toEqual([]);
});

test('trim, fillet, mirror, copy: an outline is changed by its tools, and undone', async ({ page }) => {
  const problems = watchConsole(page);
  const at = await openEmptySketch(page, 'Plate');
  const curves = page.locator('path[data-entity]');

  await page.keyboard.press('r');
  await click(page, at(30, 30));
  await click(page, at(230, 160));
  await page.keyboard.type('width = 50 mm');
  await page.keyboard.press('Enter');
  await page.keyboard.type('height = 30 mm');
  await page.keyboard.press('Enter');
  await expect(curves).toHaveCount(4);
  await expect(footer(page)).toContainText('2 degrees of freedom left');

  await page.keyboard.press('g');
  await page.locator('circle[data-entity]').nth(1).click({ force: true });
  const radius = page.getByRole('textbox', { name: 'Radius of the fillet' });
  await expect(radius).toBeFocused();
  await radius.fill('400 mm');
  await page.keyboard.press('Enter');
  await expect(radius).toBeVisible();
  await radius.fill('corner = 6 mm');
  await page.keyboard.press('Enter');
  await expect(row(page, 'corner')).toContainText('6 mm');
  await expect(curves).toHaveCount(5);

  await page.getByRole('application').focus();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Control+c');
  await page.keyboard.press('Control+v');
  await expect(curves).toHaveCount(10);
  await expect(row(page, 'width_2')).toContainText('50 mm');
  await page.keyboard.press('Control+z');
  await expect(curves).toHaveCount(5);

  await page.keyboard.press('Control+a');
  await page.keyboard.press('m');
  await click(page, at(0, -120));
  await expect(curves).toHaveCount(10);
  await page.keyboard.press('Control+z');
  await expect(curves).toHaveCount(5);
  await page.keyboard.press('Control+z');
  await expect(curves).toHaveCount(4);
  expect(problems).toEqual([]);
});

test('a dimension too many names what it disagrees with; made a reference, it reads', async ({ page }) => {
  const at = await openEmptySketch(page, 'Bar');
  await page.keyboard.press('r');
  await click(page, at(30, 30));
  await click(page, at(230, 130));
  await page.keyboard.type('long = 50 mm');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await page.getByRole('application').focus();
  await page.keyboard.press('d');
  await page.locator('path[data-entity]').nth(2).click({ force: true });
  await click(page, at(120, 200));
  await page.getByRole('textbox', { name: 'Value of the new dimension' }).fill('other = 70 mm');
  await page.keyboard.press('Enter');
  const trouble = page.getByRole('region', { name: 'Conflicts' });
  await expect(trouble).toContainText('These cannot hold together');
  await expect(trouble).toContainText('other = 70 mm');
  await expectAccessible(page);
  await trouble.getByRole('listitem').filter({ hasText: 'other' }).getByRole('button', { name: 'make it a reference' }).click();
  await expect(trouble).toBeHidden();
  await expect(page.getByRole('button', { name: 'Dimension other, (50 mm)' })).toBeVisible();
});

test('a plain number that equals a named value is pointed out, and tied by one key', async ({ page }) => {
  await openIn(page, await importDemo(page, 'Tied'), 'Side frame');
  await row(page, 'bearing_inset').dblclick();
  const box = page.getByRole('textbox', { name: 'Formula of bearing_inset' });
  await box.fill('45.4 mm');
  await expect(page.getByText('equals bearing_dia')).toBeVisible();
  await page.keyboard.press('Alt+Enter');
  await page.keyboard.press('Enter');
  await expect(row(page, 'bearing_inset')).toContainText('bearing_dia');
});

test('the pawl by keys alone: drawn, dimensioned, named, extruded and driven', async ({ page }) => {
  const problems = watchConsole(page);
  await page.goto(await importDemo(page, 'Sketching by keys'));
  await page.getByRole('button', { name: 'New document' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('Pawl by keys');
  await page.keyboard.press('Enter');
  await expectRegenerated(page);

  await command(page, 'Add a step: Sketch');
  await expect(page.getByRole('button', { name: 'Draw' })).toBeFocused();
  await page.keyboard.press('Enter');
  const canvas = page.getByRole('application');
  await expect(canvas).toBeFocused();
  await expect(canvas.locator('svg')).toBeVisible();

  await page.keyboard.press('s');
  await page.keyboard.press('Home');
  await page.keyboard.press('Space');
  await press(page, 'ArrowRight', 18);
  await page.keyboard.press('Space');
  await press(page, 'ArrowUp', 4);
  await page.keyboard.press('Space');
  await expect(page.getByRole('textbox', { name: 'Value of the new dimension' })).toBeFocused();
  await page.keyboard.type('reach = 60 mm');
  await page.keyboard.press('Enter');
  await page.keyboard.type('nose = 10 mm');
  await page.keyboard.press('Enter');
  // The nose was put on the x axis by its snap: nothing is left to move.
  await expect(footer(page)).toContainText('fully constrained');

  await canvas.focus();
  await page.keyboard.press('Escape');
  await page.keyboard.press('c');
  await page.keyboard.press('Home');
  await page.keyboard.press('Space');
  await press(page, 'ArrowUp', 2);
  await page.keyboard.press('Space');
  await page.keyboard.type('pivot = nose / 2 + 0.4 mm');
  await page.keyboard.press('Enter');
  await expect(row(page, 'pivot')).toContainText('5.4 mm');
  await expect(footer(page)).toContainText('fully constrained');

  await command(page, 'Add a step: Extrude');
  await expect(page.getByRole('textbox', { name: 'Depth', exact: true })).toBeFocused();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('pawl_stock = 8 mm');
  await page.keyboard.press('Enter');
  await expect(footer(page)).toContainText('11.9 cm³', { timeout: 60_000 });

  await command(page, 'Go to reach');
  await expect(row(page, 'reach')).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('textbox', { name: 'Formula of reach' })).toBeFocused();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('90 mm');
  await page.keyboard.press('Enter');
  // (90 * 20 + pi * 10^2 - pi * 2.7^2) * 8 mm^3.
  await expect(footer(page)).toContainText('16.7 cm³', { timeout: 60_000 });
  expect(problems).toEqual([]);
});

test('a drawing is brought in with its constraints, its area measured, and the measure drives what follows', async ({ page }) => {
  const problems = watchConsole(page);
  await openEmptySketch(page, 'Gasket');
  const polyline = dxfPolyline([0, 0, 0], [40, 0, 0], [40, 30, 0], [0, 30, 0]);
  await page
    .getByLabel('DXF drawing')
    .setInputFiles({ name: 'gasket.dxf', mimeType: 'image/vnd.dxf', buffer: Buffer.from(dxfFile([polyline, dxfCircle(20, 15, 5)], 4)) });
  await expect(page.getByText(/5 curves.*in millimetres/)).toBeVisible();
  await expect(page.locator('path[data-entity]')).toHaveCount(5);

  await page.getByLabel('DXF drawing').setInputFiles({ name: 'notes.dxf', mimeType: 'image/vnd.dxf', buffer: Buffer.from('not a drawing') });
  await expect(page.getByText(/notes.dxf: This is not a DXF drawing/)).toBeVisible();

  await page.getByRole('button', { name: /^Close Profile A/ }).click();
  await page.getByRole('button', { name: 'Add a step' }).click();
  await page.getByRole('menuitem', { name: 'Measured value' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('gasket_area');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  // 40 * 30 - pi * 5^2.
  await expect(row(page, 'gasket_area')).toContainText('1121.46 mm²');
  await expect(row(page, 'gasket_area')).toContainText('measured: area');

  await page.getByRole('button', { name: 'Add a value' }).click();
  await page.getByRole('textbox', { name: /New value/ }).fill('stock = 3 cm^3 / gasket_area');
  await page.keyboard.press('Enter');
  await expect(row(page, 'stock')).toContainText('2.675 mm');
  await expectAccessible(page);
  expect(problems).toEqual([]);
});

test('curves are repeated by a named count, which drives them afterwards', async ({ page }) => {
  const problems = watchConsole(page);
  const at = await openEmptySketch(page, 'Row');
  await page.keyboard.press('c');
  await click(page, at(0, 60));
  await click(page, at(20, 60));
  await page.keyboard.type('peg = 8 mm');
  await page.keyboard.press('Enter');
  await expect(row(page, 'peg')).toContainText('8 mm');
  await page.keyboard.press('Escape');
  await page.keyboard.press('n');
  const circle = page.locator('path[data-entity]').first();
  const box = await circle.boundingBox();
  if (!box) throw new Error('no circle');
  await click(page, [box.x + box.width, box.y + box.height / 2]);
  await click(page, at(250, 0));
  await expect(page.getByRole('textbox', { name: /Value of/ })).toBeFocused();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('pegs = 6');
  await page.keyboard.press('Enter');
  await expect(page.locator('path[data-copy]')).toHaveCount(5);
  await setFormula(page, 'pegs', '3');
  await expect(page.locator('path[data-copy]')).toHaveCount(2);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.locator('path[data-copy]')).toHaveCount(5);
  expect(problems).toEqual([]);
});

test('a chain of lines is drawn by its lengths: each is typed while the line is drawn, and the next begins at its end', async ({ page }) => {
  const problems = watchConsole(page);
  const at = await openEmptySketch(page, 'Angle');
  const box = page.getByRole('textbox', { name: 'Value of the new dimension' });
  await page.keyboard.press('l');
  await click(page, at(0, 0));
  await page.mouse.move(...at(120, 0));
  // As fast as keys can come: none is lost between the canvas and the box.
  await page.keyboard.type('40 mm');
  await expect(box).toBeFocused();
  await expect(box).toContainText('40 mm');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Dimension .*, 40 mm$/ })).toBeVisible();
  // The picture was fitted or not: up from wherever the end is now.
  const end = await page.locator('circle[data-entity]').last().boundingBox();
  if (!end) throw new Error('no end');
  await page.mouse.move(end.x + end.width / 2 + 1, end.y - 80);
  await page.keyboard.type('25.5');
  await expect(box).toContainText('25.5');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Dimension .*, 25\.5 mm$/ })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('r');
  await click(page, at(-200, -150));
  await page.mouse.move(...at(-100, -80));
  await page.keyboard.type('12');
  await page.keyboard.press('Enter');
  await page.keyboard.type('8');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Dimension .*, 12 mm$/ })).toBeVisible();
  await expect(page.getByRole('button', { name: /^Dimension .*, 8 mm$/ })).toBeVisible();
  expect(problems).toEqual([]);
});

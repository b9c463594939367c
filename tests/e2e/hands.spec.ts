/** At the speed and with the keys of a person: letters first, a pause between keys, Tab and Escape in the middle, clicks where the picture is. */
import type { Page } from '@playwright/test';
import { command, expect, expectRegenerated, importDemo, openIn, row, test, watchConsole } from './support';

/** Milliseconds between two keys of a quick typist. */
const TYPING = { delay: 70 };

const box = (page: Page, name: string) => page.getByRole('textbox', { name, exact: true });

async function addStep(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name: 'Add a step' }).click();
  await page.getByRole('menuitem', { name, exact: true }).click();
}

async function openPart(page: Page, project: string, part = 'Side frame'): Promise<void> {
  await openIn(page, await importDemo(page, project), part);
  await expectRegenerated(page);
}

test('whatever begins a formula stands where it was typed, on a row and in a name, at any speed', async ({ page }) => {
  const problems = watchConsole(page);
  await openIn(page, await importDemo(page, 'Hands: typing'), 'Loom sizes');
  const formula = box(page, 'Formula of side_gap');
  const client = await page.context().newCDPSession(page);
  for (const text of ['abc + 1', 'weaving_width / 4', '(18 mm) * 2', '-4 mm + 20', '_x', '"word', '7 mm', 'äb + ö', '=3 mm', '.5 in']) {
    for (const delay of [0, 35, 110]) {
      await row(page, 'side_gap').click();
      const [first = '', ...rest] = text;
      // As the key of a keyboard that has it; the page's own keys are those of another.
      if (first > '~') await client.send('Input.dispatchKeyEvent', { type: 'keyDown', key: first, text: first });
      else await page.keyboard.press(first);
      await page.waitForTimeout(delay);
      await page.keyboard.type(rest.join(''), { delay });
      // A bracket or a quotation mark that is begun is closed by itself.
      await expect.poll(async () => ((await formula.textContent()) ?? '').replace(/^("word)"$/, '$1')).toBe(text);
      // The first one closes a list of completions where there is one.
      await page.keyboard.press('Escape');
      if (await formula.isVisible()) await page.keyboard.press('Escape');
      await expect(formula).toBeHidden();
    }
  }
  // Nothing was taken of all that.
  await expect(row(page, 'side_gap')).toContainText('12 mm');
  await row(page, 'side_gap').click();
  await page.keyboard.press('Shift+F2');
  await page.keyboard.type('slot_c', TYPING);
  await page.keyboard.press('Enter');
  await expect(row(page, 'slot_c')).toBeFocused();
  await page.keyboard.type('frame_stock - 5', TYPING);
  await page.keyboard.press('Enter');
  await expect(row(page, 'slot_c')).toContainText('13 mm');
  expect(problems).toEqual([]);
});

test('an accent that is put together of two keys is in the box that it begins', async ({ page }) => {
  await openIn(page, await importDemo(page, 'Hands: accents'), 'Loom sizes');
  const client = await page.context().newCDPSession(page);
  await row(page, 'side_gap').click();
  await client.send('Input.dispatchKeyEvent', { type: 'keyDown', key: 'Dead', code: 'BracketLeft' });
  await expect(box(page, 'Formula of side_gap')).toBeFocused();
  await client.send('Input.imeSetComposition', { text: '^', selectionStart: 1, selectionEnd: 1 });
  await client.send('Input.insertText', { text: 'ê' });
  await page.keyboard.type('tre', TYPING);
  await expect(box(page, 'Formula of side_gap')).toHaveText('être');
});

test('a tolerance beside inches is in inches, and the box says so', async ({ page }) => {
  await openIn(page, await importDemo(page, 'Hands: tolerance'), 'Loom sizes');
  await row(page, 'side_gap').click();
  await page.keyboard.type('4 in', TYPING);
  await page.keyboard.press('Enter');
  await box(page, 'Tolerance').click();
  await page.keyboard.type('±0.005', TYPING);
  await expect(page.getByRole('status').filter({ hasText: '±0.005 in' })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByText('3.995 in to 4.005 in')).toBeVisible();
  await box(page, 'Least').click();
  await page.keyboard.type('3.5', TYPING);
  await page.keyboard.press('Enter');
  await expect(box(page, 'Least')).toHaveValue('3.5 in');
  await row(page, 'side_gap').click();
  await page.keyboard.type('3.4 in', TYPING);
  await page.keyboard.press('Enter');
  await expect(row(page, 'side_gap')).toContainText('3.5 in');
});

test('a form keeps what is filled in: lists close for themselves, Tab goes on, one Escape loses nothing', async ({ page }) => {
  const problems = watchConsole(page);
  await openPart(page, 'Hands: form');
  const form = page.getByRole('form', { name: 'New pattern' });
  const list = page.locator('.cm-tooltip-autocomplete');

  await addStep(page, 'Pattern');
  await expect(box(page, 'Count')).toBeFocused();
  await page.keyboard.type('rail_s', TYPING);
  await expect(list).toBeVisible();
  // Tab takes what is offered, and goes on to the next field.
  await page.keyboard.press('Tab');
  await expect(box(page, 'Count')).toHaveText('rail_section');
  await expect(box(page, 'Spacing')).toBeFocused();
  await page.keyboard.type('fr', TYPING);
  await expect(list).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(list).toBeHidden();
  await expect(form).toBeVisible();
  await page.keyboard.type('ame_stock + 2', TYPING);
  await page.keyboard.press('Shift+Tab');
  await expect(box(page, 'Count')).toBeFocused();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('n', TYPING);
  await expect(list).toBeVisible();
  // A click elsewhere closes the list, where the focus stays too.
  await page
    .locator('canvas')
    .first()
    .click({ position: { x: 400, y: 650 } });
  await expect(list).toBeHidden();

  await page.getByLabel('Name of the step').focus();
  await page.keyboard.press('Escape');
  await expect(form.getByRole('status').filter({ hasText: 'Press Escape again to discard' })).toBeVisible();
  await expect(box(page, 'Spacing')).toHaveText('frame_stock + 2');
  await page.keyboard.press('Escape');
  await expect(form).toBeHidden();
  // The keys are the ledger's again.
  await expect.poll(() => page.evaluate(() => document.activeElement?.getAttribute('data-row'))).not.toBeNull();

  await addStep(page, 'Fillet');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('form', { name: 'New fillet' })).toBeHidden();
  expect(problems).toEqual([]);
});

test('what is typed into a field that Tab goes to replaces the proposal, on a busy machine too', async ({ page }) => {
  await openPart(page, 'Hands: busy');
  await addStep(page, 'Pattern');
  await expect(box(page, 'Count')).toBeFocused();
  await page.keyboard.type('5', TYPING);
  await page.evaluate(() => {
    document.addEventListener(
      'focusin',
      () => {
        const until = performance.now() + 400;
        while (performance.now() < until);
      },
      true,
    );
  });
  await page.keyboard.press('Tab');
  await expect(box(page, 'Spacing')).toBeFocused();
  await page.keyboard.type('34 mm', TYPING);
  await expect(box(page, 'Spacing')).toHaveText('34 mm');
  await page.keyboard.press('Shift+Tab');
  await expect(box(page, 'Count')).toBeFocused();
  await page.keyboard.type('1', TYPING);
  await expect(box(page, 'Count')).toHaveText('51');
});

test('a step goes where the build stands, and the focus to its row', async ({ page }) => {
  await openPart(page, 'Hands: build to here');
  const step = (name: string) =>
    page
      .getByRole('row')
      .filter({ has: page.getByText(name, { exact: true }) })
      .first();
  await page.getByRole('button', { name: 'More for Side board' }).click();
  await page.getByRole('menuitem', { name: 'Build to here' }).click();
  await expectRegenerated(page);
  await addStep(page, 'Fillet');
  await page.getByLabel('Edges from a list').selectOption({ index: 1 });
  // The box has the focus since the panel was opened, and keeps it while edges are picked on the solid.
  await page
    .locator('canvas')
    .first()
    .click({ position: { x: 728, y: 320 } });
  await page.keyboard.type('soft = 4 mm', TYPING);
  await page.getByRole('button', { name: 'Build', exact: true }).click();
  await expect(row(page, 'soft')).toContainText('4 mm');
  const order = await page.locator('[data-row]').evaluateAll((rows) => rows.map((each) => each.textContent ?? ''));
  const at = (name: string): number => order.findIndex((text) => text.includes(name));
  expect(at('soft')).toBeGreaterThan(at('Side board'));
  expect(at('soft')).toBeLessThan(at('Side openings'));
  await expectRegenerated(page);
  await expect(page.locator('footer')).not.toContainText('not built');
  await expect.poll(() => page.evaluate(() => document.activeElement?.textContent ?? '')).toContain('Side rounded');
  await expect(step('Side openings')).toContainText('not built');
});

test('the command box gives the focus back, a canvas that is clicked has the keys, a dimension is deleted where it is seen', async ({ page }) => {
  await openPart(page, 'Hands: focus');
  await row(page, 'rail_section').click();
  await row(page, 'rail_section').focus();
  await page.keyboard.press('Control+k');
  await expect(page.getByRole('combobox', { name: 'Commands and values' })).toBeFocused();
  await page.keyboard.type('fra', TYPING);
  await page.keyboard.press('Escape');
  await expect(row(page, 'rail_section')).toBeFocused();

  await command(page, 'Open sketch Side openings');
  const canvas = page.getByRole('application');
  await canvas.focus();
  await page.keyboard.press('d');
  await row(page, 'side_openings_a').click();
  await page.keyboard.type('16 mm', TYPING);
  await page.keyboard.press('Enter');
  await expect(row(page, 'side_openings_a')).toContainText('16 mm');
  const at = await canvas.boundingBox();
  if (!at) throw new Error('no canvas');
  // Nothing is drawn there.
  await page.mouse.click(at.x + at.width - 60, at.y + at.height - 60);
  await page.keyboard.press('l');
  await expect(page.getByRole('textbox', { name: /Formula of/ })).toHaveCount(0);
  await expect(row(page, 'side_openings_a')).toContainText('16 mm');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');

  await page.getByRole('button', { name: 'Dimension side_openings_a, 16 mm' }).click();
  await page.keyboard.press('Delete');
  await expect(row(page, 'side_openings_a')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(row(page, 'side_openings_a')).toContainText('16 mm');
  await row(page, 'side_openings_a').click();
  await row(page, 'side_openings_a').focus();
  await page.keyboard.press('Delete');
  await expect(row(page, 'side_openings_a')).toHaveCount(0);
});

test('a size that is far too large is given up for the next one; one that cannot be is said and counted', async ({ page }) => {
  await openPart(page, 'Hands: sizes');
  const footer = page.locator('footer');
  for (const [typed, said] of [
    ['0', 'mortise_depth = 0 mm leaves its line without length'],
    ['-50', 'mortise_depth = -50 mm would turn its line over'],
    ['1e9 mm', 'mortise_depth = 1000000000 mm is too large'],
  ] as const) {
    await row(page, 'mortise_depth').click();
    await page.keyboard.type(typed, TYPING);
    await page.keyboard.press('Enter');
    await expect(footer).toContainText(/[1-9]\d* steps? not built/, { timeout: 30_000 });
    await expect(page.getByText(said)).toBeVisible();
  }
  await row(page, 'mortise_depth').click();
  await page.keyboard.type('rail_section', TYPING);
  await page.keyboard.press('Enter');
  await expectRegenerated(page);
  await expect(footer).toContainText('1632.3 cm³');
});

test('a sketch on a face opens with the body in view, and is dimensioned to its edges', async ({ page }) => {
  await openPart(page, 'Hands: on a face');
  await addStep(page, 'Sketch');
  await page.getByRole('button', { name: 'Pick', exact: true }).click();
  // The picture has moved aside: the middle of what is free of it.
  await page
    .locator('canvas')
    .first()
    .click({ position: { x: 500, y: 380 } });
  // At once, before the preview has come: what is kept is read all the same.
  await page.getByRole('button', { name: 'Draw' }).click();
  const canvas = page.getByRole('application');
  const overhang = (): Promise<number> =>
    canvas.evaluate((element) => {
      const room = element.getBoundingClientRect();
      const edges = [...element.querySelectorAll('path[stroke="var(--wood)"]')].map((edge) => edge.getBoundingClientRect());
      if (edges.length < 4) return Infinity;
      return Math.max(...edges.flatMap(({ left, right, top, bottom }) => [room.left - left, right - room.right, room.top - top, bottom - room.bottom]));
    });
  await expect.poll(overhang).toBeLessThan(0);

  // The rightmost edge that stands upright.
  const edge = await canvas.evaluate((element) => {
    const boxes = [...element.querySelectorAll('path[stroke="var(--wood)"]')].map((each) => each.getBoundingClientRect());
    const upright = boxes.filter(({ width, height }) => width < 2 && height > 40).sort((a, b) => b.right - a.right);
    const { left = 0, top = 0, height = 0 } = upright[0] ?? {};
    return { x: left, y: top + height / 2 };
  });
  await canvas.focus();
  await page.keyboard.press('c');
  await page.mouse.click(edge.x - 60, edge.y);
  await page.mouse.click(edge.x - 48, edge.y);
  await page.keyboard.type('10 mm', TYPING);
  await page.keyboard.press('Enter');
  await page.keyboard.press('d');
  await page.mouse.click(edge.x - 60, edge.y);
  await page.mouse.click(edge.x, edge.y);
  // Where the text of the diameter stands: what was begun is gone on with.
  const text = await page.getByRole('button', { name: /^Dimension profile_a_a/ }).boundingBox();
  if (!text) throw new Error('no text');
  await page.mouse.click(text.x + text.width / 2, text.y + text.height / 2);
  await page.keyboard.type('off_the_edge = 15 mm', TYPING);
  await page.keyboard.press('Enter');
  await expect(row(page, 'off_the_edge')).toContainText('15 mm');
  await expect(page.locator('footer')).toContainText('1 degree of freedom left');
  // What was read off the geometry is written down: how the sketch stands on the face, and which way the edge runs.
  const kept = async (): Promise<string[]> => {
    const reply = await page.request.get(`/api/documents/${new URL(page.url()).pathname.split('/').at(-1) ?? ''}`);
    const { document } = (await reply.json()) as { document: { records: Record<string, { directions?: { x?: number[] }; from?: { sense?: number } }> } };
    const records = Object.values(document.records);
    return [...(records.some(({ directions }) => directions?.x) ? ['x'] : []), ...(records.some(({ from }) => from?.sense) ? ['sense'] : [])];
  };
  await expect.poll(kept).toEqual(['x', 'sense']);
});

test('the document that values are taken from may be pressed again', async ({ page }) => {
  await openPart(page, 'Hands: link');
  await page.getByRole('button', { name: 'Link values' }).click();
  const dialog = page.getByRole('dialog', { name: 'Link values' });
  await dialog.getByRole('button', { name: 'Warp beam part' }).click();
  const first = dialog.getByRole('checkbox').first();
  await first.check();
  await dialog.getByRole('button', { name: 'Warp beam part' }).click();
  await expect(first).toBeChecked();
});

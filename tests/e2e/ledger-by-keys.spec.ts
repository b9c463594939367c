/** Everything that the ledger is for, without a mouse. */
import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { command, expect, expectAccessible, importDemo, pressUntilFocused, row, test, watchConsole } from './support';

async function openMaster(page: Page, name: string): Promise<void> {
  await page.goto(await importDemo(page, name));
  await pressUntilFocused(page, page.getByRole('link', { name: 'Loom sizes', exact: true }));
  await page.keyboard.press('Enter');
  await expect(row(page, 'weaving_width')).toBeVisible();
}

/** From the head of the page into the ledger, and to a row. */
async function goTo(page: Page, name: string): Promise<void> {
  await command(page, `Go to ${name}`);
  await expect(row(page, name)).toBeFocused();
}

test('values of every kind are written, each with what belongs to it', async ({ page }) => {
  const problems = watchConsole(page);
  await openMaster(page, 'By keys: kinds');
  await pressUntilFocused(page, page.getByRole('button', { name: 'Add a value' }));
  await page.keyboard.press('Enter');
  const written = [
    ['lid = 21', 'lid', '21 mm'],
    ['tilt = 12 deg', 'tilt', '12°'],
    ['face = lid * 40 mm', 'face', '840 mm²'],
    ['bulk = face * 2 in', 'bulk', '42672 mm³'],
    ['beech = 0.72 g/cm^3', 'beech', '0.72 g/cm³'],
    ['weight = bulk * beech', 'weight', 'kg'],
    ['pull = 40 N', 'pull', '40 N'],
    ['turn = pull * lid', 'turn', 'N'],
    ['press = pull / face', 'press', 'Pa'],
    ['has_lid = yes', 'has_lid', 'yes'],
    ['timber = "beech"', 'timber', 'beech'],
    ['share = 0.25', 'share', '0.25'],
  ] as const;
  for (const [typed, name, shown] of written) {
    await page.keyboard.type(typed);
    // A plain number can be a length, an angle, a count or a plain number.
    if (name === 'share') {
      await expect(page.getByText('taken as a length')).toBeVisible();
      await page.keyboard.press('Alt+k');
      await page.keyboard.press('Alt+k');
      await expect(page.getByText('taken as a plain number')).toBeVisible();
    }
    await page.keyboard.press('Tab');
    await expect(row(page, name)).toContainText(shown);
    await expect(page.getByRole('textbox', { name: 'New value: name = formula' })).toBeFocused();
  }
  await page.keyboard.type('boards = 4');
  await page.keyboard.press('Alt+k');
  await page.keyboard.press('Alt+k');
  await expect(page.getByText('taken as a count')).toBeVisible();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await expect(row(page, 'boards')).toBeFocused();
  await expect(page.getByLabel('What it is')).toHaveValue('count');

  await test.step('note, unit, limits, choices, tolerance, pinned, offered', async () => {
    await goTo(page, 'lid');
    await page.keyboard.press('Alt+Enter');
    await expect(page.getByLabel('Note', { exact: true })).toBeFocused();
    await page.keyboard.type('over the ratchet');
    await pressUntilFocused(page, page.getByRole('checkbox', { name: 'pinned' }));
    await page.keyboard.press('Space');
    await pressUntilFocused(page, page.getByRole('checkbox', { name: 'offered' }));
    await page.keyboard.press('Space');
    for (const [label, text] of [
      ['Shown in', 'in'],
      ['Least', '15 mm'],
      ['Most', '2 * 15 mm'],
      ['Choices', '18 mm, 21 mm, 24 mm'],
      ['Tolerance', '+0.2/-0.1'],
    ] as const) {
      await pressUntilFocused(page, page.getByRole('textbox', { name: label, exact: true }));
      await page.keyboard.type(text);
      await page.keyboard.press('Enter');
    }
    await expect(row(page, 'lid')).toContainText('0.827 in');
    await expect(row(page, 'lid')).toContainText('+0.2 in/-0.1 in');
    await expect(page.getByRole('list', { name: 'Shortlist' })).toContainText('lid');
    await page.keyboard.press('Escape');
    await expect(row(page, 'lid')).toBeFocused();
    await page.keyboard.type('20 mm');
    await page.keyboard.press('Enter');
    await expect(row(page, 'lid')).toContainText('18 mm, 21 mm');
    await page.keyboard.press('Control+z');
    await expect(row(page, 'lid')).toContainText('0.827 in');
  });
  await expectAccessible(page);
  expect(problems).toEqual([]);
});

test('a formula is begun by typing, completed, repaired, rewritten; a name is changed and followed', async ({ page }) => {
  const problems = watchConsole(page);
  await openMaster(page, 'By keys: formulas');
  await goTo(page, 'side_gap');
  await page.keyboard.type('clear');
  // Completion finds a name by a part inside it too.
  await expect(page.getByRole('option', { name: /bearing_clearance/ })).toBeVisible();
  await page.keyboard.press('Enter');
  await page.keyboard.type(' * 30 + bam_dia/9');
  await expect(page.getByText('There is no value named bam_dia here. Did you mean beam_dia', { exact: false })).toBeVisible();
  await page.keyboard.press('Alt+Enter');
  await expect(page.getByText('= 17 mm')).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(row(page, 'side_gap')).toContainText('17 mm');
  await expect(row(page, 'side_gap')).toBeFocused();

  await page.keyboard.press('Shift+F2');
  await page.keyboard.type('gap');
  await expect(page.getByText('inner_width = weaving_width + 2 * gap')).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(row(page, 'inner_width')).toContainText('weaving_width + 2 * gap');

  await command(page, 'gap: Rewrite…');
  const form = page.getByRole('dialog', { name: 'Rewrite formulas' });
  await pressUntilFocused(page, form.getByLabel('Read instead'));
  await page.keyboard.type('beam_d');
  await expect(form.getByRole('list', { name: 'Formulas that change' })).toContainText('weaving_width + 2 * beam_dia');
  await pressUntilFocused(page, form.getByRole('button', { name: 'Rewrite' }));
  await page.keyboard.press('Enter');
  await expect(row(page, 'inner_width')).toContainText('weaving_width + 2 * beam_dia');
  await page.keyboard.press('Control+z');

  await goTo(page, 'inner_width');
  await command(page, 'inner_width: Rewrite…');
  await pressUntilFocused(page, form.getByRole('radio', { name: 'another value in its place' }));
  await page.keyboard.press('ArrowUp');
  await expect(form.getByRole('radio', { name: 'a part of it made a value' })).toBeChecked();
  await pressUntilFocused(page, form.getByLabel('Part', { exact: true }));
  await page.keyboard.type('2 *');
  await pressUntilFocused(page, form.getByLabel('Name of the new value'));
  await page.keyboard.type('both_gaps');
  await page.keyboard.press('Enter');
  await expect(row(page, 'inner_width')).toContainText('weaving_width + both_gaps');

  await test.step('a value that is read is deleted with a choice', async () => {
    await goTo(page, 'both_gaps');
    await page.keyboard.press('Delete');
    const choice = page.getByRole('dialog', { name: 'Delete both_gaps' });
    await pressUntilFocused(page, choice.getByRole('button', { name: 'Replace it with its number in the formulas' }));
    await page.keyboard.press('Enter');
    await expect(row(page, 'inner_width')).toContainText('weaving_width + (34 mm)');
  });

  await test.step('explained: its trace leads to what it drives', async () => {
    await goTo(page, 'inner_width');
    await page.keyboard.press('Shift+F10');
    await expect(page.locator('[role="menu"]:focus, [role="menu"]:focus-within')).toBeVisible();
    await page.keyboard.type('tr');
    await expect(page.getByRole('menuitem', { name: 'Trace…' })).toBeFocused();
    await page.keyboard.press('Enter');
    const trace = page.getByRole('dialog', { name: 'Trace across documents' });
    await expect(trace.getByRole('list', { name: 'Comes from' })).toContainText('weaving_width');
    await expectAccessible(page);
    await pressUntilFocused(page, trace.getByRole('list', { name: 'Drives' }).getByRole('link', { name: 'rail_length' }));
    await page.keyboard.press('Enter');
    await expect(page.getByRole('heading', { level: 1, name: 'Cross rail' })).toBeVisible();
    await expect(row(page, 'rail_length')).toBeFocused();
  });
  expect(problems).toEqual([]);
});

test('rows are walked, marked, filled, copied to and from a spreadsheet, moved; found again by filters', async ({ page }) => {
  const problems = watchConsole(page);
  await openMaster(page, 'By keys: rows');
  await pressUntilFocused(page, page.getByRole('combobox', { name: 'Order of values' }));
  await page.keyboard.press('Tab');
  await expect(row(page, 'weaving_width')).toBeFocused();
  await page.keyboard.press('End');
  await page.keyboard.press('Home');
  await page.keyboard.press('ArrowDown');
  await expect(row(page, 'frame_stock')).toBeFocused();
  // One stop of the Tab key: back out of the ledger, and in again where one was.
  await page.keyboard.press('Shift+Tab');
  await expect(page.getByRole('combobox', { name: 'Order of values' })).toBeFocused();
  await page.keyboard.press('Tab');
  await expect(row(page, 'frame_stock')).toBeFocused();

  await goTo(page, 'side_gap');
  await page.keyboard.press('Shift+ArrowDown');
  await expect(page.getByRole('toolbar', { name: 'Marked values' })).toBeVisible();
  await expectAccessible(page);
  await page.keyboard.press('Control+d');
  await expect(row(page, 'inner_width')).toContainText('12 mm');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+c');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Alt+ArrowUp');
  await page.keyboard.press('Control+v');
  const dialog = page.getByRole('dialog', { name: 'Values from a spreadsheet' });
  await expect(dialog.getByText('0 changes, 0 to repair')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(dialog).toBeHidden();

  await command(page, 'Show formulas');
  await expect(row(page, 'frame_depth')).toBeVisible();
  await expect(row(page, 'frame_stock')).toHaveCount(0);
  await command(page, 'Show read by nothing');
  await expect(row(page, 'inner_width')).toHaveCount(0);
  await command(page, 'Show all values');
  await pressUntilFocused(page, page.getByRole('searchbox', { name: 'Search values' }), 'Shift+Tab');
  await page.keyboard.type('clearance');
  await expect(page.getByText('3 values', { exact: true })).toBeVisible();
  await page.keyboard.press('Escape');
  expect(problems).toEqual([]);
});

test('guards, loose ends, and files, by keys', async ({ page }) => {
  const problems = watchConsole(page);
  await openMaster(page, 'By keys: trust');
  await pressUntilFocused(page, page.getByRole('button', { name: 'Add a guard' }), 'Tab', 80);
  await page.keyboard.press('Enter');
  await page.keyboard.type('side_gap >= 14 mm');
  await page.keyboard.press('Tab');
  await expect(page.getByLabel('Words for when it does not hold')).toBeFocused();
  await page.keyboard.type('The heddles rub.');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'broken side_gap >= 14 mm The heddles rub.' })).toBeVisible();
  await expect(page.locator('footer')).toContainText('guards 1 broken');
  await goTo(page, 'side_gap');
  await page.keyboard.type('15 mm');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'holds side_gap >= 14 mm' })).toBeVisible();

  await command(page, 'Add a value');
  await page.keyboard.type('spare = 424 mm');
  await page.keyboard.press('Enter');
  await command(page, 'Loose ends');
  const panel = page.getByRole('complementary', { name: 'Loose ends' });
  const unused = panel.getByRole('listitem').filter({ hasText: 'spare is read by nothing.' });
  await expect(unused).toBeVisible();
  await pressUntilFocused(page, unused.getByRole('button', { name: 'Dismiss…' }));
  await page.keyboard.press('Enter');
  await page.keyboard.type('for the second loom');
  await page.keyboard.press('Enter');
  await expect(unused).toHaveCount(0);
  await expectAccessible(page);

  await pressUntilFocused(page, page.getByRole('button', { name: 'Files' }), 'Shift+Tab', 80);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('menuitem').first()).toBeFocused();
  const [csv] = await Promise.all([page.waitForEvent('download'), page.keyboard.press('Enter')]);
  expect(readFileSync(await csv.path(), 'utf8')).toContain('spare,424 mm');
  expect(problems).toEqual([]);
});

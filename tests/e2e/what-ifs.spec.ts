/** What would be: a part at the limits of its tolerances, and what-ifs from one part through the whole project. */
import { command, expect, expectAccessible, expectRegenerated, importDemo, openIn, row, test, valueVerb } from './support';

const TYPING = { delay: 40 };

test('a part is looked at as it would be: at its limits, and with other values; one of them is taken over', async ({ page }) => {
  const project = await importDemo(page, 'What would be', true);
  await openIn(page, project, 'Side frame');
  await expectRegenerated(page);
  const footer = page.getByRole('contentinfo');

  await test.step('at its upper limits: the bearing is larger, the solid lighter, and nothing is changed', async () => {
    await page.getByRole('button', { name: 'Limits', exact: true }).click();
    await page.getByRole('menuitemradio', { name: 'Show at upper limits' }).click();
    const strip = page.getByRole('region', { name: 'Shown as' });
    await expect(strip).toContainText('Shown at upper limits');
    await expect(row(page, 'warp_bearing')).toContainText('45.462 mm');
    await expectAccessible(page);
    await strip.getByRole('button', { name: 'Show as it is' }).click();
    await expect(row(page, 'warp_bearing')).toContainText('45.4 mm');
    await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();
  });

  const room = page.getByRole('dialog', { name: 'What-ifs of Side frame' });
  await test.step('a what-if is typed, built beside the part, and shown in its place', async () => {
    await valueVerb(page, 'bearing_inset', 'What if…');
    await room.getByRole('button', { name: 'Add a what-if' }).click();
    await room.getByRole('textbox', { name: 'bearing_inset in What if 1' }).click();
    await page.keyboard.type('frame_depth / 4', TYPING);
    await page.keyboard.press('Enter');
    await expect(room.getByRole('row', { name: /^bearing_inset/ })).toContainText('90 mm');
    await expect(room.getByRole('row', { name: /^mass/ })).toContainText(/kg.*kg/, { timeout: 60_000 });
    await expect(room.getByRole('img', { name: 'The solid of What if 1' })).toBeVisible();
    await expectAccessible(page);
    await room.getByRole('button', { name: 'More for What if 1' }).click();
    await page.getByRole('menuitem', { name: 'Show in the workspace' }).click();
    await expect(row(page, 'bearing_inset')).toContainText('90 mm');
    await expect(footer).toContainText('regenerated', { timeout: 60_000 });
  });

  await test.step('it is taken over as one edit, and undone as one', async () => {
    await page.getByRole('button', { name: 'Back to the what-ifs' }).click();
    await room.getByRole('button', { name: 'More for What if 1' }).click();
    await page.getByRole('menuitem', { name: 'Apply…' }).click();
    await expect(room).toContainText('What if 1 was applied');
    await page.keyboard.press('Escape');
    await expect(row(page, 'bearing_inset')).toContainText('frame_depth / 4');
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(row(page, 'bearing_inset')).toContainText('60 mm');
  });

  await test.step('one of the master is seen through the project', async () => {
    await openIn(page, project, 'Loom sizes');
    await valueVerb(page, 'weaving_width', 'What if…');
    const sizes = page.getByRole('dialog', { name: 'What-ifs of Loom sizes' });
    await sizes.getByRole('button', { name: 'Add a what-if' }).click();
    await sizes.getByRole('textbox', { name: 'weaving_width in What if 1' }).click();
    await page.keyboard.type('480 mm', TYPING);
    await page.keyboard.press('Enter');
    await expect(sizes.getByRole('row', { name: /^inner_width/ })).toContainText('504 mm');
    await sizes.getByRole('button', { name: 'More for What if 1' }).click();
    await page.getByRole('menuitem', { name: 'Through the project…' }).click();
    const through = page.getByRole('dialog', { name: 'What if 1, through the project' });
    await through.getByRole('button', { name: /^Cross rail/ }).click();
    await expect(through.getByRole('row', { name: /^rail_length/ })).toContainText(/460 mm.*540 mm/);
    await expectAccessible(page);
    await page.keyboard.press('Escape');
    await expect(row(page, 'weaving_width')).toContainText('400 mm');
  });

  await test.step('two values are run together, a field of the map is looked at and left; the least of one is found by another', async () => {
    await valueVerb(page, 'weaving_width', 'Run with a second value…');
    const map = page.getByRole('dialog');
    await map.getByRole('combobox', { name: 'Second value' }).selectOption('side_gap');
    await map.getByRole('combobox', { name: 'Look at' }).selectOption('inner_width');
    await map.getByRole('button', { name: 'Run', exact: true }).click();
    await map.getByRole('button', { name: /^150 mm, 6 mm: 162 mm$/ }).click();
    await page.keyboard.press('ArrowRight');
    await expect(map.getByRole('status')).toContainText('weaving_width 275 mm, side_gap 6 mm: inner_width 287 mm.');
    await expectAccessible(page);
    await page.keyboard.press('Escape');
    await valueVerb(page, 'weaving_width', 'Find a minimum or maximum…');
    const least = page.getByRole('dialog');
    await least.getByRole('combobox', { name: 'Of' }).selectOption('inner_width');
    await least.getByRole('button', { name: 'Find', exact: true }).click();
    await expect(least).toContainText('inner_width was 424 mm, would be 174 mm');
    await expectAccessible(page);
    await page.keyboard.press('Escape');
    await expect(row(page, 'weaving_width')).toContainText('400 mm');
  });

  await test.step('the what-if is there for whoever opens the document next', async () => {
    const sizes = page.getByRole('dialog', { name: 'What-ifs of Loom sizes' });
    await page.reload();
    await expect(row(page, 'weaving_width')).toContainText('400 mm');
    await command(page, 'What-ifs');
    await expect(sizes.getByRole('textbox', { name: 'weaving_width in What if 1' })).toHaveValue('480 mm');
  });
});

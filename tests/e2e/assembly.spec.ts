/** Assemblies as a designer makes and changes them. */
import type { Page } from '@playwright/test';
import { expect, expectAccessible, expectRegenerated, importDemo, openIn, row, saveRevision, test } from './support';

const TYPING = { delay: 40 };
const footer = (page: Page) => page.locator('footer[data-version]');

test('an assembly is put together, its values are set from above and read, two faces are mated', async ({ page }) => {
  const project = await importDemo(page, 'Assembly: made');
  await page.goto(project);
  await page.getByRole('button', { name: 'New document' }).click();
  await page.getByRole('radio', { name: 'assembly' }).check();
  await page.getByRole('textbox', { name: 'Name' }).fill('Bench');
  await page.getByRole('button', { name: 'Create' }).click();
  await expect(page.getByText('An assembly is made of parts')).toBeVisible();
  await expectAccessible(page);

  await test.step('components are chosen, and stand beside one another', async () => {
    await page.getByRole('button', { name: 'Add components' }).last().click();
    const dialog = page.getByRole('dialog', { name: 'Add components' });
    await dialog.getByRole('textbox', { name: 'Search' }).fill('ra');
    await dialog.getByRole('checkbox', { name: /Cross rail/ }).check();
    await dialog.getByRole('checkbox', { name: /Side frame/ }).check();
    await expectAccessible(page);
    await dialog.getByRole('button', { name: 'Add 2 components' }).click();
    await expect(row(page, 'cross_rail')).toContainText('anchored');
    await expectRegenerated(page);
    await expect(footer(page)).toContainText(/\d\.\d+ kg/, { timeout: 60_000 });
    await expectAccessible(page);
  });

  await test.step('a value of a component is set by a formula of the assembly, and what follows from it is read', async () => {
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Add a value' }).click();
    await page.keyboard.type('span = 600 mm', TYPING);
    await page.keyboard.press('Enter');
    await row(page, 'cross_rail').click();
    const panel = page.getByRole('complementary', { name: 'Component' });
    await panel.getByRole('button', { name: 'Set inner_width from here' }).click();
    await page.keyboard.type('span - 2 * cross_rail.tenon', TYPING);
    await page.keyboard.press('Enter');
    await expect(row(page, 'inner_width')).toContainText('564 mm');
    await expectRegenerated(page);
    await page.getByRole('button', { name: 'Add a value' }).click();
    await page.keyboard.type('reach = cross_rail.rail_length', TYPING);
    await page.keyboard.press('Enter');
    await page.keyboard.press('Escape');
    await expect(row(page, 'reach')).toContainText('600 mm');
    await page.getByRole('button', { name: 'Add a value' }).click();
    await page.keyboard.type('weight = cross_rail.mass', TYPING);
    await page.keyboard.press('Enter');
    await expect(row(page, 'weight')).toContainText(/0\.5\d* kg/, { timeout: 30_000 });
  });

  await test.step('a value that would depend on itself is refused with the path', async () => {
    await row(page, 'span').click();
    await page.keyboard.type('reach', TYPING);
    await expect(page.getByText('span → reach → cross_rail.rail_length → cross_rail.inner_width → span')).toBeVisible();
    await page.keyboard.press('Escape');
  });

  await test.step('two faces are picked, mated at an offset that has a name', async () => {
    await page.getByRole('button', { name: 'Add a mate' }).click();
    const form = page.getByRole('form', { name: 'New mate' });
    const canvas = page.getByRole('img', { name: /^The assembly/ });
    const pick = async (component: string): Promise<void> => {
      const box = await canvas.boundingBox();
      if (!box) throw new Error('no canvas');
      const words = new RegExp(`^${component}: (end|start|side)`);
      const [picked, pointed] = [form.getByText(words), page.locator('p[aria-hidden]').filter({ hasText: words })];
      for (let down = 0.35; down < 0.95; down += 0.05) {
        for (let across = 0.08; across < 0.95; across += 0.06) {
          // What is pointed at is named beside the pointer: a face of the component is looked for.
          await page.mouse.move(box.x + across * box.width, box.y + down * box.height);
          await page.waitForTimeout(60);
          if ((await pointed.count()) === 0) continue;
          await page.mouse.down();
          await page.mouse.up();
          await expect(picked).toBeVisible();
          return;
        }
      }
      await expect(picked).toBeVisible();
    };
    await pick('side_frame');
    await pick('cross_rail');
    await form.getByRole('radio', { name: 'plane on plane' }).click();
    await form.getByRole('textbox', { name: 'Offset' }).click();
    await page.keyboard.press('Control+a');
    await page.keyboard.type('play = -2 mm', TYPING);
    await page.keyboard.press('Enter');
    await expect(row(page, 'play')).toContainText('-2 mm');
    await expect(footer(page)).toContainText('degrees of freedom');
    await expect(page.getByRole('row', { name: /on / })).toContainText('plane on plane');
  });

  await test.step('undo takes the mate back, and the value with it', async () => {
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(row(page, 'play')).toHaveCount(0);
  });

  await test.step('planes are mated without the picture, and move between two limits', async () => {
    await page.getByRole('button', { name: 'Add a mate' }).click();
    const form = page.getByRole('form', { name: 'New mate' });
    const planes = form.getByLabel('Use a plane, axis or origin');
    for (const owner of ['The assembly', 'side_frame']) {
      const value = await planes.evaluate((list, name) => list.querySelector<HTMLOptionElement>(`optgroup[label="${name}"] option`)?.value ?? '', owner);
      await planes.selectOption(value);
    }
    await expect(form).toContainText('side_frame: front plane');
    await form.getByRole('checkbox', { name: 'moves between two limits' }).check();
    await form.getByRole('textbox', { name: 'Most offset' }).click();
    await page.keyboard.press('Control+a');
    await page.keyboard.type('reach_most = 250 mm', TYPING);
    await expectAccessible(page);
    await form.getByRole('button', { name: 'Create' }).click();
    await expect(row(page, 'reach_most')).toContainText('250 mm');
    await expect(page.getByRole('row', { name: /on the assembly$/ })).toContainText('same way, between limits');
  });
});

test('the loom is driven from above, judged, and caught up with its master in one go', async ({ page }) => {
  test.setTimeout(480_000);
  const project = await importDemo(page, 'Assembly: driven', true);
  await openIn(page, project, 'Loom');
  await expectRegenerated(page);
  await expect(footer(page)).toContainText('4.5', { timeout: 120_000 });

  await test.step('one value changes everything', async () => {
    await row(page, 'loom_width').click();
    await page.keyboard.type('560 mm', TYPING);
    await page.keyboard.press('Enter');
    await expect(row(page, 'weaving_width')).toContainText('560 mm');
    await expect(row(page, 'side_distance')).toContainText('620 mm');
    await expectRegenerated(page);
    await expect(footer(page)).toContainText('5.9', { timeout: 120_000 });
    await row(page, 'loom_width').click();
    await page.keyboard.type('2 m', TYPING);
    await page.keyboard.press('Enter');
    await expect(row(page, 'loom_width')).toContainText('This is above the most allowed, 900 mm.');
    await expect(row(page, 'weaving_width')).toContainText('Waiting on loom_width.');
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(row(page, 'weaving_width')).toContainText('560 mm');
  });

  await test.step('what stands in one another is told by its volume', async () => {
    await row(page, 'rail_play').click();
    await page.keyboard.type('-3 mm', TYPING);
    await page.keyboard.press('Enter');
    const judged = footer(page).getByRole('button', { name: /^interference [1-9]/ });
    await judged.click({ timeout: 120_000 });
    const panel = page.getByRole('complementary', { name: 'Interference' });
    await expect(panel.getByRole('button', { name: 'left_side and rail' })).toBeVisible();
    await panel.getByRole('button', { name: 'left_side and rail' }).click();
    await expectAccessible(page);
    await panel.getByRole('button', { name: 'Close' }).click();
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(footer(page).getByRole('button', { name: 'interference 0' })).toBeVisible({ timeout: 120_000 });
    await saveRevision(page);
  });

  await test.step('the master changes; parts and assembly catch up together', async () => {
    await openIn(page, project, 'Loom sizes');
    await row(page, 'beam_dia').click();
    await page.keyboard.type('50 mm', TYPING);
    await page.keyboard.press('Enter');
    await saveRevision(page);
    await page.goto(project);
    await page.getByRole('button', { name: /^Catch up \d documents/ }).click();
    const preview = page.getByRole('dialog');
    await preview.getByRole('list', { name: 'Documents' }).getByRole('button', { name: /^Loom/ }).last().click();
    await expect(preview.getByRole('img', { name: 'Loom before and after' })).toBeVisible({ timeout: 120_000 });
    await expect(preview).toContainText(/[Ii]nterference/, { timeout: 120_000 });
    await preview.getByRole('button', { name: /^Catch up \d documents/ }).click();
    await expect(page.getByRole('button', { name: 'Catch up', exact: true })).toBeDisabled({ timeout: 120_000 });
    await openIn(page, project, 'Loom');
    await expect(row(page, 'unit')).toContainText('revision 2');
    await expectRegenerated(page);
  });
});

test('a value is played and taken back, a component is dragged as far as its mates let it, what is measured is kept', async ({ page }) => {
  const project = await importDemo(page, 'Assembly: moved', true);
  await openIn(page, project, 'Loom');
  await expectRegenerated(page);
  await expect(footer(page)).toContainText('4.5', { timeout: 60_000 });

  await test.step('the beam turns by its value, and stands as it stood', async () => {
    const turn = row(page, 'beam_turn');
    await turn.click();
    await page.getByRole('button', { name: 'Play' }).click();
    await expect(turn).toContainText(/[1-9]\d\.\d+°/);
    await page.getByRole('button', { name: 'Stop and take back' }).click();
    await expect(turn).toContainText('0°');
    await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();
  });

  await test.step('the pawl is free to turn, and is dragged', async () => {
    const mate = page.getByRole('row', { name: 'Pawl turned' });
    await mate.click();
    await mate.getByRole('button', { name: 'Delete' }).click();
    await page.getByRole('button', { name: '1 degree of freedom' }).click();
    await expect(page.getByText('pawl turns about x.')).toBeVisible();
    await page.getByRole('row', { name: /^pawl / }).click();
    await page.getByRole('button', { name: 'Show only this' }).click();
    await page.getByRole('button', { name: 'Fit', exact: true }).click();
    const box = await page.getByRole('img', { name: /^The assembly/ }).boundingBox();
    if (!box) throw new Error('no canvas');
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    await page.mouse.move(x, y);
    await page.mouse.down();
    for (let step = 1; step <= 8; step++) await page.mouse.move(x, y - 12 * step);
    await page.mouse.up();
    await expect(page.getByText('2 edits since')).toBeVisible();
    await expect(footer(page)).toContainText('1 degree of freedom');
    await page.getByRole('button', { name: 'Show all' }).click();
  });

  await test.step('a sub-assembly is mirrored; two are copied with the mates between them', async () => {
    await page.getByRole('row', { name: /^unit / }).click();
    const panel = page.getByRole('complementary', { name: 'Component' });
    await panel.getByLabel('Mirrored').selectOption({ label: 'in its side plane' });
    await expect(page.getByRole('row', { name: /^unit / })).toContainText('mirrored');
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(page.getByRole('row', { name: /^unit / })).not.toContainText('mirrored');
    await page
      .getByRole('row', { name: /^pawl / })
      .getByRole('button', { name: /Pawl/ })
      .click({ modifiers: ['Control'] });
    await expect(panel).toContainText(/2 components: \d/);
    await expectAccessible(page);
    await panel.getByRole('button', { name: 'Duplicate 2' }).click();
    await expect(page.getByRole('row', { name: /^pawl_2 / })).toBeVisible();
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(page.getByRole('row', { name: /^pawl_2 / })).toHaveCount(0);
  });

  await test.step('the items of the parts list are numbered on the picture', async () => {
    await page.getByRole('button', { name: 'Item numbers' }).click();
    await expect(page.getByRole('table', { name: 'Parts' })).toContainText('Ratchet wheel');
    await expectAccessible(page);
    await page.getByRole('button', { name: 'Item numbers' }).click();
  });

  await test.step('a measured value is kept under a name', async () => {
    await page.getByRole('button', { name: 'Measure', exact: true }).click();
    const panel = page.getByRole('region', { name: 'Measure' });
    await expect(panel).toContainText('4.584 kg');
    await expectAccessible(page);
    await panel.getByRole('button', { name: 'Keep mass' }).click();
    await expect(row(page, 'mass')).toContainText('4.584 kg');
  });

  await test.step('how far it may be off is followed through the parts that are built at their limits', async () => {
    await row(page, 'mass').click({ button: 'right' });
    await page.getByRole('menuitem', { name: 'Tolerance stack…' }).click();
    const dialog = page.getByRole('dialog');
    await expect(dialog.getByText('Worst case', { exact: true })).toBeVisible({ timeout: 60_000 });
    await expect(dialog.getByRole('row', { name: /^left_side\.bearing_dia/ }).getByRole('link', { name: 'Open Side frame' })).toBeVisible();
    await expectAccessible(page);
    await page.keyboard.press('Escape');
  });

  await test.step('a part is opened among its neighbours, and left again', async () => {
    await page.getByRole('row', { name: /^pawl / }).click();
    await page.getByRole('complementary', { name: 'Component' }).getByRole('link', { name: 'Pawl' }).click();
    await expect(page.getByRole('button', { name: 'Neighbours' })).toBeVisible();
    await expectRegenerated(page);
    await expectAccessible(page);
    await page.getByRole('link', { name: 'Loom', exact: true }).click();
    await expect(row(page, 'loom_width')).toBeVisible();
  });
});

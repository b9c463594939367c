/** Outside calculations: a service that answers, stops, and answers again; a spreadsheet whose result drives a step. */
import type { Page } from '@playwright/test';
import { utils, write } from '@e965/xlsx';
import { expect, expectAccessible, expectRegenerated, importDemo, openIn, row, test, watchConsole } from './support';

const TYPING = { delay: 40 };
/** The stand-in, which the tests and the demo start. */
const CALCULATOR = process.env['CALCULATOR_URL'] ?? 'http://127.0.0.1:4180';

async function tell(page: Page, is: 'none' | 'failing'): Promise<void> {
  await page.request.post(`${CALCULATOR}/trouble`, { data: { is } });
}

test.beforeEach(({ page }) => tell(page, 'none'));

async function type(page: Page, name: string, formula: string): Promise<void> {
  await row(page, name).click();
  await page.keyboard.press('F2');
  await page.keyboard.press('Control+a');
  await page.keyboard.type(formula, TYPING);
  await page.keyboard.press('Enter');
}

/** A workbook that multiplies a number by a factor; saved with 30 as its result. */
function plateBook(title: string, factor: number, formula = 'B1*B2') {
  const book = utils.book_new();
  const result = { t: 'n' as const, v: 30, f: formula };
  utils.book_append_sheet(
    book,
    utils.aoa_to_sheet([
      ['Screw', 5],
      ['Times', factor],
      ['Thickness', result],
    ]),
    title,
  );
  return {
    name: 'plate.xlsx',
    mimeType: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    buffer: write(book, { type: 'buffer', bookType: 'xlsx' }) as Buffer,
  };
}

test('a calc sheet asks a service: its answer follows the inputs, is held while the service fails, and the report says so', async ({ page, context }) => {
  const problems = watchConsole(page);
  const project = await importDemo(page, 'Outside calculations', true);
  await openIn(page, project, 'Let-off brake');
  const calculation = page.getByRole('row', { name: /^Rope brake/ });
  await expect(calculation).toContainText('up to date');

  await test.step('twice the weight, twice the torque', async () => {
    // 2.2 kg: 9.81 m/s2 * 2.2 kg * (e^(2 pi 1.5 0.25) - 1) * 22.5 mm = 4.638 N m.
    await expect(row(page, 'brake_torque')).toContainText('4.638 N');
    await type(page, 'weight', '4.4 kg');
    await expect(row(page, 'brake_torque')).toContainText('9.276 N');
    await expect(calculation).toContainText('up to date');
    await expect(page.getByRole('contentinfo')).not.toContainText('held');
  });

  await test.step('the service fails: the last answer is held, and all that rests on it says so', async () => {
    await tell(page, 'failing');
    await type(page, 'weight', '3.3 kg');
    await expect(calculation).toContainText('Workshop failed (HTTP 500)', { timeout: 30_000 });
    await expect(row(page, 'brake_torque')).toContainText('9.276 N');
    await expect(row(page, 'brake_torque')).toContainText('held');
    await expect(row(page, 'pull_per_thread')).toContainText('held');
    await expect(row(page, 'weight_force')).not.toContainText('held');
    await expect(page.getByRole('contentinfo')).toContainText('3 held');
    await calculation.click();
    await expect(page.getByRole('complementary', { name: 'Outside calculation' })).toContainText('It was computed for weight 43.164 N');
    await expectAccessible(page);
    const report = await context.newPage();
    await report.goto(`${page.url().replace(/#.*/, '')}/report`);
    await expect(report.getByRole('note').filter({ hasText: 'Held:' })).toContainText('holding_force, brake_torque');
    await report.close();
  });

  await test.step('it is asked again, and answers', async () => {
    await tell(page, 'none');
    await page.getByRole('button', { name: 'Ask again' }).click();
    await expect(row(page, 'brake_torque')).toContainText('6.957 N');
    await expect(row(page, 'brake_torque')).not.toContainText('held');
  });
  expect(problems.filter((problem) => !problem.includes('500'))).toEqual([]);
});

test('a service is chosen for a part; a spreadsheet computes what the next step is built with; a calculation that is read is not deleted unseen', async ({
  page,
}) => {
  const problems = watchConsole(page);
  const project = await importDemo(page, 'Outside calculations of a part', true);
  await openIn(page, project, 'Pawl');
  await expectRegenerated(page);
  const dialog = page.getByRole('dialog', { name: 'Outside calculation' });

  await test.step('inputs are formulas of the part, judged as they are typed', async () => {
    await page.getByRole('button', { name: 'Outside calculation' }).click();
    await dialog.getByRole('radio', { name: /^shaft diameter/ }).check();
    await expectAccessible(page);
    await dialog.getByRole('textbox', { name: 'Formula for torque' }).click();
    await page.keyboard.type('20 N * frame_stock', TYPING);
    await dialog.getByRole('textbox', { name: 'Formula for allowable' }).click();
    await page.keyboard.type('40 MPa', TYPING);
    await dialog.getByRole('button', { name: 'Add', exact: true }).click();
    // 0.36 N m on 40 MPa.
    await expect(row(page, 'diameter')).toContainText('3.579 mm');
  });

  await test.step('cells of a spreadsheet are inputs and results', async () => {
    await page.getByRole('button', { name: 'Outside calculation' }).click();
    await dialog.getByRole('radio', { name: 'a spreadsheet' }).check();
    await dialog.getByLabel('Spreadsheet file (XLSX)').setInputFiles(plateBook('Plate', 1.5));
    await dialog.getByLabel('What Plate!B1 is used as').selectOption('input');
    await dialog.getByLabel('What Plate!B1 is', { exact: true }).selectOption('length');
    await dialog.getByLabel('What Plate!B3 is used as').selectOption('result');
    await dialog.getByLabel('What Plate!B3 is', { exact: true }).selectOption('length');
    await expectAccessible(page);
    await dialog.getByRole('textbox', { name: 'Formula for Plate!B1' }).click();
    await page.keyboard.type('diameter', TYPING);
    await dialog.getByRole('button', { name: 'Add', exact: true }).click();
    // One and a half times the answer of the service.
    await expect(row(page, 'b3')).toContainText('5.368 mm');
  });

  await test.step('what comes out drives a step, and follows', async () => {
    await type(page, 'pawl_stock', '2 * b3');
    await expect(row(page, 'pawl_stock')).toContainText('10.736 mm');
    await expectRegenerated(page);
    await page.getByRole('row', { name: /^Shaft diameter/ }).click();
    const panel = page.getByRole('complementary', { name: 'Outside calculation' });
    await panel.getByRole('textbox', { name: 'allowable of Shaft diameter' }).click();
    await page.keyboard.press('Control+a');
    await page.keyboard.type('5 MPa', TYPING);
    await page.keyboard.press('Enter');
    // An eighth of the stress, twice the diameter.
    await expect(row(page, 'pawl_stock')).toContainText('21.473 mm');
    await expectRegenerated(page);
  });

  await test.step('another file takes its place, once it has the cells; a function that is not known counts as it was saved', async () => {
    await page
      .getByRole('row', { name: /^Plate/i })
      .first()
      .click();
    const panel = page.getByRole('complementary', { name: 'Outside calculation' });
    await panel.getByRole('button', { name: 'Another file…' }).click();
    const other = page.getByRole('dialog', { name: /^Another file for/ });
    await other.getByLabel('Spreadsheet file (XLSX)').setInputFiles(plateBook('Sheet', 3));
    await expect(other).toContainText('There is no cell Plate!B3.');
    await expect(other.getByRole('button', { name: 'Use this file' })).toBeDisabled();
    await other.getByLabel('Spreadsheet file (XLSX)').setInputFiles(plateBook('Plate', 3));
    await expectAccessible(page);
    await other.getByRole('button', { name: 'Use this file' }).click();
    // Twice the factor of before.
    await expect(row(page, 'pawl_stock')).toContainText('42.946 mm');
    await panel.getByRole('button', { name: 'Another file…' }).click();
    await other.getByLabel('Spreadsheet file (XLSX)').setInputFiles(plateBook('Plate', 3, 'SHAFTLIFE(B1)'));
    await other.getByRole('button', { name: 'Use this file' }).click();
    await expect(panel).toContainText('Plate!B3 uses SHAFTLIFE, a function that is not known here. What the spreadsheet was saved with counts.');
    await expect(row(page, 'pawl_stock')).toContainText('60 mm');
    await expect(page.locator('footer')).toContainText('held');
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(row(page, 'pawl_stock')).toContainText('42.946 mm');
  });

  await test.step('it is not deleted under what reads it', async () => {
    await page
      .getByRole('row', { name: /^Plate/i })
      .first()
      .click();
    await page.getByRole('complementary', { name: 'Outside calculation' }).getByRole('button', { name: 'Delete' }).click();
    await expect(page.getByRole('dialog')).toContainText('pawl_stock');
    await page.keyboard.press('Escape');
    await expect(row(page, 'b3')).toBeVisible();
  });
  expect(problems).toEqual([]);
});

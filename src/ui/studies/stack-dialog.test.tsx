import { screen, within } from '@testing-library/react';
import { findRecord } from '@/core/document';
import { withParameters } from '../../../tests/support/assemblies';
import { edited } from '../../../tests/support/demo';
import { renderIn } from '../../../tests/support/render';
import { StackDialog } from './stack-dialog';

jest.setTimeout(60_000);

const tolerance = (id: string, by: string) => ({ type: 'parameter.update', id, changes: { tolerance: { kind: 'symmetric', by: { text: by } } } }) as const;

/** A gap of 9 mm between a bore and a shaft, 0.3 + 0.4 mm off at most. */
const PART = edited(
  withParameters('part', 'p', { bore: '50 mm', shaft: '41 mm', gap: 'bore - shaft' }),
  tolerance('p-bore', '0.3 mm'),
  tolerance('p-shaft', '0.4 mm'),
);

const line = (label: string): string => screen.getByText(label).nextElementSibling?.textContent ?? '';

async function ask(user: Awaited<ReturnType<typeof renderIn>>['user'], label: string, text: string): Promise<void> {
  await user.clear(screen.getByRole('textbox', { name: label }));
  await user.type(screen.getByRole('textbox', { name: label }), `${text}{Enter}`);
}

test('what is asked of a value is held against what it may be; one press makes a tolerance what it has to be', async () => {
  const { user, session } = await renderIn(PART, <StackDialog value="p-gap" onClose={() => undefined} />);
  expect(line('Worst case')).toBe('8.3 mm to 9.7 mm');
  expect(line('Fit')).toBe('clearance fit of shaft in bore: 8.3 mm to 9.7 mm of clearance');
  expect(screen.queryByText('Out of limits')).toBeNull();
  expect(screen.getByRole('img', { name: 'The chain of gap: bore 50 mm, shaft -41 mm; it comes to 9 mm' })).toBeTruthy();
  await ask(user, 'Must be at least', '8.5');
  expect(line('Worst case')).toBe('8.3 mm to 9.7 mm0.2 mm beyond the limits');
  expect(line('Root sum square')).toContain('within the limits');
  expect(line('Out of limits')).toMatch(/^\d.* %.*Cpk \d/);
  const shaft = screen.getByRole('row', { name: /^shaft/ });
  await user.click(within(shaft).getByRole('button', { name: 'Tighten shaft to ±0.2 mm' }));
  expect(findRecord(session.document, 'p-shaft', 'parameter')?.tolerance).toEqual({ kind: 'symmetric', by: { text: '0.2 mm' } });
  expect(line('Worst case')).toBe('8.5 mm to 9.5 mmwithin the limits');
  expect(screen.queryByRole('button', { name: /^Tighten/ })).toBeNull();
});

test('what counts twice is one piece or two, as is said; it is remembered', async () => {
  const document = edited(
    withParameters('part', 'w', { bore: '50 mm', washer: '3 mm', gap: 'bore - 2 * washer' }),
    tolerance('w-bore', '0.3 mm'),
    tolerance('w-washer', '0.2 mm'),
  );
  const { user } = await renderIn(document, <StackDialog value="w-gap" onClose={() => undefined} />);
  // 0.3 and twice 0.2: 0.5 together. With two washers, sqrt(0.09 + 2 · 0.04).
  expect(line('Root sum square')).toBe('43.5 mm to 44.5 mm');
  expect(screen.queryByRole('combobox', { name: 'Pieces of bore' })).toBeNull();
  await user.selectOptions(screen.getByRole('combobox', { name: 'Pieces of washer' }), '2 pieces');
  expect(line('Root sum square')).toBe('43.5877 mm to 44.4123 mm');
  expect(line('Worst case')).toBe('43.3 mm to 44.7 mm');
});

test('all are tightened by one part; what no tolerance can do is said; another way of adding up asks for less', async () => {
  const { user, session } = await renderIn(PART, <StackDialog value="p-gap" onClose={() => undefined} />);
  await ask(user, 'Must be at least', '8.9 mm');
  expect(screen.queryByRole('button', { name: /^Tighten shaft/ })).toBeNull();
  await user.selectOptions(screen.getByRole('combobox', { name: 'Judged by' }), 'root sum square');
  await user.selectOptions(screen.getByRole('combobox', { name: 'Judged by' }), 'worst case');
  await user.click(screen.getByRole('button', { name: 'Tighten all to 14 %' }));
  // A seventh of each, rounded down to two figures.
  expect(['p-bore', 'p-shaft'].map((id) => findRecord(session.document, id, 'parameter')?.tolerance)).toEqual([
    { kind: 'symmetric', by: { text: '0.042 mm' } },
    { kind: 'symmetric', by: { text: '0.057 mm' } },
  ]);
  expect(line('Worst case')).toContain('within the limits');
  await ask(user, 'Must be at least', '9.2 mm');
  expect(screen.getByText(/change the nominal sizes/)).toBeTruthy();
});

test('the limits of the value itself are what is asked of it, to begin with; what is no amount is not taken', async () => {
  const limited = edited(PART, { type: 'parameter.update', id: 'p-gap', changes: { least: { text: '8.5 mm' } } });
  const { user } = await renderIn(limited, <StackDialog value="p-gap" onClose={() => undefined} />);
  expect(line('Worst case')).toContain('0.2 mm beyond the limits');
  await ask(user, 'Must be at most', '3 kg');
  expect(screen.getByRole<HTMLInputElement>('textbox', { name: 'Must be at most' }).validationMessage).toBe('An amount like 9 mm');
});

test('what a tolerance costs and how it is distributed are kept with the value; the cheapest are tightened', async () => {
  const { user, session } = await renderIn(PART, <StackDialog value="p-gap" onClose={() => undefined} />);
  const kept = () => findRecord(session.document, 'p-gap', 'parameter')?.stack;
  await ask(user, 'Must be at least', '8.7');
  expect(kept()).toEqual({ atLeast: { text: '8.7 mm' } });
  await ask(user, 'Cost of bore', '9');
  await ask(user, 'Cost of shaft', 'dear');
  expect(screen.getByRole<HTMLInputElement>('textbox', { name: 'Cost of shaft' }).validationMessage).toBe('A number above 0');
  await user.selectOptions(screen.getByRole('combobox', { name: 'Distribution of shaft' }), 'triangular');
  expect(kept()?.contributors).toEqual({ 'p-bore': { cost: 9 }, 'p-shaft': { distribution: 'triangular' } });
  // 0.3 in all: three quarters of it for what is nine times as dear.
  await user.click(screen.getByRole('button', { name: 'Tighten at least cost' }));
  expect(['p-bore', 'p-shaft'].map((id) => findRecord(session.document, id, 'parameter')?.tolerance)).toEqual([
    { kind: 'symmetric', by: { text: '0.22 mm' } },
    { kind: 'symmetric', by: { text: '0.075 mm' } },
  ]);
  expect(line('Worst case')).toContain('within the limits');
  await user.selectOptions(screen.getByRole('combobox', { name: 'Distribution of shaft' }), 'even');
  await ask(user, 'Cost of bore', '1');
  expect(kept()).toEqual({ atLeast: { text: '8.7 mm' } });
});

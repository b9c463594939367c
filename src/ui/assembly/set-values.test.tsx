import { act, screen, within } from '@testing-library/react';
import { findRecord, listRecords } from '@/core/document';
import { component, placeless, withComponents, withParameters } from '../../../tests/support/assemblies';
import { renderIn } from '../../../tests/support/render';
import { SetValues } from './set-values';

jest.setTimeout(30_000);

const CALC = withParameters('calc', 'tension', { force: '200 N', arm: '30 mm', torque: 'force * arm' }, { arm: 'length' });
const PART = withComponents(withParameters('part', 'wheel', { radius: '24 mm', torque: '1 N * 1 mm' }), placeless(component('tension', 'tension')));

async function open() {
  const use = findRecord(PART, 'tension', 'component');
  if (!use) throw new Error('no use');
  const opened = await renderIn(PART, <SetValues component={use} />);
  act(() => {
    opened.session.addSnapshot({ source: 'tension', revision: 1 }, CALC);
    opened.session.values.settle();
    opened.session.store.setState((state) => ({ version: state.version + 1 }));
  });
  return opened;
}
const line = (name: string): HTMLElement => screen.getByText(name).closest('li') ?? document.body;

test('inputs are to be set, results to be read; a formula of the part sets an input, and the results follow', async () => {
  const { user, session } = await open();
  expect(screen.getByText('Inputs')).toBeTruthy();
  expect(within(line('torque')).getByText('6 N·m')).toBeTruthy();
  expect(screen.queryByRole('button', { name: 'Set torque from here' })).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Set arm from here' }));
  await user.keyboard('radius{Enter}');
  expect(within(line('torque')).getByText('4.8 N·m')).toBeTruthy();
  expect(listRecords(session.document, 'tension/drives', 'drive').map(({ formula }) => formula.text)).toEqual(['radius']);
  await user.click(screen.getByRole('button', { name: 'Reset' }));
  expect(within(line('torque')).getByText('6 N·m')).toBeTruthy();
});

test('a formula of the wrong kind is not taken, and told', async () => {
  const { user, session } = await open();
  await user.click(screen.getByRole('button', { name: 'Set arm from here' }));
  await user.keyboard('3 kg');
  expect(screen.getByText(/tension\.arm.*length|length.*tension\.arm|mass/i)).toBeTruthy();
  await user.keyboard('{Escape}');
  expect(listRecords(session.document, 'tension/drives', 'drive')).toEqual([]);
});

test('a result is read under a name that is free', async () => {
  const { user, workspace } = await open();
  await user.click(screen.getByRole('button', { name: 'Read tension.torque here' }));
  expect(workspace.getState().editing?.typed).toBe('torque_2 = tension.torque');
});

import { fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { LabelGrip } from './label-grip';
import { movedLabels } from './moved-labels';

beforeEach(() => movedLabels.setState({ by: {} }));

const shift = () => movedLabels.getState().by['width'];
/** A press at 100, 100, and where the pointer goes from there. */
function drag(...places: readonly (readonly [number, number])[]): void {
  fireEvent(screen.getByRole('button', { name: 'Move the text' }), new MouseEvent('pointerdown', { bubbles: true, button: 0, clientX: 100, clientY: 100 }));
  for (const [clientX, clientY] of places) fireEvent(window, new MouseEvent('pointermove', { clientX, clientY }));
}

test('a text is dragged, and dragged on from where it is', () => {
  render(<LabelGrip label="width" />);
  drag([110, 130], [140, 80]);
  fireEvent(window, new MouseEvent('pointerup'));
  expect(shift()).toEqual([40, -20]);
  drag([110, 100]);
  fireEvent(window, new MouseEvent('pointerup'));
  expect(shift()).toEqual([50, -20]);
});

test('Escape puts it back to where it was before', () => {
  movedLabels.setState({ by: { width: [30, 0] } });
  render(<LabelGrip label="width" />);
  drag([300, 300]);
  fireEvent.keyDown(window, { key: 'Escape' });
  expect(shift()).toEqual([30, 0]);
});

test('by keys: arrows move it, Delete lets it stand by itself again; so does a double click', async () => {
  const user = userEvent.setup();
  render(<LabelGrip label="width" />);
  await user.tab();
  await user.keyboard('{ArrowRight}{ArrowRight}{ArrowUp}');
  expect(shift()).toEqual([16, -8]);
  await user.keyboard('{Delete}');
  expect(shift()).toBeUndefined();
  await user.keyboard('{ArrowDown}{ArrowDown}');
  await user.dblClick(screen.getByRole('button', { name: 'Move the text' }));
  expect(shift()).toBeUndefined();
});

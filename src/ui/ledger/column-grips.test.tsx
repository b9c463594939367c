import { fireEvent, render, screen } from '@testing-library/react';
import { COLUMNS, pageSettings } from '../state/page-settings';
import { ColumnGrips } from './column-grips';

const widths = () => pageSettings.getState().columns;
/** The page that tests run in knows no places of pointer events: those of the mouse have them. */
const pointer = (target: Element | Window, type: string, clientX: number): void => {
  fireEvent(target, new MouseEvent(type, { bubbles: true, clientX }));
};
const grip = (name: string): HTMLElement => screen.getByRole('separator', { name });

beforeEach(() => pageSettings.setState({ columns: { value: COLUMNS.value.usual, name: COLUMNS.name.usual } }));

test('an edge is dragged as far as its limits, and no other moves', () => {
  render(<ColumnGrips />);
  pointer(grip('Width of the names'), 'pointerdown', 300);
  pointer(window, 'pointermove', 350);
  expect(widths()).toEqual({ value: 84, name: 190 });
  pointer(window, 'pointermove', 2000);
  pointer(window, 'pointerup', 2000);
  expect(widths()).toEqual({ value: 84, name: COLUMNS.name.most });
  pointer(window, 'pointermove', 310);
  expect(widths().name).toBe(COLUMNS.name.most);
});

test('by arrow keys and Home; a double click gives the usual width', () => {
  render(<ColumnGrips />);
  fireEvent.keyDown(grip('Width of the values'), { key: 'ArrowRight' });
  fireEvent.keyDown(grip('Width of the values'), { key: 'ArrowRight' });
  expect(widths().value).toBe(100);
  expect(grip('Width of the values').getAttribute('aria-valuenow')).toBe('100');
  fireEvent.keyDown(grip('Width of the values'), { key: 'ArrowLeft' });
  expect(widths().value).toBe(92);
  fireEvent.keyDown(grip('Width of the values'), { key: 'Home' });
  expect(widths().value).toBe(84);
  fireEvent.keyDown(grip('Width of the names'), { key: 'ArrowLeft' });
  fireEvent.doubleClick(grip('Width of the names'));
  expect(widths()).toEqual({ value: 84, name: 140 });
});

test('Escape takes a drag back', () => {
  render(<ColumnGrips />);
  pointer(grip('Width of the names'), 'pointerdown', 300);
  pointer(window, 'pointermove', 350);
  expect(widths().name).toBe(190);
  fireEvent.keyDown(window, { key: 'Escape' });
  expect(widths().name).toBe(140);
  pointer(window, 'pointermove', 400);
  expect(widths().name).toBe(140);
});

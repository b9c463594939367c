import { act, fireEvent, render, screen } from '@testing-library/react';
import { pageSettings } from '../state/page-settings';
import { LowerPanel } from './lower-panel';

// Typing key by key takes long on a busy machine.
jest.setTimeout(30_000);

const panel = (): HTMLElement => screen.getByRole('complementary', { name: 'Selected value' });
const handle = (): HTMLElement | null => screen.queryByRole('separator', { name: 'Height of the panel' });

beforeEach(() => {
  jest.useFakeTimers();
  pageSettings.setState({ panelHeight: undefined, isPanelFolded: false });
});
afterEach(() => jest.useRealTimers());

test('it opens a moment after something was selected, and keeps its height from then on', () => {
  const shown = (isIdle: boolean) => (
    <LowerPanel aria-label="Selected value" height={192} isIdle={isIdle}>
      content
    </LowerPanel>
  );
  const { rerender } = render(shown(true));
  expect(handle()).toBeNull();
  rerender(shown(false));
  // A double click still meets its row.
  expect(handle()).toBeNull();
  act(() => void jest.advanceTimersByTime(400));
  expect(panel().style.height).toBe('192px');
  rerender(shown(true));
  expect(panel().style.height).toBe('192px');
});

test('its edge is moved by keys, folds and unfolds, and is remembered', () => {
  render(
    <LowerPanel aria-label="Selected value" height={192}>
      content
    </LowerPanel>,
  );
  act(() => void jest.advanceTimersByTime(400));
  const edge = handle();
  if (!edge) throw new Error('no edge');
  fireEvent.keyDown(edge, { key: 'ArrowUp' });
  expect(panel().style.height).toBe('216px');
  expect(pageSettings.getState().panelHeight).toBe(216);
  fireEvent.keyDown(edge, { key: 'Enter' });
  expect(edge.getAttribute('aria-valuenow')).toBe('0');
  expect(panel().className).toContain('hidden');
  fireEvent.doubleClick(edge);
  expect(panel().className).not.toContain('hidden');
});

test('a drag sets the height, and folds it where hardly anything would be left', () => {
  render(
    <LowerPanel aria-label="Selected value" height={192}>
      content
    </LowerPanel>,
  );
  act(() => void jest.advanceTimersByTime(400));
  const edge = handle();
  if (!edge) throw new Error('no edge');
  const drag = (to: number): void => {
    fireEvent(edge, new MouseEvent('pointerdown', { bubbles: true, clientY: 500 }));
    act(() => {
      window.dispatchEvent(new MouseEvent('pointermove', { clientY: to }));
      window.dispatchEvent(new MouseEvent('pointerup', { clientY: to }));
    });
  };
  drag(440);
  expect(panel().style.height).toBe('252px');
  drag(740);
  expect(pageSettings.getState().isPanelFolded).toBe(true);
});

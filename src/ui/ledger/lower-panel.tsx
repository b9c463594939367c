'use client';
import { useEffect, useState, type ComponentProps } from 'react';
import { followPointer } from '../state/follow-pointer';
import { pageSettings, usePageSettings } from '../state/page-settings';

/** Heights in pixels: the least that is of use, and how far an arrow key moves the edge. */
const LEAST = 72;
const KEY_STEP = 24;
/** How long a panel that opens by a click waits, so that a double click still meets its row. */
const REST_MS = 350;

interface LowerPanelProps extends ComponentProps<'aside'> {
  /** The height that suits it, until somebody chooses another. */
  readonly height: number;
  /** It has nothing to tell but a line: before it was open for the first time, that is all of it. */
  readonly isIdle?: boolean;
}

/** The panel under the ledger: its upper edge is dragged or moved by arrow keys; a double click or Enter on it folds the panel. */
export function LowerPanel({ height: own, isIdle: isEmpty = false, className = '', children, ...rest }: LowerPanelProps) {
  const chosen = usePageSettings((settings) => settings.panelHeight);
  const isFolded = usePageSettings((settings) => settings.isPanelFolded);
  const isRested = useRested(!isEmpty);
  // Once it was open it keeps its height, so that no row moves under the pointer with each choice.
  const [hasOpened, setOpened] = useState(isRested);
  if (isRested && !hasOpened) setOpened(true);
  useEffect(() => {
    // It may have come over the row that it tells of.
    if (hasOpened) document.querySelector('[data-row][aria-selected="true"]')?.scrollIntoView({ block: 'nearest' });
  }, [hasOpened]);
  const height = chosen ?? own;
  const fold = (): void => {
    pageSettings.setState({ isPanelFolded: !isFolded });
  };
  const isOpen = hasOpened && !isFolded;
  return (
    <>
      {hasOpened && (
        <div
          role="separator"
          aria-orientation="horizontal"
          aria-label="Height of the panel"
          aria-valuenow={isFolded ? 0 : height}
          aria-valuemin={0}
          aria-valuemax={1000}
          tabIndex={0}
          title="Drag for another height; double click folds"
          className={`h-1 shrink-0 cursor-row-resize bg-flax-deep hover:bg-indigo ${isFolded ? 'h-2' : ''}`}
          onDoubleClick={fold}
          onKeyDown={(event) => {
            const step = event.key === 'ArrowUp' ? KEY_STEP : event.key === 'ArrowDown' ? -KEY_STEP : undefined;
            if (event.key === 'Enter') fold();
            else if (step !== undefined) pageSettings.setState({ panelHeight: Math.max(LEAST, height + step), isPanelFolded: false });
            else return;
            event.preventDefault();
          }}
          onPointerDown={({ clientY }) => {
            const from = isFolded ? 0 : height;
            followPointer(
              (event) => {
                const next = from + clientY - event.clientY;
                if (Math.abs(event.clientY - clientY) > 3) pageSettings.setState({ panelHeight: Math.max(LEAST, next), isPanelFolded: next < LEAST / 2 });
              },
              () => undefined,
            );
          }}
        />
      )}
      <aside
        {...rest}
        // Folded to a line while it waits: what is cut off cannot be pressed yet.
        inert={!hasOpened && !isEmpty}
        className={`max-h-[60%] shrink-0 bg-flax ${hasOpened ? (isOpen ? className : 'hidden') : 'h-8 overflow-hidden border-t border-rule px-3 py-1.5'}`}
        style={hasOpened ? { height } : undefined}
      >
        {children}
      </aside>
    </>
  );
}

/** Whether something has been so for a moment. */
function useRested(isSo: boolean): boolean {
  const [isRested, setRested] = useState(isSo);
  useEffect(() => {
    const timer = setTimeout(() => setRested(isSo), isSo ? REST_MS : 0);
    return () => clearTimeout(timer);
  }, [isSo]);
  return isRested && isSo;
}

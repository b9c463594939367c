/** Follows a pointer that was pressed until it is let go, or Escape is pressed; `isKept` says which. */
export function followPointer(onMove: (event: PointerEvent) => void, onEnd: (isKept: boolean) => void): void {
  const end = (isKept: boolean): void => {
    window.removeEventListener('pointermove', onMove);
    window.removeEventListener('pointerup', up);
    window.removeEventListener('keydown', key);
    onEnd(isKept);
  };
  const up = (): void => end(true);
  const key = ({ key: name }: KeyboardEvent): void => {
    if (name === 'Escape') end(false);
  };
  window.addEventListener('pointermove', onMove);
  window.addEventListener('pointerup', up);
  window.addEventListener('keydown', key);
}

'use client';
import { Button } from './button';

/** Switches between light and night, and remembers it in this browser. */
export function ThemeButton() {
  const toggle = (): void => {
    const root = document.documentElement;
    const next = root.dataset['theme'] === 'night' ? 'light' : 'night';
    if (next === 'night') root.dataset['theme'] = 'night';
    else delete root.dataset['theme'];
    localStorage.setItem('warpbeam-theme', next);
    window.dispatchEvent(new Event('warpbeam-theme'));
  };
  return (
    <Button tone="quiet" onClick={toggle}>
      Light / night
    </Button>
  );
}

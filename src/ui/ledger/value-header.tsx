'use client';
import { lazy, Suspense, useRef } from 'react';
import { Button } from '../design/button';
import { useWorkspace, useWorkspaceStore } from '../state/context';
import { ValueMenu } from './value-menu';

const loadPopover = () => import('./value-popover');
const ValuePopover = lazy(() => loadPopover().then((module) => ({ default: module.ValuePopover })));

/** Fetches what is told and asked of a value, before it is asked for. */
export async function loadValuePopover(): Promise<void> {
  await loadPopover();
}

interface ValueHeaderProps {
  readonly id: string;
  readonly name: string;
  /** How the value comes about: `2 * rail = 2 * 40 mm = 80 mm`. */
  readonly chain: string;
}

/** The first line about the selected value, with what is asked and done about it. */
export function ValueHeader({ id, name, chain }: ValueHeaderProps) {
  const workspace = useWorkspaceStore();
  const opened = useWorkspace((state) => state.opened);
  const header = useRef<HTMLElement>(null);
  return (
    <>
      <header ref={header} className="flex items-start gap-1">
        <p className="min-w-0 flex-1 py-1 font-mono text-[13px] break-words">{chain}</p>
        <Button tone="quiet" onClick={() => workspace.setState({ opened: 'trace' })}>
          Trace…
        </Button>
        <Button tone="quiet" onClick={() => workspace.setState({ opened: 'rewrite' })}>
          Rewrite…
        </Button>
        <ValueMenu id={id} name={name} />
      </header>
      {opened && (
        <Suspense fallback={null}>
          <ValuePopover id={id} opened={opened} anchor={header} />
        </Suspense>
      )}
    </>
  );
}

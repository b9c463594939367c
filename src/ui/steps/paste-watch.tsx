'use client';
import { lazy, Suspense, useEffect } from 'react';
import { readStepClip } from '@/core/document';
import { useWorkspace, useWorkspaceStore } from '../state/context';

const PasteDialog = lazy(() => import('./paste-dialog').then((module) => ({ default: module.PasteDialog })));

/** Asks where copied steps are to go once some are pasted, by a command or as text. */
export function PasteWatch() {
  const workspace = useWorkspaceStore();
  const clip = useWorkspace((state) => state.clip);
  useEffect(() => {
    // From another browser the steps come as text.
    const onPaste = (event: ClipboardEvent): void => {
      const pasted = readStepClip(event.clipboardData?.getData('text/plain') ?? '');
      if (!pasted) return;
      event.preventDefault();
      workspace.setState({ clip: pasted });
    };
    window.addEventListener('paste', onPaste);
    return () => window.removeEventListener('paste', onPaste);
  }, [workspace]);
  return (
    clip && (
      <Suspense fallback={null}>
        <PasteDialog clip={clip} onClose={() => workspace.setState({ clip: undefined })} />
      </Suspense>
    )
  );
}

'use client';
import { KIND_WORDS } from '@/core/document';
import Link from 'next/link';
import { useState } from 'react';
import type { SaveRevisionReply } from '@/contract';
import { Button } from '../design/button';
import { CommandBox } from './command-box';
import { HelpMenu } from '../help/help-menu';
import { ExportMenu } from './export-menu';
import { RenamableTitle } from '../design/renamable-title';
import { ThemeButton } from '../design/theme-button';
import { DocumentIcon } from '../design/kind-icons';
import { useSession, useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';

/** Which document this is, how it stands, and saving it. */
export function TopBar() {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const project = useSessionState((state) => state.project);
  const name = useSessionState((state) => state.document.name);
  const kind = useSessionState((state) => state.document.kind);
  const behind = useSessionState((state) => state.behind.length);
  const canUndo = useSessionState((state) => state.canUndo);
  const canRedo = useSessionState((state) => state.canRedo);
  return (
    <header className="flex h-11 shrink-0 items-center gap-2 border-b border-rule bg-flax px-3">
      <Link href={`/projects/${project.id}`} className="max-w-56 min-w-16 truncate text-walnut-soft underline" title={project.name}>
        {project.name}
      </Link>
      <RenamableTitle name={name} className="min-w-16 text-base" onRename={(typed) => session.edit({ type: 'document.rename', name: typed })?.message} />
      <span className="text-walnut-soft">
        <DocumentIcon kind={kind} />
        {KIND_WORDS[kind]}
      </span>
      <SaveState />
      {behind > 0 && (
        <Button className="border-weld bg-weld-wash text-weld" onClick={() => workspace.setState({ task: { kind: 'catch-up' } })}>
          {behind} behind: preview
        </Button>
      )}
      <span className="flex-1" />
      <CommandBox />
      <Button tone="quiet" disabled={!canUndo} onClick={() => session.undo()} title="Ctrl Z">
        Undo
      </Button>
      <Button tone="quiet" disabled={!canRedo} onClick={() => session.redo()} title="Ctrl Y">
        Redo
      </Button>
      <ExportMenu />
      <Button tone="quiet" onClick={() => workspace.setState({ task: { kind: 'history' } })}>
        History
      </Button>
      <HelpMenu />
      <ThemeButton />
      <SaveRevision />
    </header>
  );
}

function SaveState() {
  const unsaved = useSessionState((state) => state.unsavedEdits);
  const pending = useSessionState((state) => state.pending);
  const isOffline = useSessionState((state) => state.isOffline);
  const revision = useSessionState((state) => state.revision);
  const sources = useSessionState((state) => state.unsavedSources);
  const isTaken = useWorkspace((state) => state.uses.size > 0);
  if (isOffline) return <span className="text-weld">{pending} edits wait for the server</span>;
  return (
    <span className="min-w-0 shrink-[3] truncate text-walnut-soft" aria-live="polite">
      revision {revision}
      {unsaved > 0 ? `, ${unsaved} edit${unsaved === 1 ? '' : 's'} since` : ''}
      {unsaved > 0 && isTaken && ' that others do not see yet'}
      {sources.length > 0 && <span className="text-weld">; {sources.map(({ name, edits }) => `${name} has ${edits} unsaved`).join(', ')}</span>}
    </span>
  );
}

function SaveRevision() {
  const session = useSession();
  const unsaved = useSessionState((state) => state.unsavedEdits);
  const [word, setWord] = useState<string>();
  const [isSaving, setSaving] = useState(false);
  const save = async (): Promise<void> => {
    setSaving(true);
    const reply = await session.save('');
    setSaving(false);
    setWord('code' in reply ? reply.message : describeSaved(reply));
  };
  return (
    <span className="relative">
      <Button tone="strong" disabled={unsaved === 0 || isSaving} onClick={() => void save()}>
        Save revision
      </Button>
      {word !== undefined && (
        <span role="status" className="absolute top-full right-0 z-40 mt-1 w-max max-w-sm rounded-box border border-rule bg-sheet px-2 py-1 shadow-box">
          {word}
          <button type="button" className="ml-2 underline" onClick={() => setWord(undefined)}>
            Close
          </button>
        </span>
      )}
    </span>
  );
}

/** What became of the documents that take values from here. */
function describeSaved({ revision, isUnchanged, followed, asked, nowBehind }: SaveRevisionReply): string {
  if (isUnchanged === true) return `Nothing has changed since revision ${revision}.`;
  const words = ['Saved.'];
  if (followed.length > 0) words.push(`Followed at once: ${listShort(followed)}.`);
  for (const { name, reason } of asked.slice(0, 3)) words.push(`${name} did not follow by itself: ${reason}`);
  if (nowBehind.length > 0) words.push(`Behind now: ${listShort(nowBehind.map(({ name, values }) => `${name} (${values})`))}.`);
  return words.join(' ');
}

function listShort(items: readonly string[]): string {
  const rest = items.length - 6;
  return rest > 1 ? `${items.slice(0, 6).join(', ')} and ${rest} more` : items.join(', ');
}

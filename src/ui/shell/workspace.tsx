'use client';
import { useEffect } from 'react';
import { findAny } from '@/core/document';
import { GuideStrip } from '../help/guide-strip';
import { boxes, menus } from '../design/floating';
import { loadEditor } from '../formula-box/open-editor';
import { goToRow } from '../ledger/go-to-row';
import { LinksWatch } from '../links/links-watch';
import { LooseEndsWatch } from '../loose-ends/loose-ends-watch';
import { useSession, useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';
import type { DocumentSession } from '../state/document-session';
import type { SessionState } from '../state/session-state';
import {
  AddComponentDialog,
  CatchUpDialog,
  GoalsDialog,
  HandOverDialog,
  HistoryDialog,
  KeysPage,
  LimitsDialog,
  LinkDialog,
  MapDialog,
  MinimiseDialog,
  OutsideDialog,
  PasteWatch,
  QuestionDialog,
  RangeDialog,
  ReferenceDrawer,
  RemovalDialog,
  RepointDialog,
  SizesPage,
  SplitWorkspace,
  StackDialog,
  TableDialog,
  WhatIfsPage,
  loadQuestion,
} from './loaded-later';
import { loadCommands } from './command-box';
import { loadValuePopover } from '../ledger/value-header';
import { DocumentLedger } from './document-ledger';
import { loadSketch } from './load-sketch';
import { ShownAsStrip } from './shown-as-strip';
import { StatusLine } from './status-line';
import { TopBar } from './top-bar';
import { Tray } from './tray';

/** One open document: ledger, and for a part or an assembly the canvas beside it. */
export function Workspace() {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const kind = useSessionState((state) => state.document.kind);
  const asksRemoval = useWorkspace((state) => state.removal !== undefined);
  const showsReference = useWorkspace((state) => state.showsReference);
  const asksQuestion = useWorkspace((state) => state.question !== undefined);
  const asksTable = useWorkspace((state) => state.table !== undefined);

  useEffect(() => {
    // What it took to get here is held to a budget.
    performance.mark('shown');
    // What is used first is fetched while nobody waits for anything.
    let stopWaiting = (): void => undefined;
    const stopListening = oncePictured(session, () => {
      stopWaiting = whenIdle(() => {
        void Promise.allSettled([
          loadEditor(),
          loadCommands(kind === 'part'),
          menus.load(),
          boxes.load(),
          loadQuestion(),
          loadValuePopover(),
          kind === 'part' ? loadSketch() : undefined,
        ]);
      });
    });
    return () => {
      stopListening();
      stopWaiting();
    };
  }, [kind, session]);

  useEffect(() => {
    // Keys that work wherever the focus is, but in a box that has an undo of its own.
    const onKeyDown = (event: KeyboardEvent): void => {
      if (event.key === 'F1') {
        event.preventDefault();
        workspace.setState({ task: { kind: 'keys' } });
      }
      if (!(event.ctrlKey || event.metaKey) || isInBox(event.target)) return;
      const key = event.key.toLowerCase();
      if (key === 'z' && !event.shiftKey) session.undo();
      else if (key === 'y' || (key === 'z' && event.shiftKey)) session.redo();
      else return;
      event.preventDefault();
    };
    window.addEventListener('keydown', onKeyDown);
    return () => window.removeEventListener('keydown', onKeyDown);
  }, [session, workspace]);

  useEffect(() => {
    // An address may name a value: `#<id>`.
    const goThere = (): void => {
      const id = decodeURIComponent(window.location.hash.slice(1));
      if (id !== '' && findAny(session.document, id)) goToRow(workspace, id);
    };
    goThere();
    window.addEventListener('hashchange', goThere);
    return () => window.removeEventListener('hashchange', goThere);
  }, [session, workspace]);

  return (
    <div className="flex h-dvh flex-col">
      <TopBar />
      <GuideStrip />
      <Tray />
      <ShownAsStrip />
      <main className="min-h-0 flex-1">{kind === 'master' ? <DocumentLedger /> : <SplitWorkspace kind={kind} />}</main>
      <StatusLine />
      <OpenTask />
      {asksRemoval && <RemovalDialog />}
      {asksQuestion && <QuestionDialog />}
      {showsReference && <ReferenceDrawer />}
      <LinksWatch />
      <LooseEndsWatch />
      {asksTable && <TableDialog />}
      {kind === 'part' && <PasteWatch />}
    </div>
  );
}

/** The task that has the page for a while, if any. */
function OpenTask() {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const project = useSessionState((state) => state.project.id);
  const task = useWorkspace((state) => state.task);
  const close = (): void => {
    workspace.setState({ task: undefined });
  };
  switch (task?.kind) {
    case 'catch-up':
      return <CatchUpDialog project={project} document={session.id} onClose={close} />;
    case 'add-component':
      return <AddComponentDialog onClose={close} instead={task.instead} />;
    case 'stack':
      return <StackDialog value={task.value} onClose={close} />;
    case 'range':
      return <RangeDialog value={task.value} onClose={close} />;
    case 'map':
      return <MapDialog value={task.value} onClose={close} />;
    case 'minimise':
      return <MinimiseDialog value={task.value} onClose={close} />;
    case 'goals':
      return <GoalsDialog onClose={close} />;
    case 'limits':
      return <LimitsDialog onClose={close} />;
    case 'keys':
      return <KeysPage onClose={close} />;
    case 'sizes':
      return <SizesPage onClose={close} />;
    case 'what-ifs':
      return <WhatIfsPage value={task.value} onClose={close} />;
    case 'history':
      return <HistoryDialog onClose={close} />;
    case 'link':
      return <LinkDialog source={task.source} onClose={close} />;
    case 'outside':
      return <OutsideDialog onClose={close} />;
    case 'repoint':
      return <RepointDialog link={task.link} onClose={close} />;
    case 'hand-over':
      return <HandOverDialog values={task.values} onClose={close} />;
    case undefined:
      return null;
  }
}

function isInBox(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && (target.isContentEditable || target.tagName === 'INPUT' || target.tagName === 'TEXTAREA');
}

/** Calls once something is pictured of what has a shape, or it is known that nothing will be; gives what takes that back. */
function oncePictured({ store }: DocumentSession, run: () => void): () => void {
  const isPictured = ({ pictures, placed, regeneration }: SessionState): boolean => pictures.length + placed.length > 0 || regeneration !== 'running';
  if (isPictured(store.getState())) {
    run();
    return () => undefined;
  }
  const stop = store.subscribe((state) => {
    if (!isPictured(state)) return;
    stop();
    run();
  });
  return stop;
}

/** Calls once the page has nothing else to do; gives what takes that back. */
function whenIdle(run: () => void): () => void {
  // Safari has no idle callbacks.
  if (typeof requestIdleCallback !== 'function') {
    const timer = setTimeout(run, 200);
    return () => clearTimeout(timer);
  }
  const handle = requestIdleCallback(run, { timeout: 2_000 });
  return () => cancelIdleCallback(handle);
}

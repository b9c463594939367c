/** How far the guided first design is, remembered in this browser, and making the project that it is done in. */
import { useStore } from 'zustand';
import type { Edit } from '@/core/document';
import { fail, succeed, type Result } from '@/core/kit';
import { freeProjectName } from '../state/free-project-name';
import { api, type ApiFailure } from '../state/api';
import { newId, thisAuthor } from '../state/identity';
import { remembered } from '../state/remembered';
import { GUIDE_MASTER, GUIDE_PART } from './guide-steps';

interface GuideProgress {
  /** The part that it is done in; undefined where none is under way. */
  readonly part: string | undefined;
  /** Which step it is at, from 0; as many as there are when it is done. */
  readonly at: number;
  /** The formulas of driving values when the step began. */
  readonly before: Readonly<Record<string, string>>;
}

const NONE: GuideProgress = { part: undefined, at: 0, before: {} };

export const guideProgress = remembered('warpbeam-guide', NONE);

export function useGuideProgress(): GuideProgress {
  return useStore(guideProgress);
}

export function endGuide(): void {
  guideProgress.setState(NONE);
}

/** Makes a project with a master to link from and an empty part, and goes to the part. */
export async function beginGuide(goTo: (address: string) => void): Promise<Result<void, ApiFailure>> {
  const project = await api.createProject(await freeProjectName('First design'));
  if (!project.ok) return project;
  const master = await api.createDocument(project.value.id, { name: GUIDE_MASTER.name, kind: 'master', author: thisAuthor() });
  if (!master.ok) return master;
  const saved = await fillMaster(master.value.id);
  if (!saved.ok) return saved;
  const part = await api.createDocument(project.value.id, { name: GUIDE_PART, kind: 'part', author: thisAuthor() });
  if (!part.ok) return part;
  guideProgress.setState({ part: part.value.id, at: 0, before: {} });
  goTo(`/documents/${part.value.id}`);
  return succeed(undefined);
}

async function fillMaster(id: string): Promise<Result<void, ApiFailure>> {
  const opened = await api.readDocument(id);
  if (!opened.ok) return opened;
  const edits = GUIDE_MASTER.values.map(({ name, formula, note }): Edit => {
    const parameter = { type: 'parameter', id: newId(), name, formula: { text: formula }, kind: 'length', offered: true, note } as const;
    return { type: 'parameter.add', parameter };
  });
  const posted = await api.postEdits(id, {
    base: opened.value.seq,
    envelopes: edits.map((edit) => ({ key: newId(), author: thisAuthor(), edit })),
  });
  if (!posted.ok) return posted;
  const revision = await api.saveRevision(id, { seq: posted.value.seq, message: '', author: thisAuthor(), key: newId() });
  return revision.ok ? succeed(undefined) : fail(revision.failure);
}

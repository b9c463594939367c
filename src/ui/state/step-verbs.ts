/** What is done to steps as a whole: moved, deleted, copied, put in again. Says first what would break. */
import {
  bodyOf,
  clipSteps,
  findStep,
  listIds,
  listSteps,
  readStepClip,
  sketchesOnlyFor,
  startedBodies,
  stepsBuiltOn,
  type Edit,
  type EditOf,
  type Readers,
  type StepClip,
} from '@/core/document';
import type { DocumentSession } from './document-session';
import { editOrAsk } from './removal';
import type { WorkspaceStore } from './workspace';

type Removal = EditOf<'step.remove'>;

/** Moves a step by one place; asks first when that would break something. */
export async function moveStep(session: DocumentSession, workspace: WorkspaceStore, id: string, by: 1 | -1): Promise<void> {
  const order = listIds(session.document, 'steps');
  const place = order.indexOf(id);
  const to = place + by;
  if (place < 0 || to < 0 || to >= order.length) return;
  const edit: Edit = { type: 'step.move', id, after: order[by === 1 ? to : to - 1] ?? null };
  const broken = await session.geometry.foresee(edit);
  if (!broken.ok || broken.value.length === 0) {
    session.edit(edit);
    return;
  }
  const name = findStep(session.document, id)?.name ?? 'the step';
  workspace.setState({
    question: {
      title: `Move ${name} ${by === 1 ? 'down' : 'up'}`,
      words: `In its new place ${broken.value.length === 1 ? 'a step' : `${broken.value.length} steps`} could not be built:`,
      lines: broken.value.map(({ message }) => message),
      answers: [{ label: 'Move it all the same', run: () => void session.edit(edit) }],
    },
  });
}

/** Deletes steps with what is built on them; asks when there is something to choose. */
export function deleteSteps(session: DocumentSession, workspace: WorkspaceStore, ids: readonly string[]): void {
  const { document } = session;
  const nameOf = (id: string): string => findStep(document, id)?.name ?? '';
  const built = stepsBuiltOn(document, ids);
  const going = [...ids, ...built];
  const sketches = sketchesOnlyFor(document, going);
  const title = ids.length === 1 ? `Delete ${nameOf(ids[0] ?? '')}` : `Delete ${ids.length} steps`;
  const remove = (withSketches: boolean): void =>
    editOrAsk(session, workspace, title, (readers) => removalOf(listIds(document, 'steps'), going, withSketches ? sketches : [], readers));
  if (built.length === 0 && sketches.length === 0) {
    remove(false);
    return;
  }
  const plural = sketches.length === 1 ? 'its sketch' : 'their sketches';
  workspace.setState({
    question: {
      title,
      words:
        built.length === 0
          ? 'The sketch was made for it alone.'
          : `${built.length === 1 ? 'One step is' : `${built.length} steps are`} built on it and would go as well:`,
      lines: [...built.map(nameOf), ...sketches.map((id) => `sketch ${nameOf(id)}`)],
      answers:
        sketches.length === 0
          ? [{ label: 'Delete all of these', run: () => remove(false) }]
          : [
              { label: `Delete with ${plural}`, run: () => remove(true) },
              { label: `Delete, keep ${plural}`, run: () => remove(false) },
            ],
    },
  });
}

function removalOf(order: readonly string[], steps: readonly string[], sketches: readonly string[], readers: Readers): Edit {
  const going = new Set([...steps, ...sketches]);
  const removals = [...order].reverse().flatMap((id): Removal[] => (going.has(id) ? [{ type: 'step.remove', id, readers }] : []));
  const [only] = removals;
  return removals.length === 1 && only ? only : { type: 'batch', edits: removals };
}

const STORAGE = 'warpbeam-copied-steps';

/** Copies steps so that they can be put into this part, or one in another tab or project. */
export function copySteps(session: DocumentSession, ids: readonly string[]): void {
  const text = JSON.stringify(clipSteps(session.values, ids));
  localStorage.setItem(STORAGE, text);
  // Another browser gets them from the clipboard; without leave to write there this one still has them.
  void navigator.clipboard?.writeText(text).catch(() => undefined);
  session.notify(
    `${ids.length === 1 ? (findStep(session.document, ids[0] ?? '')?.name ?? 'The step') : `${ids.length} steps`} copied. Put them in with "Paste steps", here or in another part.`,
  );
}

/** Copies a body with all the steps that make it, and asks which values the copy has. */
export function copyBody(session: DocumentSession, workspace: WorkspaceStore, body: string): void {
  const steps = listSteps(session.document).filter((step) => bodyOf(step) === body || startedBodies(step).includes(body));
  const clip = clipSteps(
    session.values,
    steps.map(({ id }) => id),
  );
  localStorage.setItem(STORAGE, JSON.stringify(clip));
  workspace.setState({ clip });
}

export function copiedSteps(): StepClip | undefined {
  return readStepClip(localStorage.getItem(STORAGE) ?? '');
}

/** Opens the question of what becomes of the copied steps here; says so where none are copied. */
export function beginPaste(session: DocumentSession, workspace: WorkspaceStore): void {
  const clip = copiedSteps();
  if (clip) workspace.setState({ clip });
  else session.notify('No steps are copied. Choose Copy in the menu of a step first.');
}

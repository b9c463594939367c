'use client';
import { findStep, listIds, startedBodies, STEP_WORDS, type Step } from '@/core/document';
import { BodySettings } from '../bodies/body-settings';
import { Button } from '../design/button';
import { useSession, useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';
import { copySteps, deleteSteps, moveStep } from '../state/step-verbs';
import { toggleFolded, toggleMarked } from '../state/workspace';
import { draftOf } from '../steps/step-draft';
import { StepMenu } from './step-menu';

const WORDS = { done: 'done', failed: 'failed', waiting: 'waiting', suppressed: 'suppressed' } as const;

/** A step of the build history, foldable, with its state and its few verbs. */
export function StepRow({ id, values }: { id: string; values: number }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const step = useSessionState((state) => findStep(state.document, id));
  const outcome = useSessionState((state) => state.regenerated?.steps.find((entry) => entry.id === id));
  const isBeyond = useSessionState(({ document, builtTo }) => {
    const steps = listIds(document, 'steps');
    return builtTo !== undefined && steps.includes(builtTo) && steps.indexOf(id) > steps.indexOf(builtTo);
  });
  const isFolded = useWorkspace((state) => state.folded.has(id));
  const isSelected = useWorkspace((state) => state.selected === id);
  const isMarked = useWorkspace((state) => state.marked.has(id));
  const isOpen = useWorkspace((state) => state.sketch === id);
  if (!step) return null;
  const onKeyDown = (event: React.KeyboardEvent): void => {
    const ids = isMarked ? listIds(session.document, 'steps').filter((one) => workspace.getState().marked.has(one)) : [id];
    const isControl = event.ctrlKey || event.metaKey;
    if (event.key === 'Delete') deleteSteps(session, workspace, ids);
    else if (isControl && event.key.toLowerCase() === 'c') copySteps(session, ids);
    else if (event.altKey && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) void moveStep(session, workspace, id, event.key === 'ArrowUp' ? -1 : 1);
    else if (event.key === ' ' && isControl) toggleMarked(workspace, id);
    else return;
    event.preventDefault();
  };
  const freedom = outcome?.sketch?.degreesOfFreedom ?? 0;
  const isWrong = outcome?.status === 'failed' || outcome?.status === 'waiting';
  return (
    <div
      role="row"
      data-row={id}
      aria-selected={isSelected}
      className={`border-b border-rule/50 ${isMarked ? 'bg-weld-wash' : isSelected ? 'bg-indigo-wash' : 'bg-flax/60'}`}
    >
      <div role="cell" className={`flex h-7 items-center gap-2 pr-2 pl-6 ${isBeyond ? 'italic' : ''}`}>
        <button
          type="button"
          className="w-4 text-walnut-soft"
          aria-expanded={!isFolded}
          aria-label={`${isFolded ? 'Unfold' : 'Fold'} ${step.name}`}
          onClick={() => toggleFolded(workspace, id)}
        >
          {values === 0 ? '·' : isFolded ? '+' : '−'}
        </button>
        <button
          type="button"
          className="min-w-0 truncate text-left"
          title="Ctrl click marks several. Delete, Ctrl C, and Alt with the arrow keys work on it."
          onClick={(event) => {
            if (event.ctrlKey || event.metaKey || event.shiftKey) toggleMarked(workspace, id);
            else workspace.setState({ selected: id, marked: new Set() });
          }}
          onKeyDown={onKeyDown}
        >
          <span className="font-semibold">{step.name}</span>
          <span className="ml-2 text-walnut-soft">{describeStep(step)}</span>
        </button>
        <span className="flex-1" />
        {isBeyond && <span className="text-walnut-soft">not built</span>}
        {step.type === 'sketch' && freedom > 0 && <span className="text-weld">{freedom} free</span>}
        {outcome && outcome.status !== 'done' && <span className={isWrong ? 'text-madder' : 'text-walnut-soft'}>{WORDS[outcome.status]}</span>}
        {step.type === 'sketch' && (
          <Button tone="quiet" className="h-6" onClick={() => workspace.setState({ sketch: isOpen ? undefined : id, selected: id })}>
            {isOpen ? 'Close' : 'Open'}
          </Button>
        )}
        {step.type !== 'sketch' && (
          <Button tone="quiet" className="h-6" onClick={() => workspace.setState({ draft: draftOf(session.document, step), sketch: undefined, selected: id })}>
            Change
          </Button>
        )}
        {startedBodies(step).map((body) => (
          <BodySettings key={body} body={body} />
        ))}
        <StepMenu step={step} session={session} />
      </div>
      {isWrong && outcome.problem && (
        <p role="cell" className="px-12 pb-1 text-madder">
          {outcome.problem.message}
        </p>
      )}
    </div>
  );
}

const VERBS = { start: 'starts a body', add: 'adds', remove: 'removes', keep: 'keeps common' } as const;

/** What a step is and does, in a few words. */
function describeStep(step: Step): string {
  switch (step.type) {
    case 'extrude':
    case 'revolve':
    case 'sweep':
    case 'loft':
      return `${STEP_WORDS[step.type]}, ${VERBS[step.operation]}`;
    case 'hole':
      return step.form === 'simple' ? 'hole' : `hole, ${step.form}`;
    case 'pattern':
      return step.form === 'path' ? 'pattern along a path' : `${step.form} pattern`;
    case 'place':
      return step.from === undefined ? 'moves a body' : 'copies a body';
    default:
      return STEP_WORDS[step.type];
  }
}

'use client';
import { findStep, listIds, startedBodies, stepDetail } from '@/core/document';
import { BodySettings } from '../bodies/body-settings';
import { Button } from '../design/button';
import { useSession, useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';
import { copySteps, deleteSteps, moveStep } from '../state/step-verbs';
import { toggleFolded, toggleMarked } from '../state/workspace';
import { draftOf } from './step-draft';
import { readRowKey, type RowTarget } from '../ledger/row-keys';
import { StepMenu } from './step-menu';
import { StepIcon } from '../design/kind-icons';
import { FoldButton } from '../ledger/fold-button';
import { HeldMark } from '../ledger/value-cells';

const WORDS = { done: 'done', failed: 'failed', waiting: 'waiting', suppressed: 'suppressed' } as const;

interface StepRowProps {
  readonly id: string;
  readonly values: number;
  /** Moves the focus to another row of the ledger. */
  readonly onMove: (from: string, to: RowTarget) => void;
}

/** A step of the build history, foldable, with its state and its few verbs. */
export function StepRow({ id, values, onMove }: StepRowProps) {
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
  const open = (): void => {
    if (step.type === 'sketch') workspace.setState({ sketch: isOpen ? undefined : id, selected: id });
    else workspace.setState({ draft: draftOf(session.document, step), sketch: undefined, selected: id });
  };
  const onKeyDown = (event: React.KeyboardEvent): void => {
    const isOnRow = event.target === event.currentTarget;
    // Keys of the buttons in the row are theirs, but for those of its name.
    if (!isOnRow && !(event.target instanceof HTMLElement && event.target.dataset['name'] !== undefined)) return;
    const ids = isMarked ? listIds(session.document, 'steps').filter((one) => workspace.getState().marked.has(one)) : [id];
    const action = readRowKey(event);
    switch (action?.kind) {
      case 'edit':
        if (!isOnRow) return;
        open();
        break;
      case 'go':
        onMove(id, action.to);
        break;
      case 'fold':
        if (action.isFolded !== isFolded) toggleFolded(workspace, id);
        break;
      case 'move':
        void moveStep(session, workspace, id, action.by);
        break;
      case 'delete':
        deleteSteps(session, workspace, ids);
        break;
      case 'copy':
        copySteps(session, ids);
        break;
      case 'mark':
        toggleMarked(workspace, id);
        break;
      case 'unmark':
        workspace.setState({ marked: new Set() });
        break;
      default:
        return;
    }
    event.preventDefault();
  };
  const freedom = outcome?.sketch?.degreesOfFreedom ?? 0;
  const isWrong = outcome?.status === 'failed' || outcome?.status === 'waiting';
  return (
    <div
      role="row"
      tabIndex={-1}
      data-row={id}
      aria-selected={isSelected}
      aria-label={step.name}
      onKeyDown={onKeyDown}
      onFocus={(event) => {
        if (event.target === event.currentTarget) workspace.setState({ selected: id });
      }}
      className={`border-b border-rule/50 ${isMarked ? 'bg-weld-wash' : isSelected ? 'bg-indigo-wash' : 'bg-flax/60'}`}
    >
      <div role="cell" className={`flex h-7 items-center gap-2 pr-2 pl-6 ${isBeyond ? 'italic' : ''}`}>
        <FoldButton id={id} name={step.name} rows={values} />
        <button
          type="button"
          className="min-w-0 truncate text-left"
          title="Ctrl click marks several. Delete, Ctrl C, and Alt with the arrow keys work on it."
          onClick={(event) => {
            if (event.ctrlKey || event.metaKey || event.shiftKey) toggleMarked(workspace, id);
            else workspace.setState({ selected: id, marked: new Set() });
          }}
          data-name
        >
          <StepIcon type={step.type} />
          <span className="font-semibold">{step.name}</span>
          <span className="ml-2 text-walnut-soft">{stepDetail(step)}</span>
        </button>
        <span className="flex-1" />
        <HeldMark id={`${id}/built`} isInCell />
        {isBeyond && <span className="text-walnut-soft">not built</span>}
        {step.type === 'sketch' && freedom > 0 && <span className="text-weld">{freedom} free</span>}
        {(outcome?.warnings?.length ?? 0) > 0 && <span className="text-weld">warning</span>}
        {outcome && outcome.status !== 'done' && <span className={isWrong ? 'text-madder' : 'text-walnut-soft'}>{WORDS[outcome.status]}</span>}
        {step.type === 'sketch' && (
          <Button tone="quiet" className="h-6" onClick={open}>
            {isOpen ? 'Close' : 'Open'}
          </Button>
        )}
        {step.type !== 'sketch' && (
          <Button tone="quiet" className="h-6" onClick={open}>
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
      {outcome?.warnings?.map(({ message }) => (
        <p role="cell" key={message} className="px-12 pb-1 text-weld">
          {message}
        </p>
      ))}
    </div>
  );
}

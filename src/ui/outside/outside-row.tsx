'use client';
import { findRecord } from '@/core/document';
import { readRowKey, type RowTarget } from '../ledger/row-keys';
import { useSession, useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';
import { editOrAsk } from '../state/removal';
import { toggleFolded } from '../state/workspace';
import { FoldButton } from '../ledger/fold-button';
import { askedWords, stateWords, TONES } from './outside-words';

interface RowProps {
  readonly id: string;
  /** How many values it hands back. */
  readonly values: number;
  /** Moves the focus to another row of the ledger. */
  readonly onMove: (from: string, to: RowTarget) => void;
}

/** An outside calculation: its name, what is asked, and whether its answer is of the present inputs. */
export function OutsideRow({ id, values, onMove }: RowProps) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const outside = useSessionState((state) => findRecord(state.document, id, 'outside'));
  const asked = useSessionState((state) => (outside ? askedWords(state.document, outside.asked) : ''));
  const words = useSessionState((state) => stateWords(id, state.values.outside.stateOf(id), state.outside).words);
  const tone = useSessionState((state) => stateWords(id, state.values.outside.stateOf(id), state.outside).tone);
  const isFolded = useWorkspace((state) => state.folded.has(id));
  const isSelected = useWorkspace((state) => state.selected === id);
  if (!outside) return null;
  const select = (): void => workspace.setState({ selected: id });
  const onKeyDown = (event: React.KeyboardEvent): void => {
    if (event.target !== event.currentTarget) return;
    const action = readRowKey(event);
    switch (action?.kind) {
      case 'edit':
        document.querySelector<HTMLElement>('[aria-label="Outside calculation"] input')?.focus();
        break;
      case 'go':
        onMove(id, action.to);
        break;
      case 'fold':
        if (action.isFolded !== isFolded) toggleFolded(workspace, id);
        break;
      case 'delete':
        editOrAsk(session, workspace, `Delete ${outside.name}`, (readers) => ({ type: 'outside.remove', id, readers }));
        break;
      default:
        return;
    }
    event.preventDefault();
  };
  return (
    <div
      role="row"
      tabIndex={-1}
      data-row={id}
      aria-selected={isSelected}
      aria-label={`${outside.name} ${words}`}
      onKeyDown={onKeyDown}
      onFocus={(event) => {
        if (event.target === event.currentTarget) select();
      }}
      className={`border-b border-rule/50 ${isSelected ? 'bg-indigo-wash' : 'bg-flax/60'}`}
    >
      <div role="cell" className="flex h-7 items-center gap-2 pr-2 pl-6">
        <FoldButton id={id} name={outside.name} rows={values} />
        <button type="button" className="min-w-0 truncate text-left" onClick={select}>
          <span className="font-semibold">{outside.name}</span>
          <span className="ml-2 text-walnut-soft">{asked}</span>
        </button>
        <span className="flex-1" />
        <span className={`min-w-0 shrink truncate ${TONES[tone]}`} title={words}>
          {words}
        </span>
      </div>
    </div>
  );
}

'use client';
import { useMemo, useState } from 'react';
import { planTable, readRows } from '@/core/value-table';
import { TableFile, type Cells } from '../design/table-file';
import { TaskDialog, TaskVerbs } from '../design/task-dialog';
import { useSession, useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';
import { newId } from '../state/identity';

/** Values from a spreadsheet: what they would change, cell by cell, before anything is changed. */
export function TableDialog() {
  const workspace = useWorkspaceStore();
  const cells = useWorkspace((state) => state.table);
  if (!cells) return null;
  return <TableForm pasted={cells} onClose={() => workspace.setState({ table: undefined })} />;
}

/** Longer lists are counted. */
const MOST_SHOWN = 200;

function TableForm({ pasted, onClose }: { pasted: Cells; onClose: () => void }) {
  const session = useSession();
  const version = useSessionState((state) => state.version);
  const [cells, setCells] = useState(pasted);
  const [refusal, setRefusal] = useState<string>();
  // The values are one object that is kept up to date in place.
  // oxlint-disable-next-line react/exhaustive-deps
  const plan = useMemo(() => planTable(session.values, readRows(cells), newId), [session, cells, version]);
  const take = (read: Cells, problem: string | undefined): void => {
    setRefusal(problem);
    setCells(read);
  };
  const accept = (): void => {
    const failure = plan.edit && session.edit(plan.edit);
    if (failure) setRefusal(failure.message);
    else onClose();
  };
  return (
    <TaskDialog
      title="Values from a spreadsheet"
      description={<>Rows are found by name; a new name is a new value. Nothing is deleted, and nothing is changed before you say so.</>}
      onClose={onClose}
      width="wide"
    >
      <div className="my-2 flex items-center gap-2">
        <TableFile onRead={take} />
        <span role="status" className="text-walnut-soft">
          {cells.length === 0 ? 'No table yet.' : `${plan.changes.length} change${plan.changes.length === 1 ? '' : 's'}, ${plan.problems.length} to repair`}
        </span>
      </div>
      {refusal !== undefined && (
        <p role="alert" className="mb-2 text-madder">
          {refusal}
        </p>
      )}
      <div className="min-h-0 flex-1 overflow-y-auto">
        {plan.problems.length > 0 && (
          <table className="mb-3 w-full border border-madder">
            <caption className="text-left text-madder">Repair these in the spreadsheet first</caption>
            <tbody>
              {plan.problems.slice(0, MOST_SHOWN).map(({ row, column, message }, i) => (
                <tr key={i} className="border-t border-rule">
                  <td className="px-2 py-0.5 whitespace-nowrap">row {row}</td>
                  <td className="px-2 py-0.5">{column}</td>
                  <td className="px-2 py-0.5 text-madder">{message}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {plan.changes.length > 0 && (
          <table className="w-full border border-rule">
            <caption className="text-left text-walnut-soft">What would change</caption>
            <tbody>
              {plan.changes.slice(0, MOST_SHOWN).map(({ name, change, column, before, after }, i) => (
                <tr key={i} className="border-t border-rule">
                  <td className="px-2 py-0.5 font-semibold">{name}</td>
                  <td className="px-2 py-0.5 text-walnut-soft">{change === 'added' ? 'new' : column}</td>
                  <td className="px-2 py-0.5 font-mono text-madder line-through">{before}</td>
                  <td className="px-2 py-0.5 font-mono text-indigo">{after}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {plan.changes.length > MOST_SHOWN && <p className="text-walnut-soft">and {plan.changes.length - MOST_SHOWN} more</p>}
      </div>
      <TaskVerbs label="Take over" isDisabled={!plan.edit} onAccept={accept} />
    </TaskDialog>
  );
}

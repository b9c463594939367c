'use client';
/** Each value with a tolerance at a limit of its own choice: looked at, never kept. */
import { useState } from 'react';
import { amountAt, BUILT_AT, listToleranced, type BuiltAt, type TolerancedValue } from '@/core/studies';
import { showTaken } from '@/core/document';
import { prettyUnit } from '@/core/units';
import { TaskDialog, TaskVerbs } from '../design/task-dialog';
import { useSession } from '../state/context';
import type { DocumentSession } from '../state/document-session';
import { measuredAtNominal, showAt } from './show-at';

const NOMINAL = 'nominal';
const WORDS: Readonly<Record<BuiltAt | typeof NOMINAL, string>> = { nominal: 'nominal', upper: 'upper limit', middle: 'middle', lower: 'lower limit' };

/** What was chosen last, for as long as the document is open. */
const chosenBefore = new WeakMap<DocumentSession, ReadonlyMap<string, BuiltAt>>();

export function LimitsDialog({ onClose }: { onClose: () => void }) {
  const session = useSession();
  const [rows] = useState(() => listToleranced(session.documentAsItIs, session.snapshots, measuredAtNominal(session)));
  const [chosen, setChosen] = useState(() => chosenBefore.get(session) ?? new Map<string, BuiltAt>());
  const choose = (path: string, at: string): void => {
    const next = new Map(chosen);
    next.delete(path);
    const found = BUILT_AT.find((one) => one === at);
    setChosen(found ? next.set(path, found) : next);
  };
  return (
    <TaskDialog
      width="wide"
      title="Limits of each value"
      description="Chosen values are shown at a limit of their tolerance, the others at nominal. Nothing is changed by it."
      onClose={onClose}
    >
      {rows.length === 0 && <p>Nothing in {session.document.name} has a tolerance.</p>}
      {rows.length > 0 && (
        <table className="w-full border-collapse">
          <caption className="sr-only">Values with a tolerance</caption>
          <thead>
            <tr className="border-b border-rule text-left text-walnut-soft">
              {['Value', 'Nominal', 'Lower limit', 'Upper limit', 'Shown at'].map((head) => (
                <th key={head} className="px-1 py-1 font-normal">
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.path} className="border-b border-rule/50">
                <th scope="row" className="px-1 py-1 text-left font-semibold">
                  {row.name}
                </th>
                {[undefined, 'lower' as const, 'upper' as const].map((at) => (
                  <td key={at ?? NOMINAL} className="px-1 font-mono whitespace-nowrap">
                    {writeAt(row, at)}
                  </td>
                ))}
                <td className="px-1">
                  <select
                    aria-label={`${row.name} is shown at`}
                    className="h-6 rounded-box border border-rule bg-sheet px-1"
                    value={chosen.get(row.path) ?? NOMINAL}
                    onChange={(event) => choose(row.path, event.target.value)}
                  >
                    {([NOMINAL, ...BUILT_AT] as const).map((at) => (
                      <option key={at} value={at} disabled={at !== NOMINAL && !row.mayBe(amountAt(row, at))}>
                        {WORDS[at]}
                      </option>
                    ))}
                  </select>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <TaskVerbs
        label="Show"
        isDisabled={rows.length === 0}
        onAccept={() => {
          chosenBefore.set(session, chosen);
          showAt(session, chosen.size === 0 ? undefined : chosen);
          onClose();
        }}
      />
    </TaskDialog>
  );
}

function writeAt(row: TolerancedValue, at: BuiltAt | undefined): string {
  const { tolerance: _, ...nominal } = row.nominal;
  return prettyUnit(showTaken({ ...nominal, value: amountAt(row, at) }));
}

'use client';
import { listNamed } from '@/core/document';
import { useSession, useSessionState, useWorkspaceStore } from '../state/context';
import { NEW_VALUE } from '../state/ledger-rows';
import { openBox } from './open-box';

const EXAMPLES: readonly (readonly [formula: string, words: string])[] = [
  ['board_stock = 18 mm', 'a size, with its unit'],
  ['tooth_pitch = 15 deg', 'an angle'],
  ['bore = 1 5/8 in', 'as you say it'],
  ['has_rail = yes', 'yes or no'],
];

/** How the first value of an empty master is named: examples that go into the box. */
export function FirstValue() {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const isEmpty = useSessionState(({ document }) => document.kind === 'master' && listNamed(document).length === 0);
  if (!isEmpty) return null;
  return (
    <div role="row" className="border-b border-rule/50 px-7 py-3">
      <div role="cell">
        <p className="mb-2">
          <strong className="font-semibold">Name the first value.</strong> Parts and assemblies link it, and follow when it changes. For example:
        </p>
        <ul>
          {EXAMPLES.map(([formula, words]) => (
            <li key={formula} className="flex items-baseline gap-3">
              <button
                type="button"
                className="w-56 rounded-box px-1 text-left font-mono text-[13px] text-indigo underline decoration-rule underline-offset-4 hover:decoration-indigo"
                onClick={() => {
                  openBox(session, workspace, { id: NEW_VALUE, what: 'formula' });
                  workspace.setState({ editing: { id: NEW_VALUE, what: 'formula', typed: formula } });
                }}
              >
                {formula}
              </button>
              <span className="text-walnut-soft">{words}</span>
            </li>
          ))}
        </ul>
      </div>
    </div>
  );
}

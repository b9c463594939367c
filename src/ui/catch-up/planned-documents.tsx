'use client';
import { useMemo } from 'react';
import type { CatchUpPreviewReply, PlannedDocumentReply } from '@/contract';
import { findRecord, hasShape, listSteps } from '@/core/document';
import { DocumentIcon } from '../design/kind-icons';
import { SmallPicture } from '../design/small-picture';
import { AssemblyPreview } from './assembly-preview';
import type { Decision, Left } from './catch-up-choice';
import type { InterferenceChange } from './use-interference';
import { standsOf, type PreviewWorkshop } from './preview-workshop';
import { SolidPreview } from './solid-preview';

interface PlannedListProps {
  readonly documents: readonly PlannedDocumentReply[];
  readonly left: ReadonlyMap<string, Left>;
  readonly problems: ReadonlyMap<string, string>;
  /** How many parts of assemblies stand in one another, now and then. */
  readonly interference: ReadonlyMap<string, InterferenceChange>;
  readonly shown: string;
  readonly onShow: (id: string) => void;
  /** Nothing is to be decided without. */
  readonly onDecide?: (id: string, decision: Decision) => void;
}

/** The documents of a preview, each to be taken or left where that is asked. */
export function PlannedList({ documents, left, problems, interference, shown, onShow, onDecide }: PlannedListProps) {
  return (
    <ul aria-label="Documents" className="w-80 shrink-0 overflow-y-auto border-r border-rule">
      {documents.map((entry) => {
        const { id, name } = entry;
        const own = left.get(id);
        return (
          <li key={id} className={`border-b border-rule/60 px-3 py-1.5 ${id === shown ? 'bg-indigo-wash' : ''}`}>
            <div className="flex items-center gap-2">
              {onDecide && (
                <input
                  type="checkbox"
                  aria-label={`Bring ${name} up to date`}
                  checked={!own}
                  disabled={own?.isForced}
                  onChange={() => onDecide(id, own ? { kind: 'take' } : { kind: 'leave', reason: 'Skipped.' })}
                />
              )}
              <button type="button" className="flex min-w-0 flex-1 items-center gap-2 text-left" aria-pressed={id === shown} onClick={() => onShow(id)}>
                <span className="flex h-9 w-11 shrink-0 items-center justify-center text-walnut-soft">
                  {entry.hasThumbnail ? <SmallPicture document={id} revision={entry.revision} className="h-9 w-11" /> : <DocumentIcon kind={entry.kind} />}
                </span>
                <span className="min-w-0 flex-1">
                  <span className={`block truncate ${own ? 'text-walnut-soft' : 'font-semibold'}`}>{name}</span>
                  <span className="block text-[13px] text-walnut-soft">
                    {entry.changes.length} value{entry.changes.length === 1 ? '' : 's'}
                    {entry.comesAlong && ', follows by itself'}
                    {entry.guards.length > 0 && (
                      <span className="text-weld">
                        , {entry.guards.length} guard{entry.guards.length === 1 ? '' : 's'}
                      </span>
                    )}
                    {(entry.failures.length > 0 || problems.has(id)) && <span className="text-madder">, fails</span>}
                    <InterferenceWords change={interference.get(id)} />
                  </span>
                </span>
              </button>
            </div>
            {own && !own.isForced && onDecide && (
              <input
                key={own.reason}
                aria-label={`Why ${name} is skipped`}
                className="mt-1 h-6 w-full rounded-box border border-rule bg-sheet px-1 text-[13px]"
                maxLength={500}
                defaultValue={own.reason}
                onBlur={(event) => event.target.value !== own.reason && onDecide(id, { kind: 'leave', reason: event.target.value })}
              />
            )}
            {own?.isForced && <p className="mt-0.5 text-[13px] text-weld">{own.reason}</p>}
          </li>
        );
      })}
    </ul>
  );
}

function InterferenceWords({ change }: { readonly change: InterferenceChange | undefined }) {
  if (!change || change.now + change.then === 0) return null;
  return (
    <span className={change.then > change.now ? 'text-madder' : ''}>
      , interference {change.now} → {change.then}
    </span>
  );
}

interface PlannedDocumentProps {
  readonly entry: PlannedDocumentReply;
  readonly left: Left | undefined;
  readonly stepProblem: string | undefined;
  readonly workshop: PreviewWorkshop | undefined;
  readonly preview: CatchUpPreviewReply;
}

/** One document of a preview: its values and its solids, now and then. */
export function PlannedDocument({ entry, left, stepProblem, workshop, preview }: PlannedDocumentProps) {
  const { name, kind, changes, failures, guards, unsavedEdits, before, after } = entry;
  const changed = new Set(changes.map(({ id }) => findRecord(after, id, 'parameter')?.owner));
  const source = useMemo(() => standsOf(preview), [preview]);
  const steps = listSteps(after).flatMap((step) => (changed.has(step.id) ? step.name : []));
  return (
    <section aria-label={name} className={`flex flex-col rounded-box border border-rule bg-sheet ${hasShape(after) ? 'min-h-full' : ''}`}>
      <header className="border-b border-rule px-3 py-1.5">
        <h2 className="inline font-semibold">{name}</h2>
        {left && <span className="ml-3 text-weld">skipped: {left.reason}</span>}
        {!left && unsavedEdits > 0 && <span className="ml-3 text-weld">its unsaved edits ({unsavedEdits}) become part of the new revision</span>}
      </header>
      {stepProblem !== undefined && <p className="border-b border-rule px-3 py-1 text-madder">{stepProblem}</p>}
      {steps.length > 0 && <p className="border-b border-rule px-3 py-1 text-walnut-soft">Steps that change: {steps.join(', ')}</p>}
      {guards.map(({ id, severity, message }) => (
        <p key={id} className={`border-b border-rule px-3 py-1 ${severity === 'error' ? 'text-madder' : 'text-weld'}`}>
          {severity === 'error' ? 'Guard broken' : 'Guard warns'}: {message}
        </p>
      ))}
      <div className="flex flex-1">
        <table className={`self-start ${hasShape(after) ? 'w-1/2' : 'w-full'}`}>
          <thead>
            <tr className="text-left text-walnut-soft">
              <th className="px-3 py-1 font-semibold">Value</th>
              <th className="px-3 py-1 text-right font-semibold">Now</th>
              <th className="px-3 py-1 text-right font-semibold">Then</th>
            </tr>
          </thead>
          <tbody>
            {changes.map((change) => (
              <tr key={change.id} className="border-t border-rule/50">
                <td className={`px-3 py-0.5 ${change.isTaken ? 'value-linked' : ''}`}>{change.name}</td>
                <td className="px-3 py-0.5 text-right font-mono tabular-nums text-madder">{change.before}</td>
                <td className="px-3 py-0.5 text-right font-mono tabular-nums text-indigo">{change.after || 'error'}</td>
              </tr>
            ))}
            {failures.map((problem) => (
              <tr key={`failed ${problem.id}`} className="border-t border-rule/50 text-madder">
                <td className="px-3 py-0.5">{problem.name}</td>
                <td colSpan={2} className="px-3 py-0.5">
                  {problem.message}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {kind === 'part' && workshop && (
          <div className="w-1/2 border-l border-rule">
            <SolidPreview name={name} before={before} after={after} workshop={workshop} />
          </div>
        )}
        {kind === 'assembly' && workshop && (
          <div className="w-1/2 border-l border-rule">
            <AssemblyPreview entry={entry} source={source} workshop={workshop} />
          </div>
        )}
      </div>
    </section>
  );
}

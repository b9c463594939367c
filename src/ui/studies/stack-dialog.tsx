'use client';
/** How far a value may be off by the tolerances of what it is made of: by how much each counts, whether that will do, and which to tighten. */
import { useMemo, useState } from 'react';
import { useStore } from 'zustand';
import { findRecord } from '@/core/document';
import { amountOf, chainOf, DISTRIBUTIONS, evenNumbers, fitOf, judgeRequired, stackOf, type Basis, type Required } from '@/core/studies';
import { prettyUnit } from '@/core/units';
import { Button } from '../design/button';
import { TaskDialog } from '../design/task-dialog';
import { LabelledField } from '../ledger/labelled-field';
import { useSession, useSessionState } from '../state/context';
import { remembered } from '../state/remembered';
import { Select } from '../steps/fields';
import { GeneralSelect } from './general-select';
import { StackChain } from './stack-chain';
import { StackResults } from './stack-results';
import { StackTable } from './stack-table';
import { tightenAll } from './tighten';

/** What is chosen for one stack holds for the next. */
const stackSettings = remembered('warpbeam-stack', { distribution: 'even', basis: 'worst-case' });
/** Which contributors are several pieces, by document and value. */
const stackPieces = remembered<Record<string, number>>('warpbeam-stack-pieces', {});
const DISTRIBUTED = { even: 'even between the limits', normal: 'normal, limits at ±3σ', triangular: 'triangular' };
const BASES: Readonly<Record<Basis, string>> = { 'worst-case': 'worst case', 'root-sum-square': 'root sum square' };

/** The same figures each time that the dialog is opened. */
const SEED = 1;

export function StackDialog({ value, onClose }: { value: string; onClose: () => void }) {
  const session = useSession();
  const document = useSessionState((state) => state.document);
  const measured = useSessionState(({ regenerated }) => regenerated?.measured);
  const settings = useStore(stackSettings);
  const distribution = DISTRIBUTIONS.find((one) => one === settings.distribution) ?? 'even';
  const basis: Basis = settings.basis === 'root-sum-square' ? 'root-sum-square' : 'worst-case';
  const chosen = useStore(stackPieces);
  const pieces = useMemo(
    () =>
      new Map(
        Object.entries(chosen).flatMap(([key, count]) => (key.startsWith(`${document.id} `) ? [[key.slice(document.id.length + 1), count] as const] : [])),
      ),
    [chosen, document.id],
  );
  const stack = useMemo(
    () => stackOf(document, value, session.snapshots, { random: evenNumbers(SEED), distribution, measured, pieces }),
    [document, value, session, distribution, measured, pieces],
  );
  const record = findRecord(document, value, 'parameter') ?? findRecord(document, value, 'take');
  const reading = session.values.show(value);
  // What the value is held to in its document is what is asked of it, until somebody says otherwise.
  const own = record?.type === 'parameter' ? record : undefined;
  const [typed, setTyped] = useState<{ readonly lower?: string; readonly upper?: string }>({});
  if (!record || !reading) return null;
  const write = (amount: number): string => prettyUnit(session.values.words({ ...reading, value: amount }, reading.unit, 4).shown);
  const texts = { lower: typed.lower ?? own?.least?.text ?? '', upper: typed.upper ?? own?.most?.text ?? '' };
  const required: Required = { lower: amountOf(session.values, value, texts.lower), upper: amountOf(session.values, value, texts.upper) };
  const isAsked = required.lower !== undefined || required.upper !== undefined;
  const isCrossed = required.lower !== undefined && required.upper !== undefined && required.lower > required.upper;
  const check = (text: string): string | undefined =>
    text === '' || amountOf(session.values, value, text) !== undefined ? undefined : `An amount like ${write(stack?.nominal ?? 0)}`;
  const verdict = stack && isAsked ? judgeRequired(stack, required) : undefined;
  const isMissed = verdict !== undefined && (basis === 'worst-case' ? verdict.worstCase : verdict.rootSumSquare) > 0;
  const chain = stack && chainOf(session.values, value, stack);
  const all = stack && isMissed ? tightenAll(session.values, stack, required, basis) : undefined;
  return (
    <TaskDialog
      isWide
      title={`Tolerance stack of ${record.name}`}
      description="How far it may be off when everything that it is made of is off by its own tolerance. A value with a tolerance stands for itself, whatever it was computed from."
      onClose={onClose}
    >
      <div className="flex flex-wrap items-end gap-x-3">
        <span className="w-64">
          <GeneralSelect />
        </span>
        <span className="w-64">
          <Select label="Distribution" value={distribution} options={DISTRIBUTED} onChange={(next) => stackSettings.setState({ distribution: next })} />
        </span>
      </div>
      <div className="mb-1 flex flex-wrap items-end gap-x-3">
        <LabelledField label="Must be at least" value={texts.lower} hint="no limit" check={check} onAccept={(lower) => setTyped({ ...typed, lower })} />
        <LabelledField label="Must be at most" value={texts.upper} hint="no limit" check={check} onAccept={(upper) => setTyped({ ...typed, upper })} />
        {isAsked && (
          <span className="w-48">
            <Select label="Judged by" value={basis} options={BASES} onChange={(next) => stackSettings.setState({ basis: next })} />
          </span>
        )}
      </div>
      {isCrossed && <p className="text-madder">The lower limit is above the upper one.</p>}
      {!stack && <p>{record.name} is not a number with a unit.</p>}
      {stack?.contributors.length === 0 && (
        <p>Nothing that {record.name} depends on has a tolerance. Give the values that it is made of their tolerances, or choose a general one.</p>
      )}
      {stack && stack.contributors.length > 0 && (
        <>
          <StackTable
            name={record.name}
            stack={stack}
            required={isAsked ? required : undefined}
            basis={basis}
            onPieces={(id, count) => stackPieces.setState({ [`${document.id} ${id}`]: count })}
          />
          {chain && <StackChain name={record.name} chain={chain} nominal={stack.nominal} write={write} />}
          <StackResults stack={stack} verdict={verdict} fit={fitOf(session.values, value, stack)} write={write} />
          {all && (
            <Button className="mt-2 self-start" onClick={() => session.edit(all.edit)}>
              Tighten all to {all.percent} %
            </Button>
          )}
          {isMissed && !all && !isCrossed && <p className="mt-2 text-madder">These tolerances cannot be tightened far enough: change the nominal sizes.</p>}
        </>
      )}
    </TaskDialog>
  );
}

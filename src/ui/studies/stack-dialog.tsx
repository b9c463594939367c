'use client';
/** How far a value may be off by the tolerances of what it is made of: by how much each counts, whether that will do, and which to tighten. */
import { useMemo } from 'react';
import { BASES, DISTRIBUTIONS, findRecord, type Basis } from '@/core/document';
import {
  amountOf,
  askedTexts,
  chainOf,
  evenNumbers,
  fitOf,
  judgeRequired,
  needsGeometry,
  stackOf,
  withOwnUnit,
  type Required,
  type Stack,
} from '@/core/studies';
import { slopesOfReading } from '@/core/steps';
import { quantityType } from '@/core/formula';
import { kindDimension, prettyUnit } from '@/core/units';
import { Button } from '../design/button';
import { TaskDialog } from '../design/task-dialog';
import { LabelledField } from '../design/labelled-field';
import { useSession, useSessionState } from '../state/context';
import { Select } from '../design/fields';
import { GeneralSelect } from './general-select';
import { StackBuild } from './stack-build';
import { StackChain } from './stack-chain';
import { StackResults } from './stack-results';
import { StackTable } from './stack-table';
import { BASIS_WORDS, DISTRIBUTED } from './stack-words';
import { tightenAll, tightenCheaply } from './tighten';
import { useDeviations } from './use-deviations';
import { useStackReading } from './use-stack-reading';

/** The same figures each time that the dialog is opened. */
const SEED = 1;

export function StackDialog({ value, onClose }: { value: string; onClose: () => void }) {
  const session = useSession();
  const document = useSessionState((state) => state.document);
  const measured = useSessionState(({ regenerated }) => regenerated?.measured);
  const { reading, change, changeOne } = useStackReading(value);
  const isBuilt = useMemo(() => needsGeometry(document, value, session.snapshots, { measured, slopesOfReading }), [document, value, session, measured]);
  const build = useDeviations(value, isBuilt);
  const { deviations } = build;
  const stack = useMemo(
    () => stackOf(document, value, session.snapshots, { random: evenNumbers(SEED), measured, reading, slopesOfReading, ...(isBuilt ? { deviations } : {}) }),
    [document, value, session, measured, reading, isBuilt, deviations],
  );
  const record = findRecord(document, value, 'parameter') ?? findRecord(document, value, 'take');
  const shown = session.values.show(value);
  if (!record || !shown) return null;
  const write = (amount: number): string => prettyUnit(session.values.words({ ...shown, value: amount }, shown.unit, 4).shown);
  const writeLength = (amount: number): string => {
    const type = quantityType(kindDimension('length'));
    const unit = session.values.unitOf(undefined, { type, typedUnit: undefined });
    return prettyUnit(session.values.words({ type, value: amount, diagnostics: [] }, unit, 4).shown);
  };
  const basis = reading.basis ?? 'worst-case';
  const texts = askedTexts(document, value, reading);
  const required: Required = { lower: amountOf(session.values, value, texts.atLeast), upper: amountOf(session.values, value, texts.atMost) };
  const isAsked = required.lower !== undefined || required.upper !== undefined;
  const isCrossed = required.lower !== undefined && required.upper !== undefined && required.lower > required.upper;
  const verdict = stack && isAsked ? judgeRequired(stack, required) : undefined;
  const isMissed = verdict !== undefined && (basis === 'worst-case' ? verdict.worstCase : verdict.rootSumSquare) > 0;
  const chain = stack && chainOf(session.values, value, stack);
  const bound = (end: 'atLeast' | 'atMost', label: string) => (
    <LabelledField
      label={label}
      value={texts[end]}
      hint="no limit"
      check={(text) => (text === '' || amountOf(session.values, value, text) !== undefined ? undefined : `An amount like ${write(stack?.nominal ?? 0)}`)}
      onAccept={(text) => change({ [end]: { text: withOwnUnit(session.values, value, text) } })}
    />
  );
  return (
    <TaskDialog
      width="widest"
      title={`Tolerance stack of ${record.name}`}
      description="How far it may be off when everything that it is made of is off by its own tolerance. A value with a tolerance stands for itself, whatever it was computed from."
      onClose={onClose}
    >
      <div className="flex flex-wrap items-end gap-x-3">
        <span className="w-64">
          <GeneralSelect />
        </span>
        <span className="w-64">
          <Select
            label="Distribution"
            value={reading.distribution ?? 'even'}
            options={DISTRIBUTED}
            onChange={(next) => change({ distribution: DISTRIBUTIONS.find((one) => one === next && one !== 'even') })}
          />
        </span>
      </div>
      <div className="mb-1 flex flex-wrap items-end gap-x-3">
        {bound('atLeast', 'Must be at least')}
        {bound('atMost', 'Must be at most')}
        {isAsked && (
          <span className="w-48">
            <Select
              label="Judged by"
              value={basis}
              options={BASIS_WORDS}
              onChange={(next) => change({ basis: BASES.find((one) => one === next && one !== 'worst-case') })}
            />
          </span>
        )}
      </div>
      {isCrossed && <p className="text-madder">The lower limit is above the upper one.</p>}
      {isBuilt && <StackBuild {...build} />}
      {!stack && !build.progress && (!isBuilt || build.isCurrent) && (
        <p>{deviations?.problem ? `${record.name} has no value: ${deviations.problem}` : `${record.name} is not a number with a unit.`}</p>
      )}
      {stack && stack.free.length > 0 && (
        <p className="text-madder">
          {stack.free.join(', ')} can still move, and {record.name} changes with it. Add mates that hold it.
        </p>
      )}
      {stack?.contributors.length === 0 && stack.free.length === 0 && (
        <p>Nothing that {record.name} depends on has a tolerance. Give the values that it is made of their tolerances, or choose a general one.</p>
      )}
      {stack && stack.contributors.length > 0 && (
        <>
          <StackTable name={record.name} stack={stack} reading={reading} required={isAsked ? required : undefined} onChange={changeOne} />
          {chain && <StackChain name={record.name} chain={chain} nominal={stack.nominal} write={write} />}
          <StackResults stack={stack} verdict={verdict} fit={fitOf(session.values, value, stack)} write={write} writeLength={writeLength} />
          {isMissed && !isCrossed && <TightenAll stack={stack} required={required} basis={basis} />}
        </>
      )}
    </TaskDialog>
  );
}

/** All tolerances at once: by one part, or as little as it costs by what each is said to cost. */
function TightenAll({ stack, required, basis }: { stack: Stack; required: Required; basis: Basis }) {
  const session = useSession();
  const all = tightenAll(session.values, stack, required, basis);
  const cheaply = tightenCheaply(session.values, stack, required, basis);
  if (!all && !cheaply) return <p className="mt-2 text-madder">These tolerances cannot be tightened far enough: change the nominal sizes.</p>;
  return (
    <div className="mt-2 flex flex-wrap items-center gap-2">
      {all && <Button onClick={() => session.edit(all.edit)}>Tighten all to {all.percent} %</Button>}
      {cheaply && (
        <>
          <Button onClick={() => session.edit(cheaply.edit)}>Tighten at least cost</Button>
          <span className="font-mono text-walnut-soft">{cheaply.texts.join(', ')}</span>
        </>
      )}
    </div>
  );
}

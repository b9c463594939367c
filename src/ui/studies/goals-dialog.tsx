'use client';
/** The goals of a document reached by the values that may change for them: found beside the page, rounded to what is made, taken over with one edit. */
import { useMemo, useState } from 'react';
import { driversOf, findRecord, goalNode, isNamed, readGoals, textOfGoal, writeGoal } from '@/core/document';
import { axisOf, judgeAt, reachGoalsOf, roundTo, ROUNDINGS, Sampler, type Axis, type GoalsOutcome, type GoalsTrial, type Rounding } from '@/core/studies';
import { buildWith } from '@/workers/study-build';
import { Button } from '../design/button';
import { TaskDialog } from '../design/task-dialog';
import { useSession, useWorkspaceStore } from '../state/context';
import { Select } from '../design/fields';
import { keepAsWhatIf } from './keep-as-what-if';
import { firstRange, setAmounts, writeAmount } from './outputs';
import { RangeFields, type Ends } from './range-fields';
import { RunButton } from './run-button';
import { useStudyWorker } from './use-study-worker';

const SERIES: Readonly<Partial<Record<Rounding, string>>> = {
  R20: 'to preferred numbers R20',
  R10: 'to preferred numbers R10',
  R5: 'to preferred numbers R5',
};
const ROUNDING_WORDS = Object.fromEntries(ROUNDINGS.map((one) => [one, one === 'exact' ? 'not at all' : (SERIES[one] ?? `to ${one}`)]));

const MOST_NAME = 60;

export function GoalsDialog({ onClose }: { onClose: () => void }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const [document] = useState(() => session.document);
  const { values } = session;
  const goals = useMemo(() => readGoals(session.values).filter(({ problem }) => problem === undefined), [session]);
  const drivers = useMemo(() => goals.map(({ goal }) => driversOf(session.values, goal)), [session, goals]);
  const ids = useMemo(() => [...new Set(drivers.flatMap((each) => each.ids))], [drivers]);
  const unfit = [...new Set(drivers.flatMap((each) => each.unfit))];
  const [ranges, setRanges] = useState<ReadonlyMap<string, Ends>>(() => new Map(ids.map((id) => [id, firstRange(session, id)])));
  const [rounding, setRounding] = useState<Rounding>('exact');
  const [trials, setTrials] = useState(0);
  const [found, setFound] = useState<GoalsOutcome>();
  const [rounded, setRounded] = useState<GoalsTrial>();
  const [said, setSaid] = useState<string>();
  const { isRunning, work, stop } = useStudyWorker();
  const axes = ids.map((id) => axisOf(values, id, ranges.get(id) ?? firstRange(session, id)));
  const wrongRange = ids.find((_, i) => axes[i] === undefined);
  const nameOf = (id: string): string => {
    const record = findRecord(document, id, 'parameter');
    return record && isNamed(record) ? record.name : '';
  };
  const nodes = goals.map(({ goal }) => goalNode(goal.id, 'off'));
  const round = (best: GoalsTrial, to: Rounding): number[] =>
    best.at.map((amount, i) => roundTo(to, amount, values.show(ids[i] ?? '')?.unit?.size ?? 1, axes[i] as Axis));

  /** What stops it, where something does. */
  const atBounds = ({ best, isReached }: GoalsOutcome): string => {
    const at = ids.filter((_, i) => best && (best.at[i] === axes[i]?.from || best.at[i] === axes[i]?.to));
    return isReached || at.length === 0 ? '' : ` ${at.map(nameOf).join(', ')} ${at.length === 1 ? 'is at its bound' : 'are at their bounds'}.`;
  };
  const run = async (): Promise<void> => {
    const known = axes.flatMap((axis) => axis ?? []);
    setFound(undefined);
    setRounded(undefined);
    setSaid(undefined);
    setTrials(0);
    await work(async (worker) => {
      const sampler = new Sampler(document, ids, session.snapshots);
      const build = buildWith(worker, document, session.snapshots, { outputs: nodes });
      const onTrial = (): void => setTrials((before) => before + 1);
      const outcome = await reachGoalsOf({ sampler, ids, axes: known, goals, build, onTrial });
      setFound(outcome);
    });
  };
  const look = async (to: Rounding): Promise<void> => {
    setRounding(to);
    setRounded(undefined);
    const best = found?.best;
    if (!best || to === 'exact') return;
    await work(async (worker) => {
      const sampler = new Sampler(document, ids, session.snapshots);
      const at = round(best, to);
      const judged = await judgeAt(sampler, at, nodes, buildWith(worker, document, session.snapshots, { outputs: nodes }));
      if (judged) setRounded({ at, off: nodes.map((node) => judged.outputs[node] ?? NaN), problems: judged.problems });
    });
  };
  const shown = rounding === 'exact' ? found?.best : rounded;
  const amounts = new Map(ids.map((id, i) => [id, shown?.at[i] ?? NaN]));
  const use = (): void => {
    const edit = setAmounts(session, amounts);
    const failure = edit && session.edit(edit);
    if (edit && !failure) onClose();
    else setSaid(failure?.message ?? 'An amount cannot be written as a formula here.');
  };
  const keep = async (): Promise<void> => {
    const name = goals.map(({ goal }) => textOfGoal(goal)).join(', ');
    const problem = await keepAsWhatIf(session, amounts, name.slice(0, MOST_NAME));
    if (problem === undefined) workspace.setState({ task: { kind: 'what-ifs' } });
    else setSaid(problem);
  };
  return (
    <TaskDialog
      width="wide"
      title="Reach goals"
      description="Values vary between their bounds until all goals are met at once, or as nearly as possible. The document is not changed before you use what is found."
      onClose={onClose}
    >
      <div className="grid grid-cols-[repeat(auto-fill,minmax(16rem,1fr))] gap-x-4">
        {ids.map((id) => (
          <RangeFields
            key={id}
            name={nameOf(id)}
            range={ranges.get(id) ?? { from: '', to: '' }}
            onChange={(ends) => setRanges(new Map([...ranges, [id, ends]]))}
          />
        ))}
      </div>
      {unfit.length > 0 && <p className="text-madder">{unfit.join(', ')}: no value with a formula of its own here. Open the goal and choose another.</p>}
      {wrongRange !== undefined && (
        <p className="text-madder">The bounds of {nameOf(wrongRange)} must run from less to more, in amounts of it, and hold at least one of its choices.</p>
      )}
      <div className="flex flex-wrap items-end gap-3">
        <span className="mb-2">
          <RunButton label="Find" isRunning={isRunning} isOff={ids.length === 0 || wrongRange !== undefined} onRun={() => void run()} onStop={stop} />
        </span>
        {found?.best && (
          <span className="w-56">
            <Select label="Round the values" value={rounding} options={ROUNDING_WORDS} onChange={(to) => void look(to as Rounding)} />
          </span>
        )}
        <p role="status" className="mb-3">
          {isRunning ? `${trials} trials so far.` : found && `${tell(found)}${atBounds(found)}`}
        </p>
      </div>
      <table className="w-full border-collapse text-left">
        <thead>
          <tr className="border-b border-rule text-walnut-soft">
            <th className="py-1 font-normal">Goal or value</th>
            <th className="py-1 font-normal">Now</th>
            <th className="py-1 font-normal">{rounding === 'exact' ? 'Found' : 'Found, rounded'}</th>
          </tr>
        </thead>
        <tbody className="font-mono text-[13px] tabular-nums">
          {goals.map(({ goal, isMet, within }, k) => {
            const off = shown?.off[k];
            const isReached = off !== undefined && Math.abs(off) <= within;
            return (
              <tr key={goal.id} className="border-b border-rule">
                <td className="py-1">{textOfGoal(goal)}</td>
                <td className="py-1">
                  {writeGoal(values, goal)} <Met isMet={isMet} />
                </td>
                <td className="py-1">
                  {off !== undefined && (
                    <>
                      {writeGoal(values, goal, off)} <Met isMet={isReached} />
                    </>
                  )}
                </td>
              </tr>
            );
          })}
          {ids.map((id, i) => (
            <tr key={id} className="border-b border-rule">
              <td className="py-1">{nameOf(id)}</td>
              <td className="py-1">{values.show(id)?.shown}</td>
              <td className="py-1">{shown && writeAmount(values, id, shown.at[i] ?? NaN)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {shown?.problems.map((problem) => (
        <p key={problem} className="mt-1 text-madder">
          {problem}
        </p>
      ))}
      {said !== undefined && (
        <p role="alert" className="mt-1 text-madder">
          {said}
        </p>
      )}
      {shown && !isRunning && (
        <p className="mt-2 flex gap-2">
          <Button onClick={use}>Use these values</Button>
          <Button onClick={() => void keep()}>Keep as a what-if</Button>
        </p>
      )}
    </TaskDialog>
  );
}

function Met({ isMet }: { isMet: boolean }) {
  return <span className={`font-sans ${isMet ? 'text-moss' : 'text-weld'}`}>{isMet ? 'met' : 'not met'}</span>;
}

function tell({ best, isReached, isStopped, trials }: GoalsOutcome): string {
  if (isStopped) return `Stopped after ${trials} trials${best ? ', with the best so far' : ''}.`;
  if (!best || best.off.some(Number.isNaN)) return 'A goal has no value within these bounds.';
  return isReached ? `Found in ${trials} trials.` : `The goals cannot all be met within these bounds. This is the nearest of ${trials} trials.`;
}

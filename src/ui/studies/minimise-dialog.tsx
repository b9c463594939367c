'use client';
/** The least or the most of a value over several others within bounds, with nothing wrong: looked for beside the page, and made the document's, or a what-if. */
import { lazy, Suspense, useMemo, useState } from 'react';
import { axisOf, judgeAt, minimise, Sampler, type Minimum, type Trial } from '@/core/studies';
import { buildWith, MASS } from '@/workers/study-build';
import { Button } from '../design/button';
import { TaskDialog } from '../design/task-dialog';
import { VerbMenu } from '../design/verb-menu';
import { axisLabel } from '../state/amounts';
import { useSession, useWorkspaceStore } from '../state/context';
import { Select } from '../design/fields';
import { listMovable } from '../state/movable';
import { keepAsWhatIf } from './keep-as-what-if';
import { firstOutput, firstRange, listOutputs, setAmounts, shownAmount, writeAmount, writeOutput } from './outputs';
import { RangeFields } from './range-fields';
import { RunButton } from './run-button';
import { useStudyWorker } from './use-study-worker';

// Drawn only where a chart is asked for: no page pays for it otherwise.
const LineChart = lazy(() => import('../design/line-chart'));

const MOST_VALUES = 6;
const CHART = { width: 600, height: 170 } as const;

interface Driver {
  readonly id: string;
  readonly from: string;
  readonly to: string;
}

export function MinimiseDialog({ value, onClose }: { value: string; onClose: () => void }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const [document] = useState(() => session.document);
  const movable = useMemo(() => listMovable(session), [session]);
  const outputs = useMemo(() => listOutputs(session), [session]);
  const [goal, setGoal] = useState(() => (outputs.some(({ id }) => id === MASS) ? MASS : firstOutput(session, value, outputs)));
  const [way, setWay] = useState('least');
  const [drivers, setDrivers] = useState<readonly Driver[]>(() =>
    movable.some(({ id }) => id === value) ? [{ id: value, ...firstRange(session, value) }] : [],
  );
  const [trials, setTrials] = useState<readonly { readonly trial: Trial; readonly best: Trial }[]>([]);
  const [found, setFound] = useState<Minimum>();
  const [said, setSaid] = useState<string>();
  const { isRunning, work, stop } = useStudyWorker();
  const sign = way === 'least' ? 1 : -1;
  const target = outputs.find(({ id }) => id === goal);
  const nameOf = (id: string): string => movable.find((one) => one.id === id)?.name ?? '';
  const axes = drivers.map(({ id, ...ends }) => axisOf(session.values, id, ends));
  const wrongRange = drivers.find((_, i) => axes[i] === undefined);
  const change = (id: string, ends: Partial<Driver>): void => setDrivers(drivers.map((one) => (one.id === id ? { ...one, ...ends } : one)));
  const run = async (): Promise<void> => {
    const known = axes.flatMap((axis) => axis ?? []);
    const ids = drivers.map(({ id }) => id);
    const sampler = new Sampler(document, ids, session.snapshots);
    const read = goal === MASS ? [] : [goal];
    setTrials([]);
    setFound(undefined);
    setSaid(undefined);
    await work(async (worker) => {
      const build = buildWith(worker, document, session.snapshots, { outputs: read });
      const minimum = await minimise(
        { axes: known, start: sampler.present, onTrial: (trial, best) => setTrials((before) => [...before, { trial, best }]) },
        async (at) => {
          const judged = await judgeAt(sampler, at, read, build);
          return judged && { value: sign * (judged.outputs[goal] ?? NaN), problems: judged.problems };
        },
      );
      setFound(minimum);
    });
  };
  const best = trials.at(-1)?.best;
  const [start] = trials;
  const amounts = new Map(drivers.map(({ id }, i) => [id, best?.at[i] ?? NaN]));
  const write = (trial: Trial | undefined): string => (target && trial ? writeOutput(session.values, target, sign * trial.value) : '');
  const use = (): void => {
    const edit = setAmounts(session, amounts);
    if (edit && !session.edit(edit)) onClose();
  };
  const keep = async (): Promise<void> => {
    const problem = await keepAsWhatIf(session, amounts, `${way === 'least' ? 'Minimum' : 'Maximum'} ${target?.name ?? ''}`);
    if (problem === undefined) workspace.setState({ task: { kind: 'what-ifs' } });
    else setSaid(problem);
  };
  return (
    <TaskDialog
      width="wide"
      title="Find a minimum or maximum"
      description="Values vary between their bounds until another is as low or as high as possible while guards hold and no step fails. The document is not changed."
      onClose={onClose}
    >
      <div className="flex flex-wrap items-end gap-x-3">
        <span className="w-28">
          <Select label="Find the" value={way} options={{ least: 'minimum', most: 'maximum' }} onChange={setWay} />
        </span>
        <span className="w-52">
          <Select label="Of" value={goal} options={Object.fromEntries(outputs.map(({ id, name }) => [id, name]))} onChange={setGoal} />
        </span>
      </div>
      {drivers.map((driver, i) => (
        <div key={driver.id} className="flex items-end gap-x-3">
          <RangeFields name={`by ${nameOf(driver.id)}`} range={driver} onChange={(ends) => change(driver.id, ends)} />
          {best && <span className="mb-3 font-mono tabular-nums">{writeAmount(session.values, driver.id, best.at[i] ?? NaN)}</span>}
          <Button
            tone="quiet"
            className="mb-2 h-7"
            aria-label={`Remove ${nameOf(driver.id)}`}
            onClick={() => setDrivers(drivers.filter(({ id }) => id !== driver.id))}
          >
            Remove
          </Button>
        </div>
      ))}
      <div className="flex flex-wrap items-center gap-2">
        <VerbMenu
          label="Add a value…"
          isOff={isRunning || drivers.length >= MOST_VALUES}
          groups={[
            movable.map(({ id, name }) => ({
              label: name,
              isOff: id === goal || drivers.some((one) => one.id === id),
              run: () => setDrivers([...drivers, { id, ...firstRange(session, id) }]),
            })),
          ]}
        />
        <RunButton
          label="Find"
          isRunning={isRunning}
          isOff={drivers.length === 0 || wrongRange !== undefined || drivers.some(({ id }) => id === goal)}
          onRun={() => void run()}
          onStop={stop}
        />
      </div>
      {wrongRange && (
        <p className="text-madder">The bounds of {nameOf(wrongRange.id)} must run from less to more, in amounts of it, and hold at least one of its choices.</p>
      )}
      {drivers.some(({ id }) => id === goal) && <p className="text-madder">{target?.name} cannot vary and be the goal at once. Remove it from the list.</p>}
      {trials.length > 1 && target && (
        <Suspense fallback={<p className="text-walnut-soft">Drawing…</p>}>
          <LineChart
            {...CHART}
            points={trials.map(({ best: so }, i) => ({ x: i + 1, y: { best: so.problems.length > 0 ? null : shownAmount(sign * so.value, target) } }))}
            curves={[{ key: 'best', label: `best ${target.name} so far` }]}
            xLabel="trials"
            yLabel={axisLabel(target.name, target.unit)}
            description={`The best ${target.name} over ${trials.length} trials`}
          />
        </Suspense>
      )}
      {best && target && (
        <div role="status" className="mt-1">
          <p>
            {isRunning
              ? `${trials.length} trials so far. `
              : found?.isSettled
                ? `Found in ${found.trials} trials. `
                : `Stopped after ${trials.length} trials, with the best so far. `}
            {target.name} was {write(start?.trial)}, {isRunning ? 'is' : 'would be'} {write(best) || 'without a value'}.
          </p>
          {best.problems.map((problem) => (
            <p key={problem} className="text-madder">
              {problem}
            </p>
          ))}
        </div>
      )}
      {said !== undefined && (
        <p role="alert" className="text-madder">
          {said}
        </p>
      )}
      {best && !isRunning && (
        <p className="mt-2 flex gap-2">
          <Button onClick={use}>Use these values</Button>
          <Button onClick={() => void keep()}>Keep as a what-if</Button>
        </p>
      )}
    </TaskDialog>
  );
}

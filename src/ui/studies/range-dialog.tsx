'use client';
/** One value run through a range: what others come to, and where something fails. */
import { lazy, Suspense, useMemo, useRef, useState } from 'react';
import type { RunReply } from '@/contract';
import { findRecord } from '@/core/document';
import { closeSafeRange, judgeAt, runRange, safeRanges, Sampler, type RangeSample, type SafeRange } from '@/core/studies';
import { prettyUnit } from '@/core/units';
import { buildWith, MASS } from '@/workers/study-build';
import { Button } from '../design/button';
import { saveChartPicture } from '../design/chart-picture';
import type { ChartPoint } from '../design/line-chart';
import { TaskDialog } from '../design/task-dialog';
import { setFormulaEdit } from '../ledger/scrub-value';
import { axisLabel } from '../state/amounts';
import { useSession, useWorkspaceStore } from '../state/context';
import { newId, thisAuthor } from '../state/identity';
import { Flag, Select } from '../design/fields';
import { FindAmount } from './find-amount';
import { firstOutput, listOutputs, shownAmount, type Output } from './outputs';
import { amountsHint, amountsOf, firstChoice, RangeAmounts } from './range-amounts';
import { noteSafeRange } from '../state/safe-ranges';
import { RunButton } from './run-button';
import { RangeStrip } from './range-strip';
import { RunFiles } from './run-files';
import { ServerRuns } from './server-runs';
import { useServerRuns } from './use-server-runs';
import { useStudyWorker } from './use-study-worker';

// Drawn only where a chart is asked for: no page pays for it otherwise.
const LineChart = lazy(() => import('../design/line-chart'));

const CHART = { width: 790, height: 230 } as const;
/** More are for the server. */
const MOST_SAMPLES = 500;

export function RangeDialog({ value, onClose }: { value: string; onClose: () => void }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const [document] = useState(() => session.document);
  const sampler = useMemo(() => new Sampler(document, [value], session.snapshots), [document, value, session]);
  const [present = NaN] = sampler.present;
  const record = findRecord(document, value, 'parameter') ?? findRecord(document, value, 'take');
  const reading = session.values.show(value);
  const unit = reading?.unit;
  const outputs = useMemo(() => listOutputs(session), [session]);
  const [choice, setChoice] = useState(() => firstChoice(session, value));
  const [output, setOutput] = useState(() => firstOutput(session, value, outputs));
  const [samples, setSamples] = useState<readonly RangeSample[]>([]);
  const [isJudged, setJudged] = useState(false);
  const { isRunning, work, stop } = useStudyWorker();
  const atServer = useServerRuns(document.id, value);
  const [said, setSaid] = useState<string>();
  const [closed, setClosed] = useState<SafeRange>();
  const chart = useRef<HTMLDivElement>(null);
  if (!record || !reading) return null;
  if (!sampler.isAmount) {
    return (
      <TaskDialog title={`Run ${record.name} through a range`} description="" onClose={onClose}>
        <p>{record.name} is not a number with a unit. Choose one that is.</p>
      </TaskDialog>
    );
  }
  const size = unit?.size ?? 1;
  const write = (amount: number): string => prettyUnit(session.values.words({ ...reading, value: amount }, unit).shown);
  const amounts = amountsOf(session, value, choice);
  const [from = NaN, to = NaN] = [amounts?.[0], amounts?.at(-1)];
  const count = amounts?.length ?? 0;
  const chosen = outputs.find(({ id }) => id === output);

  const forget = (): void => {
    setSaid(undefined);
    setClosed(undefined);
  };
  const run = async (): Promise<void> => {
    if (!amounts) return;
    setSamples([]);
    forget();
    const ids = outputs.map(({ id }) => id).filter((id) => id !== MASS);
    await work(async (worker) => {
      const build = buildWith(worker, document, session.snapshots, { outputs: ids, isJudged });
      const run = await runRange(sampler, amounts, ids, build, (sample) => setSamples((before) => [...before, sample]));
      // Of what is listed nothing is known of what lies between.
      if (choice.way === 'listed' || run.length < count || run.every(({ problems }) => problems.length === 0)) return;
      const isWell = async (at: number) => {
        const judged = await judgeAt(sampler, [at], [], build);
        return judged && judged.problems.length === 0;
      };
      const range = await closeSafeRange(run, present, isWell);
      // No finer than it was looked at, and inside.
      setClosed(range && roundInside(range, (to - from) / count / 2 ** 13, size));
    });
  };
  const startAtServer = (): void => {
    if (!amounts) return;
    const run = { value, from, to, count, ...(choice.way === 'evenly' ? {} : { amounts: [...amounts] }) };
    atServer.start({ id: newId(), ...run, isJudged, outputs: outputs.map(({ id }) => id), author: thisAuthor() });
  };
  const show = async (run: RunReply): Promise<void> => {
    const found = await atServer.samplesOf(run.id);
    if (!found) return;
    forget();
    const ends = { from: write(run.from), to: write(run.to), count: run.count };
    setChoice({ ...choice, ...ends, ...(run.amounts ? { way: 'listed', list: run.amounts.map(write).join('; ') } : { way: 'evenly' }) });
    setSamples(found);
  };
  const use = (amount: number): void => {
    // The shortest text that reads back as just this amount.
    const { exact } = session.values.words({ ...reading, value: amount }, unit);
    if (exact === '' || record.type !== 'parameter') return;
    if (!session.edit(setFormulaEdit(session, value, exact))) onClose();
  };
  const savePicture = ({ name }: Output): void => {
    const drawing = chart.current?.querySelector<SVGElement>('svg.recharts-surface');
    if (drawing) void saveChartPicture(drawing, [{ label: name }], `${name} over ${record.name}`);
  };
  // Around what it is now: what lies beyond something wrong is another island.
  const safe = closed ?? safeRanges(samples).find(({ from, to }) => from <= present && present <= to && from < to);
  const keepLimits = ({ from, to }: { readonly from: number; readonly to: number }): void => {
    const [least, most] = [from, to].map((amount) => ({ text: session.values.words({ ...reading, value: amount }, unit).exact }));
    if (!least?.text || !most?.text) return;
    const failure = session.edit({ type: 'parameter.update', id: value, changes: { least, most } });
    setSaid(failure?.message ?? `${record.name} may be ${write(from)} to ${write(to)} from now on.`);
  };
  return (
    <TaskDialog
      width="widest"
      title={`Run ${record.name} through a range`}
      description={`It is ${write(present)} now. Nothing is changed by running it.`}
      onClose={onClose}
    >
      <div className="flex flex-wrap items-end gap-3">
        <RangeAmounts choice={choice} onChange={setChoice} />
        <span className="w-52">
          <Select label="Look at" value={output} options={Object.fromEntries(outputs.map(({ id, name }) => [id, name]))} onChange={setOutput} />
        </span>
        {document.kind === 'assembly' && (
          <span className="mb-2">
            <Flag label="Look for interference" isSet={isJudged} onChange={setJudged} />
          </span>
        )}
        <span className="mb-2">
          <RunButton label="Run" isRunning={isRunning} isOff={!amounts || count > MOST_SAMPLES} onRun={() => void run()} onStop={stop} />
        </span>
        <span className="mb-2">
          <Button disabled={!amounts} title="It goes on there when this page is closed." onClick={startAtServer}>
            Run at the server
          </Button>
        </span>
      </div>
      {count > MOST_SAMPLES && <p>This page runs {MOST_SAMPLES} samples at most. Run more at the server.</p>}
      <ServerRuns {...atServer} document={session.document} nameOf={({ from, to }) => `${write(from)} to ${write(to)}`} onShow={(run) => void show(run)} />
      {!amounts && <p className="text-madder">{amountsHint(choice.way, write(present))}</p>}
      {samples.length > 1 && chosen && (
        <>
          <div ref={chart}>
            <Suspense fallback={<p className="text-walnut-soft">Drawing…</p>}>
              <LineChart
                {...CHART}
                points={samples.map((sample): ChartPoint => ({ x: sample.at / size, y: { [chosen.id]: shownAmount(sample.outputs[chosen.id], chosen) } }))}
                curves={[{ key: chosen.id, label: chosen.name }]}
                xLabel={axisLabel(record.name, unit)}
                yLabel={axisLabel(chosen.name, chosen.unit)}
                mark={present / size}
                wrong={wrongStretches(samples).map(({ from, to }) => ({ from: from / size, to: to / size }))}
                description={`${chosen.name} over ${record.name}`}
              />
            </Suspense>
          </div>
          <Verdict samples={samples} write={write} isRunning={isRunning} />
          {safe && !isRunning && (
            <p>
              Around {write(present)} nothing fails from {write(safe.from)} to {write(safe.to)}. Failures between two good samples are not seen.
            </p>
          )}
          <p className="flex flex-wrap gap-1">
            {safe && !isRunning && (
              <>
                {record.type === 'parameter' && (
                  <Button onClick={() => keepLimits(safe)}>
                    Allow {write(safe.from)} to {write(safe.to)} only
                  </Button>
                )}
                <Button
                  onClick={() => {
                    noteSafeRange(workspace, document, value, `${write(safe.from)} … ${write(safe.to)} holds`);
                    onClose();
                  }}
                >
                  Show it on the row
                </Button>
              </>
            )}
            <RunFiles
              name={`${record.name} over a range`}
              cells={() => tableOf(samples, outputs, axisLabel(record.name, unit), size)}
              onPicture={() => savePicture(chosen)}
            />
          </p>
          {!isRunning && (
            <RangeStrip
              key={[samples.length, samples[0]?.at, samples.at(-1)?.at].join()}
              document={document}
              value={value}
              amounts={samples.map(({ at }) => at)}
              write={write}
              onUse={record.type === 'parameter' ? use : undefined}
            />
          )}
        </>
      )}
      {said !== undefined && <p role="status">{said}</p>}
      <FindAmount
        document={document}
        value={value}
        sampler={sampler}
        between={amounts && [from, to]}
        output={chosen}
        onUse={record.type === 'parameter' ? use : undefined}
        work={work}
        isRunning={isRunning}
      />
    </TaskDialog>
  );
}

function Verdict({ samples, write, isRunning }: { samples: readonly RangeSample[]; write: (amount: number) => string; isRunning: boolean }) {
  const safe = safeRanges(samples);
  const failing = samples.filter(({ problems }) => problems.length > 0);
  const kinds = [...new Set(failing.flatMap(({ problems }) => problems))];
  const held = [...new Set(samples.flatMap((sample) => sample.held))];
  const heldAt = samples.filter((sample) => sample.held.length > 0).length;
  return (
    <div role="status">
      <p>
        {isRunning
          ? `${samples.length} done.`
          : safe.length === 0
            ? 'Something is wrong everywhere.'
            : `Nothing is wrong from ${safe.map(({ from, to }) => `${write(from)} to ${write(to)}`).join(', and from ')}.`}
      </p>
      {held.length > 0 && (
        <p className="text-weld">
          Held at {heldAt} of {samples.length}: {held.join(', ')}. Outside calculations are not asked in a run.
        </p>
      )}
      {kinds.slice(0, 5).map((kind) => (
        <p key={kind} className="text-madder">
          {kind}{' '}
          <span className="text-walnut-soft">
            at{' '}
            {failing
              .filter(({ problems }) => problems.includes(kind))
              .map(({ at }) => write(at))
              .slice(0, 6)
              .join(', ')}
          </span>
        </p>
      ))}
    </div>
  );
}

/** From sample to sample where something is wrong, each reaching half way to its neighbours. */
function wrongStretches(samples: readonly RangeSample[]): { from: number; to: number }[] {
  return samples.flatMap(({ at, problems }, i) => {
    if (problems.length === 0) return [];
    const [before, after] = [samples[i - 1]?.at ?? at, samples[i + 1]?.at ?? at];
    return [{ from: (before + at) / 2, to: (at + after) / 2 }];
  });
}

function tableOf(samples: readonly RangeSample[], outputs: readonly Output[], head: string, size: number): string[][] {
  return [
    [head, ...outputs.map(({ name, unit }) => axisLabel(name, unit)), 'problems'],
    ...samples.map(({ at, outputs: values, problems, held }) => [
      String(Number((at / size).toPrecision(12))),
      ...outputs.map((output) => {
        const amount = shownAmount(values[output.id], output);
        return amount === null ? '' : String(Number(amount.toPrecision(12)));
      }),
      [...problems, ...held.map((name) => `${name} held`)].join('; '),
    ]),
  ];
}

/** To the power of ten that is no finer than a step, inwards. */
function roundInside({ from, to }: SafeRange, step: number, size: number): SafeRange {
  const unit = 10 ** Math.ceil(Math.log10(step / size)) * size;
  const [low, high] = [Math.ceil(from / unit - 1e-9) * unit, Math.floor(to / unit + 1e-9) * unit];
  return low < high ? { from: low, to: high } : { from, to };
}

'use client';
/** Two values run through their ranges together: what another comes to over both, and where something fails. */
import { useMemo, useState } from 'react';
import { findRecord } from '@/core/document';
import { amountOf, evenly, runMap, Sampler, type MapSample } from '@/core/studies';
import type { RunReply } from '@/contract';
import { buildWith, MASS } from '@/workers/study-build';
import { Button } from '../design/button';
import { saveChartPicture } from '../design/chart-picture';
import { TaskDialog } from '../design/task-dialog';
import { LabelledField } from '../design/labelled-field';
import { axisLabel } from '../state/amounts';
import { useSession } from '../state/context';
import type { DocumentSession } from '../state/document-session';
import { newId, thisAuthor } from '../state/identity';
import { Flag, Select } from '../design/fields';
import { FieldMap, type Field } from './field-map';
import { listMovable } from '../state/movable';
import { firstOutput, firstRange, listOutputs, setAmounts, shownAmount, writeAmount, writeOutput, type Output } from './outputs';
import { drawMap } from './map-picture';
import { RangeFields } from './range-fields';
import { RunButton } from './run-button';
import { RunFiles } from './run-files';
import { ServerRuns } from './server-runs';
import { useServerRuns } from './use-server-runs';
import { useStudyWorker } from './use-study-worker';

/** In the page; more are for the server. */
const MOST_EACH = 15;
const MOST_AT_SERVER = 50;

export function MapDialog({ value, onClose }: { value: string; onClose: () => void }) {
  const session = useSession();
  const [document] = useState(() => session.document);
  const movable = useMemo(() => listMovable(session), [session]);
  const outputs = useMemo(() => listOutputs(session), [session]);
  const [other, setOther] = useState(() => movable.find(({ id }) => id !== value)?.id ?? '');
  const [ranges, setRanges] = useState(() => [firstRange(session, value), firstRange(session, other)] as const);
  const [count, setCount] = useState(7);
  const [output, setOutput] = useState(() => firstOutput(session, value, outputs));
  const [ran, setRan] = useState<{ readonly of: readonly [string, string]; readonly amounts: readonly [readonly number[], readonly number[]] }>();
  const [samples, setSamples] = useState<readonly MapSample[]>([]);
  const [chosen, setChosen] = useState<readonly [number, number]>();
  const [isJudged, setJudged] = useState(false);
  const { isRunning, work, stop } = useStudyWorker();
  const atServer = useServerRuns(document.id, value, true);
  const [first, second] = [value, other].map((id) => movable.find((one) => one.id === id));
  const shown = outputs.find(({ id }) => id === output);
  const byPlace = useMemo(() => new Map(samples.map((sample) => [sample.at.join(' '), sample])), [samples]);
  if (!first || !second) {
    return (
      <TaskDialog title="Run two values through their ranges" description="" onClose={onClose}>
        <p>{first ? 'There is no second value that is a number with a unit.' : 'This value is not a number with a unit of its own.'}</p>
      </TaskDialog>
    );
  }
  const ends = [first, second].map(({ id }, i) => [ranges[i]?.from ?? '', ranges[i]?.to ?? ''].map((text) => amountOf(session.values, id, text)));
  const isWrong = ends.some(([from, to]) => from === undefined || to === undefined || from >= to);
  const amounts = [first, second].map(({ id }, i) => amountsBetween(session, id, ends[i] ?? [], count)) as [number[], number[]];
  const isTooMuch = amounts.some(({ length }) => length > MOST_EACH);
  const run = async (): Promise<void> => {
    const [one, two] = amounts;
    setSamples([]);
    setChosen(undefined);
    setRan({ of: [value, other], amounts: [one, two] });
    const ids = outputs.map(({ id }) => id).filter((id) => id !== MASS);
    await work(async (worker) => {
      const sampler = new Sampler(document, [value, other], session.snapshots);
      const build = buildWith(worker, document, session.snapshots, { outputs: ids, isJudged });
      await runMap(sampler, [one, two], ids, build, (sample) => setSamples((before) => [...before, sample]));
    });
  };
  const startAtServer = (): void => {
    const [one, two] = amounts.map((list) => ({ from: list[0] ?? 0, to: list.at(-1) ?? 0, count: list.length, amounts: list }));
    if (one && two)
      atServer.start({ id: newId(), value, ...one, second: { value: other, ...two }, isJudged, outputs: outputs.map(({ id }) => id), author: thisAuthor() });
  };
  const show = async (run: RunReply): Promise<void> => {
    const found = await atServer.samplesOf(run.id);
    const { second: pair } = run;
    if (!found || !pair) return;
    setOther(pair.value);
    setRanges([shownRange(value, run), shownRange(pair.value, pair)]);
    setCount(run.count);
    setChosen(undefined);
    setRan({ of: [value, pair.value], amounts: [amountsRun(run), amountsRun(pair)] });
    setSamples(found.map(({ at, also = NaN, ...rest }) => ({ at: [at, also] as const, ...rest })));
  };
  const shownRange = (id: string, { from, to }: { readonly from: number; readonly to: number }) => ({ from: write(id, from), to: write(id, to) });
  const nameOf = (run: RunReply): string => {
    const pair = run.second && movable.find(({ id }) => id === run.second?.value);
    const words = (id: string, range: Parameters<typeof shownRange>[1]): string => Object.values(shownRange(id, range)).join(' to ');
    return `${words(value, run)}${run.second ? ` with ${pair?.name ?? 'another value'} ${words(run.second.value, run.second)}` : ''}`;
  };
  const sampleAt = (i: number, j: number): MapSample | undefined => byPlace.get(`${ran?.amounts[0][i]} ${ran?.amounts[1][j]}`);
  const fieldAt = (i: number, j: number): Field => {
    const sample = sampleAt(i, j);
    if (!sample || !shown) return { value: undefined, shown: '', isWrong: false };
    const amount = sample.outputs[shown.id];
    return { value: shownAmount(amount, shown), shown: writeOutput(session.values, shown, amount ?? NaN), isWrong: sample.problems.length > 0 };
  };
  const savePicture = ({ amounts: [one, two] }: NonNullable<typeof ran>, output: Output): void => {
    const [across, up] = [one.map((amount) => write(value, amount)), two.map((amount) => write(other, amount))];
    const drawing = drawMap({ across, up, acrossLabel: first.name, upLabel: second.name, fieldAt });
    const size = { width: Number(drawing.getAttribute('width')), height: Number(drawing.getAttribute('height')) };
    void saveChartPicture(drawing, [], `${axisLabel(output.name, output.unit)} over ${first.name} and ${second.name}`, size);
  };
  const picked = chosen && sampleAt(...chosen);
  const write = (id: string, amount: number): string => writeAmount(session.values, id, amount);
  const isAsRun = ran?.of[1] === other;
  return (
    <TaskDialog
      width="wide"
      title={`Run ${first.name} and another value through their ranges`}
      description={`They are ${write(value, session.values.sheet.readNumber(value))} and ${write(other, session.values.sheet.readNumber(other))} now. Nothing is changed by running them.`}
      onClose={onClose}
    >
      <div className="flex flex-wrap items-end gap-x-3">
        <RangeFields name={first.name} range={ranges[0]} onChange={(range) => setRanges([range, ranges[1]])} />
        <span className="w-44">
          <Select
            label="Second value"
            value={other}
            options={Object.fromEntries(movable.flatMap(({ id, name }) => (id === value ? [] : [[id, name]])))}
            onChange={(id) => {
              setOther(id);
              setRanges([ranges[0], firstRange(session, id)]);
            }}
          />
        </span>
        <RangeFields name={second.name} range={ranges[1]} onChange={(range) => setRanges([ranges[0], range])} />
      </div>
      <div className="flex flex-wrap items-end gap-x-3">
        <LabelledField
          label="Samples of each"
          value={String(count)}
          check={(text) =>
            Number.isInteger(Number(text)) && Number(text) >= 2 && Number(text) <= MOST_AT_SERVER ? undefined : `A whole number from 2 to ${MOST_AT_SERVER}`
          }
          onAccept={(text) => setCount(Number(text))}
        />
        <span className="w-44">
          <Select label="Look at" value={output} options={Object.fromEntries(outputs.map(({ id, name }) => [id, name]))} onChange={setOutput} />
        </span>
        {document.kind === 'assembly' && (
          <span className="mb-2">
            <Flag label="Look for interference" isSet={isJudged} onChange={setJudged} />
          </span>
        )}
        <span className="mb-2">
          <RunButton label="Run" isRunning={isRunning} isOff={isWrong || isTooMuch} onRun={() => void run()} onStop={stop} />
        </span>
        <span className="mb-2">
          <Button disabled={isWrong} title="It goes on there when this page is closed." onClick={startAtServer}>
            Run at the server
          </Button>
        </span>
        {isRunning && (
          <span role="status" className="mb-3 text-walnut-soft">
            {samples.length} of {amounts[0].length * amounts[1].length}
          </span>
        )}
      </div>
      {isTooMuch && <p>This page runs {MOST_EACH} samples of each at most. Run more at the server.</p>}
      <ServerRuns {...atServer} document={session.document} nameOf={nameOf} onShow={(run) => void show(run)} />
      {isWrong && <p className="text-madder">Both ranges must run from less to more, in amounts of their values.</p>}
      {ran && isAsRun && shown && samples.length > 0 && (
        <>
          <div className="overflow-x-auto">
            <FieldMap
              across={ran.amounts[0].map((amount) => write(value, amount))}
              up={ran.amounts[1].map((amount) => write(other, amount))}
              acrossLabel={first.name}
              upLabel={second.name}
              fieldAt={fieldAt}
              chosen={chosen}
              onChoose={(i, j) => setChosen([i, j])}
              description={`${axisLabel(shown.name, shown.unit)} over ${first.name} and ${second.name}`}
            />
          </div>
          <p className="mt-1 text-walnut-soft">
            {axisLabel(shown.name, shown.unit)}: the darker, the more. Crossed and hatched: something is wrong (
            {samples.filter(({ problems }) => problems.length > 0).length} of {samples.length}).
          </p>
        </>
      )}
      {picked && shown && (
        <Picked
          sample={picked}
          names={[first, second]}
          shown={shown}
          onUse={() => {
            const edit = setAmounts(
              session,
              new Map([
                [value, picked.at[0]],
                [other, picked.at[1]],
              ]),
            );
            if (edit && !session.edit(edit)) onClose();
          }}
        />
      )}
      {samples.length > 0 && !isRunning && isAsRun && (
        <RunFiles
          name={`${first.name} and ${second.name}`}
          cells={() => tableOf(samples, [first, second], outputs)}
          onPicture={ran && shown ? () => savePicture(ran, shown) : undefined}
        />
      )}
    </TaskDialog>
  );
}

/** Evenly between two ends; of a value with choices, those between. */
function amountsBetween({ document, values }: DocumentSession, id: string, [from = 0, to = 0]: readonly (number | undefined)[], count: number): number[] {
  const choices = (findRecord(document, id, 'parameter')?.choices ?? []).flatMap((text) => amountOf(values, id, text) ?? []);
  const between = choices.filter((amount) => from <= amount && amount <= to).sort((a, b) => a - b);
  return between.length > 1 ? between : evenly(from, to, count);
}

function amountsRun({ from, to, count, amounts }: Pick<RunReply, 'from' | 'to' | 'count' | 'amounts'>): readonly number[] {
  return amounts ?? evenly(from, to, count);
}

function Picked({ sample, names, shown, onUse }: { sample: MapSample; names: readonly Output[]; shown: Output; onUse: () => void }) {
  const { values } = useSession();
  const words = names.map(({ id }, i) => writeAmount(values, id, sample.at[i] ?? NaN));
  return (
    <div role="status" className="mt-2 border-t border-rule pt-2">
      <p>
        {names.map(({ name }, i) => `${name} ${words[i] ?? ''}`).join(', ')}: {shown.name}{' '}
        {writeOutput(values, shown, sample.outputs[shown.id] ?? NaN) || 'has no value'}.
      </p>
      {sample.problems.map((problem) => (
        <p key={problem} className="text-madder">
          {problem}
        </p>
      ))}
      <Button className="mt-1" onClick={onUse}>
        Use {words.join(' and ')}
      </Button>
    </div>
  );
}

function tableOf(samples: readonly MapSample[], names: readonly Output[], outputs: readonly Output[]): string[][] {
  const number = (amount: number | null): string => (amount === null ? '' : String(Number(amount.toPrecision(12))));
  return [
    [...names, ...outputs].map(({ name, unit }) => axisLabel(name, unit)).concat('problems'),
    ...samples.map(({ at, outputs: values, problems, held }) => [
      ...names.map((one, i) => number(shownAmount(at[i], one))),
      ...outputs.map((one) => number(shownAmount(values[one.id], one))),
      [...problems, ...held.map((name) => `${name} held`)].join('; '),
    ]),
  ];
}

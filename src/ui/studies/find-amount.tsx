'use client';
/** The amount of a value at which another comes to what is wanted: found, used, or kept as a goal. */
import { useState } from 'react';
import { findRecord, type Document, type Goal } from '@/core/document';
import { amountIn, amountOf, findGoal, runRange, type Sampler } from '@/core/studies';
import { buildWith, MASS } from '@/workers/study-build';
import { Button } from '../design/button';
import { useSession } from '../state/context';
import type { DocumentSession } from '../state/document-session';
import { newId } from '../state/identity';
import { writeAmount, writeOutput, type Output } from './outputs';
import type { useStudyWorker } from './use-study-worker';

interface FindAmountProps extends Pick<ReturnType<typeof useStudyWorker>, 'work' | 'isRunning'> {
  readonly document: Document;
  readonly value: string;
  readonly sampler: Sampler;
  /** Between what it is looked for; undefined where that is none. */
  readonly between: readonly [number, number] | undefined;
  readonly output: Output | undefined;
  /** Undefined for a value that cannot be set here. */
  readonly onUse: ((amount: number) => void) | undefined;
}

interface Found {
  readonly at: number;
  /** About where it comes to it too. */
  readonly others: readonly number[];
}

export function FindAmount({ document, value, sampler, between, output, onUse, work, isRunning }: FindAmountProps) {
  const session = useSession();
  const { values } = session;
  const [wanted, setWanted] = useState('');
  const [said, setSaid] = useState<string>();
  const [found, setFound] = useState<Found>();
  const name = findRecord(document, value, 'parameter')?.name ?? values.sheet.nameOf(value) ?? '';
  const write = (amount: number): string => writeAmount(values, value, amount);
  const search = async (near: number): Promise<void> => {
    const target = output && amountIn(values, output.unit, wanted);
    setFound(undefined);
    setSaid(undefined);
    if (target === undefined || !between || !output) {
      setSaid(`Type what ${output?.name ?? 'it'} is to be, as a formula: ${output?.unit ? `1 ${output.unit.symbol}` : '1'}.`);
      return;
    }
    const [from, to] = between;
    const ids = [output.id];
    await work(async (worker) => {
      const build = buildWith(worker, document, session.snapshots, { outputs: ids });
      const result = await findGoal({ from, to, present: near, wanted: target }, async (at) => {
        const [sample] = await runRange(sampler, [at], ids, build);
        return sample?.outputs[output.id];
      });
      if (result.ok) setFound(result.value);
      setSaid(wordsOf(result, output, target));
    });
  };
  const wordsOf = (result: Awaited<ReturnType<typeof findGoal>>, goal: Output, target: number): string => {
    if (result.ok) {
      const { at, reached } = result.value;
      // The last bits of a search say nothing.
      const isMet = Math.abs(reached - target) <= 1e-9 * (goal.unit?.size ?? 1);
      return `${name} = ${write(at)}: ${goal.name} is ${writeOutput(values, goal, isMet ? target : reached)}.`;
    }
    const { nearest, code } = result.failure;
    const near = nearest ? ` The nearest is ${writeOutput(values, goal, nearest.reached)}, at ${write(nearest.at)}.` : '';
    return code === 'stopped' ? 'Stopped.' : code === 'no-value' ? `${goal.name} has no value in this range.` : `It is not reached in this range.${near}`;
  };
  const keepGoal = ({ name: of }: Output): void => {
    const goal: Goal = { type: 'goal', id: newId(), of: { text: of }, wanted: { text: wanted.trim() }, by: [{ text: name }] };
    const failure = session.edit({ type: 'goal.put', goal });
    setSaid(failure?.message ?? `${of} = ${wanted.trim()} is a goal now: it stands in the ledger under Goals.`);
  };
  const rounded = found && roundToStock(session, value, found.at);
  return (
    <form
      className="mt-3 flex flex-wrap items-end gap-3 border-t border-rule pt-3"
      onSubmit={(event) => {
        event.preventDefault();
        void search(sampler.present[0] ?? NaN);
      }}
    >
      <label className="block">
        <span className="text-walnut-soft">Find where {output?.name ?? 'it'} is</span>
        <input
          aria-label={`What ${output?.name ?? 'it'} is to be`}
          className="h-7 w-full rounded-box border border-rule bg-sheet px-1.5 font-mono"
          value={wanted}
          placeholder={output ? writeOutput(values, output, values.sheet.readNumber(output.id)) : ''}
          onChange={(event) => setWanted(event.target.value)}
        />
      </label>
      <Button type="submit" disabled={isRunning || !between}>
        Find
      </Button>
      {said !== undefined && (
        <p role="status" className="w-full">
          {said}
        </p>
      )}
      {found && found.others.length > 0 && (
        <p className="flex w-full flex-wrap items-center gap-2">
          It is reached elsewhere too:
          {found.others.map((about) => (
            <Button key={about} disabled={isRunning} onClick={() => void search(about)}>
              Find near {write(toThreeDigits(about))}
            </Button>
          ))}
        </p>
      )}
      {found && onUse && (
        <span className="flex gap-2">
          <Button onClick={() => onUse(found.at)}>Use {write(found.at)}</Button>
          {rounded !== undefined && rounded !== found.at && <Button onClick={() => onUse(rounded)}>Use {write(rounded)}</Button>}
          {output && output.id !== MASS && <Button onClick={() => keepGoal(output)}>Keep as a goal</Button>}
        </span>
      )}
    </form>
  );
}

function toThreeDigits(amount: number): number {
  return Number(amount.toPrecision(3));
}

/** The choice that is nearest, where the value has choices; else rounded to a whole number of its unit. */
function roundToStock({ document, values }: DocumentSession, value: string, amount: number): number {
  const choices = (findRecord(document, value, 'parameter')?.choices ?? []).flatMap((text) => amountOf(values, value, text) ?? []);
  const [nearest] = choices.sort((a, b) => Math.abs(a - amount) - Math.abs(b - amount));
  const size = values.show(value)?.unit?.size ?? 1;
  return nearest ?? Math.round(amount / size) * size;
}

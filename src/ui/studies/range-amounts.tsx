'use client';
/** At which amounts a value is run: evenly between two, in steps, or as they are listed. */
import { MOST_RUN_SAMPLES } from '@/contract';
import { findRecord } from '@/core/document';
import { amountOf, evenly, inSteps, listedAmounts } from '@/core/studies';
import { LabelledField } from '../design/labelled-field';
import type { DocumentSession } from '../state/document-session';
import { Select } from '../design/fields';
import { firstRange } from './outputs';

const WAYS = { evenly: 'evenly', steps: 'in steps', listed: 'as listed' } as const;
type Way = keyof typeof WAYS;

export interface RangeChoice {
  readonly way: Way;
  readonly from: string;
  readonly to: string;
  readonly count: number;
  readonly step: string;
  readonly list: string;
}

/** Its choices where it has any; else evenly over its limits, or about what it is now. */
export function firstChoice(session: DocumentSession, value: string): RangeChoice {
  const choices = findRecord(session.document, value, 'parameter')?.choices ?? [];
  return { way: choices.length > 1 ? 'listed' : 'evenly', ...firstRange(session, value), count: 21, step: '', list: choices.join('; ') };
}

/** In internal units, rising; undefined where they are none, or not at least two. */
export function amountsOf({ values }: DocumentSession, value: string, { way, from, to, count, step, list }: RangeChoice): readonly number[] | undefined {
  if (way === 'listed') {
    const amounts = listedAmounts(values, value, list);
    return amounts && amounts.length > 1 ? amounts : undefined;
  }
  const [low, high] = [from, to].map((text) => amountOf(values, value, text));
  if (low === undefined || high === undefined || low >= high) return undefined;
  if (way === 'evenly') return evenly(low, high, count);
  const by = amountOf(values, value, step);
  // More than any run has are as wrong as none.
  return by !== undefined && by > 0 && (high - low) / by < MOST_RUN_SAMPLES ? inSteps(low, high, by) : undefined;
}

/** What is to be put right where there are no amounts. */
export function amountsHint(way: Way, like: string): string {
  switch (way) {
    case 'evenly':
      return `The range must run from less to more, in amounts like ${like}.`;
    case 'steps':
      return `The range must run from less to more, in steps greater than 0, ${MOST_RUN_SAMPLES.toLocaleString('en')} at most.`;
    case 'listed':
      return `Type two amounts or more with semicolons between, each like ${like}.`;
  }
}

export function RangeAmounts({ choice, onChange }: { choice: RangeChoice; onChange: (choice: RangeChoice) => void }) {
  const field = (key: 'from' | 'to' | 'step', label: string) => (
    <LabelledField label={label} value={choice[key]} onAccept={(text) => onChange({ ...choice, [key]: text })} />
  );
  return (
    <>
      <span className="w-28">
        <Select label="Amounts" value={choice.way} options={WAYS} onChange={(way) => onChange({ ...choice, way: way as Way })} />
      </span>
      {choice.way === 'listed' ? (
        <span className="flex [&>span]:w-72">
          <LabelledField label="Listed" value={choice.list} hint="12 mm; 15 mm; 18 mm" onAccept={(list) => onChange({ ...choice, list })} />
        </span>
      ) : (
        <>
          {field('from', 'From')}
          {field('to', 'To')}
          {choice.way === 'steps' ? (
            field('step', 'Step')
          ) : (
            <LabelledField
              label="Samples"
              value={String(choice.count)}
              check={(text) => (isCount(text) ? undefined : `A whole number from 2 to ${MOST_RUN_SAMPLES.toLocaleString('en')}`)}
              onAccept={(text) => onChange({ ...choice, count: Number(text) })}
            />
          )}
        </>
      )}
    </>
  );
}

function isCount(text: string): boolean {
  return Number.isInteger(Number(text)) && Number(text) >= 2 && Number(text) <= MOST_RUN_SAMPLES;
}

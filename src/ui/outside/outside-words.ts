/** How an outside calculation stands, in words. */
import { findRecord, type Answer, type Asked, type Document, type OutsideState } from '@/core/document';
import { formatRounded, joinUnit, parseUnit, prettyUnit } from '@/core/units';
import type { SessionState } from '../state/session-state';

export interface OutsideWords {
  readonly words: string;
  readonly tone: 'quiet' | 'attention' | 'error';
}

/** What is asked: `Workshop, shaft diameter`. */
export function askedWords(document: Document, asked: Asked): string {
  return asked.of === 'service' ? `${asked.service}, ${asked.function}` : (findRecord(document, asked.file, 'file')?.name ?? 'a spreadsheet');
}

export function stateWords(id: string, state: OutsideState | undefined, { isAsking, failures }: SessionState['outside']): OutsideWords {
  const problem = failures.find(({ outside, within }) => outside === id && within.length === 0)?.problem;
  switch (state?.is) {
    case undefined:
      return { words: '', tone: 'quiet' };
    case 'waiting':
      return { words: state.problem, tone: 'error' };
    case 'answered':
      return whyStored(state.answer) === undefined
        ? { words: 'up to date', tone: 'quiet' }
        : { words: 'held, as the spreadsheet was saved', tone: 'attention' };
    case 'held':
      if (isAsking) return { words: 'asking…', tone: 'quiet' };
      return { words: `held, from ${momentOf(state.answer?.at ?? '')}${problem === undefined ? '' : `. ${problem}`}`, tone: 'attention' };
    case 'open':
      if (problem !== undefined) return { words: problem, tone: 'error' };
      return { words: isAsking ? 'asking…' : 'not asked yet', tone: 'quiet' };
  }
}

/** Why what it handed back is held, in words; undefined where it is not. */
export function heldWords(state: OutsideState | undefined): string | undefined {
  if (!state || state.is === 'waiting' || !state.answer) return undefined;
  const why = whyStored(state.answer);
  const inputs = Object.entries(state.answer.inputs).map(([key, amount]) => `${key} ${amountWords(amount)}`);
  const told = [
    ...(state.is === 'held' ? [`It was computed for ${inputs.join(', ')}.`] : []),
    ...(why === undefined ? [] : [`${why} What the spreadsheet was saved with counts.`]),
  ];
  return told.length > 0 ? told.join(' ') : undefined;
}

function whyStored(answer: Answer | undefined): string | undefined {
  return Object.values(answer?.outputs ?? {}).find(({ stored }) => stored !== undefined)?.stored;
}

/** A moment as people write it: `28 Nov 2026, 13:47`. */
export function momentOf(at: string): string {
  const date = new Date(at);
  if (Number.isNaN(date.getTime())) return '';
  return date.toLocaleString('en-GB', { day: 'numeric', month: 'short', year: 'numeric', hour: '2-digit', minute: '2-digit' });
}

/** A number of an answer with its unit. */
export function amountWords(amount: { readonly value: number; readonly unit: string } | undefined): string {
  if (!amount) return '';
  const unit = amount.unit === '' ? undefined : parseUnit(amount.unit);
  return unit ? prettyUnit(joinUnit(formatRounded(amount.value * unit.size, unit, 3), unit.symbol)) : String(Number(amount.value.toPrecision(6)));
}

export const TONES = { quiet: 'text-walnut-soft', attention: 'text-weld', error: 'text-madder' } as const;

/** What a stack adds up to, and how that stands to what is asked of the value. */
import type { Fit, Spread, Stack, Verdict } from '@/core/studies';

interface StackResultsProps {
  readonly stack: Stack;
  /** How that stands to the limits that are asked for; undefined without any. */
  readonly verdict: Verdict | undefined;
  /** How a hole and a shaft fit; undefined where the value is nothing of that kind. */
  readonly fit: Fit | undefined;
  readonly write: (amount: number) => string;
  /** The value itself need not be a length. */
  readonly writeLength: (amount: number) => string;
}

export function StackResults({ stack, verdict, fit, write, writeLength }: StackResultsProps) {
  const spread = ({ lower, upper }: Spread): string => `${write(lower)} to ${write(upper)}`;
  const lines = [
    { label: 'Worst case', spread: stack.worstCase, beyond: verdict?.worstCase },
    { label: 'Root sum square', spread: stack.rootSumSquare, beyond: verdict?.rootSumSquare },
    { label: `Monte Carlo, ${stack.drawn.values.length.toLocaleString('en')} draws`, spread: stack.drawn, beyond: undefined },
  ];
  return (
    <>
      <dl className="mt-3 grid grid-cols-[13rem_1fr] gap-y-1">
        <dt>Nominal</dt>
        <dd className="font-mono">{write(stack.nominal)}</dd>
        {lines.map((line) => (
          <div key={line.label} className="contents">
            <dt>{line.label}</dt>
            <dd>
              <span className="font-mono">{spread(line.spread)}</span>
              {line.beyond !== undefined &&
                (line.beyond === 0 ? (
                  <span className="ml-3 text-walnut-soft">within the limits</span>
                ) : (
                  <span className="ml-3 text-madder">{write(line.beyond)} beyond the limits</span>
                ))}
            </dd>
          </div>
        ))}
        {fit && (
          <>
            <dt>Fit</dt>
            <dd>{wordsOfFit(fit, write)}</dd>
          </>
        )}
        {verdict && (
          <>
            <dt>Out of limits</dt>
            <dd>
              <span className={`font-mono ${verdict.outside > 0 ? 'text-madder' : ''}`}>{percent(verdict.outside)}</span>
              <span className="ml-3 text-walnut-soft">
                {percent(verdict.outsideBetween.lower)} to {percent(verdict.outsideBetween.upper)} of all parts, at 95 % confidence; Cpk{' '}
                {Number.isFinite(verdict.cpk) ? verdict.cpk.toFixed(2) : 'without limit'}
              </span>
            </dd>
          </>
        )}
      </dl>
      <p className="mt-2 text-walnut-soft">
        0.135 % of the draws lie below, and as many above.
        {WAYS[stack.way]}
        {stack.exact.length > 0 && ` Without a tolerance, and counted as exact: ${stack.exact.join(', ')}.`}
      </p>
      {stack.stuck.map(({ name, problem }) => (
        <p key={name}>
          {name} cannot be off by itself: {problem}
        </p>
      ))}
      {stack.misfits.map(({ mate, amount, isLength }) => (
        <p key={mate}>
          {mate} holds what other mates already hold; at worst it is off by {isLength ? writeLength(amount) : `${Number(amount.toPrecision(3))}°`}.
        </p>
      ))}
    </>
  );
}

const WAYS: Readonly<Record<Stack['way'], string>> = {
  formulas: '',
  slopes: ' Sensitivities are exact at the nominal sizes; Monte Carlo goes along straight lines.',
  differences: ' Sensitivities are measured between the limits of one value at a time; Monte Carlo goes along straight lines between them.',
};

function wordsOfFit({ kind, least, most, hole, shaft, classes }: Fit, write: (amount: number) => string): string {
  const range =
    kind === 'clearance'
      ? `${write(least)} to ${write(most)} of clearance`
      : kind === 'interference'
        ? `${write(-most)} to ${write(-least)} of interference`
        : `up to ${write(-least)} of interference or ${write(most)} of clearance`;
  return `${classes === undefined ? '' : `${classes}, `}${kind} fit of ${shaft} in ${hole}: ${range}`;
}

function percent(share: number): string {
  const amount = share * 100;
  return `${amount === 0 ? '0' : amount < 0.01 ? amount.toPrecision(1) : amount.toPrecision(2)} %`;
}

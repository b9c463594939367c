interface NowAndThenProps {
  /** In each of two states. */
  readonly amounts: readonly [string, string];
  /** What the two states are called. */
  readonly sides: readonly [string, string];
}

/** An amount before and after a change, in the colours of the two states. */
export function NowAndThen({ amounts: [before, after], sides }: NowAndThenProps) {
  return (
    <span className="text-[13px] text-walnut-soft">
      {sides[0]} <span className="font-mono text-madder tabular-nums">{before}</span>
      <span aria-hidden="true"> → </span>
      {sides[1]} <span className="font-mono text-indigo tabular-nums">{after}</span>
    </span>
  );
}

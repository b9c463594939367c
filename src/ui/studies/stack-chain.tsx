'use client';
/** The chain of a stack, drawn: a stretch for each contributor in a line of its own, from where the one before ends, and the value beneath them. */
import type { ChainLink } from '@/core/studies';

interface StackChainProps {
  readonly name: string;
  readonly chain: readonly ChainLink[];
  readonly nominal: number;
  readonly write: (amount: number) => string;
}

const [LEFT, WIDTH, RIGHT] = [150, 340, 110];
const LINE = 22;

export function StackChain({ name, chain, nominal, write }: StackChainProps) {
  const ends = [0, ...chain.map(({ to }) => to)];
  const [low, high] = [Math.min(...ends), Math.max(...ends)];
  const x = (amount: number): number => LEFT + ((amount - low) / (high - low || 1)) * WIDTH;
  const y = (line: number): number => line * LINE + LINE / 2 + 2;
  const words = chain.map((one) => `${one.name} ${write(one.to - one.from)}`).join(', ');
  return (
    <svg
      role="img"
      aria-label={`The chain of ${name}: ${words}; it comes to ${write(nominal)}`}
      viewBox={`0 0 ${LEFT + WIDTH + RIGHT} ${(chain.length + 1) * LINE + 4}`}
      className="w-full max-w-2xl"
    >
      {chain.map(({ id, name: link, from, to }, i) => (
        <g key={id ?? link} className={id === undefined ? 'text-walnut-soft' : 'text-walnut'}>
          <Stretch label={link} amount={write(to - from)} from={x(from)} to={x(to)} y={y(i)} />
          {/* Down to where the next one begins. */}
          <line x1={x(to)} x2={x(to)} y1={y(i)} y2={y(i + 1)} className="stroke-rule" strokeDasharray="2 2" />
        </g>
      ))}
      <line x1={x(0)} x2={x(0)} y1={y(0)} y2={y(chain.length)} className="stroke-rule" strokeDasharray="2 2" />
      <g className="font-semibold text-indigo">
        <Stretch label={name} amount={write(nominal)} from={x(0)} to={x(nominal)} y={y(chain.length)} />
      </g>
    </svg>
  );
}

/** A line with a dot where it begins and a bar where it ends. */
function Stretch({ label, amount, from, to, y }: { label: string; amount: string; from: number; to: number; y: number }) {
  return (
    <>
      <text x={0} y={y + 4} className="fill-current text-[12px]">
        {label.length > 22 ? `${label.slice(0, 21)}…` : label}
      </text>
      <line x1={from} x2={to} y1={y} y2={y} stroke="currentColor" strokeWidth={2} />
      <circle cx={from} cy={y} r={2.5} fill="currentColor" />
      <line x1={to} x2={to} y1={y - 5} y2={y + 5} stroke="currentColor" strokeWidth={2} />
      <text x={LEFT + WIDTH + 12} y={y + 4} className="fill-current font-mono text-[12px]">
        {amount}
      </text>
    </>
  );
}

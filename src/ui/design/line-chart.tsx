'use client';
/** Curves over one amount, with stretches where something is wrong and a mark for what is now; drawn by Recharts. */
import { CartesianGrid, Line, LineChart as Chart, ReferenceArea, ReferenceLine, Tooltip, XAxis, YAxis } from 'recharts';
import { curveInk } from './curve-inks';

export interface ChartPoint {
  readonly x: number;
  /** By the keys of the curves; null where there is no value. */
  readonly y: Readonly<Record<string, number | null>>;
}

interface LineChartProps {
  readonly points: readonly ChartPoint[];
  readonly curves: readonly { readonly key: string; readonly label: string }[];
  readonly xLabel: string;
  readonly yLabel: string;
  /** The amount that there is now. */
  readonly mark?: number | undefined;
  /** From where to where something is wrong. */
  readonly wrong?: readonly { readonly from: number; readonly to: number }[];
  readonly width: number;
  readonly height: number;
  /** In words, for those who do not see it. */
  readonly description: string;
}

const TICK = { fontSize: 12, fill: 'var(--walnut-soft)' } as const;

export default function LineChart({ points, curves, xLabel, yLabel, mark, wrong = [], width, height, description }: LineChartProps) {
  const data = points.map(({ x, y }) => ({ x, ...y }));
  return (
    <div>
      <div role="img" aria-label={description}>
        <Chart width={width} height={height} data={data} margin={{ top: 8, right: 16, bottom: 20, left: 12 }} accessibilityLayer={false}>
          <CartesianGrid stroke="var(--rule)" strokeOpacity={0.6} />
          {wrong.map(({ from, to }) => (
            <ReferenceArea key={from} x1={from} x2={to} fill="var(--madder)" fillOpacity={0.12} stroke="none" />
          ))}
          <XAxis
            dataKey="x"
            type="number"
            domain={['dataMin', 'dataMax']}
            tick={TICK}
            tickFormatter={short}
            label={{ value: xLabel, position: 'insideBottom', offset: -12, fontSize: 12, fill: 'var(--walnut)' }}
          />
          <YAxis
            type="number"
            domain={['auto', 'auto']}
            width={64}
            tick={TICK}
            tickFormatter={short}
            label={{ value: yLabel, angle: -90, position: 'insideLeft', fontSize: 12, fill: 'var(--walnut)', style: { textAnchor: 'middle' } }}
          />
          {mark !== undefined && <ReferenceLine x={mark} stroke="var(--walnut)" />}
          <Tooltip
            isAnimationActive={false}
            formatter={(value, name) => [short(Number(value)), curves.find(({ key }) => key === name)?.label ?? String(name)]}
            labelFormatter={(x) => `${xLabel}: ${short(Number(x))}`}
            contentStyle={{ background: 'var(--sheet)', border: '1px solid var(--rule)', color: 'var(--walnut)', fontSize: 13 }}
          />
          {curves.map(({ key }, i) => (
            <Line key={key} dataKey={key} stroke={curveInk(i)} strokeWidth={2} dot={false} isAnimationActive={false} connectNulls={false} />
          ))}
        </Chart>
      </div>
      {curves.length > 1 && (
        <ul className="flex flex-wrap gap-3 pl-16 text-[13px]">
          {curves.map(({ key, label }, i) => (
            <li key={key} className="flex items-center gap-1">
              <span className="inline-block h-0.5 w-5" style={{ background: curveInk(i) }} />
              {label}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

function short(value: number): string {
  return String(Number(value.toPrecision(5)));
}

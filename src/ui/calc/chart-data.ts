/** The points of a chart on a calc sheet: its values over the range, read as a range run reads them. */
import { findRecord, type Chart, type Document, type DocumentValues } from '@/core/document';
import { withValues, type InstanceSource } from '@/core/instances';
import { amountOf, evenly, Sampler } from '@/core/studies';
import { prettyUnit, type Unit } from '@/core/units';
import type { ChartPoint } from '../design/line-chart';
import { axisLabel } from '../state/amounts';

export interface ChartData {
  readonly points: readonly ChartPoint[];
  readonly curves: readonly { readonly key: string; readonly label: string }[];
  readonly xLabel: string;
  readonly yLabel: string;
  readonly mark: number;
}

/** Points of each curve. */
const POINTS = 61;

export function chartData(values: DocumentValues, source: InstanceSource, chart: Chart): ChartData | { readonly problem: string } {
  const { document } = values;
  const nameOf = (id: string): string => findRecord(document, id, 'parameter')?.name ?? findRecord(document, id, 'take')?.name ?? '?';
  const over = values.show(chart.over);
  const sampler = new Sampler(document, [chart.over], source);
  if (!over || !sampler.isAmount) return { problem: `${nameOf(chart.over)} has no numeric range to chart over.` };
  const [from, to] = [chart.from.text, chart.to.text].map((text) => amountOf(values, chart.over, text));
  if (from === undefined || to === undefined || from >= to) return { problem: 'The range must run from less to more, in amounts of that value.' };
  const size = over.unit?.size ?? 1;
  const family = familyOf(values, chart);
  if ('problem' in family) return family;
  const curves = family.members.flatMap(({ key, label }) =>
    chart.of.map((id) => ({
      key: `${key}${id}`,
      id,
      label: [...(chart.of.length > 1 || label === '' ? [nameOf(id)] : []), ...(label === '' ? [] : [label])].join(', '),
    })),
  );
  const amounts = evenly(from, to, POINTS);
  const y: Record<string, number | null>[] = amounts.map(() => ({}));
  for (const { key, document: member } of family.members) {
    const runner = new Sampler(member, [chart.over], source);
    for (const [i, at] of amounts.entries()) {
      runner.at([at]);
      for (const id of chart.of) {
        const value = runner.values.sheet.readNumber(id);
        const point = y[i];
        if (point) point[`${key}${id}`] = Number.isNaN(value) ? null : value / (values.show(id)?.unit?.size ?? 1);
      }
    }
  }
  const [first = ''] = chart.of;
  const unitOf = (id: string): Unit | undefined => values.show(id)?.unit;
  return {
    points: amounts.map((at, i) => ({ x: at / size, y: y[i] ?? {} })),
    curves,
    xLabel: axisLabel(nameOf(chart.over), unitOf(chart.over)),
    yLabel: chart.of.every((id) => unitOf(id)?.symbol === unitOf(first)?.symbol)
      ? axisLabel(chart.of.map(nameOf).join(', '), unitOf(first))
      : chart.of.map((id) => axisLabel(nameOf(id), unitOf(id))).join(', '),
    mark: (sampler.present[0] ?? NaN) / size,
  };
}

interface Member {
  readonly key: string;
  readonly label: string;
  readonly document: Document;
}

/** The document once, or once for each amount of the second value. */
function familyOf(values: DocumentValues, { by }: Chart): { readonly members: readonly Member[] } | { readonly problem: string } {
  const { document } = values;
  if (!by) return { members: [{ key: '', label: '', document }] };
  const shown = values.show(by.value);
  const sort = shown && values.complete(shown, shown.unit);
  const name = findRecord(document, by.value, 'parameter')?.name ?? '?';
  if (sort?.kind !== 'quantity') return { problem: `${name} is not a number with a unit.` };
  const members: Member[] = [];
  for (const { text } of by.amounts) {
    const amount = amountOf(values, by.value, text);
    if (amount === undefined) return { problem: `${text} is not a value of ${name}.` };
    members.push({ key: `${text} `, label: `${name} ${prettyUnit(text)}`, document: withValues(document, new Map([[by.value, { ...sort, value: amount }]])) });
  }
  return { members };
}

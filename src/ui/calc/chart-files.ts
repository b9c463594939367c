/** The numbers of a chart as CSV. */
import { writeCsv } from '@/formats/spreadsheet';
import { saveFile } from '../design/save-file';
import type { ChartData } from './chart-data';

/** A row for each point: the amount, then each curve; empty where there is no value. */
export function chartCells({ points, curves, xLabel }: Pick<ChartData, 'points' | 'curves' | 'xLabel'>): string[][] {
  return [
    [xLabel, ...curves.map(({ label }) => label)],
    ...points.map(({ x, y }) => [String(x), ...curves.map(({ key }) => (typeof y[key] === 'number' ? String(y[key]) : ''))]),
  ];
}

export function saveChartTable(data: ChartData, title: string): void {
  saveFile(new TextEncoder().encode(writeCsv(chartCells(data))), `${title}.csv`);
}

'use client';
/** The lines of a calculation as they are read, on the page and on paper: texts, values in symbols and in numbers, tables, checks, charts. */
import { lazy, Suspense } from 'react';
import Markdown from 'react-markdown';
import { explainValue, type Chart, type DocumentValues, type Guard, type Table } from '@/core/document';
import { prettyUnit } from '@/core/units';
import type { ChartData } from './chart-data';

const LineChart = lazy(() => import('../design/line-chart'));

export function ParagraphText({ text }: { text: string }) {
  return <div className="calc-text">{text === '' ? <p className="text-walnut-soft">An empty text</p> : <Markdown skipHtml>{text}</Markdown>}</div>;
}

interface ValueChainProps {
  readonly values: DocumentValues;
  readonly id: string;
  readonly name: string;
  readonly note: string | undefined;
}

/** `torque = force * arm = 240 N * 24 mm = 5.76 N·m`. */
export function ValueChain({ values, id, name, note }: ValueChainProps) {
  const shown = values.show(id);
  const wrong = shown?.diagnostics[0]?.message;
  const chain = explainValue(values, id) ?? [name, shown?.shown ?? ''];
  return (
    <>
      <span className="font-mono text-[15px]">
        {wrong === undefined ? (
          chain.map((part, i, all) => (
            <span key={i} className={i === 0 || i === all.length - 1 ? 'font-semibold whitespace-nowrap' : 'text-walnut-soft'}>
              {i > 0 && <span className="px-1 font-normal text-walnut-soft">=</span>}
              {i === all.length - 1 ? prettyUnit(part) : part}
            </span>
          ))
        ) : (
          <>
            <span className="font-semibold">{name}</span> <span className="text-madder">{wrong}</span>
          </>
        )}
      </span>
      {values.isHeld(id) && <span className="ml-3 text-weld">held</span>}
      {note !== undefined && note !== '' && <span className="ml-3 text-walnut-soft">{note}</span>}
    </>
  );
}

/** A lookup table as it is read: texts without their marks. */
export function TableText({ table }: { table: Table }) {
  return (
    <table className="border-collapse">
      <caption className="text-left font-mono text-[15px] font-semibold">{table.name}</caption>
      <thead>
        <tr className="text-left text-walnut-soft">
          {table.columns.map(({ name }) => (
            <th key={name} className="border-b border-rule py-0.5 pr-6 font-normal">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {table.rows.map((row, r) => (
          <tr key={r}>
            {table.columns.map(({ name, kind }, c) => (
              <td key={name} className={`border-b border-rule/50 py-0.5 pr-6 ${kind === 'text' ? '' : 'font-mono tabular-nums'}`}>
                {kind === 'text' ? (row[c] ?? '').replace(/^"(.*)"$/, '$1') : prettyUnit(row[c] ?? '')}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** A check, and whether it holds. */
export function CheckWords({ values, guard }: { values: DocumentValues; guard: Guard }) {
  const value = values.sheet.readNumber(guard.id);
  const [words, ink] = value === 1 ? ['holds', 'text-moss'] : value === 0 ? ['does not hold', 'text-madder'] : ['cannot be judged', 'text-weld'];
  return (
    <>
      <span className="font-mono text-[15px]">{guard.condition.text}</span> <span className={`font-semibold ${ink}`}>{words}</span>
      {value !== 1 && <span className="ml-2">{guard.message}</span>}
    </>
  );
}

export function ChartDrawing({ chart, data }: { chart: Chart; data: ChartData | { readonly problem: string } }) {
  return (
    <>
      {'problem' in data ? (
        <p className="text-madder">{data.problem}</p>
      ) : (
        <Suspense fallback={<p className="text-walnut-soft">Drawing…</p>}>
          <LineChart {...data} width={600} height={240} description={chart.title} />
        </Suspense>
      )}
      <figcaption className="text-center text-walnut-soft">{chart.title}</figcaption>
    </>
  );
}

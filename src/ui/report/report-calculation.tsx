'use client';
/** A calculation on paper, as an engineer hands it in: its page in order; and the calculations that a document uses. */
import { useMemo } from 'react';
import { findRecord, KIND_WORDS, listDriving, listLines, listRecords, type Chart, type Component, type DocumentValues, type PageLine } from '@/core/document';
import type { InstanceSource } from '@/core/instances';
import { prettyUnit } from '@/core/units';
import { chartData } from '../calc/chart-data';
import { ChartDrawing, CheckWords, ParagraphText, TableText, ValueChain } from '../calc/page-lines';

export function CalculationPage({ values, source }: { values: DocumentValues; source: InstanceSource }) {
  return (
    <ol>
      {listLines(values.document).map((line) => (
        <li key={line.id} className="break-inside-avoid py-1">
          <PaperLine line={line} values={values} source={source} />
        </li>
      ))}
    </ol>
  );
}

function PaperLine({ line, values, source }: { line: PageLine; values: DocumentValues; source: InstanceSource }) {
  switch (line.type) {
    case 'paragraph':
      return <ParagraphText text={line.text} />;
    case 'guard':
      return <CheckWords values={values} guard={line} />;
    case 'table':
      return <TableText table={line} />;
    case 'chart':
      return <PaperChart chart={line} values={values} source={source} />;
    default:
      return <ValueChain values={values} id={line.id} name={line.name} note={'note' in line ? line.note : undefined} />;
  }
}

function PaperChart({ chart, values, source }: { chart: Chart; values: DocumentValues; source: InstanceSource }) {
  const data = useMemo(() => chartData(values, source, chart), [values, source, chart]);
  return (
    <figure>
      <ChartDrawing chart={chart} data={data} />
    </figure>
  );
}

/** What is set in each calculation that the document uses, and what comes out. */
export function UsedCalculations({ values }: { values: DocumentValues }) {
  const uses = listRecords(values.document, 'components', 'component').filter(({ id }) => values.components?.valuesOf(id)?.document.kind === 'calc');
  return (
    <>
      {uses.map((use) => (
        <UsedCalculation key={use.id} use={use} values={values} />
      ))}
    </>
  );
}

function UsedCalculation({ use, values }: { use: Component; values: DocumentValues }) {
  const inside = values.components?.valuesOf(use.id);
  const drives = listRecords(values.document, `${use.id}/drives`, 'drive');
  const isSet = new Set(drives.map(({ path }) => path.join(' ')));
  return (
    <section>
      <h2 className="mt-4 mb-1 font-semibold">
        Calculation {use.name}: {use.sourceName} ({KIND_WORDS.calc}), revision {use.revision}
      </h2>
      <ul>
        {drives.map((drive) => (
          <li key={drive.id} className="font-mono text-[15px]">
            <span className="font-semibold">{drive.sourceName}</span> = <span className="text-walnut-soft">{drive.formula.text}</span> ={' '}
            <span className="font-semibold">{prettyUnit(values.showNode(drive.id) || 'error')}</span>
          </li>
        ))}
        {inside &&
          listDriving(inside.document).flatMap(({ id, name }) =>
            isSet.has(id) ? (
              []
            ) : (
              <li key={id}>
                <ValueChain values={inside} id={id} name={name} note={findRecord(inside.document, id, 'parameter')?.note} />
              </li>
            ),
          )}
      </ul>
    </section>
  );
}

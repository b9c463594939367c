'use client';
import { useMemo } from 'react';
import type { DocumentReply, PictureReply, RevisionReply, SavedBody } from '@/contract';
import {
  findBrokenGuards,
  findRecord,
  KIND_WORDS,
  limitsOf,
  listDriving,
  listIds,
  listRecords,
  listSteps,
  shownTolerance,
  type DocumentValues,
  type Guard,
  type Parameter,
  type Table,
  type Take,
} from '@/core/document';
import { fail, succeed, type Result } from '@/core/kit';
import { InstanceLibrary } from '@/core/instances';
import { valuesAsPublished } from '@/core/links';
import { Button } from '../design/button';
import { FailedToLoad, Skeleton } from '../design/states';
import { TextTable } from '../design/text-table';
import { useLoaded } from '../state/use-loaded';
import { api, type ApiFailure } from '../state/api';
import { CalculationPage, UsedCalculations } from './report-calculation';
import { HeldNote, OutsideCalculations } from './report-outside';
import { ReportPicture } from './report-picture';

interface Loaded {
  readonly reply: DocumentReply;
  readonly revision: RevisionReply | undefined;
  readonly picture: PictureReply | undefined;
  readonly bodies: readonly SavedBody[];
}

async function load(id: string): Promise<Result<Loaded, ApiFailure>> {
  const reply = await api.readDocument(id);
  if (!reply.ok) return reply;
  const [revision, picture, project] = await Promise.all([
    api.readRevision(id, reply.value.revision),
    api.readPicture(id),
    api.readProject(reply.value.project.id),
  ]);
  if (!project.ok) return fail(project.failure);
  return succeed({
    reply: reply.value,
    revision: revision.ok ? revision.value : undefined,
    picture: picture.ok ? picture.value : undefined,
    bodies: project.value.documents.find((card) => card.id === id)?.bodies ?? [],
  });
}

/** A document on paper: its values with formulas, tolerances and notes, tables, guards, and how it looks. */
export function ReportPage({ id }: { id: string }) {
  const { loaded, reload } = useLoaded({ key: ['report', id], ask: () => load(id), follows: true });
  if (loaded.state === 'loading') return <Skeleton rows={12} />;
  if (loaded.state === 'failed') {
    return <FailedToLoad title="The report cannot be made" message={loaded.failure.message} onRetry={reload} />;
  }
  return <Report {...loaded.value} />;
}

/** What of the solid a report leaves out, if anything. */
function WhatIsShown({ revision, unsaved, isBuilt }: { revision: number; unsaved: number; isBuilt: boolean }) {
  if (isBuilt && unsaved === 0) return null;
  const edits = `${unsaved} edit${unsaved === 1 ? '' : 's'}`;
  const words = isBuilt
    ? `The picture and the masses are those of revision ${revision}; ${edits} since ${unsaved === 1 ? 'is' : 'are'} not in them.`
    : `This report has no picture and no masses: ${unsaved > 0 ? 'they are made when a revision is saved' : `the solid of revision ${revision} is not built yet`}.`;
  return (
    <p role="note" className="mb-3 text-weld">
      {words}
    </p>
  );
}

function Report({ reply, revision, picture, bodies }: Loaded) {
  const { document, project } = reply;
  const source = useMemo(() => new InstanceLibrary(reply.snapshots), [reply.snapshots]);
  const values = useMemo(() => valuesAsPublished(document, revision?.values ?? {}, source), [document, revision, source]);
  const unsaved = reply.seq - reply.savedSeq;
  const steps = listSteps(document);
  // Those of a calculation stand on its page.
  const tables = document.kind === 'calc' ? [] : listRecords(document, 'tables', 'table');
  const guards = listRecords(document, 'guards', 'guard');
  return (
    <main className="report mx-auto max-w-4xl bg-sheet p-8 print:p-0">
      <header className="mb-4 flex items-start gap-4 border-b border-walnut pb-2">
        <div className="flex-1">
          <p className="text-walnut-soft">{project.name}</p>
          <h1 className="text-2xl font-semibold">{document.name}</h1>
          <p>
            {KIND_WORDS[document.kind]}, revision {reply.revision}
            {revision && revision.message !== '' && ` (${revision.message})`}
            {unsaved > 0 && `, with ${unsaved} edit${unsaved === 1 ? '' : 's'} since`}
            {revision && `, saved ${new Date(revision.at).toLocaleString()}`}. Units: {document.units.length}, {document.units.angle}, {document.units.mass}.
          </p>
        </div>
        <Button tone="strong" className="print:hidden" onClick={() => window.print()}>
          Print, or save as PDF
        </Button>
      </header>
      {document.kind === 'part' && <WhatIsShown revision={reply.revision} unsaved={unsaved} isBuilt={bodies.length > 0} />}
      {picture && picture.bodies.length > 0 && <ReportPicture picture={picture} document={document} />}
      {bodies.length > 0 && <Bodies bodies={bodies} />}
      {document.kind === 'calc' ? (
        <CalculationPage values={values} source={source} />
      ) : (
        <>
          <h2 className="mt-4 mb-1 text-lg font-semibold">Driving values</h2>
          <Values values={values} records={listDriving(document)} />
        </>
      )}
      <HeldNote values={values} />
      <UsedCalculations values={values} />
      <OutsideCalculations values={values} />
      {steps.map((step) => {
        const records = listIds(document, `${step.id}/values`).flatMap((id) => findRecord(document, id, 'parameter') ?? []);
        return records.length === 0 ? null : (
          <section key={step.id}>
            <h2 className="mt-4 mb-1 font-semibold">{step.name}</h2>
            <Values values={values} records={records} />
          </section>
        );
      })}
      {tables.map((table) => (
        <LookupTable key={table.id} table={table} />
      ))}
      {guards.length > 0 && document.kind !== 'calc' && <Guards values={values} guards={guards} />}
    </main>
  );
}

function Bodies({ bodies }: { bodies: readonly SavedBody[] }) {
  return (
    <table className="mt-2 w-full">
      <thead>
        <tr>
          <th>Body</th>
          <th className="text-right">Volume</th>
          <th className="text-right">Mass</th>
        </tr>
      </thead>
      <tbody>
        {bodies.map(({ name, properties, mass }) => (
          <tr key={name}>
            <td>{name}</td>
            <td className="text-right font-mono">{properties ? `${(properties.volume / 1000).toFixed(2)} cm³` : ''}</td>
            <td className="text-right font-mono">{mass === undefined ? '' : `${mass.toFixed(4)} kg`}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Values({ values, records }: { values: DocumentValues; records: readonly (Parameter | Take)[] }) {
  if (records.length === 0) return <p className="text-walnut-soft">None.</p>;
  return (
    <table className="w-full">
      <thead>
        <tr>
          <th className="w-40">Name</th>
          <th className="w-28 text-right">Value</th>
          <th className="w-56">From</th>
          <th className="w-44">Tolerance and limits</th>
          <th>Note</th>
        </tr>
      </thead>
      <tbody>
        {records.map((record) => (
          <ValueLine key={record.id} values={values} record={record} />
        ))}
      </tbody>
    </table>
  );
}

function ValueLine({ values, record }: { values: DocumentValues; record: Parameter | Take }) {
  const shown = values.show(record.id);
  const [problem] = shown?.diagnostics ?? [];
  const limits = limitsOf(values, record.id);
  const tolerance = shownTolerance(values, record.id);
  return (
    <tr>
      <td className="font-semibold">{record.name}</td>
      <td className={`text-right font-mono whitespace-nowrap ${problem ? 'text-madder' : ''}`}>
        {problem ? 'error' : (shown?.shown ?? 'table')}
        {values.isHeld(record.id) && ' (held)'}
      </td>
      <td className={problem ? 'text-madder' : ''}>{problem?.message ?? <From values={values} record={record} isLiteral={shown?.isLiteral === true} />}</td>
      <td className="font-mono text-[13px]">
        {tolerance} {limits && <span className={'problem' in limits ? 'text-madder' : ''}>{'problem' in limits ? limits.problem : limits.shown}</span>}
        {limits && 'isGeneral' in limits && ' general'}
      </td>
      <td>{record.note}</td>
    </tr>
  );
}

function From({ values, record, isLiteral }: { values: DocumentValues; record: Parameter | Take; isLiteral: boolean }) {
  if (record.type === 'take') {
    const link = findRecord(values.document, record.link, 'link');
    return (
      <>
        {record.sourceName !== record.name && `${record.sourceName} of `}
        {link?.sourceName}, revision {link?.revision}
      </>
    );
  }
  if (record.measure?.of === 'outside') return <>answer: {record.measure.output}</>;
  if (values.isMeasured(record.id)) return <>measured at the latest revision</>;
  return isLiteral ? null : <span className="font-mono text-[13px]">{record.formula.text}</span>;
}

function LookupTable({ table: { name, columns, rows } }: { table: Table }) {
  return (
    <section>
      <h2 className="mt-4 mb-1 font-semibold">Lookup table {name}</h2>
      <TextTable columns={columns} rows={rows} />
    </section>
  );
}

function Guards({ values, guards }: { values: DocumentValues; guards: readonly Guard[] }) {
  const broken = new Map(findBrokenGuards(values).map((guard) => [guard.id, guard.message]));
  return (
    <section>
      <h2 className="mt-4 mb-1 font-semibold">Guards</h2>
      <ul>
        {guards.map(({ id, condition }) => (
          <li key={id}>
            <span className="font-mono text-[13px]">{condition.text}</span>{' '}
            {broken.has(id) ? <span className="font-semibold text-madder">broken: {broken.get(id)}</span> : 'holds'}
          </li>
        ))}
      </ul>
    </section>
  );
}

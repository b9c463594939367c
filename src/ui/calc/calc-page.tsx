'use client';
/** A calc sheet as a page: texts, values with how they come about in symbols and in numbers, tables, checks, charts, in one order. */
import { useMemo, useRef, useState } from 'react';
import { listDriving, listLines, type Chart, type PageLine, type Paragraph } from '@/core/document';
import { amountOf } from '@/core/studies';
import { Button } from '../design/button';
import { saveChartPicture } from '../design/chart-picture';
import { goToRow } from '../ledger/go-to-row';
import { TextField } from '../design/text-field';
import { spreadAround } from '../state/amounts';
import { useSession, useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';
import { Select } from '../design/fields';
import { addChart, addParagraph, addTable, dropLine, moveLine } from './calc-edits';
import { chartData } from './chart-data';
import { saveChartTable } from './chart-files';
import { ChartDrawing, CheckWords, ParagraphText, TableText, ValueChain } from './page-lines';

export function CalcPage() {
  const session = useSession();
  const document = useSessionState((state) => state.document);
  const version = useSessionState((state) => state.version);
  const [open, setOpen] = useState<string>();
  const selected = useWorkspace((state) => state.selected);
  // A new line comes behind the one that was made or chosen last.
  const last = open ?? selected;
  const [problem, setProblem] = useState<string>();
  const lines = listLines(document);
  const run = (added: ReturnType<typeof addChart>): void => {
    setProblem(undefined);
    if (!added) {
      setProblem('A chart needs two values that are amounts: one to run over, one that follows.');
      return;
    }
    const failure = session.edit(added.edit);
    setProblem(failure?.message);
    if (!failure) {
      setOpen(added.id);
    }
  };
  return (
    <section aria-label="Calculation" data-version={version} className="h-full overflow-y-auto bg-sheet px-8 py-6">
      <article className="mx-auto max-w-2xl">
        <h2 className="mb-3 text-2xl font-semibold">{document.name}</h2>
        {lines.length === 0 && (
          <p className="mb-3 text-walnut-soft">A calculation is made of texts, values, tables, checks and charts. Add a value in the ledger, or a text here.</p>
        )}
        <ol>
          {lines.map((line) => (
            <Line key={line.id} line={line} isOpen={open === line.id} onOpen={(is) => setOpen(is ? line.id : undefined)} />
          ))}
        </ol>
        <p className="mt-4 flex gap-1 print:hidden">
          <Button onClick={() => run(addParagraph(session.document, last))}>Add a text</Button>
          <Button title="Its cells are changed in the ledger" onClick={() => run(addTable(session.document, last))}>
            Add a table
          </Button>
          <Button onClick={() => run(addChart(session.document, last, (id) => spreadAround(session.values, id)))}>Add a chart</Button>
        </p>
        {problem !== undefined && (
          <p role="alert" className="mt-2 text-madder">
            {problem}
          </p>
        )}
      </article>
    </section>
  );
}

/** What a line that is dragged carries. */
const DRAGGED_LINE = 'application/x-warpbeam-line';

interface LineProps {
  readonly line: PageLine;
  readonly isOpen: boolean;
  readonly onOpen: (is: boolean) => void;
}

function Line({ line, isOpen, onOpen }: LineProps) {
  const session = useSession();
  const isSelected = useWorkspace((state) => state.selected === line.id);
  const name = 'name' in line ? line.name : line.type === 'chart' ? line.title : line.type === 'guard' ? line.message : 'the text';
  const [dropsAt, setDropsAt] = useState<'before' | 'after'>();
  const drop = {
    onDragOver: (event: React.DragEvent<HTMLLIElement>): void => {
      if (!event.dataTransfer.types.includes(DRAGGED_LINE)) return;
      event.preventDefault();
      const { top, height } = event.currentTarget.getBoundingClientRect();
      setDropsAt(event.clientY < top + height / 2 ? 'before' : 'after');
    },
    onDragLeave: (): void => setDropsAt(undefined),
    onDrop: (event: React.DragEvent<HTMLLIElement>): void => {
      const dragged = event.dataTransfer.getData(DRAGGED_LINE);
      setDropsAt(undefined);
      if (dragged === '' || dropsAt === undefined) return;
      event.preventDefault();
      const edit = dropLine(session.document, dragged, line.id, dropsAt);
      if (edit) session.edit(edit);
    },
  };
  const edge = dropsAt === 'before' ? 'shadow-[0_-2px_0_0_var(--color-indigo)]' : dropsAt === 'after' ? 'shadow-[0_2px_0_0_var(--color-indigo)]' : '';
  return (
    <li className={`group relative rounded-box px-2 py-1 ${isSelected ? 'bg-indigo-wash' : 'hover:bg-flax/50'} ${edge}`} {...drop}>
      {line.type === 'paragraph' ? (
        <ParagraphLine paragraph={line} isOpen={isOpen} onOpen={onOpen} />
      ) : line.type === 'chart' ? (
        <ChartLine chart={line} isOpen={isOpen} />
      ) : line.type === 'table' ? (
        <TableText table={line} />
      ) : line.type === 'guard' ? (
        <p className="pr-28">
          <CheckWords values={session.values} guard={line} />
        </p>
      ) : (
        <ValueLine id={line.id} name={line.name} note={'note' in line ? line.note : undefined} />
      )}
      <span className="absolute top-0.5 right-0 hidden gap-0.5 rounded-box bg-sheet group-focus-within:flex group-hover:flex print:hidden">
        {/* With keys, the arrows beside it. */}
        <span
          draggable
          title="Drag to another place"
          aria-hidden
          className="flex h-6 cursor-grab items-center px-1.5 text-walnut-soft"
          onDragStart={({ dataTransfer }) => {
            dataTransfer.setData(DRAGGED_LINE, line.id);
            dataTransfer.effectAllowed = 'move';
          }}
        >
          Drag
        </span>
        <Button tone="quiet" className="h-6" aria-label={`Move ${name} up`} onClick={() => session.edit(moveLine(session.document, line.id, -1))}>
          ↑
        </Button>
        <Button tone="quiet" className="h-6" aria-label={`Move ${name} down`} onClick={() => session.edit(moveLine(session.document, line.id, 1))}>
          ↓
        </Button>
        {(line.type === 'paragraph' || line.type === 'chart') && (
          <>
            <Button tone="quiet" className="h-6" onClick={() => onOpen(!isOpen)}>
              {isOpen ? 'Done' : 'Change'}
            </Button>
            <Button
              tone="quiet"
              className="h-6"
              aria-label={`Delete ${name}`}
              onClick={() => session.edit({ type: line.type === 'chart' ? 'chart.remove' : 'paragraph.remove', id: line.id })}
            >
              ×
            </Button>
          </>
        )}
      </span>
    </li>
  );
}

function ParagraphLine({ paragraph, isOpen, onOpen }: { paragraph: Paragraph; isOpen: boolean; onOpen: (is: boolean) => void }) {
  const session = useSession();
  if (!isOpen) {
    return <ParagraphText text={paragraph.text} />;
  }
  return (
    <textarea
      aria-label="Text"
      autoFocus // oxlint-disable-line jsx-a11y/no-autofocus -- it was opened to type into
      defaultValue={paragraph.text}
      rows={Math.max(3, paragraph.text.split('\n').length + 1)}
      maxLength={4000}
      placeholder="# A heading, or text with **bold** and - lists"
      className="w-full rounded-box border border-rule bg-sheet p-1.5 font-mono text-[13px]"
      onBlur={(event) => {
        const text = event.target.value;
        if (text !== paragraph.text) session.edit({ type: 'paragraph.put', paragraph: { ...paragraph, text } });
        onOpen(false);
      }}
      onKeyDown={(event) => {
        if (event.key === 'Escape' || (event.key === 'Enter' && (event.ctrlKey || event.metaKey))) event.currentTarget.blur();
      }}
    />
  );
}

/** A value in symbols and in numbers; a press leads to its row. */
function ValueLine(props: { id: string; name: string; note: string | undefined }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  return (
    <button type="button" className="block w-full pr-28 text-left" onClick={() => goToRow(workspace, props.id)}>
      <ValueChain values={session.values} {...props} />
    </button>
  );
}

function ChartLine({ chart, isOpen }: { chart: Chart; isOpen: boolean }) {
  const session = useSession();
  const document = useSessionState((state) => state.document);
  const version = useSessionState((state) => state.version);
  const figure = useRef<HTMLElement>(null);
  // The values are one object that is kept up to date in place.
  // oxlint-disable-next-line react/exhaustive-deps
  const data = useMemo(() => chartData(session.values, session.snapshots, chart), [session, chart, document, version]);
  const savePicture = (): void => {
    const drawing = figure.current?.querySelector<SVGElement>('svg.recharts-surface');
    if (drawing && !('problem' in data)) void saveChartPicture(drawing, data.curves, chart.title);
  };
  return (
    <figure ref={figure} className="py-1">
      {isOpen && <ChartForm chart={chart} />}
      <ChartDrawing chart={chart} data={data} />
      {!('problem' in data) && (
        <p className="hidden justify-center gap-1 group-focus-within:flex group-hover:flex print:hidden">
          <Button tone="quiet" className="h-6" onClick={() => saveChartTable(data, chart.title)}>
            Save its numbers
          </Button>
          <Button tone="quiet" className="h-6" onClick={savePicture}>
            Save its picture
          </Button>
        </p>
      )}
    </figure>
  );
}

/** What a chart shows, changed in place. */
function ChartForm({ chart }: { chart: Chart }) {
  const session = useSession();
  const put = (changes: Partial<Chart>): void => {
    session.edit({ type: 'chart.put', chart: { ...chart, ...changes } });
  };
  const amounts = listDriving(session.document).filter(({ id }) => session.values.show(id)?.type?.kind === 'quantity');
  const names = Object.fromEntries(amounts.map(({ id, name }) => [id, name]));
  const isAmount = (id: string) => (text: string) => (amountOf(session.values, id, text) === undefined ? 'An amount of that value' : undefined);
  const { by: _, ...alone } = chart;
  return (
    <div className="mb-2 grid grid-cols-4 gap-2 rounded-box border border-rule p-2">
      <span className="col-span-2">
        <span className="text-walnut-soft">Title</span>
        <TextField label="Title of the chart" value={chart.title} onAccept={(title) => put({ title })} />
      </span>
      <Select label="Of" value={chart.of[0] ?? ''} options={names} onChange={(id) => put({ of: [id] })} />
      <Select label="Over" value={chart.over} options={names} onChange={(over) => put({ over })} />
      <span>
        <span className="text-walnut-soft">From</span>
        <TextField label="From" value={chart.from.text} check={isAmount(chart.over)} onAccept={(text) => put({ from: { text } })} />
      </span>
      <span>
        <span className="text-walnut-soft">To</span>
        <TextField label="To" value={chart.to.text} check={isAmount(chart.over)} onAccept={(text) => put({ to: { text } })} />
      </span>
      <Select
        label="A curve for each"
        value={chart.by?.value ?? ''}
        options={{ '': 'one curve', ...names }}
        onChange={(value) => {
          const shown = session.values.show(value);
          if (value === '' || !shown) session.edit({ type: 'chart.put', chart: alone });
          else put({ by: { value, amounts: [{ text: shown.shown }] } });
        }}
      />
      {chart.by && (
        <span>
          <span className="text-walnut-soft">Amounts</span>
          <TextField
            label="Amounts, with semicolons between"
            value={chart.by.amounts.map(({ text }) => text).join('; ')}
            check={(text) => (readAmounts(text).length === 0 || readAmounts(text).length > 8 ? 'One to eight amounts: 20 mm; 30 mm' : undefined)}
            onAccept={(text) => chart.by && put({ by: { ...chart.by, amounts: readAmounts(text).map((amount) => ({ text: amount })) } })}
          />
        </span>
      )}
    </div>
  );
}

function readAmounts(text: string): string[] {
  return text
    .split(';')
    .map((part) => part.trim())
    .filter((part) => part !== '');
}

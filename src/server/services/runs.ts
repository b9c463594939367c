/**
 * Range runs that go on at the server: each sample is a job in the background of its own, so that whatever else is built there takes its turn in
 * between. What is done is kept as it comes; a run that a restart broke off goes on from there, on the document as it was when it was started.
 */
import { setImmediate as nextTurn } from 'node:timers/promises';
import type * as z from 'zod/mini';
import {
  MOST_RUNS,
  type changeRunsSchema,
  type KeptSample,
  type RunReply,
  type RunSamplesReply,
  type RunsReply,
  type RunStatus,
  type RunWish,
} from '@/contract';
import { hashOfContent, type Document } from '@/core/document';
import { InstanceLibrary, meaningText } from '@/core/instances';
import { fail, succeed, type Result } from '@/core/kit';
import { evenly, judgeAt, pairsOf, Sampler } from '@/core/studies';
import { buildWith, MASS } from '@/workers/study-build';
import { DocumentRow, RunRow } from '../db/models';
import { pack, unpack } from '../db/packing';
import { inBackground } from '../geometry-workers';
import { readState } from './document-store';
import { refuse, type Refusal } from './refusal';
import { readSnapshots } from './snapshots';

const NOT_THERE = refuse('not-found', 'There is no such document.');
/** What is done is written down no more often than this, in milliseconds; and so that writing takes no more than a twentieth of the time. */
const WRITE_EVERY = 1_000;
const WRITING_SHARE = 20;

interface Asked {
  readonly wish: RunWish;
  readonly state: string;
}

const shared = globalThis as typeof globalThis & {
  /** Runs that are under way in this process, until they have ended. */
  warpbeamRuns?: Map<string, Promise<void>>;
  /** Those of them that are told to stop. */
  warpbeamStopping?: Set<string>;
};
const underWay = (): Map<string, Promise<void>> => (shared.warpbeamRuns ??= new Map());
const stopping = (): Set<string> => (shared.warpbeamStopping ??= new Set());

export async function readRuns(document: string): Promise<Result<RunsReply, Refusal>> {
  if (!(await DocumentRow.findByPk(document, { attributes: ['id'] }))) return fail(NOT_THERE);
  return succeed({ runs: await listRuns(document) });
}

async function listRuns(document: string): Promise<RunReply[]> {
  const rows = await RunRow.findAll({
    where: { documentId: document },
    order: [
      ['createdAt', 'DESC'],
      ['id', 'ASC'],
    ],
    attributes: { exclude: ['document', 'samples'] },
  });
  return rows.map((row) => {
    const { wish, state } = unpack<Asked>(row.asked);
    return { ...wish, status: row.status, startedAt: row.createdAt.getTime(), state, done: row.done };
  });
}

export async function readRunSamples(document: string, id: string): Promise<Result<RunSamplesReply, Refusal>> {
  const run = await RunRow.findOne({ where: { id, documentId: document }, attributes: ['samples'] });
  return run ? succeed({ samples: unpack<KeptSample[]>(run.samples) }) : fail(refuse('not-found', 'There is no such run any more.'));
}

export async function changeRuns(document: string, change: z.infer<typeof changeRunsSchema>): Promise<Result<RunsReply, Refusal>> {
  const row = await DocumentRow.findByPk(document);
  if (!row) return fail(NOT_THERE);
  if ('start' in change) {
    const refusal = await start(row, change.start);
    if (refusal) return fail(refusal);
  } else if ('stop' in change) {
    await end(document, change.stop);
    await RunRow.update({ status: 'stopped', document: null }, { where: { id: change.stop, documentId: document, status: 'under-way' } });
  } else {
    await end(document, change.remove);
    await RunRow.destroy({ where: { id: change.remove, documentId: document } });
  }
  return succeed({ runs: await listRuns(document) });
}

/** What is under way of it ends with the sample that it is at. */
async function end(document: string, id: string): Promise<void> {
  const run = underWay().get(id);
  if (!run || (await RunRow.count({ where: { id, documentId: document } })) === 0) return;
  stopping().add(id);
  await run;
}

async function start(row: DocumentRow, wish: RunWish): Promise<Refusal | undefined> {
  const document = readState(row);
  // The same press that comes twice is one run.
  const known = await RunRow.findByPk(wish.id, { attributes: ['documentId'] });
  if (known) return known.documentId === row.id ? undefined : refuse('bad-request', 'Another run has this id.');
  if ((await RunRow.count({ where: { documentId: row.id } })) >= MOST_RUNS)
    return refuse('too-large', `There are ${MOST_RUNS} runs already. Delete one first.`);
  if ([wish, ...(wish.second ? [wish.second] : [])].some(({ from, to }) => from >= to)) return refuse('bad-request', 'A range must run from less to more.');
  if (wish.second?.value === wish.value) return refuse('bad-request', 'The second value must be another.');
  const sampler = new Sampler(document, valuesRun(wish), new InstanceLibrary(await readSnapshots([document])));
  if (!sampler.isAmount) return refuse('bad-request', 'What is run through a range must be an amount of the document.');
  const asked: Asked = { wish, state: hashOfContent(meaningText(document)) };
  const run = await RunRow.create({
    id: wish.id,
    documentId: row.id,
    status: 'under-way',
    asked: pack(asked),
    samples: pack([]),
    done: 0,
    document: pack(document),
  });
  goOn(run, row);
  return undefined;
}

/** Runs that the end of the server broke off. */
export async function resumeRuns(): Promise<void> {
  for (const run of await RunRow.findAll({ where: { status: 'under-way' } })) {
    const row = await DocumentRow.findByPk(run.documentId, { attributes: ['id', 'projectId', 'size'] });
    if (row) goOn(run, row);
  }
}

/** Until it is done, stopped, or nothing comes of it. */
export function runEnded(id: string): Promise<void> {
  return underWay().get(id) ?? Promise.resolve();
}

function goOn(run: RunRow, row: Pick<DocumentRow, 'projectId' | 'size'>): void {
  const ended = work(run, row)
    .catch(async (problem: unknown) => {
      console.error(`run ${run.id} failed:`, problem);
      await RunRow.update({ status: 'failed', document: null }, { where: { id: run.id } });
    })
    .finally(() => {
      underWay().delete(run.id);
      stopping().delete(run.id);
    });
  underWay().set(run.id, ended);
}

async function work(run: RunRow, { projectId, size }: Pick<DocumentRow, 'projectId' | 'size'>): Promise<void> {
  const { wish } = unpack<Asked>(run.asked);
  if (!run.document) throw new Error('Bug: a run that is under way without its document');
  const document = unpack<Document>(run.document);
  const source = new InstanceLibrary(await readSnapshots([document]));
  const sampler = new Sampler(document, valuesRun(wish), source);
  const named = wish.outputs.filter((id) => id !== MASS);
  const samples = unpack<KeptSample[]>(run.samples);
  let writeAgainAt = performance.now() + WRITE_EVERY;
  /** Whether it is there still. */
  const write = async (status: RunStatus): Promise<boolean> => {
    const from = performance.now();
    const isOver = status !== 'under-way';
    const changes = { status, samples: pack(samples), done: samples.length, ...(isOver ? { document: null } : {}) };
    const [count] = await RunRow.update(changes, { where: { id: run.id } });
    const now = performance.now();
    writeAgainAt = now + Math.max(WRITE_EVERY, WRITING_SHARE * (now - from));
    return count > 0;
  };
  for (const at of amountsRun(wish).slice(samples.length)) {
    // Values alone take no time off: whoever asks for something meanwhile is answered between two samples.
    await nextTurn();
    if (stopping().has(run.id)) return void (await write('stopped'));
    let isDone = false;
    await inBackground({ document: run.documentId, project: projectId, size }, async (client) => {
      const judged = await judgeAt(sampler, at, named, buildWith(client, document, source, { outputs: named, isJudged: wish.isJudged }));
      if (!judged) return;
      samples.push(keptSample(at, judged));
      isDone = true;
    });
    // The server ends: what is left goes on when it starts again.
    if (!isDone) return void (await write('under-way'));
    // Its document may have been deleted for good meanwhile.
    if (performance.now() >= writeAgainAt && !(await write('under-way'))) return;
  }
  await write('done');
}

function valuesRun({ value, second }: RunWish): readonly string[] {
  return second ? [value, second.value] : [value];
}

function amountsRun({ second, ...first }: RunWish): readonly (readonly number[])[] {
  return second ? pairsOf(amountsOf(first), amountsOf(second)) : amountsOf(first).map((amount) => [amount]);
}

function amountsOf({ from, to, count, amounts }: Pick<RunWish, 'from' | 'to' | 'count' | 'amounts'>): readonly number[] {
  return amounts ?? evenly(from, to, count);
}

function keptSample([at = NaN, also]: readonly number[], { outputs, problems, held }: NonNullable<Awaited<ReturnType<typeof judgeAt>>>): KeptSample {
  return {
    at,
    ...(also === undefined ? {} : { also }),
    outputs: Object.fromEntries(Object.entries(outputs).map(([id, amount]) => [id, Number.isFinite(amount) ? amount : null])),
    problems,
    held,
  };
}

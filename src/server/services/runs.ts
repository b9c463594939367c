/**
 * Range runs that go on at the server: each sample is a job in the background of its own, so that whatever else is built there takes its turn in
 * between. What is done is kept as it comes; a run that a restart broke off goes on from there, on the document as it was when it was started.
 */
import type { z } from 'zod';
import { MOST_RUNS, type changeRunsSchema, type KeptSample, type RunReply, type RunsReply, type RunStatus, type RunWish } from '@/contract';
import { hashOfContent, type Document } from '@/core/document';
import { InstanceLibrary, meaningText } from '@/core/instances';
import { fail, succeed, type Result } from '@/core/kit';
import { evenly, judgeAt, Sampler } from '@/core/studies';
import { buildWith, MASS } from '@/workers/study-build';
import { DocumentRow, RunRow } from '../db/models';
import { pack, unpack } from '../db/packing';
import { inBackground } from '../geometry-workers';
import { readState } from './document-store';
import { refuse, type Refusal } from './refusal';
import { readSnapshots } from './snapshots';

const NOT_THERE = refuse('not-found', 'There is no such document.');
/** How often what is done is written down, in milliseconds. */
const WRITE_EVERY = 1_000;

interface RunBody {
  readonly wish: RunWish;
  readonly state: string;
  readonly samples: readonly KeptSample[];
}

const shared = globalThis as typeof globalThis & {
  /** Runs that are under way in this process; what is told to stop is taken out. */
  warpbeamRuns?: Map<string, Promise<void>>;
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
    attributes: { exclude: ['document'] },
  });
  return rows.map((row) => {
    const { wish, state, samples } = unpack<RunBody>(row.body);
    return { ...wish, status: row.status, startedAt: row.createdAt.getTime(), state, samples };
  });
}

export async function changeRuns(document: string, change: z.infer<typeof changeRunsSchema>): Promise<Result<RunsReply, Refusal>> {
  const row = await DocumentRow.findByPk(document);
  if (!row) return fail(NOT_THERE);
  if ('start' in change) {
    const refusal = await start(row, change.start);
    if (refusal) return fail(refusal);
  } else if ('stop' in change) {
    stopping().add(change.stop);
    await underWay().get(change.stop);
    await RunRow.update({ status: 'stopped', document: null }, { where: { id: change.stop, documentId: document, status: 'under-way' } });
  } else {
    stopping().add(change.remove);
    await underWay().get(change.remove);
    await RunRow.destroy({ where: { id: change.remove, documentId: document } });
  }
  return succeed({ runs: await listRuns(document) });
}

async function start(row: DocumentRow, wish: RunWish): Promise<Refusal | undefined> {
  const document = readState(row);
  // The same press that comes twice is one run.
  const known = await RunRow.findByPk(wish.id, { attributes: ['documentId'] });
  if (known) return known.documentId === row.id ? undefined : refuse('bad-request', 'Another run has this id.');
  if ((await RunRow.count({ where: { documentId: row.id } })) >= MOST_RUNS)
    return refuse('too-large', `There are ${MOST_RUNS} runs already. Delete one first.`);
  if (wish.from >= wish.to) return refuse('bad-request', 'A range must run from less to more.');
  const sampler = new Sampler(document, [wish.value], new InstanceLibrary(await readSnapshots([document])));
  if (!sampler.isAmount) return refuse('bad-request', 'What is run through a range must be an amount of the document.');
  const body: RunBody = { wish, state: hashOfContent(meaningText(document)), samples: [] };
  const run = await RunRow.create({ id: wish.id, documentId: row.id, status: 'under-way', body: pack(body), document: pack(document) });
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
  const body = unpack<RunBody>(run.body);
  const { wish } = body;
  if (!run.document) throw new Error('Bug: a run that is under way without its document');
  const document = unpack<Document>(run.document);
  const source = new InstanceLibrary(await readSnapshots([document]));
  const sampler = new Sampler(document, [wish.value], source);
  const named = wish.outputs.filter((id) => id !== MASS);
  const samples = [...body.samples];
  const write = async (status: RunStatus): Promise<void> => {
    const isOver = status !== 'under-way';
    await RunRow.update({ status, body: pack({ ...body, samples }), ...(isOver ? { document: null } : {}) }, { where: { id: run.id } });
  };
  let writtenAt = performance.now();
  for (const at of evenly(wish.from, wish.to, wish.count).slice(samples.length)) {
    if (stopping().has(run.id)) return write('stopped');
    let isDone = false;
    await inBackground({ document: run.documentId, project: projectId, size }, async (client) => {
      const judged = await judgeAt(sampler, [at], named, buildWith(client, document, source, named));
      if (!judged) return;
      samples.push(keptSample(at, judged));
      isDone = true;
    });
    // The server ends: what is left goes on when it starts again.
    if (!isDone) return write('under-way');
    if (performance.now() - writtenAt < WRITE_EVERY) continue;
    await write('under-way');
    writtenAt = performance.now();
  }
  await write('done');
}

function keptSample(at: number, { outputs, problems, held }: NonNullable<Awaited<ReturnType<typeof judgeAt>>>): KeptSample {
  return { at, outputs: Object.fromEntries(Object.entries(outputs).map(([id, amount]) => [id, Number.isFinite(amount) ? amount : null])), problems, held };
}

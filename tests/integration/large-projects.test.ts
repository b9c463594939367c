/** What is large holds up nobody: while it is calculated, others are answered. */
import { readFileSync } from 'node:fs';
import { Worker } from 'node:worker_threads';
import { createDocument, writeProjectFile, type Document, type DocumentRecord } from '@/core/document';
import { calculate, EndedCalculation, startCalculationsWith } from '@/server/calculation/run';
import { closeDatabase } from '@/server/db/connect';
import { migrate } from '@/server/db/migrate';
import { previewCatchUp } from '@/server/services/catch-up-preview';
import { postEdits, readDocument } from '@/server/services/documents';
import { listRevisions } from '@/server/services/history';
import { listProjects } from '@/server/services/project-list';
import { exportProject, importProject, readProject } from '@/server/services/projects';
import { saveRevision } from '@/server/services/revisions';
import { startCalculationThread } from '../support/calculations';

let started = 0;
const startFromSource = (): Worker => {
  started++;
  return startCalculationThread();
};

beforeAll(async () => {
  process.env['WARPBEAM_NO_JOBS'] = '1';
  startCalculationsWith(startFromSource);
  await migrate();
});
afterAll(() => closeDatabase());

const good = <T>(result: { readonly ok: true; readonly value: T } | { readonly ok: false; readonly failure: { readonly message: string } }): T => {
  if (!result.ok) throw new Error(result.failure.message);
  return result.value;
};

/** Values that read one another in a tree; `more` makes each formula longer. */
function largeDocument(id: string, count: number, more: number, link?: { readonly source: string }): Document {
  const records: Record<string, DocumentRecord> = {};
  const term = ' + sqrt(4 mm^2) * sin(30 deg)'.repeat(more);
  for (let i = 0; i < count; i++) {
    const root = link ? 'taken' : '10 mm';
    records[`p${i}`] = {
      type: 'parameter',
      id: `p${i}`,
      name: `v${i}`,
      kind: 'any',
      formula: { text: i === 0 ? root : `v${Math.floor(i / 2)} * 1.0001 + ${i} mm${term}` },
    };
  }
  const empty = createDocument(id, 'master', id);
  const lists: Record<string, readonly string[]> = { parameters: Object.keys(records) };
  if (link) {
    records['link'] = { type: 'link', id: 'link', source: link.source, sourceName: link.source, policy: 'ask', revision: 1, hash: '' };
    records['take'] = {
      type: 'take',
      id: 'take',
      link: 'link',
      parameter: 'p0',
      name: 'taken',
      sourceName: 'v0',
      value: { kind: 'quantity', value: 100_000, dimension: 'length=1', unit: 'mm' },
    };
    lists['links'] = ['link'];
    lists['link/takes'] = ['take'];
  }
  return { ...empty, records, lists };
}

/** What this thread has worked so far, in milliseconds: the clock would count what other programs do on a busy machine. */
const worked = (): number => Number(readFileSync(`/proc/self/task/${process.pid}/schedstat`, 'utf8').split(' ')[0]) / 1e6;

/** Longest work during which nothing else was done in this thread while `work` went on, in milliseconds. */
async function longestHold(work: () => Promise<unknown>): Promise<number> {
  let longest = 0;
  let last = worked();
  const look = (): void => {
    const now = worked();
    longest = Math.max(longest, now - last);
    last = now;
  };
  const timer = setInterval(look, 5);
  await work();
  look();
  clearInterval(timer);
  return longest;
}

/** Nobody is held up for longer by what somebody else does. */
const MOST = 1000;
const MANY = 3_000;
const LONG = 14;

test('a large project is imported, listed, planned, edited, saved, compared and exported while others are answered', async () => {
  const text = writeProjectFile({
    name: 'Large',
    documents: [largeDocument('large-source', 50, 0), largeDocument('large-taker', MANY, LONG, { source: 'large-source' })],
  });
  expect(text.length).toBeGreaterThan(1_200_000);
  let project = '';
  let [source, taker] = ['', ''];
  const holds: Record<string, number> = {};
  const holding = async (what: string, work: () => Promise<unknown>): Promise<void> => {
    holds[what] = await longestHold(work);
  };
  await holding('import', async () => (project = good(await importProject(text, 'ann')).id));
  await holding('project', async () => {
    const { documents } = good(await readProject(project));
    source = documents.find(({ name }) => name === 'large-source')?.id ?? '';
    taker = documents.find(({ name }) => name === 'large-taker')?.id ?? '';
  });
  await holding('edit of the source', () =>
    postEdits(source, {
      base: 0,
      envelopes: [{ key: 'large-1', author: 'ann', edit: { type: 'parameter.setFormula', id: 'p0', formula: { text: '11 mm' } } }],
    }),
  );
  await holding('saving the source', async () => good(await saveRevision(source, { seq: 1, message: '', author: 'ann' })));
  await holding('list', listProjects);
  await holding('preview', async () => {
    const { documents } = await previewCatchUp(project);
    expect(documents.map(({ name, changes }) => [name, changes.length])).toEqual([['large-taker', MANY + 1]]);
  });
  await holding('edit', () =>
    postEdits(taker, { base: 0, envelopes: [{ key: 'large-2', author: 'ann', edit: { type: 'parameter.setFormula', id: 'p1', formula: { text: '2 mm' } } }] }),
  );
  await holding('saving', async () => good(await saveRevision(taker, { seq: 1, message: '', author: 'ann' })));
  await holding('document', () => readDocument(taker));
  await holding('history', async () => expect((await listRevisions(taker)).revisions[0]?.differs.length).toBeGreaterThan(0));
  await holding('export', async () => good(await exportProject(project)));
  expect(Object.entries(holds).filter(([, hold]) => hold > MOST)).toEqual([]);
  expect(started).toBeGreaterThanOrEqual(5);
});

test('what is small starts no thread, and what a thread cannot do is told as it is', async () => {
  // What is still under way of the test before starts its threads elsewhere.
  let own = 0;
  startCalculationsWith(() => {
    own++;
    return startCalculationThread();
  });
  const document = largeDocument('small', 20, 0);
  const here = await calculate('publish', { document }, 1000);
  expect(own).toBe(0);
  // The same in a thread.
  expect(await calculate('publish', { document }, 10_000_000)).toEqual(here);
  expect(own).toBe(1);
  startCalculationsWith(() => new Worker('throw new Error("broken")', { eval: true }));
  await expect(calculate('publish', { document }, 10_000_000)).rejects.toThrow('broken');
  startCalculationsWith(
    () => new Worker('const kept = []; for (;;) kept.push(new Array(100_000).fill({}));', { eval: true, resourceLimits: { maxOldGenerationSizeMb: 16 } }),
  );
  await expect(calculate('publish', { document }, 10_000_000)).rejects.toThrow(EndedCalculation);
  startCalculationsWith(startFromSource);
});

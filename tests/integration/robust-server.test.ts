/** What one person sends, or what is stored wrongly, must not stand in the way of anybody else. */
import { postEditsSchema } from '@/contract';
import { createDocument, LIMITS, writeProjectFile, type Document, type TakenValue } from '@/core/document';
import { closeDatabase } from '@/server/db/connect';
import { migrate } from '@/server/db/migrate';
import { ChangeSetRow, DocumentRow, EvaluationRow, ProjectRow, RevisionRow } from '@/server/db/models';
import { pack } from '@/server/db/packing';
import { handle, handleBody } from '@/server/http/handle';
import { startWorkersWith } from '@/server/geometry-workers';
import { countScheduled, scheduleMissing, scheduleRegeneration } from '@/server/jobs';
import { commitCatchUp } from '@/server/services/catch-up';
import { previewCatchUp } from '@/server/services/catch-up-preview';
import { listChangeSets, undoChangeSet } from '@/server/services/change-sets';
import { deleteDocument, deleteProject, listDeletedProjects, purgeDeleted, restoreDocument, restoreProject } from '@/server/services/deletion';
import { postEdits, readDocument } from '@/server/services/documents';
import { keepEvaluation, keepFailure } from '@/server/services/evaluations';
import { readRevision } from '@/server/services/history';
import { listOffers } from '@/server/services/offers';
import { listProjects } from '@/server/services/project-list';
import { exportProject, importProject, readProject } from '@/server/services/projects';
import { forgetPlanned } from '@/server/services/planned-documents';
import { saveRevision } from '@/server/services/revisions';
import type { WorkerReply, WorkerRequest } from '@/workers/protocol';
import { DEMO_TEXT, demoDocument, demoDocuments } from '../support/demo';

// What is measured here is what comes out, not how long a busy machine takes.

beforeAll(async () => {
  process.env['WARPBEAM_NO_JOBS'] = '1';
  await migrate();
});
afterAll(closeDatabase);

const good = <T>(result: { readonly ok: true; readonly value: T } | { readonly ok: false; readonly failure: { readonly message: string } }): T => {
  if (!result.ok) throw new Error(result.failure.message);
  return result.value;
};

async function importText(text: string): Promise<{ readonly project: string; readonly ids: Readonly<Record<string, string>> }> {
  const { id } = good(await importProject(text, 'test'));
  const { documents } = good(await readProject(id));
  return { project: id, ids: Object.fromEntries(documents.map((document) => [document.name, document.id])) };
}

let keys = 0;
const rename = (name: string) => ({ key: `robust-${Date.now()}-${keys++}`, author: 'ann', edit: { type: 'document.rename' as const, name } });

describe('one broken document hides no other', () => {
  test.each([
    ['bytes that are no document', Buffer.from('{"records": 5')],
    ['a document whose unit is none', pack({ ...demoDocument('Warp beam'), units: { length: 'mm^100', angle: 'nothing', mass: '' } })],
    ['a record of another shape', pack({ ...demoDocument('Warp beam'), records: { x: { type: 'parameter', id: 'x', name: 'x' } } })],
  ])(
    '%s',
    async (_, body) => {
      const { project, ids } = await importText(DEMO_TEXT);
      await DocumentRow.update({ body, seq: 1 }, { where: { id: ids['Warp beam'] ?? '' } });
      const read = good(await readProject(project));
      expect(read.documents.map(({ name }) => name)).toEqual(expect.arrayContaining(['Loom sizes', 'Side frame', 'Reed']));
      expect(read.documents.length + read.broken.length).toBe(Object.keys(ids).length);
      expect((await listProjects()).find(({ id }) => id === project)).toMatchObject({ documents: Object.keys(ids).length });
      expect(good(await readDocument(ids['Side frame'] ?? '')).document.name).toBe('Side frame');
      expect((await previewCatchUp(project)).documents).toEqual([]);
      const saved = await saveRevision(ids['Loom sizes'] ?? '', { seq: 0, message: '', author: 'ann' });
      expect(saved.ok).toBe(true);
      await DocumentRow.destroy({ where: { projectId: project } });
    },
    30_000,
  );
});

test('what is attached to a revision while it is being read is not hidden by what was read', async () => {
  const { project, ids } = await importText(DEMO_TEXT);
  const id = ids['Pawl'] ?? '';
  forgetPlanned(id);
  let isRead = (): void => undefined;
  let goOn = (): void => undefined;
  const read = new Promise<void>((resolve) => (isRead = resolve));
  const held = new Promise<void>((resolve) => (goOn = resolve));
  const find = DocumentRow.findAll.bind(DocumentRow);
  // The rows have come, and are looked at only after something was attached.
  const slow = jest.spyOn(DocumentRow, 'findAll').mockImplementation(async (options) => {
    const rows = await find(options);
    if (options?.include) {
      isRead();
      await held;
    }
    return rows;
  });
  const reading = readProject(project);
  await read;
  await keepEvaluation({ documentId: id, number: 1 }, { bodies: [{ name: 'attached' }], published: {} });
  forgetPlanned(id);
  goOn();
  await reading;
  slow.mockRestore();
  const { documents } = good(await readProject(project));
  expect(documents.find((document) => document.id === id)?.bodies).toEqual([{ name: 'attached' }]);
});

test('what is measured on a revision stands beside it, and is what it hands over from then on', async () => {
  const { project, ids } = await importText(DEMO_TEXT);
  const id = ids['Pawl'] ?? '';
  const row = async () => (await RevisionRow.findOne({ where: { documentId: id, number: 1 } }))?.get({ plain: true });
  const [before, saved] = [await row(), good(await readRevision(id, 1))];
  const [value = ''] = Object.keys(saved.values);
  const measured: Record<string, TakenValue> = { ...saved.values, [value]: { kind: 'quantity', dimension: 'length=1', value: 123_400, unit: 'mm' } };
  await keepFailure({ documentId: id, number: 1 }, 'It took too long.');
  expect(good(await readRevision(id, 1)).values).toEqual(saved.values);
  await keepEvaluation({ documentId: id, number: 1 }, { bodies: [{ name: 'attached' }], published: measured });
  forgetPlanned(id);
  expect(good(await readRevision(id, 1)).values).toEqual(measured);
  expect(good(await listOffers(id)).values.find((one) => one.id === value)?.value).toEqual(measured[value]);
  expect(await row()).toEqual(before);
  await DocumentRow.destroy({ where: { projectId: project } });
  expect(await EvaluationRow.count({ where: { documentId: id } })).toBe(0);
});

describe('what is sent twice, or by two at once', () => {
  test('one key twice in a request is refused at the door', () => {
    const envelope = rename('Twice');
    expect(postEditsSchema.safeParse({ base: 0, envelopes: [envelope, envelope] }).success).toBe(false);
  });

  test('two documents of one id in a file', async () => {
    const [first] = [demoDocument('Loom sizes')];
    const reply = await importProject(writeProjectFile({ name: 'Twice', documents: [first, { ...first, name: 'Again' }] }), 'test');
    expect(reply).toMatchObject({ ok: false, failure: { code: 'bad-file', message: expect.stringContaining('loom-sizes') as string } });
  });

  test('one file imported twice at once becomes two projects', async () => {
    const named = `Twice ${Date.now()}`;
    const text = writeProjectFile({ name: named, documents: [createDocument(`twice${Date.now()}`, 'master', 'Sizes')] });
    const [first, second] = await Promise.all([importText(text), importText(text)]);
    expect([Object.keys(first.ids), Object.keys(second.ids)]).toEqual([['Sizes'], ['Sizes']]);
    expect(first.ids['Sizes']).not.toBe(second.ids['Sizes']);
  });

  test('two undos of one change set: one is done, the other is told', async () => {
    const { project, ids } = await importText(DEMO_TEXT);
    const master = ids['Loom sizes'] ?? '';
    good(
      await postEdits(master, {
        base: 0,
        envelopes: [{ key: 'undo-twice-edit', author: 'ann', edit: { type: 'parameter.setFormula', id: 'weaving-width', formula: { text: '480 mm' } } }],
      }),
    );
    good(await saveRevision(master, { seq: 1, message: '', author: 'ann' }));
    const { documents } = await previewCatchUp(project);
    const { changeSet } = good(await commitCatchUp(project, { documents: documents.map(({ id, seq }) => ({ id, seq })), author: 'ann' }));
    const both = await Promise.all([undoChangeSet(changeSet, 'ann'), undoChangeSet(changeSet, 'ben')]);
    expect(both.filter(({ ok }) => ok)).toHaveLength(1);
    expect(both.find(({ ok }) => !ok)).toMatchObject({ failure: { code: 'moved-on' } });
  });

  test('one state saved three times is one revision, and says so', async () => {
    const { ids } = await importText(DEMO_TEXT);
    const id = ids['Loom sizes'] ?? '';
    good(await postEdits(id, { base: 0, envelopes: [rename('Sizes')] }));
    const request = { seq: 1, message: 'once', author: 'ann', key: 'save-key-1' };
    const first = good(await saveRevision(id, request));
    expect(good(await saveRevision(id, request))).toMatchObject({ revision: first.revision });
    expect(good(await saveRevision(id, { ...request, key: 'save-key-2' }))).toMatchObject({ revision: first.revision, isUnchanged: true });
    expect(await RevisionRow.count({ where: { documentId: id } })).toBe(first.revision);
    // The same request once more, after somebody else went on.
    good(await postEdits(id, { base: 1, envelopes: [rename('Sizes, metric')] }));
    expect(good(await saveRevision(id, request))).toMatchObject({ revision: first.revision });
  });

  test('change sets of one moment are all listed', async () => {
    const { project } = await importText(DEMO_TEXT);
    const at = new Date();
    const row = (i: number) => ({ id: `set-${project}-${String(i).padStart(3, '0')}`, projectId: project, message: `${i}`, author: 'ann', createdAt: at });
    await ChangeSetRow.bulkCreate(Array.from({ length: 70 }, (_, i) => row(i)));
    const seen: string[] = [];
    for (let before: { at: Date; id: string } | undefined; ;) {
      const { changeSets, hasMore } = await listChangeSets(project, before);
      seen.push(...changeSets.map(({ id }) => id));
      const last = changeSets.at(-1);
      if (!hasMore || !last) break;
      before = { at: new Date(last.at), id: last.id };
    }
    expect(seen).toHaveLength(70);
    expect(new Set(seen).size).toBe(70);
  });
});

describe('sizes', () => {
  /** A document of some million characters: notes of the greatest length. */
  function large(id: string, characters: number): Document {
    const count = Math.ceil(characters / 4100);
    const records = Object.fromEntries(
      Array.from({ length: count }, (_, i) => {
        const key = `p${i}`;
        return [key, { type: 'parameter' as const, id: key, name: `value_${i}`, formula: { text: '1 mm' }, kind: 'length', note: 'n'.repeat(4000) }];
      }),
    );
    return { ...demoDocument('Loom sizes'), id, name: id, records, lists: { parameters: Object.keys(records) } };
  }

  test('a project of 15 MB comes in, goes out and comes in again', async () => {
    const text = writeProjectFile({ name: 'Large', documents: [large('large-a', 7.5e6), large('large-b', 7.5e6)] });
    expect(text.length).toBeGreaterThan(15e6);
    const { project } = await importText(text);
    const out = good(await exportProject(project));
    const again = good(await importProject(out, 'test'));
    expect(good(await readProject(again.id)).documents).toHaveLength(2);
  });

  test('a document or a project that would be too large is refused with its size, and nothing is changed', async () => {
    const tooLarge = await importProject(writeProjectFile({ name: 'Too large', documents: [large('huge', LIMITS.documentSize + 500_000)] }), 'test');
    expect(tooLarge).toMatchObject({ ok: false, failure: { code: 'too-large', message: expect.stringContaining('12.0 million characters') as string } });
    expect(await ProjectRow.count({ where: { name: 'Too large' } })).toBe(0);
    const { ids } = await importText(writeProjectFile({ name: 'Full', documents: [large('full-a', 11.5e6), large('full-b', 8.3e6)] }));
    const id = ids['full-b'] ?? '';
    const edits = Array.from({ length: 100 }, (_, i) => ({
      type: 'parameter.add' as const,
      parameter: { type: 'parameter' as const, id: `more${i}`, name: `more_${i}`, formula: { text: '1' }, kind: 'any', note: 'n'.repeat(4000) },
    }));
    const envelope = { key: 'too-large-edit', author: 'ann', edit: { type: 'batch' as const, edits } };
    const refused = await handle(() => postEdits(id, { base: 0, envelopes: [envelope] }));
    expect(refused.status).toBe(413);
    expect(good(await readDocument(id)).seq).toBe(0);
  });

  test('a document opens with no more of its log than can be looked through, however large its edits were', async () => {
    const { ids } = await importText(DEMO_TEXT);
    const id = ids['Reed'] ?? '';
    // Letters without order, so that packing makes them no smaller.
    const note = (seed: number): string => Array.from({ length: 4000 }, (_, i) => String.fromCharCode(97 + ((i * i * 31 + seed * i * 7 + seed) % 26))).join('');
    for (let round = 0; round < 6; round++) {
      const edits = Array.from({ length: 200 }, (_, i) => ({
        type: 'parameter.add' as const,
        parameter: {
          type: 'parameter' as const,
          id: `r${round}-${i}`,
          name: `r_${round}_${i}`,
          formula: { text: '1' },
          kind: 'any',
          note: note(round * 200 + i),
        },
      }));
      good(await postEdits(id, { base: round, envelopes: [{ key: `large-log-${round}`, author: 'ann', edit: { type: 'batch', edits } }] }));
    }
    const { history, seq } = good(await readDocument(id));
    expect(seq).toBe(6);
    expect(history.at(-1)?.seq).toBe(6);
    expect(JSON.stringify(history).length).toBeLessThan(12e6);
    expect(history.map((edit) => edit.seq)).toEqual(history.map((_, i) => 7 - history.length + i));
  });

  test('a request that is too large or no JSON is refused with a word', async () => {
    const post = (body: string) =>
      handleBody(new Request('http://localhost/', { method: 'POST', body }), postEditsSchema, () => Promise.reject(new Error('not reached')));
    expect((await post('x'.repeat(13_000_000))).status).toBe(413);
    expect((await post('{"base": 0')).status).toBe(400);
    const named = (await (
      await post(JSON.stringify({ base: 0, envelopes: [{ key: 'a-good-key', author: 'a', edit: { type: 'guard.put', guard: { type: 'guard', id: 'g' } } }] }))
    ).json()) as { error: { message: string } };
    expect(named.error.message).toContain('guard.condition');
  });
});

/** The demo without its assembly, which is built out of its parts. */
const PARTS_TEXT = JSON.stringify({
  ...(JSON.parse(DEMO_TEXT) as object),
  documents: demoDocuments().filter(({ kind }) => kind !== 'assembly'),
});

describe('jobs', () => {
  function fakeWorker(answer: (request: WorkerRequest) => WorkerReply | undefined, from = Promise.resolve()) {
    const asked: string[] = [];
    const end = startWorkersWith((onReply) => ({
      post: (request) => {
        if (request.kind === 'file') return;
        asked.push(request.document.name);
        const reply = answer(request);
        if (reply) void from.then(() => setTimeout(() => onReply(reply), 1));
      },
      terminate: () => undefined,
    }));
    return { asked, end };
  }
  const idle = async (): Promise<void> => {
    while (countScheduled() > 0) await new Promise((resolve) => setTimeout(resolve, 5));
  };

  test('each revision stands in the queue once, small ones first, and what could not be built is not tried again', async () => {
    delete process.env['WARPBEAM_NO_JOBS'];
    const others = await RevisionRow.findAll({ attributes: ['documentId', 'number'] });
    await EvaluationRow.bulkCreate(
      others.map(({ documentId, number }) => ({ documentId, number, published: null, bodies: null, unbuilt: 'not of this test' })),
      { ignoreDuplicates: true },
    );
    const { project, ids } = await importText(PARTS_TEXT);
    let answer = (): void => undefined;
    const allScheduled = new Promise<void>((resolve) => (answer = resolve));
    const { asked, end } = fakeWorker(({ id }) => ({ kind: 'crashed', id, message: 'It is too much.' }), allScheduled);
    try {
      await scheduleMissing();
      await scheduleMissing();
      scheduleRegeneration({ documentId: ids['Side frame'] ?? '', revision: 1, project, size: 0 });
      const parts = demoDocuments().flatMap(({ kind, name }) => (kind === 'part' ? name : []));
      expect(countScheduled()).toBe(parts.length);
      answer();
      await idle();
      expect([...asked].sort()).toEqual([...parts].sort());
      const sizes = new Map((await DocumentRow.findAll({ where: { projectId: project } })).map(({ name, size }) => [name, size]));
      // The first has begun before the others stood in the queue.
      const inQueue = asked.slice(1).map((name) => sizes.get(name) ?? 0);
      expect(inQueue).toEqual([...inQueue].sort((a, b) => a - b));
      expect((await EvaluationRow.findOne({ where: { documentId: ids['Reed'] ?? '' } }))?.unbuilt).toContain('It is too much.');
      await scheduleMissing();
      expect(countScheduled()).toBe(0);
    } finally {
      end();
      process.env['WARPBEAM_NO_JOBS'] = '1';
    }
  });
});

describe('deleting', () => {
  test('a document is out of every list, those that take from it keep their values, and it comes back as it was', async () => {
    const { project, ids } = await importText(DEMO_TEXT);
    const master = ids['Loom sizes'] ?? '';
    good(await deleteDocument(master));
    const without = good(await readProject(project));
    expect(without.documents.map(({ name }) => name)).not.toContain('Loom sizes');
    expect(without.deleted.map(({ name }) => name)).toEqual(['Loom sizes']);
    expect(without.documents.every(({ failing }) => failing === 0)).toBe(true);
    expect(await readDocument(master)).toMatchObject({ ok: false, failure: { code: 'not-found' } });
    expect((await postEdits(master, { base: 0, envelopes: [rename('Gone')] })).ok).toBe(false);
    good(await restoreDocument(master));
    expect(good(await readProject(project)).documents.map(({ name }) => name)).toContain('Loom sizes');
    expect(good(await readDocument(master)).document.records['weaving-width']).toEqual(demoDocument('Loom sizes').records['weaving-width']);
  });

  test('a project goes with its documents and comes back with them; after thirty days it is gone for good', async () => {
    const { project, ids } = await importText(DEMO_TEXT);
    good(await deleteDocument(ids['Reed'] ?? ''));
    good(await deleteProject(project));
    expect((await listProjects()).some(({ id }) => id === project)).toBe(false);
    expect((await listDeletedProjects()).some(({ id }) => id === project)).toBe(true);
    good(await restoreProject(project));
    // What was deleted before it stays deleted.
    expect(good(await readProject(project)).documents).toHaveLength(Object.keys(ids).length - 1);
    good(await deleteProject(project));
    await purgeDeleted(new Date(Date.now() + 29 * 86_400_000));
    expect(await ProjectRow.unscoped().count({ where: { id: project } })).toBe(1);
    await purgeDeleted(new Date(Date.now() + 31 * 86_400_000));
    expect(await ProjectRow.unscoped().count({ where: { id: project } })).toBe(0);
    expect(await DocumentRow.unscoped().count({ where: { projectId: project } })).toBe(0);
  });
});

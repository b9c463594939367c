/** Files of other programs on the server: each content is kept once, apart from documents, and is whole again in what goes out. */
import { gzipSync } from 'fflate';
import { applyEdit, createDocument, hashOfContent, listFiles, writeProjectFile, type Document, type Edit } from '@/core/document';
import { createKernel } from '@/kernel/create-kernel';
import { closeDatabase } from '@/server/db/connect';
import { migrate } from '@/server/db/migrate';
import { DocumentRow, FileRow, FileUseRow } from '@/server/db/models';
import { startWorkersWith } from '@/server/geometry-workers';
import { buildGeometry } from '@/server/jobs';
import { deleteProject, purgeDeleted } from '@/server/services/deletion';
import { postEdits, readDocument } from '@/server/services/documents';
import { exportProject, importProject, readProject } from '@/server/services/projects';
import { startSourceThread } from '@/workers/start-thread';
import { edited } from '../support/demo';
import { prism, rectangle, relative } from '../support/kernel-shapes';

// Contents of some megabytes, and a kernel in a thread of its own.

let endJobs: () => void;
let content: string;
beforeAll(async () => {
  process.env['WARPBEAM_NO_JOBS'] = '1';
  endJobs = startWorkersWith(startSourceThread);
  await migrate();
  const kernel = await createKernel();
  const bytes = kernel.exportFile([{ body: prism(kernel, rectangle(30, 20), 10), name: 'Block' }], 'step');
  content = Buffer.from(gzipSync(bytes)).toString('base64');
});
afterAll(async () => {
  endJobs();
  await closeDatabase();
});

const good = <T>(result: { readonly ok: true; readonly value: T } | { readonly ok: false; readonly failure: { readonly message: string } }): T => {
  if (!result.ok) throw new Error(result.failure.message);
  return result.value;
};

const bought = (file: { readonly content: string } | { readonly hash: string }, id = 'bought'): Edit => ({
  type: 'step.add',
  step: { type: 'import', id, name: id, file: `${id}-file`, body: `${id}-body`, values: {} },
  values: [],
  body: { type: 'body', id: `${id}-body`, name: id, material: '' },
  file: { type: 'file', id: `${id}-file`, name: 'block.step', format: 'step', ...file },
});

const part = (name: string, ...edits: readonly Edit[]): Document => edited(createDocument(name, 'part', name), ...edits);

async function importDocuments(...documents: readonly Document[]): Promise<{ readonly project: string; readonly ids: readonly string[] }> {
  const { id } = good(await importProject(writeProjectFile({ name: 'Files', documents }), 'test'));
  return { project: id, ids: good(await readProject(id)).documents.map((document) => document.id) };
}

async function volumeOf(document: Document): Promise<number> {
  const built = await buildGeometry({ document, stands: {} });
  expect(built?.steps.flatMap(({ problem }) => problem?.message ?? [])).toEqual([]);
  return built?.bodies[0]?.properties?.volume ?? NaN;
}

let keys = 0;
const send = (base: number, edit: Edit) => ({ base, envelopes: [{ key: `file-${Date.now()}-${keys++}`, author: 'ann', edit }] });

test('what two documents hold is kept once, builds, and goes out whole', async () => {
  const { project, ids } = await importDocuments(part('left', bought({ content })), part('right', bought({ content })));
  const hash = hashOfContent(content);
  expect(await FileRow.count({ where: { hash } })).toBe(1);
  expect(await FileUseRow.count({ where: { hash, documentId: [...ids] } })).toBe(2);
  const { document } = good(await readDocument(ids[0] ?? ''));
  expect(listFiles(document)).toEqual([{ type: 'file', id: 'bought-file', name: 'block.step', format: 'step', hash }]);
  expect(relative(await volumeOf(document), 6000)).toBeLessThan(1e-9);

  const out = good(await exportProject(project));
  expect(out.split(content)).toHaveLength(3);
  expect(out).not.toContain(hash);
  const again = good(await importProject(out, 'test'));
  expect(good(await exportProject(again.id)).split(content)).toHaveLength(3);
});

test('an edit that brings a file is kept without it; undone and done again it is the same file', async () => {
  const { ids } = await importDocuments(part('late'));
  const id = ids[0] ?? '';
  const own = Buffer.from(gzipSync(Buffer.from('another'))).toString('base64');
  const { edits, seq } = good(await postEdits(id, send(0, bought({ content: own }))));
  expect(JSON.stringify(edits)).not.toContain(own);
  const undone = good(await postEdits(id, send(seq, edits[0]?.inverse ?? bought({ content: own }))));
  expect(listFiles(good(await readDocument(id)).document)).toEqual([]);
  good(await postEdits(id, send(undone.seq, undone.edits[0]?.inverse ?? bought({ content: own }))));
  expect(listFiles(good(await readDocument(id)).document)[0]).toMatchObject({ hash: hashOfContent(own) });
});

test('an undo that still has the content in it is of the same file', async () => {
  const { ids } = await importDocuments(part('offline'));
  const before = part('offline');
  const made = applyEdit(before, bought({ content }));
  if (!made.ok) throw new Error(made.failure.message);
  const { seq } = good(await postEdits(ids[0] ?? '', send(0, bought({ content }))));
  good(await postEdits(ids[0] ?? '', send(seq, made.value.inverse)));
  expect(Object.keys(good(await readDocument(ids[0] ?? '')).document.records)).toEqual([]);
});

test('a hash of no content is refused, in an edit and in a project file, and nothing is changed', async () => {
  const { ids } = await importDocuments(part('plain'));
  const nowhere = bought({ hash: 'e'.repeat(64) });
  const refusal = { ok: false, failure: { code: 'bad-file', message: expect.stringMatching(/import it again/) as string } };
  expect(await postEdits(ids[0] ?? '', send(0, nowhere))).toMatchObject(refusal);
  expect(good(await readDocument(ids[0] ?? ''))).toMatchObject({ seq: 0, document: { records: {} } });
  const count = await DocumentRow.count();
  expect(await importProject(writeProjectFile({ name: 'Files', documents: [part('torn', nowhere)] }), 'test')).toMatchObject(refusal);
  expect(await DocumentRow.count()).toBe(count);
});

test('a document is as large as it is with its files', async () => {
  const { ids } = await importDocuments(part('large'));
  const [id = ''] = ids;
  let base = 0;
  for (const letter of ['A', 'B', 'C']) base = good(await postEdits(id, send(base, bought({ content: letter.repeat(3_900_000) }, letter)))).seq;
  expect(await postEdits(id, send(base, bought({ content: 'D'.repeat(3_900_000) }, 'D')))).toMatchObject({ ok: false, failure: { code: 'too-large' } });
  expect(await FileRow.count({ where: { hash: hashOfContent('D'.repeat(3_900_000)) } })).toBe(0);
  expect(listFiles(good(await readDocument(id)).document)).toHaveLength(3);
});

test('a content goes when the last document that names it is gone for good', async () => {
  const own = Buffer.from(gzipSync(Buffer.from(`own ${Date.now()}`))).toString('base64');
  const { project } = await importDocuments(part('gone', bought({ content: own })));
  const hash = hashOfContent(own);
  good(await deleteProject(project));
  await purgeDeleted();
  expect(await FileRow.count({ where: { hash } })).toBe(1);
  await purgeDeleted(new Date(Date.now() + 31 * 86_400_000));
  expect(await FileRow.count({ where: { hash } })).toBe(0);
});

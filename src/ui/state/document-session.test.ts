/** The session against a fake server that keeps its log in memory and applies the same edits. */
import { createDocument, findRecord, listFiles, type Document, type Edit } from '@/core/document';
import { demoDocument } from '../../../tests/support/demo';
import { FakeServer, memoryStore } from '../../../tests/support/fake-server';
import { DocumentSession } from './document-session';

const settle = async (): Promise<void> => {
  for (let i = 0; i < 30; i++) await Promise.resolve();
};
const open = async (server: FakeServer, author = 'ann', store = memoryStore()) => {
  const session = new DocumentSession(server.reply(), author, server.api, store, undefined);
  await session.start();
  await settle();
  return { session, store };
};
const set = (id: string, text: string): Edit => ({ type: 'parameter.setFormula', id, formula: { text } });
const textOf = (document: Document, id: string) => findRecord(document, id, 'parameter')?.formula.text;

test('an edit is there at once, and at the server soon after', async () => {
  const server = new FakeServer(demoDocument('Loom sizes'));
  const { session } = await open(server);
  session.edit(set('side-gap', '14 mm'));
  expect(session.values.show('inner-width')?.shown).toBe('428 mm');
  await settle();
  expect(textOf(server.document, 'side-gap')).toBe('14 mm');
  expect(session.store.getState()).toMatchObject({ pending: 0, unsavedEdits: 1, canUndo: true });
});

test('undo and redo work across a reload, and only on what this author did', async () => {
  const server = new FakeServer(demoDocument('Loom sizes'));
  const { session } = await open(server);
  session.edit(set('side-gap', '14 mm'));
  session.edit(set('side-gap', '15 mm'));
  await settle();
  server.apply({ key: 'foreign-edit', author: 'ben', edit: set('teeth', '30') });

  const { session: reloaded } = await open(server);
  reloaded.undo();
  expect(textOf(reloaded.document, 'side-gap')).toBe('14 mm');
  reloaded.undo();
  expect(textOf(reloaded.document, 'side-gap')).toBe('12 mm');
  expect(reloaded.store.getState().canUndo).toBe(false);
  reloaded.redo();
  await settle();
  expect(textOf(server.document, 'side-gap')).toBe('14 mm');
  expect(textOf(server.document, 'teeth')).toBe('30');
});

test('naming and setting a value in one go is one undo', async () => {
  const server = new FakeServer(demoDocument('Loom sizes'));
  const { session } = await open(server);
  session.edit({
    type: 'batch',
    edits: [
      { type: 'value.rename', id: 'side-gap', name: 'gap' },
      { type: 'parameter.setFormula', id: 'side-gap', formula: { text: '21 mm' } },
    ],
  });
  session.undo();
  await settle();
  expect(server.document.records['side-gap']).toMatchObject({ name: 'side_gap', formula: { text: '12 mm' } });
});

test('saving waits for edits that are on their way', async () => {
  const server = new FakeServer(demoDocument('Loom sizes'));
  const { session } = await open(server);
  session.edit(set('side-gap', '14 mm'));
  session.edit(set('teeth', '30'));
  expect(await session.save('')).toEqual({ revision: 2, followed: [], asked: [], nowBehind: [] });
  expect(server.log).toHaveLength(2);
  expect(session.store.getState()).toMatchObject({ unsavedEdits: 0, revision: 2 });
});

test('without the server nothing is saved, and that is said', async () => {
  const server = new FakeServer(demoDocument('Loom sizes'));
  const { session } = await open(server);
  server.isDown = true;
  session.edit(set('side-gap', '14 mm'));
  expect(await session.save('')).toMatchObject({ code: 'no-answer' });
  session.close();
});

test('a stale edit is rebased on what others did', async () => {
  const server = new FakeServer(demoDocument('Loom sizes'));
  const { session } = await open(server);
  server.apply({ key: 'foreign-edit', author: 'ben', edit: { type: 'value.rename', id: 'beam-dia', name: 'shaft' } });
  session.edit({ type: 'parameter.setFormula', id: 'side-gap', formula: { text: 'beam_dia / 3', names: { beam_dia: 'beam-dia' } } });
  await settle();
  expect(textOf(server.document, 'side-gap')).toBe('shaft / 3');
  expect(textOf(session.document, 'side-gap')).toBe('shaft / 3');
  expect(session.store.getState().tray).toEqual([]);
});

test('an edit that no longer fits goes to the tray, and the rest goes on', async () => {
  const server = new FakeServer(demoDocument('Loom sizes'));
  const { session } = await open(server);
  server.apply({ key: 'foreign-edit', author: 'ben', edit: { type: 'parameter.remove', id: 'dents', readers: { mode: 'refuse' } } });
  session.edit(set('dents', '100'));
  session.edit(set('side-gap', '16 mm'));
  await settle();
  expect(session.store.getState().tray).toMatchObject([{ edit: { id: 'dents' }, reason: 'This value is not there any more.' }]);
  expect(textOf(server.document, 'side-gap')).toBe('16 mm');
  expect(session.store.getState().pending).toBe(0);
});

test('without a server edits are kept, over a reload too, and sent when it is back', async () => {
  const server = new FakeServer(demoDocument('Loom sizes'));
  const { session, store } = await open(server);
  server.isDown = true;
  session.edit(set('side-gap', '17 mm'));
  session.edit(set('teeth', '28'));
  await settle();
  expect(session.store.getState()).toMatchObject({ isOffline: true, pending: 2 });
  session.close();

  server.isDown = false;
  const { session: reloaded } = await open(server, 'ann', store);
  expect(textOf(server.document, 'side-gap')).toBe('17 mm');
  expect(textOf(server.document, 'teeth')).toBe('28');
  expect(reloaded.store.getState()).toMatchObject({ isOffline: false, pending: 0 });
});

test('a live notice brings in what somebody else did, under what is pending here', async () => {
  const server = new FakeServer(demoDocument('Loom sizes'));
  const { session } = await open(server);
  server.apply({ key: 'foreign-edit', author: 'ben', edit: set('teeth', '32') });
  session.hear({ type: 'edited', project: 'p', document: 'loom-sizes', seq: 1 });
  await settle();
  expect(session.values.show('teeth')?.shown).toBe('32');
});

test('an undo of what somebody else changed since is refused with a word', async () => {
  const server = new FakeServer(demoDocument('Loom sizes'));
  const { session } = await open(server);
  session.edit(set('teeth', '26'));
  await settle();
  server.apply({ key: 'foreign-edit', author: 'ben', edit: set('teeth', '32') });
  session.hear({ type: 'edited', project: 'p', document: 'loom-sizes', seq: 2 });
  await settle();
  session.undo();
  expect(session.store.getState().notice).toBe('Nothing was undone: teeth was changed since; nothing was undone.');
  expect(session.values.show('teeth')?.shown).toBe('32');
});

test('a file that the server keeps apart is undone, done again and undone, at once and after the acknowledgement', async () => {
  const server = new FakeServer(demoDocument('Loom sizes'));
  server.document = createDocument('bought', 'part', 'Bought');
  const session = new DocumentSession(server.reply(), 'me', server.api, memoryStore(), undefined);
  session.edit({
    type: 'step.add',
    step: { type: 'import', id: 's', name: 'bought', file: 'f', body: 'b', values: {} },
    values: [],
    body: { type: 'body', id: 'b', name: 'bought', material: '' },
    file: { type: 'file', id: 'f', name: 'block.step', format: 'step', content: 'AAAA' },
  });
  session.undo();
  session.redo();
  await settle();
  expect(listFiles(server.document).map(({ hash }) => hash?.length)).toEqual([64]);
  session.undo();
  await settle();
  expect([server.document.records, session.document.records]).toEqual([{}, {}]);
  session.redo();
  await settle();
  session.undo();
  await settle();
  expect(session.store.getState().notice).toBeUndefined();
  expect([server.document.records, session.document.records]).toEqual([{}, {}]);
});

test('what is tried out is seen in the values, and is one edit in the end or none', async () => {
  const server = new FakeServer(demoDocument('Loom sizes'));
  const session = new DocumentSession(server.reply(), 'me', server.api, memoryStore(), undefined);
  const id = Object.values(session.document.records).find((record) => record.type === 'parameter' && record.name === 'weaving_width')?.id ?? '';
  const set = (text: string): Edit => ({ type: 'parameter.setFormula', id, formula: { text } });
  const before = session.document;
  for (const width of [410, 420, 430]) session.tryOut(set(`${width} mm`));
  expect(session.values.show(id)?.shown).toBe('430 mm');
  session.endTrial(false);
  expect(session.document).toEqual(before);
  expect(session.values.show(id)?.shown).toBe('400 mm');
  for (const width of [410, 420]) session.tryOut(set(`${width} mm`));
  session.endTrial(true);
  await settle();
  expect(server.log.map(({ edit }) => edit)).toEqual([set('420 mm')]);
  session.undo();
  expect(session.values.show(id)?.shown).toBe('400 mm');
});

test('another edit takes back what is only tried out', () => {
  const server = new FakeServer(demoDocument('Loom sizes'));
  const session = new DocumentSession(server.reply(), 'me', server.api, memoryStore(), undefined);
  const id = Object.values(session.document.records).find((record) => record.type === 'parameter' && record.name === 'weaving_width')?.id ?? '';
  session.tryOut({ type: 'parameter.setFormula', id, formula: { text: '999 mm' } });
  session.edit({ type: 'document.rename', name: 'Sizes' });
  expect(session.values.show(id)?.shown).toBe('400 mm');
  expect(session.document.name).toBe('Sizes');
});

test('two tabs without the server: neither writes over what the other keeps', async () => {
  const server = new FakeServer(demoDocument('Loom sizes'));
  const store = memoryStore();
  const [one, two] = [await open(server, 'ann', store), await open(server, 'ann', store)];
  server.isDown = true;
  one.session.edit(set('side-gap', '14 mm'));
  two.session.edit(set('teeth', '30'));
  await settle();
  one.session.close();
  two.session.close();
  server.isDown = false;
  await open(server, 'ann', store);
  await settle();
  expect([textOf(server.document, 'side-gap'), textOf(server.document, 'teeth')]).toEqual(['14 mm', '30']);
  expect(store.kept).toEqual([]);
});

test('an edit that no longer fits is in the tray after a reload too, until it is looked at', async () => {
  const server = new FakeServer(demoDocument('Loom sizes'));
  const store = memoryStore();
  server.isDown = true;
  const { session } = await open(server, 'ann', store);
  session.edit(set('side-gap', '14 mm'));
  await settle();
  session.close();
  server.apply({
    key: 'foreign-edit',
    author: 'ben',
    edit: { type: 'parameter.remove', id: 'side-gap', readers: { mode: 'numbers', numbers: { 'side-gap': '12 mm' } } },
  });
  server.isDown = false;
  const first = await open(server, 'ann', store);
  expect(first.session.store.getState().tray).toHaveLength(1);
  first.session.close();
  const again = await open(server, 'ann', store);
  const [entry] = again.session.store.getState().tray;
  expect(entry).toMatchObject({ edit: { type: 'parameter.setFormula', id: 'side-gap' } });
  again.session.dismissRefused(entry?.key ?? '');
  expect(store.refused).toEqual([]);
});

test('what was told while the event stream was lost is fetched as soon as it is back', async () => {
  const server = new FakeServer(demoDocument('Loom sizes'));
  const { session } = await open(server);
  server.apply({ key: 'foreign-edit', author: 'ben', edit: set('teeth', '30') });
  expect(textOf(session.document, 'teeth')).toBe('24');
  session.hear({ type: 'reconnected' });
  await settle();
  expect(textOf(session.document, 'teeth')).toBe('30');
});

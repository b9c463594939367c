/**
 * The shelf: documents that ship with the program, or that its administrator put in their place, each in a project file of its own. A project takes
 * copies of them, which are its own from then on.
 */
import { readdir, readFile } from 'node:fs/promises';
import path from 'node:path';
import type * as z from 'zod/mini';
import type { ShelfItem, ShelfReply, TakenFromShelf, takeFromShelfSchema } from '@/contract';
import { isNamed, listLines, listRecords, readProjectFile, writeProjectFile, type Document } from '@/core/document';
import { fail, succeed, type Result } from '@/core/kit';
import { calculate } from '../calculation/run';
import type { ReadyDocument } from '../calculation/operations';
import { DocumentRow, ProjectRow } from '../db/models';
import { publish } from '../events';
import { newId } from './ids';
import { insertDocuments } from './projects';
import { inOneTransaction, refuse, type Refusal } from './refusal';

/** Names of values that are told of a document at most. */
const MOST_NAMES = 6;

function folder(): string {
  return process.env['WARPBEAM_SHELF'] ?? path.join(process.cwd(), 'shelf');
}

/** The items that can be read, by kinds and names; and those that cannot, with the reason. */
export async function listShelf(): Promise<ShelfReply> {
  const items: ShelfItem[] = [];
  const broken: { item: string; reason: string }[] = [];
  for (const item of await listItems()) {
    const read = readProjectFile(await readItem(item));
    const [document] = read.ok ? read.value.documents : [];
    if (document) items.push({ item, name: document.name, kind: document.kind, about: describe(document) });
    else broken.push({ item, reason: (read.ok ? undefined : read.failure[0]?.message) ?? 'There is no document in it.' });
  }
  return { items: items.sort((a, b) => (a.name < b.name ? -1 : 1)), broken };
}

async function listItems(): Promise<string[]> {
  try {
    return (await readdir(/* turbopackIgnore: true */ folder())).flatMap((file) => (file.endsWith('.json') ? [file.slice(0, -'.json'.length)] : [])).sort();
  } catch {
    // Somebody may want none.
    return [];
  }
}

function readItem(item: string): Promise<string> {
  return readFile(path.join(folder(), `${item}.json`), 'utf8');
}

/** Its first words, without headings; or what it hands on. */
function describe(document: Document): string {
  const [text] = listLines(document).flatMap(
    (line) => (line.type === 'paragraph' ? line.text.split('\n').find((row) => /^[^#\s]/.test(row)) : undefined) ?? [],
  );
  if (text !== undefined) return text;
  const names = listRecords(document, 'parameters', 'parameter').flatMap((record) => (isNamed(record) && record.offered === true ? record.name : []));
  return names.length > MOST_NAMES ? `${names.slice(0, MOST_NAMES).join(', ')} and ${names.length - MOST_NAMES} more` : names.join(', ');
}

/** Puts copies of items into a project, all or none. */
export async function takeFromShelf(
  project: string,
  { items, author }: z.infer<typeof takeFromShelfSchema>,
): Promise<Result<{ readonly documents: readonly TakenFromShelf[] }, Refusal>> {
  if (!(await ProjectRow.findByPk(project))) return fail(refuse('not-found', 'There is no such project.'));
  const there = new Set(await listItems());
  const names = new Set((await DocumentRow.findAll({ attributes: ['name'], where: { projectId: project } })).map(({ name }) => name));
  const ready: ReadyDocument[] = [];
  const taken: TakenFromShelf[] = [];
  for (const item of items) {
    if (!there.has(item)) return fail(refuse('not-found', `There is no ${item} on the shelf.`));
    const file = readProjectFile(await readItem(item));
    if (!file.ok) return fail(refuse('bad-file', `${item} on the shelf cannot be read: ${file.failure[0]?.message ?? ''}`));
    const documents = file.value.documents.map((document) => ({ ...document, name: freeName(document.name, names) }));
    const text = writeProjectFile({ name: item, documents });
    const read = await calculate('readyProject', { text, fresh: new Map(documents.map(({ id }) => [id, newId()])) }, text.length);
    if (!read.ok) return fail(refuse('bad-file', `${item} on the shelf cannot be read: ${read.failure[0]?.message ?? ''}`));
    ready.push(...read.value);
    taken.push(...read.value.map(({ id, name }) => ({ item, id, name })));
  }
  const done = await inOneTransaction((transaction) => insertDocuments(project, ready, { author, message: 'From the shelf' }, transaction));
  if (!done.ok) return done;
  publish({ type: 'project', project });
  return succeed({ documents: taken });
}

/** The name, or with a number behind it where something has it already; it is taken then. */
function freeName(name: string, taken: Set<string>): string {
  let free = name;
  for (let n = 2; taken.has(free); n++) free = `${name} ${n}`;
  taken.add(free);
  return free;
}

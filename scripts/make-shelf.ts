/** Writes the documents of the shelf, a file of the open format for each, and their order: `node --import tsx scripts/make-shelf.ts`. */
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { writeProjectFile } from '../src/core/document';
import { shelfDocuments } from './shelf';

const folder = new URL('../shelf/', import.meta.url);
rmSync(folder, { recursive: true, force: true });
mkdirSync(folder);
for (const document of shelfDocuments()) {
  writeFileSync(new URL(`${document.id.replace('shelf-', '')}.json`, folder), writeProjectFile({ name: document.name, documents: [document] }));
}

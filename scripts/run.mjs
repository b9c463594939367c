/** Runs a TypeScript program of the project from one bundled file: `node scripts/run.mjs tests/support/commit-loop.ts ARGUMENT…` */
import path from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { bundleOf } from './bundle.mjs';

const [entry] = process.argv.splice(2, 1);
const root = path.dirname(path.dirname(fileURLToPath(import.meta.url)));
await import(
  await bundleOf(entry.replaceAll(/\W/g, '-'), entry, ['src', path.dirname(entry), 'scripts/run.mjs'], {
    packages: 'external',
    // Places beside the program are those beside its source.
    define: { 'import.meta.url': JSON.stringify(pathToFileURL(path.join(root, entry)).href) },
  })
);

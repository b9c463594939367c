/**
 * npm run warpbeam: the headless command. What builds no geometry runs from one bundled file, made anew when a source is newer,
 * so that it answers at once; the rest runs from source, where the worker of the geometry kernel is found.
 */
import { existsSync, readdirSync, renameSync, statSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';

const root = path.dirname(path.dirname(fileURLToPath(import.meta.url)));
const bundle = path.join(root, 'node_modules/.cache/warpbeam/cli.mjs');
const sources = ['src/core', 'src/cli', 'scripts/warpbeam.mjs', 'package-lock.json'].map((place) => path.join(root, place));

function newest(place) {
  const stats = statSync(place);
  if (!stats.isDirectory()) return stats.mtimeMs;
  return readdirSync(place).reduce((latest, name) => Math.max(latest, newest(path.join(place, name))), stats.mtimeMs);
}

async function prepareBundle() {
  if (existsSync(bundle) && statSync(bundle).mtimeMs > Math.max(...sources.map(newest))) return;
  const { build } = await import('esbuild');
  // Put in place whole: another command may read it at the same time.
  const made = `${bundle}.${process.pid}.mjs`;
  await build({
    entryPoints: [path.join(root, 'src/cli/main.ts')],
    outfile: made,
    bundle: true,
    platform: 'node',
    format: 'esm',
    logLevel: 'error',
    external: ['../workers/client', '../workers/start-thread', '../formats/spreadsheet', './ask-outside'],
    banner: { js: "import { createRequire as requireFrom } from 'node:module'; const require = requireFrom(import.meta.url);" },
  });
  renameSync(made, bundle);
}

if (['regenerate', 'sizes', 'run', 'solve'].includes(process.argv[2]) || process.argv.includes('--services')) {
  const { register } = await import('tsx/esm/api');
  register();
  await import(pathToFileURL(path.join(root, 'src/cli/main.ts')).href);
} else {
  await prepareBundle();
  await import(pathToFileURL(bundle).href);
}

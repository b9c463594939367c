/**
 * npm run warpbeam: the headless command. What builds no geometry runs from one bundled file, so that it answers at once; the rest runs from
 * source, where the worker of the geometry kernel is found.
 */
import path from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { bundleOf } from './bundle.mjs';

if (['regenerate', 'sizes', 'stack', 'run', 'solve'].includes(process.argv[2]) || process.argv.includes('--services')) {
  const { register } = await import('tsx/esm/api');
  register();
  await import(pathToFileURL(path.join(path.dirname(fileURLToPath(import.meta.url)), '../src/cli/main.ts')).href);
} else {
  await import(
    await bundleOf('cli', 'src/cli/main.ts', ['src/core', 'src/cli', 'scripts/warpbeam.mjs'], {
      external: ['../workers/client', '../workers/start-thread', '../formats/spreadsheet', './ask-outside'],
      banner: { js: "import { createRequire as requireFrom } from 'node:module'; const require = requireFrom(import.meta.url);" },
    })
  );
}

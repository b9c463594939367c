/**
 * npm run warpbeam: the headless command, from bundled files, so that it answers at once: a small one for what builds no geometry, and one with the
 * rest, whose worker of the geometry kernel is found beside its source.
 */
import path from 'node:path';
import { setFlagsFromString } from 'node:v8';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { bundleOf } from './bundle.mjs';

// One command builds too little for its code to be worth compiling for speed.
setFlagsFromString('--wasm-tiering-budget=50000000');
// Nor is all of the kernel looked through before: it comes with the program.
setFlagsFromString('--wasm-lazy-validation');

/** Packages of the old form ask for what they need by it. */
const banner = { js: "import { createRequire as requireFrom } from 'node:module'; const require = requireFrom(process.argv[1]);" };
const builds = ['regenerate', 'sizes', 'stack', 'run', 'solve'].includes(process.argv[2]) || process.argv.includes('--services');

if (builds) {
  const besideWorker = pathToFileURL(path.join(path.dirname(fileURLToPath(import.meta.url)), '../src/workers/start-thread.ts')).href;
  await import(
    await bundleOf('cli-with-geometry', 'src/cli/main.ts', ['src', 'scripts/warpbeam.mjs'], {
      external: ['@ironcalc/wasm'],
      define: { 'import.meta.url': JSON.stringify(besideWorker) },
      banner,
    })
  );
} else {
  await import(
    await bundleOf('cli', 'src/cli/main.ts', ['src/core', 'src/cli', 'scripts/warpbeam.mjs'], {
      external: ['../workers/client', '../workers/start-thread', '../formats/spreadsheet', './ask-outside'],
      banner,
    })
  );
}

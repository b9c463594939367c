// Runs the worker shell from its TypeScript source, whatever the starting program is run by.
import { bundleOf } from '../../scripts/bundle.mjs';

await import(
  await bundleOf('thread', 'src/workers/thread.worker.ts', ['src/core', 'src/kernel', 'src/formats', 'src/workers'], {
    external: ['replicad-opencascadejs', '@ironcalc/wasm'],
  })
);

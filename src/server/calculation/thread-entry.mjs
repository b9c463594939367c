// Runs the thread shell from its TypeScript source, for programs that run from source.
import { bundleOf } from '../../../scripts/bundle.mjs';

const SOURCES = ['src/core', 'src/server', 'src/outside', 'src/formats', 'src/contract', 'src/workers', 'src/kernel'];
await import(await bundleOf('calculation', 'src/server/calculation/thread.worker.ts', SOURCES, { external: ['replicad-opencascadejs', '@ironcalc/wasm'] }));

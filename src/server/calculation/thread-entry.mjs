// Loads the thread shell from its TypeScript source, for programs that run from source.
import { tsImport } from 'tsx/esm/api';

await tsImport('./thread.worker.ts', import.meta.url);

// Loads the worker shell from its TypeScript source, whatever the starting program is run by.
import { tsImport } from 'tsx/esm/api';

await tsImport('./thread.worker.ts', import.meta.url);

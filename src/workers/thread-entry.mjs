// Registers the TypeScript loader in a new thread, then runs the worker shell.
import { register } from 'tsx/esm/api';

register();
await import('./thread.worker.ts');
